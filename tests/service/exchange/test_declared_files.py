"""Files made from declarations: every field of every kind of shaping comes back, in either unit and from version 3."""

from __future__ import annotations

import json
from dataclasses import fields, is_dataclass, replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from cablux.core.gauge import Gauge
from cablux.core.needle.schedule import Rate
from cablux.core.needle.stations import Station
from cablux.core.piece.piece import Shaping
from cablux.core.shaping import KINDS, Bent, EdgeShaped, Heeled, SectionShaped, ShortRowed, Spined
from cablux.core.shaping.edge_steps import EdgeStep
from cablux.core.shaping.manner import Manner
from cablux.core.shaping.sections import Holder, Section
from cablux.service.errors import BadFile
from cablux.service.exchange.declared import codec
from cablux.service.exchange.older_versions import upgraded
from cablux.service.exchange.project_file import read_project
from tests.service.shapes.test_worn import made

CODEC = codec(Shaping)
INCH = 25.4

names = st.text("abcdefgh ", min_size=1, max_size=12).map(str.strip).filter(bool)
some = st.integers(0, 1500)
lengths = st.integers(1, 4000).map(lambda n: n / 8)
stations = st.lists(
    st.builds(
        Station,
        name=names,
        width_mm=lengths,
        at_mm=lengths,
        count=some,
        row=st.none() | st.integers(0, 5000),
        paced=st.booleans(),
    ),
    min_size=2,
    max_size=4,
).map(tuple)
places, two = st.integers(0, 59), st.lists(st.integers(-1, 1500), min_size=2, max_size=4).map(tuple)
edges = st.sampled_from(["both", "right", "left", "in turn"])
sections = st.lists(
    st.builds(Section, first=places, last=places, counts=two, edges=edges, name=names | st.just("")),
    min_size=1,
    max_size=3,
)
rates = st.lists(st.lists(st.builds(Rate, st.integers(1, 9), st.integers(1, 9)), max_size=2).map(tuple), max_size=3)
reaches = st.lists(st.tuples(some, some), min_size=1, max_size=5).map(tuple)
manners = st.builds(
    Manner,
    increase=st.sampled_from(["M1", "yo", "kfb"]),
    lean=st.sampled_from(["along", "against", "k2tog"]),
    schedule=st.sampled_from(["blocks", "mixed"]),
    every_row=st.booleans(),
    sewn=st.booleans(),
    whole_panels=st.booleans(),
)
steps = st.builds(
    EdgeStep,
    station=st.integers(0, 11),
    counts=st.lists(st.integers(1, 30), min_size=1, max_size=4).map(tuple),
    edge=st.sampled_from(["both", "right", "left"]),
    kind=st.sampled_from(["bound off", "crossed"]),
)
in_sections: dict[str, Any] = {
    "stations": stations,
    "sections": sections.map(tuple),
    "holders": st.lists(
        st.builds(Holder, name=names, section=places, station=st.integers(0, 11), cast_on=some), max_size=2
    ).map(tuple),
    "cabled": st.booleans(),
    "rates": rates.map(tuple),
    "manner": manners,
}
DRAWN: dict[type[Shaping], st.SearchStrategy[Any]] = {
    EdgeShaped: st.builds(
        EdgeShaped,
        stations=stations,
        edges=edges,
        steps=st.lists(steps, max_size=3).map(tuple),
        rates=rates.map(tuple),
        manner=manners,
    ),
    SectionShaped: st.builds(SectionShaped, **in_sections),
    Spined: st.builds(Spined, **in_sections),
    Bent: st.builds(Bent, stations=stations, radius_mm=lengths, inside=st.sampled_from(["right", "left"])),
    Heeled: st.builds(Heeled, stations=stations, heel=st.sampled_from(["turned", "short rows"])),
    ShortRowed: st.builds(ShortRowed, stations=stations, rows=reaches, sections=sections.map(tuple)),
}


def alike(a: Any, b: Any, by: float = 0.051) -> bool:
    """Field by field the same; lengths to the tenth of a millimetre that a file keeps."""
    if is_dataclass(a):
        return type(a) is type(b) and all(alike(getattr(a, f.name), getattr(b, f.name), by) for f in fields(a))
    if isinstance(a, tuple):
        return len(a) == len(b) and all(alike(x, y, by) for x, y in zip(a, b, strict=True))
    return abs(a - b) < by if isinstance(a, float) else a == b


def test_every_kind_that_a_file_can_have_is_drawn_here():
    assert set(DRAWN) == set(KINDS)
    assert len({kind.kind for kind in KINDS}) == len(KINDS)


@given(st.sampled_from(KINDS).flatmap(DRAWN.get), st.sampled_from(["cm", "in"]))
def test_every_field_of_every_kind_comes_back_in_either_unit(shaping, unit):
    file = CODEC.write(shaping, unit, None)
    again = type(file).model_validate_json(file.model_dump_json())
    assert alike(CODEC.read(again, unit, ()), shaping)
    per = 10.0 if unit == "cm" else INCH
    for s, written in zip(shaping.stations, file.stations, strict=True):
        assert written.width == pytest.approx(s.width_mm / per, abs=6e-4), "in the file's own unit"
        assert written.at == pytest.approx(s.at_mm / per, abs=6e-4)


@given(st.sampled_from(KINDS).flatmap(DRAWN.get))
def test_what_is_unchanged_stays_as_it_was_written_and_another_unit_means_the_same(shaping):
    file = CODEC.write(shaping, "in", None)
    read = CODEC.read(file, "in", ())
    assert CODEC.write(read, "in", file) == file
    moved = replace(read, stations=(replace(read.stations[0], width_mm=12.7), *read.stations[1:]))
    assert CODEC.write(moved, "in", file).stations[0].width == 0.5
    assert alike(CODEC.read(CODEC.scale(file, 2.54), "cm", ()), read)


@pytest.mark.parametrize(
    ("wrong", "says"),
    [
        ({"kind": "bend", "radius": 0}, "greater than 0"),
        ({"kind": "bend", "radius": 3, "sections": []}, "Extra inputs"),
        ({"kind": "edges", "edges": "top"}, "Input should be 'both', 'right', 'left' or 'in turn'"),
        ({"kind": "heel", "heel": "flat"}, "'turned' or 'short rows'"),
        ({"kind": "short rows", "rows": []}, "at least 1 item"),
        ({"kind": "sections"}, "Field required"),
        ({"kind": "moebius"}, "does not match any of the expected tags"),
    ],
)
def test_a_kind_is_held_to_what_it_declares(wrong, says):
    ends = [{"name": "a", "width": 10, "at": 0}, {"name": "b", "width": 10, "at": 4}]
    with pytest.raises(ValidationError, match=says):
        TypeAdapter(CODEC.annotation).validate_json(json.dumps({"stations": ends} | wrong))


def fourth_version(document: dict[str, Any]) -> dict[str, Any]:
    """A file as version 4 wrote it, with its words of two things."""
    for segment in (s for piece in document["pieces"] for band in piece["bands"] for s in band["segments"]):
        segment["gutter"] = segment.pop("purl_margin")
    return {{"method": "school"}.get(name, name): value for name, value in document.items()} | {"cablux": 4}


def third_version(document: dict[str, Any]) -> dict[str, Any]:
    """A file as version 3 wrote it: one record for every kind, with all that any of them has."""
    document = fourth_version(document)
    for piece in document["pieces"]:
        for band in piece["bands"]:
            new = band["shaping"]
            if new is None:
                continue
            old = {"stations": new["stations"], "edges": "both", "increase": "M1", "lean": "along", "manner": "blocks"}
            old |= {"every_row": False, "rates": [], "sewn": False, "whole_panels": False, "sections": []}
            old |= {"holders": [], "bend": None, "heel": None, "cabled": False, "steps": [], "short": []}
            given = {name: value for name, value in new.items() if name not in ("kind", "manner", "radius", "inside")}
            if new["kind"] == "short rows":
                given["short"] = given.pop("rows")
            if new["kind"] == "bend":
                given["bend"] = {"radius": new["radius"], "inside": new["inside"]}
            manner = new.get("manner", {})
            given |= {("manner" if name == "schedule" else name): value for name, value in manner.items()}
            band["shaping"] = old | given
    return document | {"cablux": 3}


@pytest.mark.parametrize(
    ("shape", "asked"),
    [
        ("pullover", ["shoulders=short rows and three needles"]),
        ("pullover", []),
        ("sock", []),
        ("hat", ["tops=crossed and halved"]),
        ("raglan", []),
        ("mitts", []),
        ("corner", []),
        ("bent-band", ["inside_at=left edge"]),
    ],
)
def test_what_versions_3_and_4_wrote_is_read_as_it_was(shape, asked):
    file = made(shape, *asked)
    before = json.dumps(fourth_version(json.loads(file.text())))
    assert upgraded(before).version == 4 and read_project(before) == file and '"gutter"' in before
    old = json.dumps(third_version(json.loads(file.text())))
    assert upgraded(old).version == 3 and read_project(old) == file


def test_what_is_wrong_with_an_older_file_is_told_in_its_own_words():
    document = fourth_version(json.loads(made("bent-band").text()))
    document["pieces"][0]["bands"][0]["segments"][1]["gutter"] = 99
    with pytest.raises(BadFile, match="gutter”") as told:
        read_project(json.dumps(document | {"school": "guess"}))
    assert "“school”" in str(told.value) and "purl_margin" not in str(told.value)


def test_what_an_older_kind_did_not_have_is_refused_by_its_name():
    document = third_version(json.loads(made("bent-band").text()))
    document["pieces"][0]["bands"][0]["shaping"]["sections"] = [{"first": 1, "last": 1, "counts": [4, 4]}]
    with pytest.raises(BadFile, match="sections"):
        read_project(json.dumps(document))


@given(stitches=st.integers(40, 320).map(lambda n: n / 8), rows=st.integers(9, 20), band=st.booleans())
def test_a_gauge_comes_back_in_either_unit(stitches, rows, band):
    """4 in are 10.16 cm, so of what is counted over them fewer lie in 10 cm."""
    own = codec(Gauge)
    for unit, tenth in (("cm", 1.0), ("in", 1.016)):
        written = own.annotation(stitches=stitches, rows=stitches * rows / 10, band=band)
        gauge = own.read(written, unit, ())
        assert gauge.stitches * tenth == pytest.approx(stitches) and gauge.rows * 10 == pytest.approx(
            gauge.stitches * rows
        )
        assert own.write(gauge, unit, written) == written and own.scale(written, 2.54) == written
        assert own.write(gauge, unit, None).stitches == pytest.approx(stitches, abs=0.001)
        assert own.write(replace(gauge, stitches=gauge.stitches * 1.01), unit, written).rows == written.rows

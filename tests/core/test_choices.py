"""Words that a record takes one of are looked at when it is made; errors say for programs what they tell people."""

from __future__ import annotations

from dataclasses import replace

import pytest

from cablux.core.ends.cast_on import plan_cast_on
from cablux.core.errors import CabluxError, IllegalChart, IllegalPiece, UnknownChoice
from cablux.core.fabric.draw_in import compute_draw_in
from cablux.core.garment.joins import Join, PieceEdge
from cablux.core.gauge import Evidence, Gauge, Reading
from cablux.core.gauge.reading import Part
from cablux.core.library import find_pattern
from cablux.core.needle.stations import Station
from cablux.core.notation import parse_chart
from cablux.core.piece.border import Border
from cablux.core.piece.parts import HeldGroup, PartEnd, Source
from cablux.core.piece.segment import library_segment
from cablux.core.shaping import Bent, EdgeShaped, Heeled
from cablux.core.shaping.edge_steps import EdgeStep
from cablux.core.shaping.manner import Manner
from cablux.core.shaping.sections import Section

from .pieces import background, panel, throw

GAUGE, BRAID = Gauge(18.0, 25.0), find_pattern("braid-9")
ENDS = (Station(name="a", width_mm=100.0), Station(name="b", width_mm=100.0, at_mm=50.0))
READING = Reading(parts=(Part(pattern=BRAID, count=9.0),), mm=60.0)
RECORDS = [
    (Evidence(gauge=GAUGE), "method"),
    (Evidence(gauge=GAUGE), "finish"),
    (Evidence(gauge=GAUGE), "fibre"),
    (READING, "along"),
    (READING, "state"),
    (library_segment("panel", "braid-9", 1), "role"),
    (Border(), "style"),
    (Border(), "spread"),
    (throw(background(30)), "gaps"),
    (Manner(), "increase"),
    (Manner(), "lean"),
    (Manner(), "schedule"),
    (EdgeShaped(stations=ENDS), "edges"),
    (Bent(stations=ENDS, radius_mm=100.0), "inside"),
    (Heeled(stations=ENDS), "heel"),
    (EdgeStep(station=0, counts=(3,)), "edge"),
    (EdgeStep(station=0, counts=(3,)), "kind"),
    (Section(first=0, last=1, counts=(3, 4)), "edges"),
    (Source(kind="held", piece=1, name="thumb", stitches=9), "kind"),
    (HeldGroup("thumb", 9), "joined"),
    (PartEnd(), "kind"),
    (PieceEdge(piece=0, edge="cast-on"), "edge"),
    (Join(one=PieceEdge(piece=0, edge="cast-on"), other=PieceEdge(piece=0, edge="bind-off")), "how"),
]


@pytest.mark.parametrize(("record", "field"), RECORDS, ids=lambda each: each if isinstance(each, str) else "")
def test_a_misspelt_word_is_refused_where_the_record_is_made(record, field):
    """It would have changed numbers in silence: another width, a reading left out."""
    with pytest.raises(UnknownChoice) as caught:
        replace(record, **{field: "soggy"})
    error = caught.value
    assert error.code == "unknown choice" and error.pointer == f"{type(record).__name__}.{field}"
    choices = error.data["choices"]
    assert choices == sorted(choices) and all(choice in str(error) for choice in choices)
    for choice in choices:
        assert getattr(replace(record, **{field: choice}), field) == choice


def test_the_nearest_word_is_proposed():
    with pytest.raises(UnknownChoice, match=r"it is one of: background, edge, panel, seam. Did you mean panel\?"):
        library_segment("pannel", "braid-9", 1)


def test_what_has_no_repeat_or_does_not_add_up_is_refused_before_anything_is_computed():
    with pytest.raises(IllegalPiece, match="one repeat or more"):
        plan_cast_on(throw(background(9), panel("braid-9", 0), background(9)))
    with pytest.raises(IllegalChart, match="Row 2 works 5 stitches"):
        compute_draw_in(parse_chart("row 1: k4\nrow 2 (WS): p5"), 1.4)


def test_every_kind_of_mistake_has_a_code_of_its_own():
    kinds, todo = [], [CabluxError]
    while todo:
        kind = todo.pop()
        todo += [k for k in kind.__subclasses__() if k.__module__ == "cablux.core.errors"]
        kinds.append(kind)
    codes = [k.code for k in kinds if not k.__name__.startswith("_")]
    assert len(codes) == len(set(codes)) >= 8

"""Pieces and joins in files: every field that the core declares comes back, in either unit, under the file's names."""

from __future__ import annotations

import json
from dataclasses import fields
from pathlib import Path
from typing import Any, get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from cablux.core.garment.joins import EdgeName, Join, JoinKind, Opening, PieceEdge
from cablux.core.library import LIBRARY
from cablux.core.piece.border import Border, CastOn, SpreadStyle
from cablux.core.piece.parts import EndKind, HeldGroup, HeldJoin, PartEnd, Source, SourceKind
from cablux.core.piece.piece import Band
from cablux.core.piece.segment import Role, Segment
from cablux.service.exchange.declared import codec
from cablux.service.exchange.file_units import file_in_unit
from cablux.service.exchange.piece_file import PieceFile
from cablux.service.exchange.project_file import read_project
from tests.service.exchange.test_declared_files import DRAWN, KINDS, alike, lengths, names, places

DEMO = sorted((Path(__file__).parents[3] / "src" / "cablux" / "demo").glob("*.json"))


def one_of(words: Any) -> st.SearchStrategy[str]:
    return st.sampled_from(get_args(words))


counts, stitches = st.integers(0, 1500), st.integers(1, 1500)
segments = st.builds(
    Segment,
    role=one_of(Role),
    pattern=st.sampled_from(sorted(LIBRARY)).map(LIBRARY.get),
    repeats=stitches,
    mirrored=st.booleans(),
    locked=st.booleans(),
    placed=st.booleans(),
    phase=st.integers(0, 2000),
    purl_margin=st.integers(0, 6),
    least=counts,
    most=counts,
    by=st.integers(1, 50),
    wander=st.integers(-200, 200),
    wander_every=st.integers(1, 200),
)
edges = st.builds(
    PieceEdge,
    piece=places,
    edge=one_of(EdgeName),
    start_mm=lengths,
    end_mm=lengths,
    over=st.integers(0, 8).map(lambda n: n / 8),
)
openings = st.builds(Opening, name=names, start_mm=lengths, end_mm=lengths)
RECORDS: dict[type, st.SearchStrategy[Any]] = {
    Band: st.builds(
        Band,
        own=st.lists(segments, min_size=1, max_size=4).map(tuple),
        symmetric=st.booleans(),
        middle=st.booleans(),
        rows=st.integers(0, 5000),
        share=st.integers(1, 160).map(lambda n: n / 8),
        shaping=st.none() | st.sampled_from(KINDS).flatmap(DRAWN.get),
        runs_on=st.booleans(),
    ),
    Border: st.builds(
        Border,
        pattern_id=st.sampled_from(["garter", "rib-1x1", "rib-2x2"]),
        rows=st.integers(0, 60),
        style=one_of(CastOn),
        spread=one_of(SpreadStyle),
        factor=st.integers(4, 12).map(lambda n: n / 8),
        count=counts,
    ),
    Source: st.builds(Source, kind=one_of(SourceKind), piece=stitches, name=names, stitches=stitches),
    PartEnd: st.builds(
        PartEnd,
        kind=one_of(EndKind),
        groups=st.lists(st.builds(HeldGroup, name=names, stitches=stitches, joined=one_of(HeldJoin)), max_size=3).map(
            tuple
        ),
    ),
    Join: st.builds(
        Join,
        one=edges,
        other=edges,
        how=one_of(JoinKind),
        swallows=st.integers(0, 4),
        openings=st.lists(openings, max_size=2).map(tuple),
        more=st.lists(edges, max_size=2).map(tuple),
    ),
}


@given(st.sampled_from(sorted(RECORDS, key=str)).flatmap(lambda r: RECORDS[r]), st.sampled_from(["cm", "in"]))
def test_every_field_comes_back_in_either_unit_and_when_the_unit_changes(record, unit):
    own = codec(type(record))
    file = own.write(record, unit, None)
    again = TypeAdapter(own.annotation).validate_json(file.model_dump_json())
    read = own.read(again, unit, ())
    assert alike(read, record)
    assert own.write(read, unit, file) == file, "what is unchanged stays as it was written"
    other, by = ("in", 1 / 2.54) if unit == "cm" else ("cm", 2.54)
    assert alike(own.read(own.scale(file, by), other, ()), record, by=0.2)


@given(RECORDS[Join], RECORDS[Band])
def test_the_files_names_and_numbers_are_those_of_the_documents(join, band):
    """Against docs/formats.md: ids for patterns, pieces numbered from 1, lengths without their unit in their names."""
    document = json.loads(codec(Join).write(join, "in", None).model_dump_json())
    assert list(document) == ["one", "other", "how", "swallows", "openings", "more"]
    assert document["one"]["piece"] == join.one.piece + 1
    assert document["other"]["end"] == pytest.approx(join.other.end_mm / 25.4, abs=6e-4)
    document = json.loads(codec(Band).write(band, "cm", None).model_dump_json())
    assert list(document) == ["segments", "symmetric", "middle", "rows", "share", "shaping", "runs_on"]
    assert [s["pattern"] for s in document["segments"]] == [s.pattern.id for s in band.own]
    filed = {f.name for f in fields(Segment)} - {"closed"}  # it follows from where the segment stands
    assert all(set(s) == filed for s in document["segments"])


@pytest.mark.parametrize("path", DEMO, ids=lambda path: path.stem)
def test_a_demo_project_is_written_as_it_was_read_and_means_the_same_in_inches(path):
    file = read_project(path.read_text("utf-8"))
    kept = tuple(p.with_piece(piece, file.unit) for p, piece in zip(file.pieces, file.all_pieces(), strict=True))
    assert kept == file.pieces
    other = file_in_unit(file, "in" if file.unit == "cm" else "cm").all_pieces()
    for a, b in zip(file.all_pieces(), other, strict=True):
        assert alike(a.bands, b.bands, by=0.2) and a.width_mm == pytest.approx(b.width_mm, abs=0.2)


def test_a_piece_of_a_file_has_its_fields_in_their_order():
    assert list(PieceFile.model_fields) == [
        *("number", "name", "copies", "size", "round", "bottom", "bands", "top", "gaps", "least_background"),
        *("total_multiple", "total_plus", "setup_rows", "dense", "short_rows", "meets", "begins", "ends"),
        *("inside_out", "measured"),
    ]

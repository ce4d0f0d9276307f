"""Whole pieces in the background, their bytes, and what lies under a finger."""

from __future__ import annotations

import struct
from dataclasses import replace

import numpy as np
import pytest

from cablux.core.errors import IllegalPiece
from cablux.core.pattern import cloth as cloth_module
from cablux.core.pattern import compile_piece
from cablux.core.pattern.cloth import relax_pattern
from cablux.core.piece.border import Border
from cablux.core.piece.piece import Piece
from cablux.core.piece.segment import library_segment
from cablux.core.piece.widths import body_um
from cablux.render.visible_loops import visible_loops
from cablux.service.cloth.piece_relaxer import PieceRelaxer, facts_at
from cablux.service.errors import NotFound
from tests.core.strategies import piece_of

EDGE, BACKGROUND = library_segment("edge", "garter", 4), library_segment("background", "reverse-stockinette", 6)
PIECE = piece_of(EDGE, BACKGROUND, library_segment("panel", "braid-9", 1), BACKGROUND, EDGE, width=180.0, height=160.0)


@pytest.fixture
def relaxer():
    made = PieceRelaxer()
    yield made
    made.close()


def woven(relaxer: PieceRelaxer, piece: Piece, **more) -> bytes:
    for _ in range(600):
        found = relaxer.geometry(piece, wait=0.1, **more)
        if isinstance(found, bytes):
            return found
        assert 0.0 <= found <= 1.0
    raise AssertionError("the piece was never laid out")


def test_the_bytes_hold_every_loop_where_the_relaxed_piece_has_it(relaxer):
    data = woven(relaxer, PIECE)
    laid = relax_pattern(compile_piece(PIECE))
    magic, rows, loops, row = struct.unpack_from("<4sIIf", data)
    assert (magic, rows, loops) == (b"CBX1", laid.relaxed.net.rows, laid.relaxed.net.loops)
    assert row == pytest.approx(laid.relaxed.height_stitches / rows)
    counts = np.frombuffer(data, "<u4", rows, 16)
    levels = np.frombuffer(data, "<f4", rows, 16 + 4 * rows)
    at = 16 + 8 * rows
    x, y = (np.frombuffer(data, "<i2", loops, at + i * 2 * loops) for i in (0, 1))
    assert len(data) == at + 9 * loops and (counts == laid.relaxed.net.counts).all()
    shown = visible_loops(laid.relaxed)
    np.testing.assert_allclose(x / 16, shown.x - shown.x.mean(), atol=1 / 30)
    np.testing.assert_allclose(y / 256 + np.repeat(levels, counts), shown.y, atol=1 / 300)
    segments = np.frombuffer(data, "u1", loops, at + 8 * loops)
    assert (segments == laid.segment).all()
    behind = woven(relaxer, PIECE, behind=True)
    np.testing.assert_allclose(np.frombuffer(behind, "<i2", loops, at), -x.astype(int), atol=1)


def test_a_later_piece_takes_the_place_of_one_that_nobody_waits_for(relaxer):
    large = replace(PIECE, height_mm=1500.0)
    assert isinstance(relaxer.geometry(large), float)
    woven(relaxer, PIECE)
    woven(relaxer, large)
    for height in range(170, 260, 10):
        woven(relaxer, replace(PIECE, height_mm=float(height)))
    assert len(relaxer._jobs) <= 4


def test_what_cannot_be_laid_out_says_so(relaxer, monkeypatch):
    monkeypatch.setattr(cloth_module, "_MAX_LOOPS", 10)
    with pytest.raises(IllegalPiece, match="up to 10 can be laid out"):
        while True:  # it is told as soon as the job has failed
            relaxer.geometry(PIECE, wait=5.0)


def test_a_loop_says_what_made_it_as_it_was_worked():
    pattern = compile_piece(PIECE)
    row = pattern.crossing_rows[0]
    place = 0
    for part in pattern.row(row).parts:
        for op in part.ops:
            found = facts_at(PIECE, row, place)
            assert (found.row, found.stitch, found.segment, found.operation) == (row, place + 1, part.name, op.token)
            place += op.makes
    assert found.of == place == pattern.row(row).after
    purled = facts_at(PIECE, row + 1, 4)
    assert (purled.side, purled.operation) == ("WS", "k1"), "a purl ground is knitted from behind"
    assert facts_at(PIECE, 0, 3).operation == "cast on"
    for bad in ((row, place), (10_000, 0)):
        with pytest.raises(NotFound):
            facts_at(PIECE, *bad)


def test_what_a_piece_does_is_said_in_lengths(relaxer):
    straight = replace(PIECE, bottom=Border(style="straight"))
    woven(relaxer, straight)
    does = relaxer.behaviour(straight, wait=60.0)
    stepped = relaxer.behaviour(PIECE, wait=60.0)
    assert does and stepped and does.flare[0] > stepped.flare[0]
    (taller, shorter, um), *_ = does.clashes
    assert (taller, shorter) == ("Reverse stockinette", "Garter") and um > 20_000
    assert len({frozenset(clash[:2]) for clash in does.clashes}) == len(does.clashes), "each pair once"
    bands = {name: width for name, _, width, _ in does.bands}
    assert bands["body"] == pytest.approx(body_um(straight.band_views[0], straight.outlook), rel=0.02)
    assert bands["bottom border"] > bands["body"]
    assert relaxer.behaviour(replace(PIECE, height_mm=1900.0)) is None, "not laid out yet"

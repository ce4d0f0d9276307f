"""Panels that wander: their words knitted, followed stitch by stitch, and their path against the gauge."""

from __future__ import annotations

import contextlib
import math
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import IllegalPiece
from cablux.core.pattern import compile_piece
from cablux.core.piece.border import Border
from cablux.core.piece.piece import Piece
from cablux.core.piece.widths import body_row_um, segment_um
from cablux.core.rows.shaped_band import shape_band, worked_view
from cablux.core.shaping.wander import wander_angle
from cablux.service.exchange.project_file import read_project
from cablux.service.pattern.plain_text import file_text
from tests.core.columns import look_at_columns
from tests.core.pattern.test_knitted import project_file
from tests.core.pieces import background, panel, throw
from tests.core.shaping.test_edges import PANELS
from tests.examples import examples
from tests.knitter import knit_pattern


def wandering(name: str, stitches: int, every: int, rows: int, room: int = 12) -> Piece:
    own = panel(name, wander=stitches, wander_every=every)
    both = Border(rows=4)
    piece = throw(background(room), own, background(room), bottom=both, top=both, width=250)
    return replace(piece, bands=(replace(piece.bands[0], rows=rows),), tolerance_mm=120.0)


@given(st.sampled_from(PANELS), st.integers(1, 11), st.booleans(), st.sampled_from([2, 4, 6, 8]), st.integers(8, 60))
@examples(13)
def test_a_wandering_panel_is_where_its_path_says_in_every_row(
    name: str, far: int, left: bool, every: int, pairs: int
) -> None:
    piece = wandering(name, far if left else -far, every, 2 * pairs)
    view = worked_view(piece.band_views[0])
    found = shape_band(view)
    rows = [r.loops for r in knit_pattern(file_text(read_project(project_file(piece).text())))[1]]
    lead = compile_piece(piece).rows_plan
    first = lead.bottom + lead.bands[0].lead
    faces = [loop.face for loop in rows[first - 1]]
    start = sum(lane < 2 for lane, _ in found.active.first)
    for n in range(2 * pairs):
        below, above = found.active.columns[n], found.active.columns[n + 1]
        loops = rows[first + n]
        look_at_columns(found.plane.lanes, found.numbers[n], found.active.rows[n], below, faces, above, loops)
        faces = [loop.face for loop in loops]
        assert len(loops) == view.piece.bands[0].segments[0].stitches * 2 + 24 + piece.bands[0].own[2].stitches
        gone = sum(lane < 2 for lane, _ in above) - start
        legs, rest = divmod((n + 2) // every, far)  # in the last right-side row of every so many
        assert gone * (1 if left else -1) == (far - rest if legs % 2 else rest), "there and back, one at a time"


def test_the_angle_is_that_of_the_gauge() -> None:
    """Common practice: one stitch every right-side row is called about 45°; the gauge says what it is."""
    piece = wandering("rope-2-2-left", 6, 2, 40)
    view = piece.band_views[0]
    stitch = segment_um(view.segments[3], view.outlook) / view.segments[3].stitches
    angle = wander_angle(view, 2)
    assert angle == pytest.approx(math.degrees(math.atan(stitch / (2 * body_row_um(view)))))
    assert 30 < angle < 45 and wander_angle(wandering("rope-2-2-left", 6, 6, 40).band_views[0], 2) < 20


def test_what_cannot_wander_is_told() -> None:
    for piece, said in (
        (wandering("rope-2-2-left", 12, 4, 40), "wander by 11 stitches at most"),
        (wandering("rope-2-2-left", 3, 3, 40), "every 2, 4, 6"),
        (throw(panel("rope-2-2-left", wander=3), background(12), width=250), "background of its own on both sides"),
    ):
        with pytest.raises(IllegalPiece, match=said):
            compile_piece(piece)
    far, near = (panel("rope-2-2-left", wander=n, wander_every=4) for n in (6, 3))
    for other, alike in ((far, True), (near, False)):
        piece = throw(background(12), far, background(12), background(12), other, background(12), width=250)
        problem = pytest.raises(IllegalPiece, match="wander alike")
        with contextlib.nullcontext() if alike else problem:
            worked_view(piece.band_views[0])


def test_the_mirrored_partner_wanders_the_other_way() -> None:
    assert panel("rope-2-2-left", wander=4).reflected() == panel("rope-2-2-right", wander=-4)

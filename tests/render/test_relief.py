"""The relief: what stands out, which way it leans, from both sides; nothing of the cloth is lost on the way."""

from __future__ import annotations

from xml.etree import ElementTree

import numpy as np
import pytest

from cablux.core.errors import IllegalPiece
from cablux.core.fabric.draw_in import relaxed_tile
from cablux.core.fabric.network import build_piece, build_tile
from cablux.core.fabric.relax import relax_tile
from cablux.core.fabric.whole import relax_piece
from cablux.core.library import LIBRARY
from cablux.core.notation import Crossing, Face, Lean, parse_chart
from cablux.render.light import loop_tone
from cablux.render.relief import draw_loops, piece_svg, relief_query, segment_relief
from cablux.render.visible_loops import HOLE, KNIT, NEW, PURL, visible_loops
from cablux.render.yarn import Yarn, yarn_paint

PANELS = [p for p in LIBRARY.values() if any(isinstance(op, Crossing) for row in p.chart.rows for op in row.ops())]


def texture(name: str):
    return visible_loops(relaxed_tile(LIBRARY[name].chart, 1.4, 0))


@pytest.mark.parametrize("pattern", PANELS, ids=lambda p: p.id)
def test_the_strand_in_front_leans_as_its_crossing_does_and_the_light_tells_which(pattern):
    """So a knitter can name each crossing's direction without the chart."""
    loops = visible_loops(relaxed_tile(pattern.chart, 1.4, 1))
    tone, starts = loop_tone(loops), loops.net.starts
    bright: dict[Lean, list[float]] = {Lean.LEFT: [], Lean.RIGHT: []}
    for at, row in enumerate(pattern.chart.rows):
        place = 0
        for op in row.ops():
            if isinstance(op, Crossing) and not op.centre and all(s.face is Face.KNIT for s in op.over):
                first = place + (len(op.under) if op.lean is Lean.LEFT else 0)
                front = starts[at] + np.arange(first, first + len(op.over))
                back = starts[at] + np.arange(place, place + op.makes)
                lean = loops.lean[front].mean()
                assert (lean < 0) == (op.lean is Lean.LEFT), f"row {at + 1}"
                assert loops.stands[front].min() > loops.stands[np.setdiff1d(back, front)].max()
                bright[op.lean].append(float(tone[front].mean()))
            place += op.makes
    if bright[Lean.LEFT] and bright[Lean.RIGHT]:
        assert np.mean(bright[Lean.LEFT]) > np.mean(bright[Lean.RIGHT]) + 0.05


def test_ribs_stand_up_ridges_lie_across_and_a_purl_ground_lies_deep():
    rib, garter, ground = texture("rib-2x2"), texture("garter"), texture("reverse-stockinette")
    assert rib.stands[rib.kind == KNIT].min() > rib.stands[rib.kind == PURL].max() + 0.3
    assert garter.stands[garter.kind == PURL].min() > garter.stands[garter.kind == KNIT].max() + 0.3
    assert ground.ground.min() == pytest.approx(1.0)
    assert loop_tone(ground).max() < loop_tone(garter)[garter.kind == PURL].min()
    assert all(b.ridge for b in draw_loops(relaxed_tile(LIBRARY["garter"].chart, 1.4, 0)).bumps)


def test_from_behind_everything_changes_sides():
    cloth = relaxed_tile(LIBRARY["braid-9"].chart, 1.4, 1)
    front, back = visible_loops(cloth), visible_loops(cloth, behind=True)
    np.testing.assert_allclose(back.x, -front.x)
    np.testing.assert_allclose(back.lean, -front.lean)
    assert ((front.kind == KNIT) == (back.kind == PURL)).all()
    crossed = np.abs(cloth.net.depth) == 1
    assert (front.stands[crossed] * back.stands[crossed] < 0).all()


def test_new_loops_holes_and_what_a_decrease_hides_are_drawn():
    chart = parse_chart("row 1: k1, m1l, k1, yo, k1, k2tog, k1\nrow 2 (WS): p7\nrow 3: ssk, k3, k2tog\nrow 4 (WS): p5")
    piece = relax_piece(build_piece([[row.ops()] for row in [*chart.rows[:2]]]), 1.4)
    loops = visible_loops(piece)
    assert [(loops.kind == k).sum() for k in (NEW, HOLE)] == [1, 1] and len(loops.under) == 1
    drawn = draw_loops(piece)
    assert len(drawn.bars) == len(drawn.holes) == 1
    assert len(drawn.legs) == 2 * (piece.net.loops - 1) + 1, "two legs a loop, and the strand beneath the decrease"


def test_a_whole_piece_is_a_picture_with_its_own_edges():
    piece = relax_piece(build_piece([[LIBRARY["braid-9"].chart.ops(r)] for r in range(1, 9)]), 1.4)
    root = ElementTree.fromstring(piece_svg(piece, yarn=Yarn("#336699")))
    assert float(root.get("width")) > 10 * piece.width_stitches
    assert not any("style" in e.attrib for e in root.iter())
    fills = {e.get("fill") for e in root.iter()}
    assert yarn_paint("#336699").ground in fills and not fills & set(yarn_paint().tones)


def test_the_yarns_colour_and_thickness_are_painted_and_named_in_the_address():
    plain = LIBRARY["stockinette"].chart
    yarns = [Yarn("#336699", t) for t in (0.85, 1.1)]
    thin, thick = (segment_relief(plain, "background", 3, ratio=1.4, tall=60.0, yarn=yarn) for yarn in yarns)
    assert thin != thick and "#336699" in thin
    assert "colour=336699&thick=0.85" in relief_query("panel", 1, 1.4, tall=100, yarn=Yarn("#336699", 0.85))
    assert "colour" not in relief_query("panel", 1, 1.4, tall=100, yarn=Yarn())
    tones = [int(c[1:3], 16) for c in yarn_paint("#336699").tones]
    assert tones == sorted(tones), "from shade to light"
    with pytest.raises(IllegalPiece, match="is no colour"):
        yarn_paint("teal")


def test_a_tile_and_the_same_cloth_from_its_own_back_are_the_same_picture_turned():
    tile = relax_tile(build_tile(LIBRARY["rope-3-3-left"].chart, 1), 1.4)
    front, back = draw_loops(tile), draw_loops(tile, behind=True)
    assert len(front.legs) == 2 * (tile.net.loops - len(front.bumps))
    assert len(back.legs) == 2 * len(front.bumps) and len(back.bumps) == len(front.legs) // 2

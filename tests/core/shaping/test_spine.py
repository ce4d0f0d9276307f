"""Wings beside a spine: shawls knitted from their words, and their outline found by turning wings until they meet."""

from __future__ import annotations

import math
import re
import xml.etree.ElementTree as ET
from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from cablux.core.errors import CabluxError, IllegalPiece
from cablux.core.piece.widths import segment_um
from cablux.core.rows.heights import plan_rows
from cablux.core.rows.shaped_band import shape_band
from cablux.core.shapes.things.shawl import depth_um
from cablux.render.schematic import draw_schematic
from cablux.service.pattern import project_words
from cablux.service.projects import piece_numbers
from cablux.service.shapes.shaped_projects import new_project, shape_cautions
from tests.examples import examples
from tests.knitter import Row, knit_pattern

PANELS = ["rope-3-3-left", "rope-2-2-left", "braid-9", "honeycomb", "twist-columns"]


def crossed(row: Row) -> list[int]:
    """The places of a row whose loops stand on loops that lie further to the left or to the right."""
    single = [(at, loop.parents[0]) for at, loop in enumerate(row.loops) if len(loop.parents) == 1]
    return [at for (at, a), (_, b) in pairwise(single) if b < a]


def turned(widths: list[float], row: float) -> tuple[float, float, float]:
    """A wing of such widths after each row, turned about its beginning until its inner side stands upright.

    The tip's distance from that side, its height, and how high the side is. Nothing but the solving of an equation.
    """
    high, grown = row * (len(widths) - 1), widths[-1] - widths[0]

    def off(turn: float) -> float:
        return -grown / 2.0 * math.cos(turn) + high * math.sin(turn)

    turn = brentq(off, 0.0, math.pi / 2.0)
    x, y = widths[0] + grown / 2.0, high
    tip = x * math.cos(turn) + y * math.sin(turn), y * math.cos(turn) - x * math.sin(turn)
    return *tip, grown / 2.0 * math.sin(turn) + high * math.cos(turn)


@given(st.integers(20, 75), st.integers(12, 28), st.sampled_from(PANELS), st.sampled_from(["yo", "M1", "kfb"]))
@examples(8)
def test_a_shawl_knitted_from_its_words_is_as_deep_as_wanted_and_its_wings_mirror(deep, stitches, panel, increase):
    named = {"yo": "yarn over", "M1": "lifted bar", "kfb": "kfb"}[increase]
    try:
        file = new_project(
            "shawl", [f"depth={deep}", f"increase={named}"], gauge=f"{stitches}x{round(1.4 * stitches)}", panels=panel
        )
    except CabluxError as error:
        assert "narrower panel" in str(error) or "make it deeper" in str(error)
        return
    piece = file.all_pieces()[0]
    assert depth_um(piece) / 1000.0 == pytest.approx(10.0 * deep, rel=0.1)
    cast_on, rows = knit_pattern(project_words(file))
    assert cast_on == 9
    for n, row in enumerate(rows):
        assert len(row.loops) == cast_on + 4 * (n // 2 + 1), "four more in every right-side row"
        count = len(row.loops)
        assert crossed(row) == sorted(count - 2 - at for at in crossed(row)), "each crossing has its mirror image"


@pytest.mark.parametrize("gauge", ["18x25", "20x28", "24x40"])
@pytest.mark.parametrize("background", ["garter", "stockinette"])
def test_the_outline_is_that_of_two_wings_turned_until_they_stand_beside_the_spine(gauge, background):
    piece = new_project("shawl", ["depth=45"], gauge=gauge, panels="rope-2-2-left", background=background).all_pieces()[
        0
    ]
    view = piece.band_views[0]
    found = shape_band(view)
    own = found.own_outline
    each = [segment_um(s, view.outlook) / s.stitches for s in view.segments]
    right = view.shaping.sections[0]
    widths = [
        sum(each[lane] for lane, _ in active_now if right.first <= lane <= right.last)
        for active_now in found.active.columns
    ]
    across, up, deep = turned(widths, plan_rows(piece).bands[0].row_um)
    edge, spine = segment_um(view.segments[0], view.outlook), segment_um(view.segments[4], view.outlook)
    assert own.along.um == pytest.approx(deep) and own.along.um == depth_um(piece)
    turn = math.atan2(across, up) / 2.0
    assert own.across.um / 2.0 == pytest.approx(across + edge * math.cos(turn) + spine / 2.0, rel=0.01)
    tips = sorted(own.corners, key=lambda at: at[0])
    assert tips[0][0] == pytest.approx(-tips[-1][0]) and tips[0][1] == pytest.approx(tips[-1][1])
    n = piece_numbers(piece)
    assert (n.size.across_um, n.size.along_um) == (own.across.um, own.along.um)
    assert n.size.text("cm").endswith(" deep") and "tip to tip" in n.size.text("cm")


def test_the_upper_edge_is_straight_where_rows_are_half_as_high_as_stitches_are_wide():
    """Two right-angled triangles with equal legs: as deep as each half is wide (Euclid; common practice for garter)."""
    file = new_project("shawl", ["depth=60"], gauge="20x40", panels="rope-1-1-left", background="stockinette")
    piece = file.all_pieces()[0]
    found = shape_band(piece.band_views[0])
    assert found.shaping.angle(found.view, found.stations, found.active) == pytest.approx(90.0, abs=3.0)
    assert found.own_outline.across.um == pytest.approx(2.0 * found.own_outline.along.um, rel=0.06)
    assert not any("degrees" in text for text in shape_cautions(file))
    tall = new_project("shawl", ["depth=60"], gauge="20x26", panels="rope-1-1-left", background="stockinette")
    assert any("the tips rise" in text for text in shape_cautions(tall))


def test_the_picture_hangs_from_the_neck_with_the_measures_beneath():
    piece = new_project("shawl", ["depth=45"], gauge="20x30").all_pieces()[0]
    root = ET.fromstring(draw_schematic(piece, "cm"))
    paths = [e for e in root.iter() if e.tag.endswith("path")]
    body = [tuple(map(float, p.split())) for p in re.findall(r"-?[\d.]+ -?[\d.]+", paths[0].get("d"))]
    own = shape_band(piece.band_views[0]).own_outline
    assert len(paths) == 3, "the body and a cable on each wing"
    wide, tall = (max(p[i] for p in body) - min(p[i] for p in body) for i in (0, 1))
    assert wide / tall == pytest.approx(own.span_um / own.tall_um, rel=0.01), "to scale"
    lowest = max(body, key=lambda p: p[1])
    assert lowest[0] == pytest.approx(sum(p[0] for p in body) / len(body), abs=3.0), "the spine's end hangs lowest"
    said = [e.text for e in root.iter() if e.tag.endswith("text")]
    assert said[0].endswith("from tip to tip") and said[1].endswith("deep along the spine")


def test_a_spine_without_two_wings_is_refused():
    piece = new_project("shawl", ["depth=30"], gauge="20x30").all_pieces()[0]
    one = replace(piece.bands[0].shaping, sections=piece.bands[0].shaping.sections[:1])
    with pytest.raises(IllegalPiece, match="between two wings"):
        shape_band(replace(piece, bands=(replace(piece.bands[0], shaping=one),)).band_views[0])

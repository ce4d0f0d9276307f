"""The schematic: outlines to scale, read back from the drawing."""

from __future__ import annotations

import re
import xml.etree.ElementTree as ET

import pytest

from cablux.core.piece.widths import body_um, segment_um
from cablux.core.rows.heights import plan_rows
from cablux.core.rows.shaped_band import plan_stations
from cablux.render.outline import outline_of
from cablux.render.schematic import draw_schematic
from cablux.service.shapes.shaped_projects import joins_of, new_project


def points(path: str) -> list[tuple[float, float]]:
    return [(float(x), float(y)) for x, y in re.findall(r"([\d.]+) ([\d.]+)", path)]


def drawn(file: object, kind: str) -> list[list[tuple[float, float]]]:
    piece = file.piece()  # type: ignore[attr-defined]
    svg = draw_schematic(piece, file.unit, joins_of(file))  # type: ignore[attr-defined, arg-type]
    root = ET.fromstring(svg)
    return [points(e.get("d", "")) for e in root.iter() if f"schematic-{kind}" in (e.get("class") or "")]


def test_a_shaped_outline_has_its_stations_to_one_scale() -> None:
    file = new_project("corner", ["side=30"], gauge="18x25")
    (corners,) = drawn(file, "body")
    stations = plan_stations(file.piece().band_views[0]).stations
    left, right = corners[: len(stations)], corners[len(stations) :][::-1]
    widths = [b[0] - a[0] for a, b in zip(left, right, strict=True)]
    heights = [left[0][1] - a[1] for a in left]
    scale = widths[2] / stations[2].width_um
    assert widths == pytest.approx([s.width_um * scale for s in stations], abs=0.3)
    assert heights == pytest.approx([s.at_um * scale for s in stations], abs=0.3)


def test_a_seam_is_drawn_at_both_ends_with_its_opening_left_out() -> None:
    file = new_project("strip", ["worn=mitts"], gauge="22x30")
    seams = drawn(file, "seam")
    assert len(seams) == 4, "two stretches at each end, with the thumb between them"
    (first, second), piece = seams[:2], file.piece()
    (corners,) = drawn(file, "body")
    scale = (max(y for _, y in corners) - min(y for _, y in corners)) / body_um(piece.band_views[0])
    gap = min(abs(a[1] - b[1]) for a in first for b in second)
    assert gap == pytest.approx(45_000.0 * scale, abs=0.5)


def test_a_side_seam_is_drawn_up_both_sides_with_its_slit_left_out() -> None:
    file = new_project("mitts", ["thumb=slit in a side seam", "hand=20", "ease=0", "cuff=6"], gauge="22x30")
    file = file.model_copy(update={"joins": file.joins[:1]})
    seams, height = drawn(file, "seam"), plan_rows(file.piece()).height_um / 10_000.0
    assert len(seams) == 4 and min(x for part in seams[:2] for x, _ in part) > max(
        x for part in seams[2:] for x, _ in part
    )
    ys = sorted({y for part in seams[:2] for y in (part[0][1], part[-1][1])})
    top, slit_top, slit_low, foot = ys
    assert (slit_low - slit_top) / (foot - top) == pytest.approx(5.0 / height, abs=0.01)
    assert (foot - slit_low) / (foot - top) == pytest.approx((6.0 + 2.5) / height, abs=0.01)


def test_a_tube_lies_flat_with_the_middle_of_its_layout_in_front() -> None:
    file = new_project("tube", ["worn=leg warmer"], gauge="20x28", panels="honeycomb")
    piece = file.piece()
    outline = outline_of(piece, "cm")
    body = next(s for s in outline.slices if s.kind == "body")
    assert body.below_um[1] - body.below_um[0] == pytest.approx(body_um(piece.band_views[0]) / 2.0)
    (area,) = outline.panels
    left, right = (f(x for x, _ in area.corners) for f in (min, max))
    panel = next(s for s in piece.everything if s.is_panel)
    assert area.family == "honeycomb" and right - left == pytest.approx(segment_um(panel, piece.outlook), rel=0.02)
    assert left == pytest.approx(-right, rel=0.05)

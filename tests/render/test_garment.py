"""A garment laid out on paper: each seam is drawn as long on one piece as on the other, and numbered on both."""

from __future__ import annotations

import math
import re
from itertools import pairwise

import pytest

from cablux.render.laid_garment import draw_garment
from cablux.service.shaped_projects import joins_of, new_project

PATH = re.compile(r'class="schematic-seam" d="M([^"]*)"/><rect class="seam-badge"[^>]*/><text[^>]*>([\d, ]+)<')


def drawn_lengths(svg: str) -> dict[int, list[float]]:
    """For each seam's number the lengths of its lines in the picture."""
    out: dict[int, list[float]] = {}
    for path, numbers in PATH.findall(svg):
        points = [tuple(map(float, each.split())) for each in path.split("L")]
        long = sum(math.dist(a, b) for a, b in pairwise(points))
        for number in map(int, numbers.split(", ")):
            out.setdefault(number, []).append(long)
    return out


@pytest.mark.parametrize("shape", ["pullover", "vest", "cardigan"])
@pytest.mark.parametrize("construction", ["set-in", "modified-drop"])
@pytest.mark.parametrize("shoulders", ["bound off in steps", "short rows and three needles"])
def test_both_edges_of_a_seam_are_drawn_as_long(shape: str, construction: str, shoulders: str) -> None:
    file = new_project(shape, [f"construction={construction}", f"shoulders={shoulders}"], gauge="18x25")
    pieces, joins = file.all_pieces(), joins_of(file)
    svg = draw_garment(pieces, joins, [p.name for p in file.pieces], "cm")
    found = drawn_lengths(svg)
    assert sorted(found) == list(range(1, len(joins) + 1)), "each seam has its number"
    for number, join in enumerate(joins, start=1):
        one, *others = found[number]
        assert len(others) == len(join.edges) - 1
        first, rest = (one, sum(others)) if len(others) == 1 else (max(found[number]), None)
        if rest is None:
            rest = sum(found[number]) - first
        assert rest == pytest.approx(first, rel=0.09), (number, join)
    for name in (p.name for p in file.pieces):
        assert f">{name}<" in svg


def test_pieces_lie_beside_each_other_and_never_over_the_edge() -> None:
    file = new_project("cardigan", ["for=woman 5X"], gauge="12x17")
    svg = draw_garment(file.all_pieces(), joins_of(file), [p.name for p in file.pieces], "cm")
    width, height = map(float, re.findall(r'viewBox="0 0 ([\d.]+) ([\d.]+)"', svg)[0])
    for path in re.findall(r'class="schematic-(?:body|border)" d="M([^Z]*)Z"', svg):
        for x, y in (map(float, each.split()) for each in path.split("L")):
            assert 0.0 <= x <= width and 0.0 <= y <= height


@pytest.mark.parametrize("shape", ["hat", "raglan", "mitts", "strip", "cardigan"])
def test_every_seam_of_every_shape_is_drawn_where_it_lies(shape: str) -> None:
    """Of a tube that lies flat, too: a body's second underarm lies behind, as long as the first."""
    for sets in (["from=bottom"], ["from=top"]) if shape == "raglan" else ([],):
        file = new_project(shape, sets, gauge="18x25")
        joins = joins_of(file)
        svg = draw_garment(file.all_pieces(), joins, [p.name for p in file.pieces], "cm")
        found = drawn_lengths(svg)
        assert sorted(found) == list(range(1, len(joins) + 1))
        assert all(long > 1.0 for each in found.values() for long in each)
        if sets == ["from=bottom"]:
            (one, *halves), (two, *others) = found[1], found[2]
            assert one == pytest.approx(two, rel=0.02) and sum(halves) == pytest.approx(sum(others), rel=0.02)

"""A garment laid out on paper: each seam is drawn as long on one piece as on the other, and numbered on both."""

from __future__ import annotations

import math
import re
from itertools import pairwise

import pytest

from cablux.core.garment.joins import join_lengths
from cablux.core.pattern import compile_piece
from cablux.core.pattern.cloth import relax_pattern
from cablux.core.pattern.cloth_outline import cloth_outline, line_um
from cablux.render.laid_garment import draw_garment, planned_piece, relaxed_edge
from cablux.service.shapes.shaped_projects import joins_of, new_project
from tests.examples import over

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
    svg = draw_garment([planned_piece(p, "cm") for p in pieces], joins, [p.name for p in file.pieces])
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
    svg = draw_garment(
        [planned_piece(p, "cm") for p in file.all_pieces()], joins_of(file), [p.name for p in file.pieces]
    )
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
        svg = draw_garment([planned_piece(p, "cm") for p in file.all_pieces()], joins, [p.name for p in file.pieces])
        found = drawn_lengths(svg)
        assert sorted(found) == list(range(1, len(joins) + 1))
        assert all(long > 1.0 for each in found.values() for long in each)
        if sets == ["from=bottom"]:
            (one, *halves), (two, *others) = found[1], found[2]
            assert one == pytest.approx(two, rel=0.02) and sum(halves) == pytest.approx(sum(others), rel=0.02)


PANELS = ["braid-9,rope-2-2-left", "honeycomb"]
WORN = [
    ("pullover", ("construction=set-in", "shoulders=crossed and decreased behind")),
    ("pullover", ("construction=drop", "shoulders=short rows and three needles", "for=child 8")),
    ("cardigan", ("construction=set-in", "bands=knitted along", "for=man L")),
    ("vest", ("construction=modified-drop", "front_wider=4", "back_longer=5")),
]


@over(
    ("shape", "sets", "panels"),
    [(*worn, PANELS[(at + turn) % 2]) for at, worn in enumerate(WORN) for turn in (0, 1)],
    of=2,
)
def test_every_seam_meets_as_the_loops_relax_and_lies_as_long_as_it_was_planned(
    shape: str, sets: tuple[str, ...], panels: str
) -> None:
    """The fabric's springs know nothing of the plan's widths; what they lay out is measured loop by loop."""
    file = new_project(shape, list(sets), gauge="18x25", panels=panels)
    pieces, joins = file.all_pieces(), joins_of(file)
    outlines = [cloth_outline(relax_pattern(compile_piece(piece))) for piece in pieces]
    for join in joins:
        planned = join_lengths(pieces, join)
        one, *others = (line_um(relaxed_edge(pieces[e.piece], outlines[e.piece], e)) for e in join.edges)
        stitch = 1000.0 * pieces[0].measure.gauge.stitch_mm
        assert abs(one - sum(others)) <= max(2.5 * stitch, 0.06 * one), join  # ends that are free yet flare
        assert one == pytest.approx(planned.one_um, rel=0.08, abs=1.5 * stitch), join

"""Where am I?: each answer against every row of the knitted cloth, looked at loop by loop."""

from __future__ import annotations

import random
from collections.abc import Iterator

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import CabluxError
from cablux.core.library import LIBRARY
from cablux.core.pattern import compile_piece
from cablux.core.tracking import Sighting, panel_sights
from cablux.service.exchange import ProjectFile
from cablux.service.pattern import project_words
from cablux.service.shapes.shaped_projects import new_project
from tests.examples import each, examples, over
from tests.knitter import Row, knit_pattern

CROSSED = sorted(p.id for p in LIBRARY.values() if "panel" in p.uses and p.chart.crossing_rows)


def steady(pattern: str) -> bool:
    chart = LIBRARY[pattern].chart
    return all(len(chart.faces_after(n)) == chart.width(1) for n in range(1, chart.height + 1))


def passing(stand: list[tuple[int, int]]) -> Iterator[tuple[tuple[int, int], tuple[int, int]]]:
    """The outermost two of every run of loops that have changed places among themselves: column and depth of each."""
    run: list[tuple[int, int]] = []
    for n, loop in enumerate(stand):
        run.append(loop)
        if all(column > max(at for at, _ in run) for column, _ in stand[n + 1 :]):
            if len(run) > 1:
                yield run[0], run[-1]
            run = []


def seen(rows: list[Row], first: int, last: int) -> list[tuple[int, str] | None]:
    """After each row what the columns from one place to another show: rows since loops changed places, and the lean."""
    out: list[tuple[int, str] | None] = [None]
    crossed: tuple[int, str] | None = None
    for n, row in enumerate(rows, start=1):
        stand = [
            (lo.parents[0], lo.depth) for lo in row.loops if len(lo.parents) == 1 and first <= lo.parents[0] < last
        ]
        leans = {"left" if b[1] > a[1] else "right" for a, b in passing(stand)}
        if leans:
            crossed = n, "both" if len(leans) > 1 else leans.pop()
        out.append((n - crossed[0], crossed[1]) if crossed else None)
    return out


def scarf(panels: str, rows: int) -> tuple[ProjectFile, list[Row]]:
    file = new_project("rectangle", ["width=40", f"height={rows * 0.4}"], gauge="18x25", panels=panels)
    return file, knit_pattern(project_words(file))[1]


@over("panel", [name for name in CROSSED if steady(name)], of=3)
def test_every_panel_shows_after_every_row_what_its_knitted_loops_show(panel: str) -> None:
    file, rows = scarf(panel, 90)
    piece = file.piece()
    found, at = panel_sights(compile_piece(piece).rows), 0
    assert found.rows == len(rows)
    for n, s in enumerate(piece.band_views[0].segments):
        if s.is_panel:
            shown = found.shown[n, s.name]
            looked = seen(rows, at, at + s.stitches)
            for r, (mine, theirs) in enumerate(zip(shown, looked, strict=True)):
                assert mine is None or (mine.bars, mine.leans) == theirs, (s.name, r)
            assert sum(mine is not None for mine in shown) > 40
        at += s.stitches


@examples(10)
@given(st.lists(st.sampled_from(each(name for name in CROSSED if steady(name))), min_size=1, max_size=3), st.randoms())
def test_rows_that_fit_are_those_that_brute_force_finds_and_the_next_look_leaves_the_fewest(
    panels: list[str], chance: random.Random
) -> None:
    """Over all rows of a scarf and all sets of panels looked at; the best look by trying each of them on each row."""
    try:
        piece = new_project("rectangle", ["width=45", "height=40"], gauge="18x25", panels=",".join(panels)).piece()
    except CabluxError:
        return
    found = panel_sights(compile_piece(piece).rows)
    names = sorted(found.shown)
    row = chance.randrange(found.rows + 1)
    looked = [name for name in names if chance.random() < 0.5 and found.shown[name][row] is not None]
    told = [
        Sighting(panel=name, bars=shown.bars, leans=shown.leans) for name in looked if (shown := found.shown[name][row])
    ]
    fitting = found.fitting(told)
    assert row in fitting
    assert list(fitting) == [
        r for r in range(found.rows + 1) if all(found.shown[name][r] == found.shown[name][row] for name in looked)
    ]
    best = found.next_panel(fitting)

    def left(name: tuple[int, str]) -> float:
        return sum(sum(found.shown[name][b] == found.shown[name][a] for b in fitting) for a in fitting) / len(fitting)

    if best is None:
        assert all(left(name) == len(fitting) for name in names)
    else:
        assert left(best) == pytest.approx(min(map(left, names))) and left(best) < len(fitting)


def test_a_lean_that_was_not_told_and_a_panel_that_is_not_there() -> None:
    piece = new_project("rectangle", ["width=40", "height=40"], gauge="18x25", panels="braid-9").piece()
    found = panel_sights(compile_piece(piece).rows)
    panel = next(iter(found.shown))
    either = set(found.fitting([Sighting(panel=panel, bars=2)]))
    each = [set(found.fitting([Sighting(panel=panel, bars=2, leans=lean)])) for lean in ("left", "right")]
    assert either == each[0] | each[1] and not each[0] & each[1] and all(each)
    assert found.fitting([Sighting(panel=(99, "no such"), bars=2)]) == ()
    assert found.fitting([], range(10, 13)) == (10, 11, 12)

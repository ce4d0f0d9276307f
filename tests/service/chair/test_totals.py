"""The totals of a project: against its rows as they are knitted from the printed words, and times worked by hand."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest

from cablux.core.pattern import compile_piece
from cablux.core.tracking import COMMON_SECONDS, Event, learnt_seconds, pace_of, row_times, time_text
from cablux.service.chair import Chair
from cablux.service.chair.totals import add_up
from cablux.service.projects import Place, Projects
from tests.service.shapes.test_sweaters import knit_parts

SMALL = ("Tideline cowl", "Skua hat", "Curlew mitts", "Wren vest", "Harbour squares")
BEGIN = datetime(2026, 11, 2, 19, 0, tzinfo=UTC)


def ticked(*rows: tuple[str, int, float]) -> list[Event]:
    """Events of such kinds at such rows, each so many seconds after the one before."""
    at, out = BEGIN, []
    for number, (kind, row, seconds) in enumerate(rows, start=1):
        at += timedelta(seconds=seconds)
        out.append(Event(kind=kind, row=row, id=number, at=at))
    return out


@pytest.mark.parametrize("name", SMALL)
def test_all_pieces_with_their_copies_come_to_what_is_knitted(demo_database, name):
    projects, chair = Projects(demo_database), Chair(demo_database)
    project = next(p for p in projects.all() if p.name == name)
    knit = knit_parts(project.file)
    many = {p.name or project.file.name: p.copies for p in project.file.pieces}
    found = chair.totals(project)
    assert found.pieces == sum(many.values())
    assert found.rows == sum(many[part] * len(rows) for part, rows in knit.items())
    assert found.stitches == sum(many[part] * sum(len(r.loops) for r in rows) for part, rows in knit.items())
    tallies = chair.tallies(project)
    assert found.rows_done == sum(t.done for t in tallies)
    done = sum(len(r.loops) for t in tallies for r in knit[t.project.piece_name][: t.done])
    assert found.stitches_done == done
    assert found.minutes_left == pytest.approx(found.stitch_seconds * (found.stitches - done) / 60.0, rel=0.01)


def test_the_time_that_is_left_follows_the_rows_that_are_left(demo_database):
    projects, chair = Projects(demo_database), Chair(demo_database)
    project = next(p for p in projects.all() if p.name == "Skerry throw")
    before, done = chair.totals(project), chair.state(project).done
    chair.jump(project, done - 20)
    after = chair.totals(project)
    assert after.rows_done == before.rows_done - 20 and after.minutes_left > before.minutes_left
    rows, now = compile_piece(project.piece).rows, chair.now(project)
    left = sum(row.after for row in rows[now.done :])
    assert now.pace.left_minutes == pytest.approx(now.pace.stitch_seconds * left / 60.0), "from where the tally is"


def test_a_pace_is_the_median_of_rows_ticked_off_in_turn_without_their_pauses(demo_database):
    """Worked by hand: rows of 100 stitches in 200 s, one with a pause, one only entered, one after going back."""
    piece = next(p for p in Projects(demo_database).all() if p.name == "Skerry throw").piece
    rows = compile_piece(piece).rows
    each = [rows[n - 1].after * 2.0 for n in range(1, 12)]
    told = [("row done", n, each[n - 1]) for n in range(1, 9)]
    events = ticked(*told, ("undo", 8, 5.0), ("row done", 8, 9.0), ("row done", 9, 4000.0), ("row done", 10, 1.0))
    assert [row for row, _ in row_times(events)] == [2, 3, 4, 5, 6, 7, 8, 9, 10]
    found = pace_of(rows, events, 10)
    assert found.stitch_seconds == pytest.approx(2.0) and found.rows == 7, "neither the pause nor what was entered"
    assert found.row_minutes == pytest.approx(2.0 * rows[10].after / 60.0)
    assert pace_of(rows, events[:4], 4) is None and learnt_seconds([2.0] * 4) is None
    assert pace_of(rows, events, len(rows)).left_minutes == 0.0


def test_totals_of_nothing_begun_take_the_common_pace_and_of_all_done_no_time(demo_database):
    projects = Projects(demo_database)
    rows = compile_piece(projects.open(Place(1)).piece).rows
    fresh, whole = add_up([(rows, 0, ())]), add_up([(rows, len(rows), ()), (rows, len(rows) + 3, ())])
    assert (fresh.stitch_seconds, fresh.learnt_rows, fresh.percent) == (COMMON_SECONDS, 0, 0)
    assert (whole.percent, whole.minutes_left, whole.rows_done) == (100, 0.0, 2 * len(rows))
    almost = add_up([(rows, len(rows) - 1, ())])
    assert almost.percent == 99, "100 is said of what is done whole"
    assert time_text(almost.minutes_left)

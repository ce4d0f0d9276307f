"""The database: migrations, history, and what survives a kill."""

from __future__ import annotations

import json
import signal
import sqlite3
import subprocess
import sys
import threading
from datetime import datetime
from pathlib import Path

import pytest
from alembic import command

from cablux.service.chair import Chair
from cablux.service.projects import Place, Projects
from cablux.store import repository
from cablux.store.database import Database, alembic_config, newest_version
from cablux.store.repository import PANELS, PROJECTS, SWATCHES
from tests.service.projects.test_projects import second_version, small

NOW = datetime(2026, 3, 1, 12, 0)


def test_migrations_reach_the_models_and_the_newest_version(database):
    assert database._version() == newest_version()
    command.check(alembic_config(database.file))


@pytest.mark.parametrize("version", ["0001", "0002", "0003", "0004", "0005", "0006"])
def test_every_released_version_comes_up_with_its_rows(tmp_path: Path, version):
    file = tmp_path / "old 100%.db"
    command.upgrade(alembic_config(file), version)
    with sqlite3.connect(file) as old:
        old.execute("INSERT INTO project VALUES (7, 0, '2026-01-01', '2026-01-01')")
        old.execute(
            "INSERT INTO step (id, project_id, position, label, document) VALUES (1, 7, 0, 'New project', '{}')"
        )
        old.execute("INSERT INTO event (id, project_id, kind, row, at) VALUES (1, 7, 'row done', 1, '2026-01-01')")
    old.close()
    opened = Database(file)
    opened.upgrade()
    with opened.reading() as session:
        stored = PROJECTS.load(session, 7)
        assert stored and stored.document == "{}" and len(repository.load_events(session, 7)) == 1
        assert (
            PANELS.load_all(session) == SWATCHES.load_all(session) == []
            and repository.kept_pattern(session, "own-x") is None
        )
    opened.close()


def test_a_set_of_squares_becomes_one_project_whose_old_addresses_lead_to_its_pieces(tmp_path: Path):
    """As version 0.5 kept a set: projects that share a name; one in another yarn stays a project of its own."""
    file = tmp_path / "sets.db"
    command.upgrade(alembic_config(file), "0005")
    square = second_version(small()) | {"squares": "Harbour afghan"}
    stored = [
        (3, "Tern", {}),
        (5, "Eider", {}),
        (6, "Tern", {}),
        (8, "Knot", {"yarn": "another"}),
        (9, "Own", {"squares": ""}),
    ]
    with sqlite3.connect(file) as old:
        for number, name, more in stored:
            old.execute("INSERT INTO project VALUES (?, 1, '2026-01-01', '2026-01-01')", [number])
            text = json.dumps(square | {"name": name} | more)
            for at, document in enumerate(("{}", text)):
                old.execute(
                    "INSERT INTO step (project_id, position, label, document) VALUES (?, ?, 'step', ?)",
                    [number, at, document],
                )
            for row in range(1, number):
                old.execute(
                    "INSERT INTO event (project_id, kind, row, at) VALUES (?, 'row done', ?, '2026-01-01')",
                    [number, row],
                )
    old.close()
    opened = Database(file)
    opened.upgrade()
    projects, chair = Projects(opened), Chair(opened)
    assert sorted((p.id, p.name) for p in projects.all()) == [(3, "Harbour afghan"), (8, "Knot"), (9, "Own")]
    home = projects.open(3)
    assert [p.piece_name for p in home.pieces()] == ["Tern", "Eider", "Tern 3"]
    assert [chair.state(p).done for p in home.pieces()] == [2, 4, 5], "each with its own tally"
    assert projects.open(5).place == Place(3, 2) and projects.open(5).piece == home.pieces()[1].piece
    assert home.piece.bands == small().piece().bands and not home.undo_label
    opened.close()


def test_a_kept_pattern_stays_as_it_was_first_kept(database):
    with database.writing() as s:
        repository.keep_pattern(s, "own-x", "one")
        repository.keep_pattern(s, "own-x", "two")
    with database.reading() as s:
        assert repository.kept_pattern(s, "own-x") == "one"


def test_history_goes_back_and_forth_and_a_new_step_forgets_what_was_undone(database):
    with database.writing() as s:
        pid = PROJECTS.create(s, "0", "New project", now=NOW)
    for text in "1", "2":
        with database.writing() as s:
            PROJECTS.append(s, pid, text, label=f"step {text}", now=NOW)
    with database.writing() as s:
        assert PROJECTS.move(s, pid, -1, now=NOW)
        now = PROJECTS.load(s, pid)
        assert (now.document, now.undo_label, now.redo_label) == ("1", "step 1", "step 2")
    with database.writing() as s:
        PROJECTS.append(s, pid, "3", label="step 3", now=NOW)
        assert not PROJECTS.move(s, pid, +1, now=NOW)
        assert PROJECTS.move(s, pid, -1, now=NOW) and PROJECTS.move(s, pid, -1, now=NOW)
        assert not PROJECTS.move(s, pid, -1, now=NOW)


def test_history_is_kept_short_without_losing_the_present(database, monkeypatch):
    monkeypatch.setattr(repository, "KEEP_STEPS", 5)
    with database.writing() as s:
        pid = PROJECTS.create(s, "0", "New project", now=NOW)
        for i in range(1, 20):
            PROJECTS.append(s, pid, str(i), label="step", now=NOW)
        assert PROJECTS.load(s, pid).document == "19"
        back = sum(PROJECTS.move(s, pid, -1, now=NOW) for _ in range(20))
    assert back == 4


def test_an_action_that_fails_changes_nothing(database):
    with pytest.raises(RuntimeError), database.writing() as s:
        PROJECTS.create(s, "x", "New project", now=NOW)
        raise RuntimeError
    with database.reading() as s:
        assert PROJECTS.load_all(s) == []


def test_writers_on_many_threads_wait_for_each_other(database):
    with database.writing() as s:
        pid = PROJECTS.create(s, "0", "New project", now=NOW)
    failures: list[BaseException] = []

    def tap() -> None:
        try:
            for _ in range(10):
                with database.writing() as s:
                    row = len(repository.load_events(s, pid)) + 1
                    repository.add_event(s, pid, "row done", row=row, now=NOW)
        except BaseException as error:
            failures.append(error)

    threads = [threading.Thread(target=tap) for _ in range(6)]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    with database.reading() as s:
        rows = [e.row for e in repository.load_events(s, pid)]
    assert not failures and rows == list(range(1, 61))


TAPS = """
import sys
from datetime import datetime
from pathlib import Path
from cablux.store import repository
from cablux.store.repository import PROJECTS
from cablux.store.database import Database
d = Database(Path(sys.argv[1]))
for row in range(1, 10_000):
    with d.writing() as s:
        repository.add_event(s, 1, "row done", row, datetime(2026, 3, 1))
    print(row, flush=True)
"""


def test_a_kill_loses_no_tap_that_was_answered(database):
    with database.writing() as s:
        PROJECTS.create(s, "0", "New project", now=NOW)
    child = subprocess.Popen([sys.executable, "-c", TAPS, str(database.file)], stdout=subprocess.PIPE, text=True)
    answered = 0
    for line in child.stdout:
        answered = int(line)
        if answered == 25:
            child.send_signal(signal.SIGKILL)
            break
    answered = max([answered, *(int(line) for line in child.stdout)])
    child.wait()
    child.stdout.close()
    with database.reading() as s:
        rows = [e.row for e in repository.load_events(s, 1)]
    assert rows[:answered] == list(range(1, answered + 1)) and len(rows) <= answered + 1


def test_a_removed_project_takes_its_history_and_events_along(database):
    with database.writing() as s:
        pid = PROJECTS.create(s, "0", "New project", now=NOW)
        repository.add_event(s, pid, "row done", row=1, now=NOW)
    with database.writing() as s:
        PROJECTS.remove(s, pid)
    with sqlite3.connect(database.file) as raw:
        left = [raw.execute(f"SELECT count(*) FROM {t}").fetchone()[0] for t in ("project", "step", "event")]
    raw.close()
    assert left == [0, 0, 0]

"""The tools for whoever works on Cablux, each on one example: so that none of them rots until it is needed."""

from __future__ import annotations

import subprocess
import sys
from importlib import import_module
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]


@pytest.fixture
def tools(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.syspath_prepend(str(ROOT / "tools"))


def test_the_benchmarks_run_from_end_to_end(demo_data):
    command = [sys.executable, "tools/bench.py", "--short", "--demo", str(demo_data)]
    done = subprocess.run(command, cwd=ROOT, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr[-2000:]
    lines = done.stdout.splitlines()
    assert len(lines) > 20 and lines[-1].startswith("memory of this process")


def test_a_change_of_the_core_is_made_and_noticed(tools, monkeypatch):
    mutants = import_module("mutants")
    assert {path.name for path in (ROOT / "tests" / "core").iterdir()} >= set(mutants.PARTS)
    for part in mutants.PARTS:
        assert all((ROOT / name).exists() for name in mutants.tests_of(part))
    every = [m for m in mutants.all_mutants(("needle",)) if m.file.name == "schedule.py"]
    words = [m for m in every if m.operator.endswith("Eq_NotEq")]
    monkeypatch.setattr(mutants, "tests_of", lambda part: ["tests/core/needle/test_schedule.py"])
    assert not mutants.noticed(words[0].file, (ROOT / words[0].file).read_text("utf-8")), "nothing is changed"
    assert any(mutants.tried(each)[0] == "killed" for each in reversed(words[:-2])), "the last two change nothing"


def test_the_outputs_of_a_project_are_written_down(tools, tmp_path):
    outputs = import_module("outputs")
    drawn = outputs.drawn(__import__("random").Random(1), outputs.asked_shapes()[0])
    assert drawn[:2] == ["new", "rectangle"] and "--gauge" in drawn
    outputs.write_project(tmp_path / "tern", (ROOT / "src/cablux/demo/tern-collar.json").read_text("utf-8"))
    written = {file.name: file.read_text("utf-8") for file in (tmp_path / "tern").iterdir()}
    assert set(written) == {"project.json", *outputs.ASKED}
    assert "Cast on" in written["words.txt"] and written["size.json"].startswith("{")
    assert not any(text.startswith(("failed", "refused")) for text in written.values())


def test_simulated_knitters_and_the_tables_of_the_fabric_are_worked_out(tools, capsys):
    import_module("simulate").main(2)
    assert "no swatch" in capsys.readouterr().out
    fabric = import_module("fit_fabric")
    rows = fabric.rows_of(dict([*fabric.CHECK.items()][:1]), fabric.FITTED)
    assert len(rows) == 1 and rows[0].startswith("| ")

"""Changes the core in one place at a time and says whether a test notices: `make mutants`.

The places and the changes are those of a mutation library (cosmic-ray); a sample of them is drawn by chance from
its parts, and each is tried on a copy of the sources with the tests of the same folder, and with what else looks at its
part of the core. docs/testing.md says what survived, and why.

Run: .venv/bin/python tools/mutants.py [--sample 100] [--seed 1] [--jobs 2] [--only counts]
"""

from __future__ import annotations

import argparse
import os
import random
import shutil
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from difflib import unified_diff
from pathlib import Path

from cosmic_ray import plugins
from cosmic_ray.ast import get_ast
from cosmic_ray.mutating import mutate_code

ROOT = Path(__file__).resolve().parents[1]
CORE = Path("src/cablux/core")
ALWAYS = {  # what looks at a part besides the tests of its own folder, the quickest first
    "needle": ("core/shaping", "core/pattern/test_pattern.py"),
    "piece": ("core/counts", "core/shaping", "service/shapes/test_shapes.py", "service/projects"),
    "shaping": (
        "core/needle",
        "core/pattern/test_pattern.py",
        "service/bench",
        "service/shapes/test_shapes.py",
    ),
    "ends": (
        "core/rows",
        "core/pattern/test_pattern.py",
        "service/bench",
        "service/derivations",
    ),
    "rows": ("core/ends", "core/shaping", "service/shapes/test_shapes.py", "service/derivations"),
    "counts": ("service/bench",),
    "garment": ("service/shapes/test_shapes.py", "service/shapes/test_sweaters.py"),
    "gauge": ("core/test_told.py", "service/swatches", "service/derivations"),
    "fabric": ("core/gauge",),
    "pattern": ("core/needle", "service/panels"),
}
PARTS = tuple(ALWAYS)
LONGEST = 180  # seconds: a change that makes one test run on for ever is noticed
GUARDS = (("strict=True", "strict=False"), ("frozen=True", "frozen=False"))  # these only say what holds anyhow
# type hints are no behaviour, and decorators and loops are changed by others of these
LEFT_OUT = ("BitOr", "BitAnd", "BitXor", "Shift", "RemoveDecorator", "Variable", "ExceptionReplacer")


@dataclass(frozen=True)
class Mutant:
    """One change: the file, which operator, and its how-manieth place there."""

    file: Path
    operator: str
    occurrence: int


def all_mutants(parts: tuple[str, ...]) -> list[Mutant]:
    """Every change of every file of those parts."""
    names = [n for n in plugins.operator_names() if not any(out in n for out in LEFT_OUT)]
    found = []
    for file in sorted(f for part in parts for f in (ROOT / CORE / part).glob("*.py")):
        nodes = list(_nodes(get_ast(file.read_text("utf-8"))))
        for name in names:
            operator = plugins.get_operator(name)()
            count = sum(1 for node in nodes for _ in operator.mutation_positions(node))
            found += [Mutant(file.relative_to(ROOT), name, i) for i in range(count)]
    return found


def _nodes(node: object) -> object:
    yield node
    for child in getattr(node, "children", ()):
        yield from _nodes(child)


def tried(mutant: Mutant) -> tuple[str, str]:
    """Killed, survived or no change; and the change as a difference of lines."""
    source = (ROOT / mutant.file).read_text("utf-8")
    changed = mutate_code(source, plugins.get_operator(mutant.operator)(), mutant.occurrence)
    if changed is None or changed == source:
        return "no change", ""
    lines = unified_diff(source.splitlines(), changed.splitlines(), lineterm="", n=0)
    shown = [line for line in lines if line[:1] in "+-" and line[:3] not in ("+++", "---")]
    if all("->" in line and line.lstrip("+- ").startswith("def ") for line in shown):
        return "no change", ""  # a default or a hint in a signature
    if any(shown[0][1:].replace(on, off) == shown[-1][1:].replace(on, off) for on, off in GUARDS):
        return "no change", ""
    return ("killed" if noticed(mutant.file, changed) else "survived"), "\n".join(shown)


def tests_of(part: str) -> list[str]:
    """Which tests look at a part of the core: those of its own folder, and what else is told of it."""
    own = [f"tests/core/{part}"] if (ROOT / "tests" / "core" / part).is_dir() else []
    return [*own, *(f"tests/{name}" for name in ALWAYS[part])]


def noticed(file: Path, source: str) -> bool:
    """Whether a test of its part fails, or runs on for ever, on a copy in which a file has this source."""
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder)
        for name in ("src", "tests", "docs", "tools"):
            shutil.copytree(ROOT / name, copy / name, ignore=shutil.ignore_patterns("*.png"))
        shutil.copy(ROOT / "pyproject.toml", copy)
        (copy / file).write_text(source, "utf-8")
        files = tests_of(file.relative_to(CORE).parts[0])
        stop = ["-o", f"faulthandler_timeout={LONGEST}", "-o", "faulthandler_exit_on_timeout=true"]
        command = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", *stop, *files]
        env = os.environ | {
            "PYTHONPATH": str(copy / "src"),
            "HYPOTHESIS_STORAGE_DIRECTORY": str(copy / ".hypothesis"),
            "HYPOTHESIS_PROFILE": "mutants",
        }
        return subprocess.run(command, cwd=copy, env=env, capture_output=True, check=False).returncode != 0


def main() -> None:
    """Draws, tries and tells."""
    ask = argparse.ArgumentParser(description=__doc__)
    ask.add_argument("--sample", type=int, default=100)
    ask.add_argument("--seed", type=int, default=1)
    ask.add_argument("--jobs", type=int, default=2)
    ask.add_argument("--only", choices=PARTS)
    given = ask.parse_args()
    parts = (given.only,) if given.only else PARTS
    every = all_mutants(parts)
    random.Random(given.seed).shuffle(every)
    killed = survived = 0
    with ThreadPoolExecutor(given.jobs) as pool:
        unchanged = [CORE / part / "__init__.py" for part in parts]
        sources = [(ROOT / file).read_text("utf-8") for file in unchanged]
        if any(pool.map(noticed, unchanged, sources)):
            raise SystemExit("Nothing can be said: without any change some test fails; see `make test`.")
        for mutant, (verdict, shown) in zip(every, pool.map(tried, every), strict=True):
            killed, survived = killed + (verdict == "killed"), survived + (verdict == "survived")
            if verdict == "survived":
                print(f"survived: {mutant.file} ({mutant.operator.removeprefix('core/')})\n{shown}\n", flush=True)
            print(f"{killed} of {killed + survived} so far", file=sys.stderr, flush=True)
            if killed + survived == given.sample:
                pool.shutdown(wait=False, cancel_futures=True)
                break
    print(f"{killed} of {killed + survived} changes were noticed ({len(every)} could be made).")


if __name__ == "__main__":
    main()

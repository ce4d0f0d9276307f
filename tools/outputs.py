"""Writes down what the demo's projects and many drawn ones come to, so that two versions can be compared by `diff -r`.

For each project: its file, its numbers, its rows one by one and in pattern, its booklet and its rows as a table. What
is refused is written down with its sentence. The same seed draws the same wishes, so a change of the code's form must
leave every file as it was: `python tools/outputs.py before` on one version, `python tools/outputs.py after` on another.
"""

from __future__ import annotations

import argparse
import io
import json
import random
import re
from contextlib import redirect_stderr, redirect_stdout
from importlib import resources
from pathlib import Path

from typer.testing import CliRunner

from cablux.cli import app
from cablux.core.errors import CabluxError
from cablux.core.library import LIBRARY

ASKED = {
    "words.txt": ("words",),
    "words-pattern.txt": ("words", "--manner", "pattern", "--hold"),
    "size.json": ("size", "--json"),
    "booklet.txt": ("pattern", "--as", "txt"),
    "booklet-left.html": ("pattern", "--as", "html", "--left-handed", "--manner", "pattern"),
    "rows.csv": ("pattern", "--as", "csv"),
}
RUNNER = CliRunner()


def run(*words: str) -> str:
    """What a command prints, or the sentence with which it refuses."""
    with redirect_stdout(io.StringIO()), redirect_stderr(io.StringIO()):
        result = RUNNER.invoke(app, list(words))
    if isinstance(result.exception, CabluxError):
        return f"refused: {result.exception}\n"
    if result.exception is not None and not isinstance(result.exception, SystemExit):
        return f"failed: {result.exception!r}\n"
    return result.stdout


def asked_shapes() -> list[dict]:
    """The shapes with what each asks."""
    return json.loads(run("shapes", "--json"))


def drawn(random_: random.Random, shape: dict) -> list[str]:
    """The words of a command that makes a project of a shape with drawn measures, panels and gauge."""
    words = ["new", shape["id"]]
    for ask in shape["asks"]:
        if random_.random() < 0.6:
            continue
        if ask["choices"]:
            value = random_.choice(ask["choices"])
        elif re.fullmatch(r"\d+(\.\d+)?", str(ask["default"])) and float(ask["default"]):
            value = f"{float(ask['default']) * random_.uniform(0.8, 1.25):.1f}"
            value = str(round(float(value))) if not ask["unit"] else value
        else:
            continue
        words += ["--set", f"{ask['name']}={value}"]
    stitches = random_.randint(10, 30)
    words += ["--gauge", f"{stitches}x{round(stitches * random_.uniform(1.25, 1.5))}"]
    panels = sorted(p.id for p in LIBRARY.values() if "panel" in p.uses)
    if random_.random() < 0.75:
        words += ["--panels", ",".join(random_.sample(panels, random_.choice((1, 1, 2))))]
    return words


def write_project(folder: Path, text: str) -> None:
    """All that is asked of one project, each in a file of its own."""
    folder.mkdir(parents=True, exist_ok=True)
    file = folder / "project.json"
    file.write_text(text, "utf-8")
    for name, (command, *options) in ASKED.items():
        (folder / name).write_text(run(command, str(file), *options), "utf-8")


def main() -> None:
    """Writes the outputs of one version into a folder."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("folder", type=Path)
    parser.add_argument("--drawn", type=int, default=300, help="how many projects are drawn")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--shapes", default="", help="of these shapes only, with commas between them")
    parser.add_argument("--demo", default="", help="a folder whose project files are read in place of the demo's")
    parser.add_argument("--part", default="1/1", help="which part of the work, such as 1/2")
    asked = parser.parse_args()
    part, parts = map(int, asked.part.split("/"))
    demo = Path(asked.demo) if asked.demo else Path(str(resources.files("cablux.demo")))
    for at, file in enumerate(sorted(demo.glob("*.json"))):
        if at % parts == part - 1:
            write_project(asked.folder / "demo" / file.stem, file.read_text("utf-8"))
    shapes = [s for s in asked_shapes() if not asked.shapes or s["id"] in asked.shapes.split(",")]
    for at in range(asked.drawn):
        random_ = random.Random(asked.seed * 100_000 + at)
        words = drawn(random_, shapes[at % len(shapes)])
        if at % parts != part - 1:
            continue
        folder = asked.folder / "drawn" / f"{at:04d}-{words[1]}"
        folder.mkdir(parents=True, exist_ok=True)
        text = run(*words)
        (folder / "command.txt").write_text(" ".join(words) + "\n", "utf-8")
        if text.startswith("{"):
            write_project(folder, text)
        else:
            (folder / "refused.txt").write_text(text, "utf-8")


if __name__ == "__main__":
    main()

"""Swatches as CSV (docs/formats.md): one line a reading, the swatch's facts repeated; what is written can be read."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable

from ...core.errors import CabluxError, InvalidText, Problem
from ..exchange import SwatchFile
from .form import Find, ReadingForm, SwatchForm, swatch_file, swatch_form, swatch_reading, valid_swatch

COLUMNS = (
    *("swatch", "unit", "yarn", "fibre", "weight", "strands", "needle_mm", "rows", "patterns", "note"),
    *("kind", "state", "pattern", "values", "over", "precision"),
)
MAX_LINES = 5_000  # our choice: a hundred swatches with fifty readings each


def write_csv(files: Iterable[SwatchFile]) -> str:
    """The swatches as CSV text. A swatch without readings has one line."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\r\n")
    table.writerow(COLUMNS)
    for file in files:
        form = swatch_form(file)
        parts = " + ".join(f"{p.stitches} {p.pattern}" for p in file.parts)
        facts = (form.name, form.unit, form.yarn, form.fibre, form.weight, form.strands, form.needle, form.rows)
        for r in file.readings or (None,):
            read = (
                (r.kind, r.state, r.part + 1, " ".join(f"{v:g}" for v in r.values), f"{r.over:g}", r.precision)
                if r
                else ("",) * 6
            )
            table.writerow((*facts, parts, form.note, *read))
    return out.getvalue()


def read_csv(text: str, find: Find) -> tuple[SwatchFile, ...]:
    """Swatches from CSV text; lines that begin with the same facts are one swatch. Raises InvalidText."""
    lines = list(csv.DictReader(io.StringIO(text.lstrip("\ufeff"))))
    missing = [c for c in COLUMNS if not lines or c not in lines[0]]
    if missing:
        raise InvalidText((Problem(message=f"The first line must name these columns: {', '.join(COLUMNS)}."),))
    if len(lines) > MAX_LINES:
        raise InvalidText((Problem(message=f"The file has more than {MAX_LINES} lines; bring it in parts."),))
    problems: list[Problem] = []
    found: dict[tuple[str, ...], SwatchFile] = {}
    for number, line in enumerate(lines, start=2):
        cells = {c: (line[c] or "").strip() for c in COLUMNS}
        key = tuple(cells[c] for c in COLUMNS[:10])
        try:
            file = found.get(key) or swatch_file(_form(cells), find)
            if cells["kind"]:
                part = str(int(cells["pattern"]) - 1) if cells["pattern"].isdigit() else "0"
                typed = {name: cells[name] for name in ("kind", "state", "values", "over", "precision")}
                reading = swatch_reading(ReadingForm(part=part, **typed))
                file = valid_swatch({**file.model_dump(), "readings": (*file.readings, reading)})
            found[key] = file
        except CabluxError as error:
            problems.append(Problem(message=str(error).splitlines()[0], line=number, column=1))
    if problems:
        raise InvalidText(tuple(problems[:20]))
    return tuple(found.values())


def _form(cells: dict[str, str]) -> SwatchForm:
    pairs = [p.strip().partition(" ") for p in cells["patterns"].split("+") if p.strip()]
    return SwatchForm(
        name=cells["swatch"],
        unit=cells["unit"],
        yarn=cells["yarn"],
        fibre=cells["fibre"],
        weight=cells["weight"],
        strands=cells["strands"],
        needle=cells["needle_mm"],
        rows=cells["rows"],
        note=cells["note"],
        patterns=tuple(p[2] for p in pairs),
        stitches=tuple(p[0] for p in pairs),
    )

"""The history of a project: its steps by name, and two of them side by side."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ...core.piece.piece import BandView
from ...core.units import length_text
from ..errors import NotFound
from .place import Place
from .project import Projects, Version


@dataclass(frozen=True)
class Difference:
    """One thing that two versions do not share, in words."""

    what: str
    before: str
    after: str


@dataclass(frozen=True)
class Comparison:
    """Two versions and all that differs."""

    one: Version
    other: Version
    differences: tuple[Difference, ...]


def compare_steps(projects: Projects, where: Place | int, one: int, *, other: int) -> Comparison:
    """Two steps of a project's history. Raises NotFound where one is no longer kept."""
    kept = {v.position: v for v in projects.steps(where)}
    if one not in kept or other not in kept:
        raise NotFound("That step is no longer kept.")
    return Comparison(kept[one], kept[other], differences(kept[one], kept[other]))


def differences(one: Version, other: Version) -> tuple[Difference, ...]:
    """What changed from one version to the other: size, yarn, counts, width, rows, and every segment."""
    many = max(len(v.piece.bands) for v in (one, other)) > 1
    facts = [dict(_facts(v, many=many)) for v in (one, other)]
    names = list(dict.fromkeys([*facts[0], *facts[1]]))
    both = [(name, facts[0].get(name, "none"), facts[1].get(name, "none")) for name in names]
    return tuple(Difference(*line) for line in both if line[1] != line[2])


def _facts(v: Version, *, many: bool) -> Iterator[tuple[str, str]]:
    file, n, unit = v.file, v.numbers, v.file.unit

    def um(value: float) -> str:
        return length_text(value / 1000.0, unit)

    yield "Size wanted", f"{file.own.size.width:g} × {file.own.size.height:g} {unit}, ± {file.own.size.tolerance:g}"
    yield "Gauge", f"{file.gauge.stitches:g} stitches, {file.gauge.rows:g} rows"
    yield "Yarn", file.yarn or "none named"
    yield "Worked", "in the round" if file.own.round else "flat"
    yield "Swatches", ", ".join(u.swatch.name for u in file.swatches) or "none"
    yield "Cast on", f"{n.cast_on.cast_on}"
    yield "Bind off", f"{n.cast_on.top.count}"
    for i, (view, band) in enumerate(zip(v.piece.band_views, n.bands, strict=True), start=1):
        where = f"Band {i}" if many else "Body"
        yield f"{where}: stitches", f"{band.stitches}"
        yield f"{where}: width", f"{um(band.width_um)} ± {um(band.eighty_um)}"
        yield f"{where}: chance", f"{100 * band.chance:.0f} in 100"
        yield (
            f"{where}: backgrounds",
            ", ".join(str(s.stitches) for s in view.segments if s.is_background) or "none",
        )
        yield f"{where}: panels", _panels(view)
        yield f"{where}: rows", f"{n.rows.bands[i - 1].lead} + {n.rows.bands[i - 1].body}"
        yield f"{where}: halves", "alike" if view.symmetric else "free"
    for name, border in (("Bottom border", v.piece.bottom), ("Top border", v.piece.top)):
        yield name, f"{border.rows} rows of {border.pattern.name.lower()}, {border.style}"
    yield "Rows in all", f"{n.rows.total}, {um(n.rows.height_um)}"


def _panels(view: BandView) -> str:
    named = (f"{s.name} × {s.repeats}" if s.repeats > 1 else s.name for s in view.segments if s.is_panel)
    return ", ".join(named) or "none"

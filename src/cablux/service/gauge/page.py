"""The gauge page: the estimate of each pattern as a picture, the swatches in use, the adviser, the piece so far."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from ...core.counts.method_layouts import Verdict, method_verdicts
from ...core.counts.swatch_adviser import Advised, advise_swatches, swatch_size
from ...core.gauge import Basis, Estimate, Method, Reading, estimate
from ...core.gauge.model import CABLES, cloth_key, cloth_kind, model_ratio
from ...core.library import StitchPattern, find_pattern
from ...core.piece.piece import Piece
from ...core.piece.widths import segment_shares
from ...core.rows.heights import plan_rows
from ...core.units import length_text
from ..bench import BACKGROUND
from ..exchange import UsedSwatch
from ..projects import Project, Projects
from ..swatches import PLANNED_MM, Read, Swatch, SwatchBook, SwatchForm, readings_of
from .edits import without_photo

_BLOCKED = 0.05  # common practice: wet-blocking gives 5 to 10 % of the width back

METHOD_NAMES: dict[Method, tuple[str, str]] = {
    "estimate": ("Charts and swatches", "the draw-in computed from the chart, corrected by what you measured"),
    "swatches": ("By swatch", "each pattern’s own swatch, the widths added; what has none counts as stockinette"),
    "thumb": ("By rule of thumb", "one to three extra stitches for each cable, by its width"),
    "percent": ("By percentage", "one extra stitch for every four cable stitches"),
    "straight": ("Straight", "as if cables did not draw in"),
}


@dataclass(frozen=True, kw_only=True)
class GaugeMark:
    """One pattern on the picture: what the model says, what its own readings say, and what both come to.

    All are widths against stockinette; `model` and `result` are (low, value, high) of the interval of eight in ten.
    """

    pattern: StitchPattern
    name: str
    model: tuple[float, float, float]
    readings: tuple[float, ...]
    result: tuple[float, float, float]

    @property
    def percent(self) -> float:
        """Half of the interval, in hundredths of the value."""
        return 100.0 * (self.result[2] / self.result[1] - 1.0)

    @property
    def words(self) -> str:
        """The line in words, for those who do not see it."""
        said = f"{self.name}: from the chart alone {self.model[1]:.2f} of stockinette"
        if self.readings:
            said += ", your swatches " + " and ".join(f"{r:.2f}" for r in self.readings)
        low, value, high = self.result
        return f"{said}; together {value:.2f}, eight times in ten between {low:.2f} and {high:.2f}"


@dataclass(frozen=True)
class Outlook:
    """What the measures of the piece itself say to do, in sentences; nothing where there are none.

    `body_rows` is how many rows of the body would reach the height, where that is not what is planned.
    """

    says: tuple[str, ...]
    body_rows: int


@dataclass(frozen=True, kw_only=True)
class InUse:
    """A swatch that the project goes by: whether it is in the book and has been measured anew there since, and what
    each of its readings is worth over the project's width or height."""

    used: UsedSwatch
    in_book: bool
    newer: bool
    reads: tuple[Read, ...]


@dataclass(frozen=True, kw_only=True)
class GaugePage:
    """All that the page says."""

    marks: tuple[GaugeMark, ...]
    advised: Advised
    in_use: tuple[InUse, ...]
    others: tuple[Swatch, ...]
    outlook: Outlook
    estimate: Estimate


def gauge_page(project: Project, book: SwatchBook) -> GaugePage:
    """The page of a project."""
    piece, swatches = project.piece, {s.id: s for s in book.all()}
    used = project.file.swatches
    return GaugePage(
        marks=tuple(gauge_marks(piece)),
        advised=advise_swatches(piece),
        in_use=tuple(
            InUse(
                used=u,
                in_book=u.book in swatches,
                newer=_newer(u, swatches.get(u.book)),
                reads=readings_of(u.swatch, piece.width_mm, piece.height_mm),
            )
            for u in used
        ),
        others=tuple(s for s in swatches.values() if s.id not in {u.book for u in used} and s.file.readings),
        outlook=project_outlook(project),
        estimate=piece.outlook,
    )


def _newer(used: UsedSwatch, swatch: Swatch | None) -> bool:
    return swatch is not None and without_photo(swatch) != used.swatch


@dataclass(frozen=True)
class Planned:
    """The piece over which a reading's worth is told."""

    name: str
    width_mm: float
    height_mm: float


def planned_for(swatch: Swatch, projects: Projects) -> Planned:
    """The piece that goes by a swatch, else the one changed last, else any throw."""
    every = projects.all()
    goes_by = [p for p in every if any(u.book == swatch.id for u in p.file.swatches)]
    for project in (*goes_by, *every):
        return Planned(project.name, project.piece.width_mm, project.piece.height_mm)
    return Planned("a throw", PLANNED_MM, PLANNED_MM)


def swatch_to_knit(project: Project, pattern: StitchPattern | None = None) -> SwatchForm:
    """The form of the swatch that the adviser means: the project's yarn and needle, the size that can be read well.

    A panel stands between two backgrounds, of the project's own if it has one. Without a pattern it is stockinette.
    """
    file, piece = project.file, project.piece
    knit = pattern or find_pattern("stockinette")
    stitches, rows = swatch_size(knit, piece.outlook)
    parts = [(knit.id, stitches)]
    if "panel" in knit.uses:
        background = next((s.pattern for s in piece.everything if s.is_background), find_pattern(BACKGROUND))
        beside = (stitches - knit.chart.width(1)) // 2
        parts = [(background.id, beside), (knit.id, knit.chart.width(1)), (background.id, beside)]
    return SwatchForm(
        unit=project.unit,
        yarn=file.yarn,
        fibre=file.fibre,
        needle=f"{file.needle:g}" if file.needle else "",
        rows=str(rows),
        patterns=tuple(p for p, _ in parts),
        stitches=tuple(str(n) for _, n in parts),
    )


def gauge_marks(piece: Piece) -> list[GaugeMark]:
    """Each pattern of the piece, cables first, the widest share of the piece first."""
    known, before = (
        piece.outlook,
        estimate(Basis(gauge=piece.gauge, readings=(), finish=piece.evidence.finish, fibre=piece.evidence.fibre)),
    )
    size: dict[str, float] = {}
    patterns: dict[str, StitchPattern] = {}  # mirror images are one
    names: dict[str, dict[str, None]] = {}
    measured = [(p.pattern, 0.0) for r in piece.evidence.readings if r.along == "width" for p in r.parts]
    for pattern, um in [*segment_shares(piece.main_view), *measured]:
        key = cloth_key(pattern)
        patterns.setdefault(key, pattern)
        names.setdefault(key, {})[pattern.name] = None
        size[key] = size.get(key, 0.0) + um
    shown = [p for p in patterns.values() if p.id != "stockinette"]
    order = sorted(shown, key=lambda p: (cloth_kind(p) not in CABLES, -size.get(cloth_key(p), 0.0)))
    out = []
    for pattern in order:
        model, result = before.draw_in(pattern), known.draw_in(pattern)
        out.append(
            GaugeMark(
                pattern=pattern,
                name=", ".join(names[cloth_key(pattern)]),
                model=(model.low, model.value, model.high),
                readings=tuple(_implied(known, r, pattern) for r in piece.evidence.readings if _of(r, pattern)),
                result=(result.low, result.value, result.high),
            )
        )
    return out


def _of(reading: Reading, pattern: StitchPattern) -> bool:
    return reading.along == "width" and [cloth_key(p.pattern) for p in reading.parts] == [cloth_key(pattern)]


def _implied(known: Estimate, reading: Reading, pattern: StitchPattern) -> float:
    """The draw-in that a reading of one pattern alone would mean, in the state the piece is finished in."""
    ((base, weights),) = known.terms(reading)
    own = known.weights(pattern)
    rest = sum(w * known.width.value(name) for name, w in weights.items() if name not in own or name == "stitch")
    opened = sum(known.width.value(name) for name in own.keys() - weights.keys() if name != "stitch")
    return model_ratio(pattern, known.ratio) * reading.mm * math.exp(opened) / (base * math.exp(rest))


def project_outlook(project: Project) -> Outlook:
    """What the piece will come to by everything known of it, the piece itself included."""
    piece, numbers = project.piece, project.numbers
    off = numbers.width_um - piece.width_mm * 1000.0
    rows = _rows_wanted(piece)
    says = _advice(project, numbers.width_um, numbers.eighty_um, off=off) if piece.progress else ()
    return Outlook(says, rows if rows != numbers.rows.body else 0)


def _rows_wanted(piece: Piece) -> int:
    """The rows of the body that reach the height, by what was measured on the piece too."""
    if len(piece.bands) > 1 or not any(r.along == "height" for r in piece.progress):
        return plan_rows(piece).body
    free = tuple(replace(band, rows=0) for band in piece.bands)
    measured = replace(piece.evidence, readings=(*piece.evidence.readings, *piece.progress))
    return plan_rows(replace(piece, evidence=measured, progress=(), bands=free)).body


def _advice(project: Project, width: float, half: float, *, off: float) -> tuple[str, ...]:
    piece, unit = project.piece, project.unit

    def text(um: float) -> str:
        return length_text(um / 1000.0, unit)

    tolerance = piece.tolerance_mm * 1000.0
    comes = f"t will come to {text(width)}, give or take {text(half)}"
    again = "That is less than this measure is sure of: measure again a little higher up."
    if abs(off) <= tolerance:
        near = f"Go on: i{comes}; you want {text(piece.width_mm * 1000.0)}, within {text(tolerance)}."
        return (near, again) if half > tolerance else (near,)
    out = [f"I{comes}: {text(abs(off))} {'narrower' if off < 0 else 'wider'} than wanted."]
    if abs(off) < half:
        out.append(again)
    if off < 0 and abs(off) < _BLOCKED * width and piece.evidence.finish != "blocked":
        out.append("Pinned out wet, cabled cloth gives about a twentieth of its width; that would mend it.")
    stitches, what = round(abs(off) / (1000.0 * piece.outlook.gauge.stitch_mm)), "more" if off < 0 else "fewer"
    out.append(f"Or rip back to the set-up rows and give the backgrounds about {stitches} stitches {what} in all.")
    return tuple(out)


def methods_table(project: Project) -> tuple[Verdict, ...]:
    """Every method's cast-on for the project, and how wide it would really come out."""
    return method_verdicts(project.piece)

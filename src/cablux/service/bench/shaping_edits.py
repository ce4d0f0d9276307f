"""Changes to how a band is shaped: its stations, what is done at its edges, and in which rows."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import replace

from ...core.errors import IllegalPiece
from ...core.needle.columns import INCREASES
from ...core.needle.schedule import Rate
from ...core.needle.stations import Station
from ...core.piece.piece import Band, BandView, Piece, Shaping
from ...core.rows.shaped_band import shape_band
from ...core.shaping import Bent, EdgeShaped, SectionShaped
from ...core.shaping.edge_steps import EdgeStep
from ...core.shaping.manner import EDGES, LEANS, Manner
from ...core.shaping.sections import ALL, Section
from ...core.units import Unit, to_mm
from ..forms import FormReader
from .segment_edits import PieceEdit, in_band

EDGE_NAMES = {
    "both": "at both edges",
    "right": "at the right edge",
    "left": "at the left edge",
    "in turn": "at the beginning of each row",
}
INCREASE_NAMES = {"M1": "from the bar between (M1)", "yo": "a yarn over, with a hole", "kfb": "two out of one (kfb)"}
LEAN_NAMES = {"along": "leaning along the edge", "against": "leaning against it", "k2tog": "k2tog at both"}
MANNER_NAMES = {"blocks": "in one or two blocks", "mixed": "as evenly as can be"}
SHAPING_BOXES = ("every_row", "sewn", "whole_panels", "cabled")
SHAPING_NAMES = {"edges": EDGE_NAMES, "increases": INCREASE_NAMES, "leans": LEAN_NAMES, "manners": MANNER_NAMES}
_RATE = re.compile(r"\s*(\d{1,3})\s*[x×]\s*(\d{1,3})\s*")


def begin_shaping(band: int) -> PieceEdit:
    """Begins to shape a band: as wide as it is below, seven tenths of that above, to be changed at once."""

    def shaped(view: BandView, now: Band) -> Band:
        if now.shaping is not None:
            raise IllegalPiece("This band is shaped already: change its places, or make it straight first.")
        width, height = view.piece.width_mm, view.piece.height_mm
        stations = (
            Station(name="Below", width_mm=width),
            Station(name="Above", width_mm=0.7 * width, at_mm=0.8 * height),
        )
        return replace(now, shaping=EdgeShaped(stations=stations), rows=0)

    return in_band(band, shaped)


def end_shaping(band: int) -> PieceEdit:
    """Makes a band straight again."""
    return in_band(band, lambda _, now: replace(now, shaping=None))


def type_shaping(band: int, typed: Mapping[str, str], unit: Unit) -> PieceEdit:
    """Stations, edges and rows as they were typed, by the names of their fields; what is not among them stays.

    Raises InvalidForm or IllegalPiece.
    """

    def shaped(view: BandView, now: Band) -> Band:
        if now.shaping is None:
            raise IllegalPiece("This band is not shaped; begin with “Shape this band”.")
        changed = _read(now.shaping, typed, unit)
        return replace(now, shaping=changed)

    def change(piece: Piece) -> Piece:
        made = in_band(band, shaped)(piece)
        shape_band(made.band_views[band])  # refuses what cannot be knitted
        return made

    return change


def _fields(shaping: Shaping) -> list[str]:
    """What the fields of a shaping are called."""
    stations = range(len(shaping.stations))
    names = [f"{name}-{i}" for name in ("width", "at", "count") for i in stations]
    if isinstance(shaping, Bent):
        return [*names, "radius", "inside"]
    names += [f"rates-{i}" for i in stations[:-1]] + ["increase", "lean", "manner"]
    if isinstance(shaping, EdgeShaped):
        return [*names, "edges", *(f"step-{k}" for k in range(len(shaping.steps)))]
    if isinstance(shaping, SectionShaped):
        return [*names, *(f"section-{k}-{i}" for k in range(len(shaping.sections)) for i in stations)]
    return []


def _read(shaping: Shaping, typed: Mapping[str, str], unit: Unit) -> Shaping:
    form, known = FormReader(), [*_fields(shaping), *SHAPING_BOXES]
    for name in typed:
        if name not in known:
            form.refuse(name, f"“{name}” is no field of this shaping; these are: {', '.join(known)}.")
    stations = tuple(_station(form, typed, i, s=s, unit=unit) for i, s in enumerate(shaping.stations))
    changed: Shaping = replace(shaping, stations=stations)
    if isinstance(changed, Bent):
        changed = _bend(form, typed, changed, unit=unit)
    elif isinstance(changed, EdgeShaped):
        edges = form.choice(typed.get("edges", changed.edges), "Shaped", "edges", choices=EDGES)
        steps = (_step(form, typed.get(f"step-{k}"), step, field=f"step-{k}") for k, step in enumerate(changed.steps))
        changed = replace(
            changed,
            edges=edges,  # type: ignore[arg-type]
            steps=tuple(step for step in steps if step.counts),
            rates=_all_rates(form, typed, stations, now=changed.rates),
            manner=_manner(form, typed, changed.manner),
        )
    elif isinstance(changed, SectionShaped):
        changed = replace(
            changed,
            sections=tuple(_section(form, typed, changed, at=at) for at in range(len(changed.sections))),
            cabled=_ticked(typed, "cabled", changed.cabled),
            rates=_all_rates(form, typed, stations, now=changed.rates),
            manner=_manner(form, typed, changed.manner),
        )
    form.done()
    return changed


def _station(form: FormReader, typed: Mapping[str, str], i: int, *, s: Station, unit: Unit) -> Station:
    width, at, count = (typed.get(f"{name}-{i}", "").strip() for name in ("width", "at", "count"))
    changed = s
    if width:
        changed = replace(changed, width_mm=to_mm(form.number(width, f"{s.name}: width", f"width-{i}"), unit))
    if at and not s.paced and s.row is None:
        height = 0.0 if at in ("0", "0.0") else form.number(at, f"{s.name}: height", f"at-{i}")
        changed = replace(changed, at_mm=to_mm(height, unit))
    if f"count-{i}" in typed:
        stitches = form.count(count, f"{s.name}: stitches", f"count-{i}", most=1500) if count else 0
        changed = replace(changed, count=stitches)
    return changed


def _ticked(typed: Mapping[str, str], box: str, now: bool) -> bool:
    """Whether a box is ticked; one of which nothing is said stays as it is."""
    return bool(typed[box]) if box in typed else now


def _manner(form: FormReader, typed: Mapping[str, str], manner: Manner) -> Manner:
    return Manner(
        increase=form.choice(typed.get("increase", manner.increase), "Increases", "increase", choices=INCREASES),  # type: ignore[arg-type]
        lean=form.choice(typed.get("lean", manner.lean), "Decreases", "lean", choices=LEANS),  # type: ignore[arg-type]
        schedule=form.choice(typed.get("manner", manner.schedule), "Rows", "manner", choices=tuple(MANNER_NAMES)),  # type: ignore[arg-type]
        every_row=_ticked(typed, "every_row", manner.every_row),
        sewn=_ticked(typed, "sewn", manner.sewn),
        whole_panels=_ticked(typed, "whole_panels", manner.whole_panels),
    )


def _all_rates(
    form: FormReader, typed: Mapping[str, str], stations: Sequence[Station], *, now: Sequence[tuple[Rate, ...]]
) -> tuple[tuple[Rate, ...], ...]:
    rates = [*now] or [()] * (len(stations) - 1)
    for i, station in enumerate(stations[1:]):
        if (field := f"rates-{i}") in typed:
            rates[i] = _rates(form, typed[field], field, name=station.name)
    return tuple(rates) if any(rates) else ()


def _step(form: FormReader, text: str | None, step: EdgeStep, *, field: str) -> EdgeStep:
    """`5, 3, 2`: stitches bound off one after the other; nothing typed ends the step."""
    if text is None:
        return step
    parts = [part.strip() for part in text.split(",") if part.strip()]
    return replace(step, counts=tuple(form.count(part, "Bound off", field, most=1500) for part in parts))


def _bend(form: FormReader, typed: Mapping[str, str], bend: Bent, *, unit: Unit) -> Bent:
    if "radius" not in typed:
        return bend
    inside = form.choice(typed.get("inside", bend.inside), "Inside edge", "inside", choices=("right", "left"))
    radius = to_mm(form.number(typed["radius"], "Radius of the inside edge", "radius"), unit)
    return replace(bend, radius_mm=radius, inside=inside)  # type: ignore[arg-type]


def _section(form: FormReader, typed: Mapping[str, str], shaping: SectionShaped, *, at: int) -> Section:
    """A section with the counts typed for it, or for the one that it is alike to."""
    section = shaping.sections[at]
    like = next(k for k, s in enumerate(shaping.sections) if (s.edges, s.counts) == (section.edges, section.counts))
    own = any(f"section-{at}-{i}" in typed for i in range(len(section.counts)))
    counts = []
    for i, count in enumerate(section.counts):
        field = f"section-{at if own else like}-{i}"
        text = typed.get(field, "").strip()
        if text:
            count = form.count(text, f"{shaping.stations[i].name}: stitches", field, most=1500)
        counts.append(ALL if field in typed and not text else count)
    return replace(section, counts=tuple(counts))


def _rates(form: FormReader, text: str, field: str, *, name: str) -> tuple[Rate, ...]:
    """`6×8, 4×5`: every 6 rows 8 times, then every 4 rows 5 times."""
    out = []
    for part in filter(None, (p.strip() for p in text.split(","))):
        found = _RATE.fullmatch(part)
        if not found or int(found[1]) < 1 or int(found[2]) < 1:
            form.refuse(field, f"{name}: type rows and times, such as 6×8, 4×5: every 6th row 8 times, then …")
            return ()
        out.append(Rate(int(found[1]), int(found[2])))
    return tuple(out)


def rescaled(piece: Piece, before: Piece) -> Piece:
    """A piece whose size was changed, its stations changed in proportion; counts of their own stay."""
    wide, high = piece.width_mm / before.width_mm, piece.height_mm / before.height_mm
    if wide == high == 1.0:
        return piece
    bands = []
    for band in piece.bands:
        if band.shaping is None:
            bands.append(band)
            continue
        bands.append(replace(band, shaping=band.shaping.scaled(wide, high)))
    return replace(piece, bands=tuple(bands))

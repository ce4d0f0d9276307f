"""How a band is shaped, as the bench tells it: its stations as they will be, its sections, the stretches in words."""

from __future__ import annotations

from collections.abc import Iterator

from ...core.needle.stations import StationCount
from ...core.pattern.inpattern import stretches_in_pattern
from ...core.piece.piece import BandView, Shaping
from ...core.rows.shaped_band import plan_stations
from ...core.shaping import Bent, EdgeShaped, Heeled, SectionShaped, ShortRowed
from ...core.shaping.manner import Manner
from ...core.shaping.section_words import section_names
from ..answers import AlikeSections, BandShaping, BandStation, BandStep, BandStretch, ShapingManner


def band_shaping(view: BandView) -> BandShaping | None:
    """The shaping of a band; None where it has none."""
    shaping = view.shaping
    if shaping is None:
        return None
    plan = plan_stations(view)
    return BandShaping(
        kind=shaping.kind,
        stations=tuple(map(_station, plan.stations)),
        at_edges=shaping.at_edges,
        in_sections=shaping.in_sections,
        sections=tuple(_alike(view, shaping)) if isinstance(shaping, SectionShaped) else (),
        steps=tuple(_steps(shaping, plan.stations)) if isinstance(shaping, EdgeShaped) else (),
        stretches=tuple(
            BandStretch(first=s.first, last=s.last, sentence=s.sentence) for s in stretches_in_pattern(view)
        ),
        rates=_rates(shaping),
        strays=max((s.schedule.strays for s in plan.stretches), default=0.0),
        edges=shaping.edges if isinstance(shaping, EdgeShaped) else None,
        manner=_manner(shaping.manner) if isinstance(shaping, EdgeShaped | SectionShaped) else None,
        cabled=shaping.cabled if isinstance(shaping, SectionShaped) else None,
        radius_mm=shaping.radius_mm if isinstance(shaping, Bent) else None,
        inside=shaping.inside if isinstance(shaping, Bent) else None,
        heel=shaping.heel if isinstance(shaping, Heeled) else None,
        short_rows=_short_rows(shaping) if isinstance(shaping, ShortRowed) else None,
    )


def _station(found: StationCount) -> BandStation:
    asked = found.station
    return BandStation(
        name=asked.name,
        fixed=asked.paced or asked.row is not None,
        wanted_at_mm=asked.at_mm,
        at_mm=found.at_um / 1000.0,
        wanted_mm=asked.width_mm,
        width_mm=found.width_um / 1000.0,
        count=found.count,
        own_count=asked.count or 0,
    )


def _alike(view: BandView, shaping: SectionShaped) -> Iterator[AlikeSections]:
    """Its sections, those together that change alike."""
    found: dict[tuple[object, ...], list[int]] = {}
    counts = shaping.asked(view).counts()
    for at, section in enumerate(shaping.sections):
        held = any(h.section == at for h in shaping.holders)
        key = (section.edges, section.counts, counts[at], at if held else -1)
        found.setdefault(key, []).append(at)
    for places in found.values():
        first = places[0]
        yield AlikeSections(
            name=section_names(shaping.sections, shaping.holders, places),
            first=first,
            counts=counts[first],
            typed=tuple(count >= 0 for count in shaping.sections[first].counts),
        )


def _steps(shaping: EdgeShaped, stations: tuple[StationCount, ...]) -> Iterator[BandStep]:
    for step in shaping.steps:
        yield BandStep(after=stations[step.station].station.name, kind=step.kind, edge=step.edge, counts=step.counts)


def _rates(shaping: Shaping) -> tuple[str, ...]:
    """The knitter's own rows for each stretch, as they are typed; empty where they are computed."""
    many = len(shaping.stations) - 1
    own = shaping.rates if isinstance(shaping, EdgeShaped | SectionShaped) else ()
    given = [*own, *((),) * many][:many]
    return tuple(", ".join(f"{r.every}×{r.times}" for r in rates) for rates in given)


def _manner(manner: Manner) -> ShapingManner:
    return ShapingManner(
        increase=manner.increase,
        lean=manner.lean,
        schedule=manner.schedule,
        every_row=manner.every_row,
        sewn=manner.sewn,
        whole_panels=manner.whole_panels,
    )


def _short_rows(shaping: ShortRowed) -> tuple[int, int, int]:
    (first, last), (low, high) = shaping.rows[0], shaping.rows[-1]
    return len(shaping.rows), last - first, high - low

"""Searches the rows for looks: start phases, set-up rows and borders that let every panel end as it began."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from ..errors import IllegalPiece
from ..piece.piece import Band, BandView, Piece
from ..piece.problems import piece_problems
from ..piece.segment import Segment
from .endings import crossings_upto, panel_ending
from .heights import RowPlan, ending_score, plan_rows
from .row_room import Room, counts_return, lead_rows, meeting_rows, rows_for_bands

SETUPS = (2, 4, 6)
"""Our choice: from the two plain rows of common practice to a whole plain stripe."""
BORDER_STEPS = (0, 2, -2, 4, -4)


@dataclass(frozen=True, kw_only=True)
class RowChoice:
    """One way to end the piece: its name, what it is good for, the piece with it, and its rows."""

    name: str
    good_for: str
    piece: Piece
    rows: RowPlan

    @property
    def cut(self) -> int:
        """Panel stitches that stop in mid motif."""
        return ending_score(self.rows.endings)[0]

    @property
    def phases(self) -> tuple[tuple[str, int], ...]:
        """The panels that begin within their repeat, and at which of its rows."""
        moved = [(s.name, s.phase + 1) for s in self.piece.everything if s.phase and s.is_panel]
        return tuple(dict.fromkeys(moved))


def row_choices(piece: Piece) -> tuple[RowChoice, ...]:
    """The best few different ways, the first as it is."""
    if piece.meets:
        return tuple(_meeting_choices(piece))
    bare, runs_on = _free(piece), any(band.runs_on for band in piece.bands)
    tries: list[tuple[str, str, Piece]] = [("as it is", "what you have", piece)]
    tries.append(("nearest", "the height you want, before all else", _nearest(bare)))
    begun = None if runs_on else _begun(bare)  # a chart that runs on begins where the band below leaves it
    if begun is not None:
        tries.append(
            ("begun elsewhere", "every panel ends as it began; some start partway through their repeat", begun)
        )
    bordered = _bordered(bare)
    if bordered is not None:
        tries.append(("other borders", "whole motifs, with the borders a little taller or lower", bordered))
    out: list[RowChoice] = []
    for name, good, made in tries:
        if any(piece_problems(made)):
            continue
        rows = plan_rows(made)
        if (rows, _phases(made)) not in [(a.rows, _phases(a.piece)) for a in out]:
            out.append(RowChoice(name=name, good_for=good, piece=made, rows=rows))
    return tuple(out)


def _meeting_choices(piece: Piece) -> Iterator[RowChoice]:
    """A piece whose ends meet as it is, and with the numbers of whole repeats near its way round."""
    now, view = plan_rows(piece), piece.band_views[0]
    yield RowChoice(name="as it is", good_for="what you have", piece=piece, rows=now)
    (room,) = rows_for_bands(replace(piece, bands=(replace(view.band, rows=0),)))
    for rows in meeting_rows(view, room.exact_rows):
        if rows != now.body:
            made = piece.with_band(replace(view.band, rows=rows), 0)
            longer = "longer" if rows > room.exact_rows else "shorter"
            yield RowChoice(
                name=f"{rows // piece.row_period()} repeats",
                good_for=f"whole repeats, {longer} round than you want",
                piece=made,
                rows=plan_rows(made),
            )


def _phases(piece: Piece) -> tuple[int, ...]:
    return tuple(s.phase for s in piece.everything)


def _free(piece: Piece) -> Piece:
    """With rows that follow from the height again."""
    return replace(piece, bands=tuple(b if b.shaping is not None else replace(b, rows=0) for b in piece.bands))


def _nearest(piece: Piece) -> Piece:
    def nearest(view: BandView, room: Room) -> Band:
        if view.shaping is not None:
            return view.band
        return replace(view.band, rows=min(room.counts(view), key=lambda n: abs(n - room.exact_rows)))

    bands = map(nearest, piece.band_views, rows_for_bands(piece))
    return replace(piece, bands=tuple(bands))


def _begun(piece: Piece) -> Piece | None:
    """Phases, set-up rows and rows with the best looks within the height's tolerance; None if nothing is gained."""
    best: tuple[tuple[float, ...], Piece] | None = None
    for setup in SETUPS:
        tried = replace(piece, setup_rows=setup if setup % piece.row_step() == 0 else piece.setup_rows)
        bands = []
        merit = [0.0, 0.0, 0.0, float(setup), 0.0]
        for view, room, lead in zip(tried.band_views, rows_for_bands(tried), lead_rows(tried), strict=True):
            options = _options(view, room.counts(view), lead, exact=room.exact_rows)
            found = min(options, key=lambda option: option[0], default=None)
            if found is None:
                break
            merit = [a + b for a, b in zip(merit, found[0], strict=True)]
            bands.append(found[1])
        if len(bands) == len(tried.bands) and (best is None or tuple(merit) < best[0]):
            best = tuple(merit), replace(tried, bands=tuple(bands))
    if best is None or ending_score(plan_rows(best[1]).endings) >= ending_score(plan_rows(piece).endings):
        return None
    return best[1]


def _options(view: BandView, counts: list[int], lead: int, *, exact: float) -> Iterator[tuple[tuple[float, ...], Band]]:
    """For each number of rows the best phases: panels do not depend on each other, so each takes its own best."""
    band = view.band
    for rows in counts:
        own = tuple(_best_phase(s, rows, lead, step=view.piece.row_step()) for s in band.own)
        made = view.with_band(replace(band, own=own, rows=rows))
        if not counts_return(made, rows):
            continue
        ends = tuple(panel_ending(s, rows, lead) for s in made.inner if s.is_panel)
        moved = sum(a.phase != b.phase for a, b in zip(own, band.own, strict=True))
        yield (*map(float, ending_score(ends)), float(moved), 0.0, abs(rows - exact)), made.band


def _best_phase(s: Segment, rows: int, lead: int, *, step: int) -> Segment:
    if not s.is_panel:
        return s

    def merit(phase: int) -> tuple[int, int, int, bool, int]:
        end = panel_ending(s, rows, lead, phase=phase)
        return *ending_score((end,)), abs(end.before - end.after), phase != s.phase, phase

    return replace(s, phase=min(range(0, s.pattern.chart.height, step), key=merit))


def _bordered(piece: Piece) -> Piece | None:
    """Borders of a few rows more or fewer, alike where they were, for the best looks at the right height."""
    best: tuple[tuple[float, ...], Piece] | None = None
    for step in BORDER_STEPS:
        bottom, top = (replace(b, rows=b.rows + step) if b.rows else b for b in (piece.bottom, piece.top))
        if min(b.rows for b in (bottom, top)) < 2 or max(b.rows for b in (bottom, top)) > 60:
            continue
        made = replace(piece, bottom=bottom, top=top)
        try:
            rows = plan_rows(made)
        except IllegalPiece:  # fewer rows of border may not reach the count that it has
            continue
        off = abs(rows.height_um - piece.height_mm * 1000.0)
        merit = (*map(float, ending_score(rows.endings)), off, abs(step))
        if best is None or merit < best[0]:
            best = merit, made
    return best[1] if best and best[1] != piece else None


@dataclass(frozen=True, kw_only=True)
class PanelStrip:
    """One panel on the picture of the rows: its crossing rows and the rows on which a repeat begins, from 1."""

    name: str
    family: str
    crossings: tuple[int, ...]
    begins: tuple[int, ...]


@dataclass(frozen=True)
class Alignment:
    """The panels of a band side by side, and the rows on which all begin a repeat together."""

    rows: int
    strips: tuple[PanelStrip, ...]
    together: tuple[int, ...]


def panel_alignment(view: BandView, rows: int) -> Alignment:
    """Where the panels of a band align in a body of so many rows."""
    panels = dict.fromkeys(s for s in view.inner if s.is_panel)
    kinds = {(s.pattern_id, s.phase, s.cloth.chart.height): s for s in panels}
    strips = [
        PanelStrip(
            name=s.pattern.name,
            family=s.pattern.family,
            crossings=tuple(crossings_upto(s, rows)),
            begins=tuple(n for n in range(1, rows + 1) if (n - 1 + s.phase) % s.chart.height == 0),
        )
        for s in kinds.values()
    ]
    together = set(range(1, rows + 1)).intersection(*(s.begins for s in strips)) if strips else set()
    return Alignment(rows, tuple(strips), tuple(sorted(together)))


__all__ = ["Alignment", "PanelStrip", "RowChoice", "panel_alignment", "row_choices"]

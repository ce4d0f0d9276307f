"""Where a body's panels are cut: by its armholes or its neck, by wish never, or laid out again so that they are not."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from ...errors import Infeasible
from ...piece.piece import Piece, count_stations
from ...piece.segment import Segment
from ...piece.widths import body_um, segment_um
from ..shape import Wanted
from .sweater_answers import SweaterAnswers
from .sweater_asks import CUTS
from .torso import Torso, lay_out_body


def cut_panels(segments: Sequence[Segment], armhole: int, neck: int) -> Iterator[tuple[str, str]]:
    """Each panel that an armhole or the neck cuts, with what cuts it; those on one half, since both are alike.

    `armhole`, `neck`: the stitches that go at each armhole, and those of the neck.
    """
    places = [("armholes", armhole)] if armhole else []
    places.append(("neck", (sum(s.stitches for s in segments) - neck) // 2))
    for what, place in places:
        at = 0
        for s in segments:
            if s.is_panel and at < place < at + s.stitches:
                yield s.name, what
            at += s.stitches


def laid_between(wanted: Wanted[SweaterAnswers], body: Piece, torso: Torso) -> Piece | None:
    """The body laid out anew, panels between the armholes, background beyond them; None where they do not fit."""
    measure = body.measure
    each = body_um(body.band_views[0]) / torso.stitches
    between = (torso.stitches - 2 * torso.armhole - 2) * each
    try:
        inner = lay_out_body(wanted, body.name, between / 1000.0, tolerance_mm=body.tolerance_mm).bands[0].own
    except Infeasible:
        return None
    first, last = inner[1], inner[-2]
    if not (first.is_background and last.is_background and any(s.is_panel for s in inner)):
        return None
    rest = body.width_mm * 1000.0 - sum(segment_um(s, measure) for s in inner)
    more = round(rest / 2.0 / (segment_um(first, measure) / first.stitches))
    sides = [_wider(s, more) for s in (first, last)]
    if more < 1 or None in sides:
        return None
    own = (inner[0], sides[0], *inner[2:-2], sides[1], inner[-1])
    return replace(body, bands=(replace(body.bands[0], own=own),))  # type: ignore[arg-type]


def _wider(background: Segment, more: int) -> Segment | None:
    repeats = background.chart.repeats_for(background.stitches + more)
    return replace(background, repeats=repeats) if repeats else None


def check_cuts(wanted: Wanted[SweaterAnswers], torso: Torso) -> None:
    """Raises Infeasible where panels must not be cut and one would be."""
    found = next(cut_panels(torso.segments, torso.armhole, torso.neck), None)
    if wanted.answers.cuts == CUTS[1] and found is not None:
        name, what = found
        raise Infeasible(
            f"The {what} would cut {name}: choose a narrower panel, another width of the neck, or let panels be cut "
            f"{CUTS[0]}.",
            clash=("panels", "neck_width", "cuts"),
        )


def cut_sentences(back: Piece) -> Iterator[str]:
    """What of a back is cut, as a sentence each."""
    stations = (s for view in back.band_views if view.shaping is not None for s in count_stations(view))
    count = next((s.count for s in stations if s.station.name == "Shoulders"), back.band_views[0].stitches)
    segments, armhole = back.band_views[0].segments, (back.band_views[0].stitches - count) // 2
    neck = next((group.stitches for group in back.ends.groups if group.name == "back neck"), 0)
    for name, what in cut_panels(segments, armhole, neck):
        verb = "cut" if what == "armholes" else "cuts"
        yield f"The {what} {verb} {name}: from there on what is left of it is worked as it appears, without crossings."

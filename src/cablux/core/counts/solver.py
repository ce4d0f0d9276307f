"""Chooses a band's counts for a wanted width: the best few different layouts, each with what it is good for.

Goals are met in order (one exact solve each, the earlier ones held), so that no weighting decides for the
knitter. A layout is proven, or says by which goal it is not and how far off it may be.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from ..errors import Infeasible
from ..piece.piece import BandView
from ..piece.segment import Segment
from .count_model import Goal
from .integer import Doubt, solve_counts
from .program import Free, Program, Wish, grows_sideways, wishes_of

LayoutName = Literal["closest", "most even", "least change", "panels wider", "repeats that fit"]

_GOALS: dict[LayoutName, tuple[tuple[Goal, ...], Free]] = {
    "closest": (("error", "uneven", "outer", "change"), "backgrounds"),
    "most even": (("uneven", "outer", "error", "change"), "backgrounds"),
    "least change": (("change", "uneven", "error"), "backgrounds"),
    "panels wider": (("panels", "error", "uneven", "outer", "change"), "both"),
    "repeats that fit": (("error", "panels", "change"), "panels"),
}

GOOD_FOR: dict[LayoutName, str] = {
    "closest": "the width you want, before all else",
    "most even": "gaps as alike as they can be",
    "least change": "as few changes as possible to what you have",
    "panels wider": "more cable, less background",
    "repeats that fit": "your backgrounds unchanged, with as many repeats as fit",
}


@dataclass(frozen=True, kw_only=True)
class FittingLayout:
    """A layout the solver found: the segments, their width, and by what it was not proven to be the best."""

    name: LayoutName
    segments: tuple[Segment, ...]
    width_um: int
    doubt: Doubt | None = None

    @property
    def optimal(self) -> bool:
        """Whether it is proven to be the best by all its goals."""
        return self.doubt is None

    @property
    def stitches(self) -> int:
        """The body's count."""
        return sum(s.stitches for s in self.segments)

    @property
    def gaps(self) -> tuple[int, ...]:
        """The stitches of its backgrounds, right to left."""
        return tuple(s.stitches for s in self.segments if s.is_background)


@lru_cache(maxsize=256)
def solve_layout(view: BandView, name: LayoutName, *, any_width: bool = False) -> FittingLayout | None:
    """The best layout of a band by the goals of that name; None where no layout keeps all wishes.

    With `any_width` it may miss the tolerance, and is then the nearest that can be had. What was answered once is
    answered so again, proven or not, so that the layout taken is the one that was shown.
    """
    goals, free = _GOALS[name]
    active = frozenset(w for w in wishes_of(view) if not (any_width and w.kind == "width"))
    program = Program(view, active, free)
    found = solve_counts(program, goals)
    if found is None:
        return None
    segments = tuple(replace(s, repeats=r) for s, r in zip(view.segments, found.repeats, strict=True))
    made = FittingLayout(name=name, segments=segments, width_um=program.width(found.repeats), doubt=found.doubt)
    return replace(made, doubt=_narrowed(view, made)) if made.doubt else made


def solve_layouts(view: BandView) -> tuple[FittingLayout, ...]:
    """The best few different layouts within the tolerance. Raises Infeasible with what clashes.

    >>> from cablux.core import Band, Evidence, Gauge, Piece, library_segment
    >>> edge, background = library_segment("edge", "garter", 5), library_segment("background", "stockinette", 40)
    >>> band = Band(own=(edge, background, edge))
    >>> known = Evidence(gauge=Gauge(stitches=18, rows=25))
    >>> piece = Piece(name="Scarf", width_mm=300.0, height_mm=1500.0, evidence=known, bands=(band,))
    >>> solve_layouts(piece.band_views[0])[0].stitches
    54
    """
    names: list[LayoutName] = ["closest", "most even", "least change"]
    if any(s.is_panel and grows_sideways(s) and not s.locked for s in view.segments):
        names += ["panels wider", "repeats that fit"]
    out: list[FittingLayout] = []
    for name in names:
        found = solve_layout(view, name)
        if found and found.segments not in [a.segments for a in out] and _worth(view, found):
            out.append(found)
        elif found is None and name == "closest" and len(names) == 3:
            break
    if not out:
        raise Infeasible("No layout fits.")
    return tuple(out)


def layout_goals(name: LayoutName) -> tuple[Goal, ...]:
    """What a layout of that name keeps small, in its order."""
    return _GOALS[name][0]


def layout_score(view: BandView, found: FittingLayout, goal: Goal) -> float:
    """What a layout comes to by a goal: µm of error beyond the slack, or stitches; of "panels" the more the better."""
    program = Program(view, frozenset(wishes_of(view)), _GOALS[found.name][1])
    counts = [s.stitches for s in found.segments]
    if goal == "error":
        return max(0.0, abs(found.width_um - view.piece.width_mm * 1000.0) - program.slack_um)
    if goal == "change":
        return float(sum(abs(n - s.stitches) for n, s in zip(counts, view.segments, strict=True)))
    if goal == "panels":
        return float(sum(s.stitches for s in found.segments if s.is_panel))
    inner = [sum(counts[i] for i in group) for group in program.groups if group[0] not in program.outer]
    if not inner:
        return 0.0
    if goal == "outer":
        return float(max(counts[i] for i in program.outer) - min(inner)) if program.outer else 0.0
    return float(max(inner) - min(inner))


def _narrowed(view: BandView, found: FittingLayout) -> Doubt | None:
    """Its doubt; of goals that were not begun the first that could be met better, for none can be better than 0."""
    doubt = found.doubt
    if doubt is None or math.isfinite(doubt.gap) or doubt.goal == "panels":
        return doubt
    left = layout_goals(found.name)[layout_goals(found.name).index(doubt.goal) :]
    scores = ((goal, layout_score(view, found, goal)) for goal in left)
    return next((Doubt(goal, value) for goal, value in scores if value), None)


def _worth(view: BandView, found: FittingLayout) -> bool:
    """Whether it does what its name promises."""
    pairs = zip(view.segments, found.segments, strict=True)
    return found.name != "panels wider" or any(b.repeats > a.repeats for a, b in pairs if a.is_panel)


__all__ = [
    "GOOD_FOR",
    "FittingLayout",
    "LayoutName",
    "Wish",
    "layout_goals",
    "layout_score",
    "solve_layout",
    "solve_layouts",
]

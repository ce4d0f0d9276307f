"""Why an answer of the solver is good: what it keeps small, one goal after the other, and whether that is proven."""

from __future__ import annotations

from ...core.counts.count_model import Goal
from ...core.counts.solver import GOOD_FOR, layout_goals, layout_score
from ..bench import bench_offers
from ..errors import NotFound
from .subject import MODEL, SUM, YOURS, Derivation, Line, Subject

_GOAL: dict[Goal, str] = {
    "error": "the width’s miss, of which half a step counts as none",
    "uneven": "the widest gap less the narrowest",
    "outer": "the outer gaps’ excess over the narrowest",
    "change": "stitches moved from what you have",
    "panels": "stitches in panels, as many as can be",
}


def explain_answer(subject: Subject) -> Derivation:
    """One of the good answers for a band, by its place among them."""
    listed = bench_offers(subject.view, subject.project.unit).offers
    if subject.at >= len(listed):
        raise NotFound("There is no such answer for this layout any more.")
    offer, piece = listed[subject.at], subject.piece
    found = offer.layout
    lines = [
        Line(
            text="You want",
            value=f"{subject.um(piece.width_mm * 1000)} ± {subject.um(piece.tolerance_mm * 1000)}",
            source=YOURS,
        ),
        Line(text="Its segments side by side come to", value=subject.um(found.width_um), source=MODEL),
    ]
    if found.gaps:
        lines.append(
            Line(
                text="Its backgrounds, from the right",
                value=", ".join(map(str, found.gaps)),
                source="chosen by the solver",
            )
        )
    kept = [goal for goal in layout_goals(found.name) if goal != "outer" or piece.gaps == "outside"]
    for at, goal in enumerate(kept, start=1):
        value = layout_score(subject.view, found, goal)
        text = subject.um(value, 2) if goal == "error" else f"{value:.0f}"
        lines.append(
            Line(
                text=f"Goal {at}: {_GOAL[goal]}",
                value=text,
                source="the goals before it held" if at > 1 else "before all else",
            )
        )
    proven = "nothing comes nearer" if found.optimal else offer.doubt
    lines.append(
        Line(text="Proven by the integer solver", value="yes" if found.optimal else "not wholly", source=proven)
    )
    lines.append(Line(text="Of a hundred such pieces land as wanted", value=f"{100 * offer.chance:.0f}", source=SUM))
    question = f"Why is {found.stitches} “{found.name}”?"
    return Derivation(
        question=question,
        answer=f"{found.stitches}",
        lines=tuple(lines),
        aside=f"It is good for {GOOD_FOR[found.name]}.",
    )

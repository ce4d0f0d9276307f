"""The schools side by side: each one's cast-on for the piece at hand, and how wide that would really come out."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..ends.cast_on import EdgePlan, edge_plan
from ..errors import IllegalPiece
from ..gauge import SCHOOLS, School
from ..gauge.schools import own_swatch_width
from ..piece.piece import Piece
from ..piece.widths import body_um
from .solver import solve_answer


@dataclass(frozen=True, kw_only=True)
class Verdict:
    """What a school says. `claimed_um` is the width by its own rule, `real_um` the width by the estimate.

    `plan` is None where it finds no layout, and then `refusal` says why. `missing`: patterns without a swatch
    of their own, which the school by swatch takes for stockinette.
    """

    school: School
    plan: EdgePlan | None
    claimed_um: int
    real_um: int
    wanted_um: float
    missing: tuple[str, ...] = ()
    refusal: str = ""

    @property
    def off_um(self) -> float:
        """How much wider than wanted it would come out."""
        return self.real_um - self.wanted_um


def school_verdict(piece: Piece, school: School) -> Verdict:
    """One school's layout for the width wanted: the same panels, with backgrounds as wide as its rule asks for."""
    wanted = piece.width_mm * 1000.0
    by_school = replace(piece, evidence=replace(piece.evidence, school=school))
    view = by_school.main_view
    found = solve_answer(view, "closest", any_width=True)
    if found is None:
        return Verdict(
            school=school,
            plan=None,
            claimed_um=0,
            real_um=0,
            wanted_um=wanted,
            refusal="No layout fits under this rule.",
        )
    laid = view.with_segments(found.segments)
    claimed, real = body_um(laid), body_um(laid, piece.outlook)
    try:
        return Verdict(
            school=school,
            plan=edge_plan(laid, piece.bottom),
            claimed_um=claimed,
            real_um=real,
            wanted_um=wanted,
            missing=_missing(piece, school),
        )
    except IllegalPiece as error:
        return Verdict(school=school, plan=None, claimed_um=claimed, real_um=real, wanted_um=wanted, refusal=str(error))


def school_verdicts(piece: Piece) -> tuple[Verdict, ...]:
    """Every school's verdict, the estimate's first."""
    return tuple(school_verdict(piece, school) for school in SCHOOLS)


def _missing(piece: Piece, school: School) -> tuple[str, ...]:
    if school != "swatches":
        return ()
    patterns = {s.pattern.id: s.pattern for s in piece.everything}
    return tuple(p.name for p in patterns.values() if own_swatch_width(piece.estimate, p) is None)

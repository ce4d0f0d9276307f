"""The methods side by side: each one's cast-on for the piece at hand, and how wide that would really come out."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..ends.cast_on import EdgePlan, edge_plan
from ..errors import IllegalPiece
from ..gauge import METHODS, Method
from ..gauge.methods import own_swatch_width
from ..piece.piece import Piece
from ..piece.widths import body_um
from .solver import solve_layout


@dataclass(frozen=True, kw_only=True)
class Verdict:
    """What a method says. `claimed_um` is the width by its own rule, `real_um` the width by the estimate.

    `plan` is None where it finds no layout, and then `refusal` says why. `missing`: patterns without a swatch
    of their own, which the method by swatch takes for stockinette.
    """

    method: Method
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


def method_verdict(piece: Piece, method: Method) -> Verdict:
    """One method's layout for the width wanted: the same panels, with backgrounds as wide as its rule asks for."""
    wanted = piece.width_mm * 1000.0
    by_method = replace(piece, evidence=replace(piece.evidence, method=method))
    view = by_method.main_view
    found = solve_layout(view, "closest", any_width=True)
    if found is None:
        return Verdict(
            method=method,
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
            method=method,
            plan=edge_plan(laid, piece.bottom),
            claimed_um=claimed,
            real_um=real,
            wanted_um=wanted,
            missing=_missing(piece, method),
        )
    except IllegalPiece as error:
        return Verdict(method=method, plan=None, claimed_um=claimed, real_um=real, wanted_um=wanted, refusal=str(error))


def method_verdicts(piece: Piece) -> tuple[Verdict, ...]:
    """Every method's verdict, the estimate's first."""
    return tuple(method_verdict(piece, method) for method in METHODS)


def _missing(piece: Piece, method: Method) -> tuple[str, ...]:
    if method != "swatches":
        return ()
    patterns = {s.pattern.id: s.pattern for s in piece.everything}
    return tuple(p.name for p in patterns.values() if own_swatch_width(piece.estimate, p) is None)

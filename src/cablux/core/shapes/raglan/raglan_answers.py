"""What a raglan was answered."""

from __future__ import annotations

from dataclasses import dataclass

from ..sweater.sweater_answers import ArmAnswers, WornAnswers


@dataclass(frozen=True, kw_only=True)
class RaglanAnswers(WornAnswers, ArmAnswers):
    """What a raglan is asked."""

    from_: str
    yoke_depth_mm: float
    underarm_mm: float
    lines: str
    sides: str
    neck_mm: float
    split: str

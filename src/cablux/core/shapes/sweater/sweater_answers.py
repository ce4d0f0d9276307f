"""What sweaters were answered: a record for each shape, and for what several of them are asked."""

from __future__ import annotations

from dataclasses import dataclass

from ..asks import ShapeAnswers


@dataclass(frozen=True, kw_only=True)
class WornAnswers(ShapeAnswers):
    """What everything is asked that is worn on the chest."""

    for_: str
    chest_mm: float
    fit: str
    ease_mm: float
    length_mm: float
    hem_mm: float
    neck_width_mm: float
    neckline: str
    neckband_mm: float


@dataclass(frozen=True, kw_only=True)
class ArmAnswers(ShapeAnswers):
    """What a sleeve is asked, whichever way it is worked."""

    arm_mm: float
    upper_arm_mm: float
    wrist_mm: float
    cuff_mm: float


@dataclass(frozen=True, kw_only=True)
class SweaterAnswers(WornAnswers):
    """What a body of front and back is asked."""

    construction: str
    front_wider_mm: float
    back_longer_mm: float
    cross_back_mm: float
    armhole_depth_mm: float
    shoulders: str
    cuts: str
    neck_depth_mm: float
    collar: str


@dataclass(frozen=True, kw_only=True)
class SleevedAnswers(SweaterAnswers, ArmAnswers):
    """What a body with sleeves is asked."""

    reach_mm: float


@dataclass(frozen=True, kw_only=True)
class PulloverAnswers(SleevedAnswers):
    """What a pullover is asked."""

    sleeves: str


@dataclass(frozen=True, kw_only=True)
class CardiganAnswers(SleevedAnswers):
    """What a cardigan is asked."""

    bands: str
    buttons: float
    buttonholes: str

"""The raglan: yoke, body and sleeves in the round, shaped along four lines, each part by a schedule of its own."""

from __future__ import annotations

from ..layout.parts import Source
from .picked_bands import rib_band, suited_to_rib
from .raglan_asks import NECKS, raglan_asks
from .raglan_parts import SIDES, raised_neck, sleeve_down, yoke_and_body
from .raglan_plan import plan_raglan
from .shape import Made, MadePiece, Shape, Wanted


def _make(wanted: Wanted) -> Made:
    plan = plan_raglan(wanted)
    raised = raised_neck(wanted, plan, ()) if wanted.answers["neckline"] == NECKS[0] else None
    body = yoke_and_body(wanted, plan, raised)
    number = 1 if raised is None else 2
    sleeves = [sleeve_down(wanted, plan, number, side) for side in SIDES]
    count = suited_to_rib(float(plan.neck_count), 8)
    band = rib_band("Neckband", body, (Source("picked up", 1, "neck", count),))
    return Made(tuple(map(MadePiece, (*((raised,) if raised else ()), body, *sleeves, band))))


RAGLAN = Shape(
    id="raglan",
    name="Raglan",
    what="Yoke, body and sleeves in the round, shaped along four lines; panels on front, back and sleeves.",
    asks=raglan_asks(),
    make=_make,
)

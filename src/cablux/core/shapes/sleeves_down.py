"""Sleeves that are picked up round the armhole and worked down in the round, right side out or inside out."""

from __future__ import annotations

from dataclasses import replace

from ..errors import Infeasible
from ..layout.parts import Source
from ..layout.piece import Band, Piece
from ..layout.segment import Segment
from ..layout.widths import segment_um
from ..library import Pattern
from .picked_bands import FIRST
from .raglan_parts import SIDES, as_high_as_it_is, bare_round, round_sleeve
from .shape import Wanted, plain
from .sleeves import SleeveWish, lay_out_sleeve
from .sweater_asks import SLEEVES
from .sweater_body import SweaterBody


def picked_sleeves(
    wanted: Wanted, body: SweaterBody, wish: SleeveWish, panels: tuple[Pattern, ...]
) -> tuple[Piece, ...]:
    """The right and the left sleeve, each begun under the arm. Raises Infeasible where the armholes are shaped."""
    if body.torso.armhole:
        raise Infeasible(
            "Only dropped sleeves are picked up round the armhole: choose those, or work the sleeves from the cuff."
        )
    inner = lay_out_sleeve(wanted, replace(wish, top=max(body.armhole_mm, wish.wrist)), panels)[1:-1]
    own = (plain(1), *inner, plain(1))
    inside = wanted.answers["sleeves"] == SLEEVES[2]
    length = wish.length + wish.straight
    return tuple(_sleeve(wanted, body, own, length, side, inside=inside) for side in SIDES)


def _sleeve(
    wanted: Wanted, body: SweaterBody, own: tuple[Segment, ...], length: float, side: str, *, inside: bool
) -> Piece:
    around = sum(segment_um(s, body.back.measure) for s in own) / 1000.0
    bare = bare_round(wanted, f"{side.capitalize()} sleeve", (Band(own, rows=2),), around, inside_out=inside)
    made = round_sleeve(wanted, bare, length)
    count = sum(s.stitches for s in own)
    return as_high_as_it_is(replace(made.tapered(up=False), begins=_sources(body, side, count)))


def _sources(body: SweaterBody, side: str, count: int) -> tuple[Source, ...]:
    """From under the arm up the front (of the right sleeve) or the back, over the shoulder and down again."""
    torso = body.front_torso
    back = count // 2
    upper = max(1, round((count - back) * torso.neck_rows / max(1, torso.depth)))
    hand = "left" if side == "right" else "right"  # as one looks at the front
    lower = count - back - upper
    front = [Source("picked up", FIRST["Front"], "armhole", lower)] if lower > 0 else []
    front.append(Source("picked up", FIRST[hand], "armhole", upper))
    behind = Source("picked up", FIRST["Back"], "armhole", back)
    return (*front, behind) if side == "right" else (behind, *reversed(front))

"""The constants of the fabric model; docs/fabric.md says what each was fitted on and how far off it is."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class Constants:
    """Stiffnesses relative to a stretched course spring, and what faces do to rest sizes.

    `course_squeezed`, `leg`, `shear`, `bend`: springs of the network. `level`, `no_pass`: chosen, since any
    value near one serves. `lowest`: the part of its height below which a row resists like cloth pushed
    together, since courses of plain knitting nearly touch. `curl`, `flat`: how strongly knit and purl columns
    side by side roll, and how strongly the cloth resists it. `ridge`, `flip`: how much shorter a leg rests
    between a knit and a purl row (all along the row; anywhere). `spread`: how much wider such rows lie.
    `slip`: the height at which a loop rests that was passed on unworked, in row heights: it spans two rows
    and is one loop. `passing`: how much narrower a course rests where the yarn runs straight past such a loop.
    `lead`: a crossing of g stitches holds its columns down for g − lead rows; `fade`: what is left of that hold
    with each row further on. `thick`: a tile's width for each stitch at which its yarn lies packed, `crush`: how
    strongly it then resists.
    """

    course_squeezed: float = 0.399
    leg: float = 0.019
    shear: float = 0.009
    bend: float = 0.201
    level: float = 0.5
    no_pass: float = 1.0
    lowest: float = 0.95
    curl: float = 2.174
    flat: float = 2.009
    ridge: float = 0.104
    flip: float = 0.168
    spread: float = 0.04
    slip: float = 0.4
    passing: float = 0.05
    lead: float = 1.2
    fade: float = 0.5
    thick: float = 0.4
    crush: float = 10.0


FITTED = Constants()

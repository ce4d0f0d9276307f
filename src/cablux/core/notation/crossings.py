"""Crossings: operations that pass one group of loops over another, with or without a centre between."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

from .operations import Face, Lean, MadeLoop, Op, Stitch

Group = tuple[Stitch, ...]

MAX_GROUP = 12  # our choice: nobody crosses more; it keeps a slip of the finger from hanging the solver
MAX_CENTRE = 8


def group(count: int, face: Face = Face.KNIT) -> Group:
    """A group of `count` stitches of one face."""
    return (Stitch(face),) * count


@dataclass(frozen=True)
class Crossing(Op):
    """Permutes groups of loops: `over` passes in front of `under`, with `centre` staying between them.

    It leans left when `over` travels left (held in front), right when it travels right (`under` held
    behind). Faces are as worked on the right side, groups in right-side order. A `twist` is a 1/1
    crossing worked without a cable needle. The centre lies between the two groups.
    """

    over: Group
    under: Group
    lean: Lean
    centre: Group = ()
    twist: bool = False

    @cached_property
    def takes(self) -> int:  # computed once: rows of 300 stitches ask often
        return len(self.over) + len(self.centre) + len(self.under)

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        o, c, u = len(self.over), len(self.centre), len(self.under)
        first = o if self.lean is Lean.LEFT else u
        centre = [MadeLoop((first + i,), s.face, 0, s.tbl) for i, s in enumerate(self.centre)]
        over_at, under_at = (0, o + c) if self.lean is Lean.LEFT else (u + c, 0)
        over = [MadeLoop((over_at + i,), s.face, 1, s.tbl) for i, s in enumerate(self.over)]
        under = [MadeLoop((under_at + i,), s.face, -1, s.tbl) for i, s in enumerate(self.under)]
        return tuple(under + centre + over if self.lean is Lean.LEFT else over + centre + under)

    @property
    def token(self) -> str:
        short = self._short_token()
        if short:
            return short
        groups = [self.over, self.centre, self.under] if self.centre else [self.over, self.under]
        return f"{self.lean}{'T' if self.twist else 'C'}[{'|'.join(_group_text(g) for g in groups)}]"

    def _short_token(self) -> str:
        """`3/3 LC`, `2/1 LPC`, `3/3/3 LC`, `2/1/2 LPC`, `1/1 LT`; empty where the groups need spelling out."""
        over, centre, under = (_uniform(g) for g in (self.over, self.centre or group(1), self.under))
        if over is not Face.KNIT or centre is None or under is None:
            return ""
        if self.centre and under is not Face.KNIT:
            return ""
        purl = "P" if (centre if self.centre else under) is Face.PURL else ""
        counts = [len(self.over), len(self.centre), len(self.under)]
        size = "/".join(str(n) for n in counts if n)
        return f"{size} {self.lean}{purl}{'T' if self.twist else 'C'}"

    @property
    def hold_token(self) -> str:
        o, u = len(self.over), len(self.under)
        if self.twist or self.centre or _uniform(self.over) is not Face.KNIT:
            return self.token
        hold = "F" if self.lean is Lean.LEFT else "B"
        below = _uniform(self.under)
        if below is Face.KNIT and o == u:
            return f"C{o + u}{hold}"
        if below is Face.PURL and (o, u) in ((1, 1), (2, 1)):
            return f"T{o + u}{hold}"
        return self.token

    def wrong_side(self) -> Crossing:
        """Seen from behind the lower group is on top; the crossing, like any helix, keeps its hand."""
        flip = tuple(tuple(s.wrong_side() for s in reversed(g)) for g in (self.under, self.centre, self.over))
        return replace(self, over=flip[0], centre=flip[1], under=flip[2])

    def mirrored(self) -> Crossing:
        return replace(
            self,
            over=self.over[::-1],
            centre=self.centre[::-1],
            under=self.under[::-1],
            lean=self.lean.other,
        )


def _uniform(stitches: Group) -> Face | None:
    """The one face of a group without twisted stitches, or None."""
    faces = {s.face for s in stitches}
    return faces.pop() if len(faces) == 1 and not any(s.tbl for s in stitches) else None


def _group_text(stitches: Group) -> str:
    runs: list[tuple[Stitch, int]] = []
    for s in stitches:
        if runs and runs[-1][0] == s:
            runs[-1] = (s, runs[-1][1] + 1)
        else:
            runs.append((s, 1))
    return " ".join(f"{s.face}{n}{'tbl' if s.tbl else ''}" for s, n in runs)


def crossing(over: int, under: int, lean: str, *, centre: int = 0, purl: bool = False) -> Crossing:
    """A crossing of knit stitches; with `purl` the centre, or without one the under-group, is purled."""
    below = Face.PURL if purl and not centre else Face.KNIT
    middle = Face.PURL if purl else Face.KNIT
    return Crossing(group(over), group(under, below), Lean(lean), group(centre, middle))

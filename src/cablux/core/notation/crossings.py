"""Crossings: operations that pass one group of loops over another, with or without a centre between."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

from .operations import Face, Lean, MadeLoop, Op
from .stitches import Stitch

Group = tuple[Stitch, ...]
CentreAt = Literal["between", "front", "behind"]
Ground = Literal["rib", "2x2 rib", "tbl", "purl"]

MAX_GROUP = 12  # our choice: nobody crosses more; it keeps a slip of the finger from hanging the solver
MAX_CENTRE = 8

_CENTRE_DEPTH: dict[CentreAt, int] = {"between": 0, "front": 2, "behind": -2}
_FAR: dict[CentreAt, CentreAt] = {"between": "between", "front": "behind", "behind": "front"}


def uniform_group(count: int, face: Face = Face.KNIT) -> Group:
    """A group of `count` stitches of one face."""
    return (Stitch(face),) * count


def background_group(count: int, background: Ground) -> Group:
    """A group in k1 p1 rib or 2×2 rib, beginning with a knit stitch; knit through the back loops; or all purl."""
    if background in ("tbl", "purl"):
        return (Stitch(Face.KNIT, tbl=True) if background == "tbl" else Stitch(Face.PURL),) * count
    wide = 1 if background == "rib" else 2
    return tuple(Stitch(Face.KNIT if (i // wide) % 2 == 0 else Face.PURL) for i in range(count))


_WHOLE: dict[Ground, int] = {
    "rib": 2,
    "2x2 rib": 4,
    "tbl": 1,
    "purl": 1,
}  # a group keeps its rib only if it holds whole ribs


@dataclass(frozen=True, kw_only=True)
class Crossing(Op):
    """Permutes groups of loops: `over` passes in front of `under`, with `centre` staying in the middle.

    It leans left when `over` travels left (held in front), right when it travels right (`under` held
    behind). Faces are as worked on the right side, groups in right-side order. A `twist` is a 1/1
    crossing worked without a cable needle. The centre lies between the two groups, in front of both or
    behind both.
    """

    over: Group
    under: Group
    lean: Lean
    centre: Group = ()
    twist: bool = False
    centre_at: CentreAt = "between"

    @cached_property
    def takes(self) -> int:  # computed once: rows of 300 stitches ask often
        return len(self.over) + len(self.centre) + len(self.under)

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        return permute_crossing(self)

    @property
    def groups_taken(self) -> tuple[Group, Group, Group]:
        """The groups in the order in which their loops lie before the crossing, right to left."""
        ends = (self.over, self.under) if self.lean is Lean.LEFT else (self.under, self.over)
        return ends[0], self.centre, ends[1]

    def regrouped(self, first: Group, centre: Group, last: Group) -> Crossing:
        """The crossing with other groups, in the order in which their loops lie before it, right to left."""
        over, under = (first, last) if self.lean is Lean.LEFT else (last, first)
        return replace(self, over=over, centre=centre, under=under)

    @cached_property
    def background(self) -> Ground | None:
        """The rib, the twist or the purl that all groups share, if there is one."""
        groups = [g for g in (self.over, self.centre, self.under) if g]
        for background, whole in _WHOLE.items():
            if all(len(g) % whole == 0 and g == background_group(len(g), background) for g in groups):
                return background
        return None

    @property
    def ribbed(self) -> bool:
        """Whether both groups keep a rib, so that the cable shows on either side of the cloth."""
        return all(len({s.face for s in each}) == 2 for each in (self.over, self.under))

    @property
    def token(self) -> str:
        short = self._short_token()
        if short:
            return short
        middle = {"between": "", "front": "f ", "behind": "b "}[self.centre_at]
        texts = [_group_text(self.over), middle + _group_text(self.centre), _group_text(self.under)]
        kept = texts if self.centre else [texts[0], texts[2]]
        return f"{self.lean}{'T' if self.twist else 'C'}[{'|'.join(kept)}]"

    def _short_token(self) -> str:
        """`3/3 LC`, `2/1 LPC`, `6/2f/6 LC`, `4/4 LC rib`, `1/1 LT`; empty where the groups need spelling out."""
        at = {"between": "", "front": "f", "behind": "b"}[self.centre_at] if self.centre else ""
        middle = f"/{len(self.centre)}{at}" if self.centre else ""
        size = f"{len(self.over)}{middle}/{len(self.under)}"
        kind = "T" if self.twist else "C"
        if self.background:
            return f"{size} {self.lean}{kind} {self.background}"
        over, centre, under = (_uniform(g) for g in (self.over, self.centre or uniform_group(1), self.under))
        if over is not Face.KNIT or centre is None or under is None:
            return ""
        if self.centre and under is not Face.KNIT:
            return ""
        purl = "P" if (centre if self.centre else under) is Face.PURL else ""
        return f"{size} {self.lean}{purl}{kind}"

    @property
    def hold_token(self) -> str:
        o, u = len(self.over), len(self.under)
        if self.twist or self.centre:
            return self.token
        hold = "F" if self.lean is Lean.LEFT else "B"
        if self.background and o == u:
            return f"C{o + u}{hold} {self.background}"
        below = _uniform(self.under)
        if _uniform(self.over) is not Face.KNIT:
            return self.token
        if below is Face.KNIT and o == u:
            return f"C{o + u}{hold}"
        if below is Face.PURL and (o, u) in ((1, 1), (2, 1)):
            return f"T{o + u}{hold}"
        return self.token

    def wrong_side(self) -> Crossing:
        """Seen from behind the lower group is on top; the crossing, like any helix, keeps its hand."""
        flip = tuple(tuple(s.wrong_side() for s in reversed(g)) for g in (self.under, self.centre, self.over))
        return replace(self, over=flip[0], centre=flip[1], under=flip[2], centre_at=_FAR[self.centre_at])

    def mirrored(self) -> Crossing:
        return replace(
            self,
            over=self.over[::-1],
            centre=self.centre[::-1],
            under=self.under[::-1],
            lean=self.lean.other,
        )


def permute_crossing(crossing: Crossing) -> tuple[MadeLoop, ...]:
    """The loops that a crossing makes, right to left as seen from the right side; each names the loop it was.

    Loops are counted from the right, from 0. What lies on top has depth 1, what lies below it −1.

    >>> from cablux.core.notation import crossing
    >>> [loop.parents for loop in permute_crossing(crossing(2, 1, "L"))]
    [(2,), (0,), (1,)]
    """
    over_group, centre_group, under_group = crossing.over, crossing.centre, crossing.under
    o, c, u = len(over_group), len(centre_group), len(under_group)
    first = o if crossing.lean is Lean.LEFT else u
    depth = _CENTRE_DEPTH[crossing.centre_at]
    centre = [
        MadeLoop(parents=(first + i,), face=s.face, depth=depth, twisted=s.tbl) for i, s in enumerate(centre_group)
    ]
    over_at, under_at = (0, o + c) if crossing.lean is Lean.LEFT else (u + c, 0)
    over = [MadeLoop(parents=(over_at + i,), face=s.face, depth=1, twisted=s.tbl) for i, s in enumerate(over_group)]
    under = [MadeLoop(parents=(under_at + i,), face=s.face, depth=-1, twisted=s.tbl) for i, s in enumerate(under_group)]
    return tuple(under + centre + over if crossing.lean is Lean.LEFT else over + centre + under)


@dataclass(frozen=True)
class CrossedDecrease(Op):
    """A decreasing crossing: `count` stitches lie over as many, and each is worked together with the one behind.

    It leans left when the first group lies in front, right when it lies behind.
    """

    count: int
    lean: Lean
    face: Face = Face.KNIT

    @property
    def takes(self) -> int:
        return 2 * self.count

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        front, back = (0, self.count) if self.lean is Lean.LEFT else (self.count, 0)
        return tuple(MadeLoop(parents=(front + i, back + i), face=self.face, depth=1) for i in range(self.count))

    @property
    def token(self) -> str:
        return f"{self.count}/{self.count} {self.lean}{'P' if self.face is Face.PURL else ''}C dec"

    def wrong_side(self) -> CrossedDecrease:
        """From behind the other group lies in front, and it comes first there: the lean stays."""
        return replace(self, face=self.face.other)

    def mirrored(self) -> CrossedDecrease:
        return replace(self, lean=self.lean.other)


@dataclass(frozen=True)
class HalfCrossing(Op):
    """One end of a crossing that lies across the beginning of a round, of which `end` loops lie at the round's end.

    In that round the beginning is moved on past the rest of them, which are slipped unworked, and crossed at its end
    with those; then it is moved back. Parents are counted from the part's own first loop, so they lie beside it.
    """

    whole: Crossing
    end: int
    begins: bool

    @property
    def moved(self) -> int:
        """By how many stitches the beginning of the round is moved."""
        return self.whole.takes - self.end

    @property
    def takes(self) -> int:
        return self.moved if self.begins else self.end

    @cached_property
    def made(self) -> tuple[MadeLoop, ...]:
        if not self.begins:
            return self.whole.made[: self.end]
        return tuple(replace(m, parents=tuple(p - self.end for p in m.parents)) for m in self.whole.made[self.end :])

    @property
    def token(self) -> str:
        return self._words(self.whole.token)

    @property
    def hold_token(self) -> str:
        return self._words(self.whole.hold_token)

    def _words(self, crossing: str) -> str:
        if self.begins:
            return f"move the beginning {self.moved} on"
        return f"{crossing}, move the beginning {self.moved} back"

    def wrong_side(self) -> HalfCrossing:
        """From behind what was its end is its beginning."""
        return HalfCrossing(self.whole.wrong_side(), self.moved, not self.begins)

    def mirrored(self) -> HalfCrossing:
        return HalfCrossing(self.whole.mirrored(), self.moved, not self.begins)


def split_crossing(whole: Crossing, end: int) -> tuple[HalfCrossing, HalfCrossing]:
    """A crossing across the beginning of a round: what of it lies at the beginning, and the `end` loops at the end."""
    return HalfCrossing(whole, end, begins=True), HalfCrossing(whole, end, begins=False)


def whole_crossings(ops: tuple[Op, ...]) -> tuple[Op, ...]:
    """The operations with both halves of a crossing put together where they lie side by side, between two repeats."""
    if not any(isinstance(op, HalfCrossing) for op in ops):
        return ops
    out: list[Op] = []
    for op in ops:
        if isinstance(op, HalfCrossing) and op.begins and out and out[-1] == replace(op, begins=False):
            out[-1] = op.whole
        else:
            out.append(op)
    return tuple(out)


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


def crossing(
    over: int, under: int, lean: str, *, centre: int = 0, purl: bool = False, centre_at: CentreAt = "between"
) -> Crossing:
    """A crossing of knit stitches; with `purl` the centre, or without one the under-group, is purled.

    >>> crossing(3, 3, "R").token, crossing(2, 1, "L", purl=True).hold_token
    ('3/3 RC', 'T3F')
    """
    below = Face.PURL if purl and not centre else Face.KNIT
    middle = Face.PURL if purl else Face.KNIT
    return Crossing(
        over=uniform_group(over),
        under=uniform_group(under, below),
        lean=Lean(lean),
        centre=uniform_group(centre, middle),
        centre_at=centre_at,
    )


def crossing_on(
    over: int, under: int, lean: str, *, background: Ground, centre: int = 0, centre_at: CentreAt = "between"
) -> Crossing | None:
    """A crossing whose groups are of one background; None where a group would cut a rib in two."""
    if any(n % _WHOLE[background] for n in (over, centre, under)):
        return None
    make: Callable[[int], Group] = lambda n: background_group(n, background)  # noqa: E731 - three uses, one line
    return Crossing(over=make(over), under=make(under), lean=Lean(lean), centre=make(centre), centre_at=centre_at)

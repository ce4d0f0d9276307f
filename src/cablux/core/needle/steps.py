"""Rows that change a count: each step's operations, and which column of the beginning and the end a loop lies in."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from ..notation import Decrease, Face, Increase, Lean, Op, Stitch
from .spread import ExtraPlaces


@dataclass(frozen=True, kw_only=True)
class CountStep:
    """One row of a change over some stitches: the counts before and after it, and the larger row's extra stitches.

    `onward` says of each extra stitch whether it goes with the stitch after it rather than the one before; without
    it those of the first half go with the one before, so that the row is symmetric.
    """

    before: int
    after: int
    made: ExtraPlaces = ()
    onward: tuple[bool, ...] = ()

    def __post_init__(self) -> None:
        if abs(self.after - self.before) != len(self.made):
            raise ValueError(f"{self.before} to {self.after} stitches need as many places, not {len(self.made)}")
        if not self.onward:
            object.__setattr__(self, "onward", tuple(2 * i >= self.large - 1 for i in self.made))

    @property
    def up(self) -> bool:
        """Whether stitches are made (or none are changed)."""
        return self.after >= self.before

    @property
    def large(self) -> int:
        """The larger of the two counts."""
        return max(self.before, self.after)

    @cached_property
    def partners(self) -> tuple[int, ...]:
        """For each stitch of the larger row the stitch of the smaller one it is, or is joined to."""
        extra, small = dict(zip(self.made, self.onward, strict=True)), min(self.before, self.after)
        out, at = [], -1
        for i in range(self.large):
            at += i not in extra
            out.append(min(max(at + extra.get(i, False), 0), small - 1))
        return tuple(out)

    def reversed(self) -> CountStep:
        """The same row the other way: what was made is worked together again."""
        return CountStep(before=self.after, after=self.before, made=self.made, onward=self.onward)

    def mirrored(self) -> CountStep:
        """Seen in a mirror."""
        made = tuple(self.large - 1 - i for i in reversed(self.made))
        return CountStep(
            before=self.before, after=self.after, made=made, onward=tuple(not on for on in reversed(self.onward))
        )

    def ops(self, shown: Sequence[Face], *, flip: bool = False, middle: bool = False) -> tuple[Op, ...]:
        """The row as seen from the right side; `shown` are the faces it leaves.

        Increases lean to the left and decreases to the right, or the other way where `flip` (the left half of a
        piece); in a `middle` segment each half leans its own way.
        """
        extra = set(self.made)
        out: list[Op] = []
        if self.up:
            for i in range(self.large):
                lean = Lean.RIGHT if flip or (middle and 2 * i >= self.large) else Lean.LEFT
                out.append(Increase(lean, shown[i]) if i in extra else Stitch(shown[i]))
            return tuple(out)
        joined = self.partners
        for at, face in enumerate(shown):
            lean = Lean.LEFT if flip or (middle and 2 * at >= self.after) else Lean.RIGHT
            out.append(Decrease(lean=lean, face=face) if joined.count(at) > 1 else Stitch(face))
        return tuple(out)


@dataclass(frozen=True)
class Steps:
    """The steps over one segment's stitches, in the order in which they are worked."""

    steps: tuple[CountStep, ...]

    @property
    def counts(self) -> tuple[int, ...]:
        """The count below the first step and above each."""
        return (self.steps[0].before, *(s.after for s in self.steps))

    def reversed(self) -> Steps:
        """The same change the other way."""
        return Steps(tuple(s.reversed() for s in reversed(self.steps)))

    def mirrored(self) -> Steps:
        """Seen in a mirror."""
        return Steps(tuple(s.mirrored() for s in self.steps))

    @cached_property
    def from_columns(self) -> tuple[tuple[int, ...], ...]:
        """For each level (below the first step, above each), the column of the first level each loop stands on."""
        levels = [tuple(range(self.steps[0].before))]
        for step in self.steps:
            under = levels[-1]
            if step.up:
                levels.append(tuple(under[i] for i in step.partners))
            else:
                first = {small: i for i, small in reversed(tuple(enumerate(step.partners)))}
                levels.append(tuple(under[first[i]] for i in range(step.after)))
        return tuple(levels)

    @cached_property
    def to_columns(self) -> tuple[tuple[int, ...], ...]:
        """For each level, the column of the last level that each loop leads to."""
        return self.reversed().from_columns[::-1]

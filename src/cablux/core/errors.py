"""The errors of the core, each a sentence that says what is wrong, where, and what would mend it.

CabluxError (ValueError)
├── InvalidText      it cannot be read
├── AmbiguousText    it can be read in more than one way
├── IllegalChart     it reads, but the stitches do not add up
├── IllegalPiece     a layout or measure that cannot be knitted
│   ├── UnknownChoice  a word that is none of those that can stand there
│   └── UnmadeJoin   edges that cannot be joined so (in garment.joins)
├── Infeasible       wishes that cannot hold together
└── OutOfTime        not found in the time it was given, which does not mean that there is none
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import asdict, dataclass, field
from difflib import get_close_matches
from types import MappingProxyType
from typing import ClassVar


class CabluxError(ValueError):
    """Any mistake in what a person gave us; `str(error)` is a sentence for that person.

    For programs: `code` says what kind of mistake it is, `pointer` where, and `data` what would do instead.
    """

    code: ClassVar[str] = "mistake"
    pointer: str = ""
    data: Mapping[str, object] = MappingProxyType({})


@dataclass(frozen=True, kw_only=True)
class Problem:
    """One thing wrong in a text, where it stands, and the choices if there are any.

    `line` and `column` count from 1 in the text given; `row` is the chart's row number and `stitch`
    counts from 1 in the order in which the row is worked. Each is 0 where it does not apply.
    """

    message: str
    line: int = 0
    column: int = 0
    row: int = 0
    stitch: int = 0

    @property
    def pointer(self) -> str:
        """Where it is, such as `line 3, column 5` or `row 7, stitch 2`; empty where it has no place."""
        named = {"line": self.line, "column": self.column, "row": self.row, "stitch": self.stitch}
        return ", ".join(f"{name} {number}" for name, number in named.items() if number)

    def __str__(self) -> str:
        place = f"line {self.line}, column {self.column}: " if self.line else ""
        return place + self.message


@dataclass
class _WithProblems(CabluxError):
    problems: tuple[Problem, ...] = field(default=())

    def __post_init__(self) -> None:
        self.pointer = self.problems[0].pointer if self.problems else ""
        self.data = {"problems": tuple(asdict(each) for each in self.problems)}

    def __str__(self) -> str:
        return "\n".join(str(p) for p in self.problems)


class InvalidText(_WithProblems):
    """The text cannot be read; `problems` has every place, not only the first."""

    code = "unreadable"


class AmbiguousText(_WithProblems):
    """The text can be read in several ways; the message lists them."""

    code = "ambiguous"


class IllegalChart(_WithProblems):
    """The chart can be read, but its rows do not add up."""

    code = "illegal chart"


class IllegalPiece(CabluxError):
    """A layout, size or gauge that nobody could knit."""

    code = "illegal piece"


class UnknownChoice(IllegalPiece):
    """A word that is none of those that can stand there; `data` has the choices, sorted, and the nearest of them."""

    code = "unknown choice"

    def __init__(self, value: object, record: str, field: str, *, choices: Iterable[str]) -> None:
        listed = sorted(choices)
        near = get_close_matches(str(value), listed, 1)
        hint = f" Did you mean {near[0]}?" if near else ""
        super().__init__(f"“{value}” cannot be the {field} of {record}; it is one of: {', '.join(listed)}.{hint}")
        self.pointer = f"{record}.{field}"
        self.data = {"choices": listed, "nearest": near[0] if near else ""}


class Infeasible(CabluxError):
    """Wishes that cannot hold together; the message says which, and what would free them.

    `data` names what clashes: what a shape asks (or `panels`, `background`, `gauge`), stations, or the wishes of a
    layout; and the nearest that would fit where it is known, in millimetres.
    """

    code = "infeasible"

    def __init__(self, sentence: str, *, clash: Iterable[str] = (), nearest: float | None = None) -> None:
        super().__init__(sentence)
        self.data = {"clash": tuple(clash)} | ({} if nearest is None else {"nearest": nearest})


class OutOfTime(CabluxError):
    """Nothing was found in time; whether there is anything is not known."""

    code = "out of time"

"""Blocks of a booklet as plain values; every form that it is written in comes of these and says nothing else."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass


@dataclass(frozen=True)
class Paragraph:
    """Sentences that belong together, a line each."""

    lines: tuple[str, ...]


@dataclass(frozen=True)
class Note:
    """What is said beside the work: how to read what follows, or what to mind."""

    text: str


@dataclass(frozen=True)
class Subheading:
    """The heading of what follows; `detail` is what it is about, such as “rows 1–9”."""

    text: str
    detail: str = ""


@dataclass(frozen=True)
class Table:
    """Rows of words under a head; every row has as many as the head."""

    head: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]


@dataclass(frozen=True, kw_only=True)
class RowEntry:
    """What is worked in one or several rows: their numbers, how they are called, the words, and the count after them.

    `label` is `Rows 2, 4 (WS)`; `what` and `side` are `Rows` and `WS`, or empty. `count` is empty where counts were
    not asked for.
    """

    numbers: tuple[int, ...]
    label: str
    text: str
    count: str = ""

    @property
    def what(self) -> str:
        """`Row`, `Set-up rows`: its label before the numbers."""
        return self.label.split(str(self.numbers[0]), 1)[0].strip()

    @property
    def side(self) -> str:
        """`RS` or `WS` where its label says it."""
        return self.label[-3:-1] if self.label.endswith("S)") else ""


@dataclass(frozen=True)
class RowList:
    """Rows in words, each to be ticked off, and what to repeat after them."""

    rows: tuple[RowEntry, ...]
    again: str = ""


@dataclass(frozen=True)
class Calendar:
    """Rows to cross out as they come: what they are called, and their numbers."""

    what: str
    numbers: tuple[int, ...]


@dataclass(frozen=True, kw_only=True)
class KeyTerm:
    """An operation: its symbol (SVG), its name, what else it is called, and how it is worked."""

    symbol: str
    name: str
    other_name: str
    text: str


@dataclass(frozen=True)
class Key:
    """The operations that are used, each explained once."""

    terms: tuple[KeyTerm, ...]


@dataclass(frozen=True)
class Strip:
    """A picture (SVG) that takes its share of a width."""

    svg: str
    share: float


@dataclass(frozen=True, kw_only=True)
class Picture:
    """Pictures side by side, from the left, that are one; `across`: what part of the page's width they take.

    `tall`: their height over their width; `beside`: the block after it stands beside it where there is room.
    """

    strips: tuple[Strip, ...]
    caption: str
    tall: float
    across: float = 1.0
    beside: bool = False


@dataclass(frozen=True, kw_only=True)
class ChartSheet:
    """A part of a chart that fits a page: the picture (SVG), what it shows, and its size on paper in millimetres.

    `name` tells it from all others, for a file of its own.
    """

    svg: str
    caption: str
    name: str
    width_mm: float
    height_mm: float


Block = Paragraph | Note | Subheading | Table | RowList | Calendar | Key | Picture | ChartSheet


@dataclass(frozen=True, kw_only=True)
class Chapter:
    """A chapter: `kind` is which choice of the printing it belongs to, such as “charts”.

    `fresh`: on paper it begins on a page of its own.
    """

    kind: str
    title: str
    blocks: tuple[Block, ...]
    fresh: bool = False


@dataclass(frozen=True)
class Booklet:
    """A whole pattern: its title, what stands beneath it, and its chapters."""

    title: str
    subtitle: str
    chapters: tuple[Chapter, ...]

    def charts(self) -> Iterator[ChartSheet]:
        """All sheets of all charts."""
        for chapter in self.chapters:
            yield from (block for block in chapter.blocks if isinstance(block, ChartSheet))

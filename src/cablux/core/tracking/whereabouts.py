"""Where am I?: the rows that fit what the cloth shows of its cables, and which panel to look at next.

Who has lost her place sees how many bars lie above a panel's last crossing, and which way it leans. That holds for one
row in so many; a second panel with another repeat leaves fewer, and so on.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from ..notation import CrossedDecrease, Crossing, HalfCrossing, Lean
from ..pattern.worked import WorkedPart, WorkedRow

Leans = Literal["left", "right", "both"]
LEANS: tuple[Leans, ...] = ("left", "right", "both")
Panel = tuple[int, str]
"""A panel of a piece: the place of its segment from the right, and its name."""


@dataclass(frozen=True)
class Shown:
    """What a panel shows: the rows worked since its last crossing, and how that leans."""

    bars: int
    leans: Leans


@dataclass(frozen=True)
class Sighting:
    """What somebody has seen of a panel; `leans` is None where she did not say."""

    panel: Panel
    bars: int
    leans: Leans | None = None

    def fits(self, shown: Shown | None) -> bool:
        """Whether a panel that shows this was seen so."""
        return shown is not None and shown.bars == self.bars and self.leans in (None, shown.leans)


@dataclass(frozen=True)
class Whereabouts:
    """What the panels of a piece show: `shown[panel][r]` after row r, None where it is not there or has not crossed."""

    rows: int
    shown: Mapping[Panel, tuple[Shown | None, ...]]

    def fitting(self, seen: Iterable[Sighting], rows: Iterable[int] | None = None) -> tuple[int, ...]:
        """The rows after which all of it would be seen, of those given, or of all from the cast-on on."""
        sightings = tuple(seen)
        return tuple(
            r
            for r in (range(self.rows + 1) if rows is None else rows)
            if all(s.panel in self.shown and s.fits(self.shown[s.panel][r]) for s in sightings)
        )

    def next_panel(self, rows: Sequence[int], asked: Iterable[Panel] = ()) -> Panel | None:
        """The panel whose sight leaves the fewest of these rows, on average; None where none tells them apart."""
        left = {panel: self.left_by(panel, rows) for panel in self.shown if panel not in set(asked)}
        best = min(left, key=lambda panel: left[panel], default=None)
        return best if best is not None and left[best] < len(rows) else None

    def left_by(self, panel: Panel, rows: Sequence[int]) -> float:
        """How many of these rows are left on average when the panel is looked at, each row as likely as another."""
        groups = Counter(self.shown[panel][r] for r in rows)
        return sum(n * n for n in groups.values()) / max(1, len(rows))


def whereabouts(rows: tuple[WorkedRow, ...]) -> Whereabouts:
    """What the panels of a piece show, from its compiled rows; a panel is what crosses somewhere."""
    crossed: dict[Panel, dict[int, Leans]] = {}
    there: dict[Panel, set[int]] = {}
    for row in rows:
        for part in row.parts:
            panel, leans = (part.segment, part.name), part_leans(part)
            there.setdefault(panel, set()).add(row.number)
            if leans is not None:
                crossed.setdefault(panel, {})[row.number] = leans
    shown = {panel: _shown(each, there[panel], len(rows)) for panel, each in crossed.items()}
    return Whereabouts(len(rows), shown)


def part_leans(part: WorkedPart) -> Leans | None:
    """How a part's crossings lean in a row, as the right side shows them; None where nothing crosses."""
    ops = (op.whole if isinstance(op, HalfCrossing) else op for op in part.ops)
    leans = {op.lean for op in ops if isinstance(op, Crossing | CrossedDecrease)}
    if not leans:
        return None
    return "both" if len(leans) > 1 else "left" if leans == {Lean.LEFT} else "right"


def _shown(crossed: Mapping[int, Leans], there: set[int], rows: int) -> tuple[Shown | None, ...]:
    out: list[Shown | None] = [None]
    last = 0
    for row in range(1, rows + 1):
        last = row if row in crossed else last
        out.append(Shown(row - last, crossed[last]) if last and row in there else None)
    return tuple(out)

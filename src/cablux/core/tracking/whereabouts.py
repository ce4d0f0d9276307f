"""Where am I?: the rows that fit what the cloth shows of its cables, and which panel to look at next.

Who has lost her place sees how many bars lie above a panel's last crossing, and which way it leans. That holds for one
row in so many; a second panel with another repeat leaves fewer, and so on.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from itertools import accumulate
from typing import Literal

from ..notation import CrossedDecrease, Crossing, Face, HalfCrossing, Lean
from ..pattern.worked import CHANGES, WorkedPart, WorkedRow

Leans = Literal["left", "right", "both"]
LEANS: tuple[Leans, ...] = ("left", "right", "both")
Counted = Literal["ridges", "stitches", "crossings"]
Panel = tuple[int, str]
"""A panel of a piece: the place of its segment from the right, and its name."""
BORDER: Panel = (-1, "Rows above the border, or the cast-on")
"""What is not crossed, but counted as well where one texture ends and another begins."""
COUNTABLE = 24
"""Our choice: more rows than that are not counted on the cloth at a glance."""


@dataclass(frozen=True)
class Shown:
    """What a panel shows: the rows worked since its last crossing, and how that leans."""

    bars: int
    leans: Leans


@dataclass(frozen=True)
class Sighting:
    """What somebody has seen of a panel; `leans` is None where she did not say. With `none` it has not crossed yet."""

    panel: Panel
    bars: int
    leans: Leans | None = None
    none: bool = False

    def fits(self, shown: Shown | None) -> bool:
        """Whether a panel that shows this was seen so."""
        if self.none:
            return shown is None
        return shown is not None and shown.bars == self.bars and self.leans in (None, shown.leans)


@dataclass(frozen=True)
class Whereabouts:
    """What the panels of a piece show: `shown[panel][r]` after row r, None where it has not crossed yet.

    `ridges[r]`: the ridges of purl bumps at its right edge from the cast-on up to row r; `stitches[r]`: those on the
    needle after it; `crossings[r]`: how often `crosser`, the panel that crosses most, has crossed up to there.
    """

    rows: int
    shown: Mapping[Panel, tuple[Shown | None, ...]]
    ridges: tuple[int, ...]
    stitches: tuple[int, ...]
    crossings: tuple[int, ...] = ()
    crosser: Panel | None = None

    @property
    def ridged(self) -> bool:
        """Whether ridges can be counted: there is one in every two to four rows, all the way up."""
        return self.ridges[-1] >= max(3, self.rows // 4)

    @property
    def shaped(self) -> bool:
        """Whether the number of stitches tells where one is: it is another in more rows than at its ends."""
        return len(set(self.stitches)) > 4

    def fitting(
        self,
        seen: Iterable[Sighting],
        rows: Iterable[int] | None = None,
        *,
        ridges: int = 0,
        stitches: int = 0,
        crossings: int = 0,
    ) -> tuple[int, ...]:
        """The rows after which all of it would be seen, of those given, or of all from the cast-on on.

        `ridges`, `stitches` and `crossings` are 0 where nobody counted them.
        """
        sightings = tuple(seen)
        return tuple(
            r
            for r in (range(self.rows + 1) if rows is None else rows)
            if all(s.panel in self.shown and s.fits(self.shown[s.panel][r]) for s in sightings)
            and ridges in (0, self.ridges[r])
            and stitches in (0, self.stitches[r])
            and (not crossings or (bool(self.crossings) and crossings == self.crossings[r]))
        )

    def next_panel(self, rows: Sequence[int], asked: Iterable[Panel] = ()) -> Panel | None:
        """The panel whose sight leaves the fewest of these rows, on average; None where none tells them apart."""
        left = {panel: self.left_by(panel, rows) for panel in self.shown if panel not in set(asked)}
        best = min(left, key=lambda panel: left[panel], default=None)
        return best if best is not None and left[best] < len(rows) else None

    def left_by(self, panel: Panel, rows: Sequence[int]) -> float:
        """How many of these rows are left on average when the panel is looked at, each row as likely as another."""
        return _left(self.shown[panel][r] for r in rows)

    def next_count(self, rows: Sequence[int], asked: Iterable[Counted] = ()) -> tuple[Counted, float] | None:
        """What to count, ridges or stitches, that leaves the fewest of these rows, and how many; None without any."""
        there: dict[Counted, tuple[int, ...]] = {}
        there |= {"ridges": self.ridges} if self.ridged else {}
        there |= {"stitches": self.stitches} if self.shaped else {}
        there |= {"crossings": self.crossings} if self.crosser else {}
        left = {name: _left(each[r] for r in rows) for name, each in there.items() if name not in set(asked)}
        best = min(left, key=lambda name: left[name], default=None)
        return (best, left[best]) if best is not None and left[best] < len(rows) else None


def _left(shown: Iterable[object]) -> float:
    """How many rows are left on average once it is known what is shown, each row as likely as another."""
    groups = Counter(shown)
    return sum(n * n for n in groups.values()) / max(1, groups.total())


def whereabouts(rows: tuple[WorkedRow, ...]) -> Whereabouts:
    """What the panels of a piece show, from its compiled rows; a panel is what crosses somewhere."""
    crossed: dict[Panel, dict[int, Leans]] = {}
    for row in rows:
        for part in row.parts:
            leans = part_leans(part)
            if leans is not None:
                crossed.setdefault((part.segment, part.name), {})[row.number] = leans
    shown = {panel: _shown(each, len(rows)) for panel, each in crossed.items()}
    shown[BORDER] = _above_border(rows)
    crosser = max(crossed, key=lambda panel: len(crossed[panel]), default=None)
    times = tuple(accumulate(n in crossed[crosser] for n in range(len(rows) + 1))) if crosser else ()
    stitches = (rows[0].before, *(row.after for row in rows))
    return Whereabouts(len(rows), shown, _ridges(rows), stitches, times, crosser)


def _ridges(rows: tuple[WorkedRow, ...]) -> tuple[int, ...]:
    """Ridges at the right edge: rows of bumps, all across its section, that stand on a row of knit stitches."""
    out, below = [0], Face.KNIT
    for row in rows:
        shown = {loop.face for op in row.parts[0].ops for loop in op.made}
        one = next(iter(shown)) if len(shown) == 1 else None
        out.append(out[-1] + (one is Face.PURL and below is Face.KNIT))
        below = one if one is not None else below
    return tuple(out)


def part_leans(part: WorkedPart) -> Leans | None:
    """How a part's crossings lean in a row, as the right side shows them; None where nothing crosses."""
    ops = (op.whole if isinstance(op, HalfCrossing) else op for op in part.ops)
    leans = {op.lean for op in ops if isinstance(op, Crossing | CrossedDecrease)}
    if not leans:
        return None
    return "both" if len(leans) > 1 else "left" if leans == {Lean.LEFT} else "right"


def _shown(crossed: Mapping[int, Leans], rows: int) -> tuple[Shown | None, ...]:
    """What a panel shows after each row; above its own end the rows over its last crossing are counted on."""
    out: list[Shown | None] = [None]
    last = 0
    for row in range(1, rows + 1):
        last = row if row in crossed else last
        out.append(Shown(row - last, crossed[last]) if last else None)
    return tuple(out)


def _above_border(rows: tuple[WorkedRow, ...]) -> tuple[Shown | None, ...]:
    """The rows since the texture changed all across: since the cast-on, a border, or a band below."""
    out: list[Shown | None] = [Shown(0, "both")]
    start, last = 0, rows[0]
    for row in rows:
        kind, below = (("border" in each.section or each.section in CHANGES, each.band) for each in (row, last))
        start = row.number - 1 if kind != below else start
        out.append(Shown(row.number - start, "both") if row.number - start <= COUNTABLE else None)
        last = row
    return tuple(out)

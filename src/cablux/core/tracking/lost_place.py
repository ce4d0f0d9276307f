"""Where am I?: the rows that fit what the cloth shows of its cables, and which panel to look at next.

Who has lost her place sees how many bars lie above a panel's last crossing, and which way it leans. That holds for one
row in so many; a second panel with another repeat leaves fewer, and so on.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from itertools import accumulate, pairwise
from types import MappingProxyType
from typing import Literal

from ..notation import CrossedDecrease, Crossing, Face, HalfCrossing, Lean, Side
from ..pattern.worked import CHANGES, WorkedPart, WorkedRow

Leans = Literal["left", "right", "both"]
SEEN_LEANS: tuple[Leans, ...] = ("left", "right", "both")
Question = Literal["ridges", "stitches", "crossings", "facing"]
Panel = tuple[int, str]
"""A panel of a piece: the place of its segment from the right, and its name."""
BORDER: Panel = (-1, "Rows above the border, or the cast-on")
"""What is not crossed, but counted as well where one texture ends and another begins."""
APART = 4
"""Our choice: crossings with fewer rows from one to the next, such as those by which strands wander, run into each
other for the eye; they are counted only where no panel has others."""
COUNTABLE = 24
"""Our choice: more rows than that are not counted on the cloth at a glance."""


@dataclass(frozen=True)
class Shown:
    """What a panel shows: the rows worked since its last crossing, and how that leans."""

    bars: int
    leans: Leans


@dataclass(frozen=True, kw_only=True)
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


@dataclass(frozen=True, kw_only=True)
class PanelSights:
    """What the panels of a piece show: `shown[panel][r]` after row r, None where it has not crossed yet.

    `answers[question][r]`, what is told beside them after row r: from the cast-on up "ridges" of purl bumps at the
    right edge and "crossings" of `crosser`, the panel that has most that can be counted; "stitches" on the needle; and
    the side "facing" the knitter as the next row begins.
    """

    rows: int
    shown: Mapping[Panel, tuple[Shown | None, ...]]
    answers: Mapping[Question, Sequence[int | Side]]
    crosser: Panel | None = None

    @property
    def questions(self) -> tuple[Question, ...]:
        """Those whose answers tell where one is, the sooner answered first.

        Sides do where it is worked to and fro; stitches, where they are others in more rows than at its ends; ridges,
        where there is one in every two to four rows, all the way up.
        """
        helps: dict[Question, bool] = {
            "facing": len(set(self.answers["facing"])) > 1,
            "ridges": int(self.answers["ridges"][-1]) >= max(3, self.rows // 4),
            "stitches": len(set(self.answers["stitches"])) > 4,
            "crossings": self.crosser is not None,
        }
        return tuple(question for question, does in helps.items() if does)

    def fitting(
        self,
        seen: Iterable[Sighting],
        rows: Iterable[int] | None = None,
        told: Mapping[Question, int | Side] = MappingProxyType({}),
    ) -> tuple[int, ...]:
        """The rows after which all of it would be seen, of those given, or of all from the cast-on on."""
        sightings = tuple(seen)
        return tuple(
            r
            for r in (range(self.rows + 1) if rows is None else rows)
            if all(s.panel in self.shown and s.fits(self.shown[s.panel][r]) for s in sightings)
            and all(self.answers[question][r] == answer for question, answer in told.items())
        )

    def next_panel(self, rows: Sequence[int], asked: Iterable[Panel] = ()) -> Panel | None:
        """The panel whose sight leaves the fewest of these rows, on average; None where none tells them apart."""
        left = {panel: self.left_by(panel, rows) for panel in self.shown if panel not in set(asked)}
        best = min(left, key=lambda panel: left[panel], default=None)
        return best if best is not None and left[best] < len(rows) else None

    def left_by(self, panel: Panel, rows: Sequence[int]) -> float:
        """How many of these rows are left on average when the panel is looked at, each row as likely as another."""
        return _left(self.shown[panel][r] for r in rows)

    def next_question(self, rows: Sequence[int], asked: Iterable[Question] = ()) -> tuple[Question, float] | None:
        """The question whose answer leaves the fewest of these rows, and how many on average; None where none does."""
        left = {q: _left(self.answers[q][r] for r in rows) for q in self.questions if q not in set(asked)}
        best = min(left, key=lambda question: left[question], default=None)
        return (best, left[best]) if best is not None and left[best] < len(rows) else None


def _left(shown: Iterable[object]) -> float:
    """How many rows are left on average once it is known what is shown, each row as likely as another."""
    groups = Counter(shown)
    return sum(n * n for n in groups.values()) / max(1, groups.total())


def panel_sights(rows: tuple[WorkedRow, ...]) -> PanelSights:
    """What the panels of a piece show, from its compiled rows; a panel is what crosses somewhere."""
    crossed: dict[Panel, dict[int, Leans]] = {}
    for row in rows:
        for part in row.parts:
            leans = part_leans(part)
            if leans is not None:
                crossed.setdefault((part.segment, part.name), {})[row.number] = leans
    shown = {panel: _shown(each, len(rows)) for panel, each in crossed.items()}
    shown[BORDER] = _above_border(rows)
    crosser = max(crossed, key=lambda panel: (_nearest(crossed[panel]) >= APART, len(crossed[panel])), default=None)
    times = crossed[crosser] if crosser is not None else {}
    sides = [row.side for row in rows]
    answers: dict[Question, Sequence[int | Side]] = {
        "ridges": _ridges(rows),
        "stitches": (rows[0].before, *(row.after for row in rows)),
        "crossings": tuple(accumulate(int(n in times) for n in range(len(rows) + 1))),
        "facing": (*sides, sides[-1].other if len(set(sides)) > 1 else sides[-1]),
    }
    return PanelSights(rows=len(rows), shown=shown, answers=answers, crosser=crosser)


def _nearest(crossed: Mapping[int, Leans]) -> int:
    """The fewest rows from one crossing to the next; those of a single one are as far as can be."""
    return min((b - a for a, b in pairwise(crossed)), default=APART)


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

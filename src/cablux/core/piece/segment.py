"""Segments: a run of stitches in one pattern, as it is placed in a band."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Annotated, Literal

from ..declared import Count, Ge, Le, Stitches, Unfiled, check_choices
from ..library import LIBRARY, StitchPattern, find_pattern
from ..notation import Chart, ChartRow, Crossing, Face, Op, Stitch
from ..notation.closing import closed_chart as closed_chart

Role = Literal["edge", "seam", "panel", "background"]
SIDES: tuple[Role, ...] = ("edge", "seam")

PURL_MARGIN = 2
"""Common practice: keep one or two purl stitches beside every cable; one sinks from view, two read clearly."""
MOST_PURL_MARGIN = 6


@dataclass(frozen=True, kw_only=True)
class Segment:
    """A run of stitches in one pattern: `repeats` times its multiple, plus its balance and its purl margins.

    `locked`: its count stays. `placed`: its place stays. `phase`: how many rows later in its repeat it begins.
    `purl_margin`: purl stitches added on each side of a panel. `least`, `most` (0: none of its own), `by`: bounds of
    its stitches, and of what its repeats are a multiple, where it is chosen by the solver. `closed`: it goes round a
    tube alone and meets itself; a chart that nowhere can keeps its balance, and shows a line there. `wander`: a panel
    goes so many stitches to the left (less than 0: to the right) and back, one every `wander_every` rows.
    """

    role: Role
    pattern: StitchPattern
    repeats: Stitches
    mirrored: bool = False
    locked: bool = False
    placed: bool = False
    phase: Annotated[int, Ge(0), Le(2_000)] = 0
    purl_margin: Annotated[int, Ge(0), Le(MOST_PURL_MARGIN)] = 0
    least: Count = 0
    most: Count = 0
    by: Annotated[int, Ge(1), Le(50)] = 1
    closed: Annotated[bool, Unfiled()] = False
    wander: Annotated[int, Ge(-200), Le(200)] = 0
    wander_every: Annotated[int, Ge(1), Le(200)] = 4

    def __post_init__(self) -> None:
        check_choices(self)

    @property
    def pattern_id(self) -> str:
        """The id of its pattern, from the library or the knitter's own."""
        return self.pattern.id

    @property
    def is_panel(self) -> bool:
        """Whether it is placed for its own sake."""
        return self.role == "panel"

    @property
    def is_background(self) -> bool:
        """Whether it fills up between panels."""
        return self.role == "background"

    @property
    def is_seam(self) -> bool:
        """Whether a seam will take it."""
        return self.role == "seam"

    @property
    def is_side(self) -> bool:
        """Whether it stands at a side of the piece: an edge, or the stitches of a seam."""
        return self.role in SIDES

    @cached_property
    def cloth(self) -> StitchPattern:
        """Its pattern with the purl margins it has here: what is measured, drawn and relaxed."""
        return _cloth(self.pattern, self.purl_margin, self.closed)

    @cached_property
    def chart(self) -> Chart:
        """The chart as placed: with its purl margins, begun at its phase, mirrored if asked."""
        return _placed(self.cloth.chart, self.phase, self.mirrored)

    @cached_property
    def stitches(self) -> int:
        """Its stitches on the needle."""
        return self.chart.width(self.repeats)

    def setup_ops(self, number: int, of: int) -> tuple[Op, ...]:
        """Set-up row `number` of `of`: its chart's own, a background's texture up to row 1, or plain stitches."""
        if self.is_background and not self.chart.setup and self.steady:
            return self.chart.ops(number - of, self.repeats)
        return self.chart.setup_ops(number, of, self.repeats)

    @cached_property
    def steady(self) -> bool:
        """Whether it neither crosses nor changes its count, so that any of its rows can follow a border."""
        return not self.chart.crossing_rows and all(row.counts[0] == row.counts[1] for row in self.chart.rows)

    @property
    def name(self) -> str:
        """The pattern's name, marked if mirrored."""
        return f"{self.pattern.name} (mirrored)" if self.mirrored else self.pattern.name

    def mirror_of(self, other: Segment) -> bool:
        """Whether the two would be each other's picture in a mirror, were their repeats the same."""
        mirrored = self.role == other.role and self.wander == -other.wander
        return mirrored and same_cloth(self.chart.mirrored(), other.chart)

    def reflected(self) -> Segment:
        """Its picture in a mirror, by the name that the library has for it where it has one."""
        if self.mirrored:
            return replace(self, mirrored=False, wander=-self.wander)
        pattern, turned = _mirror_image(self.pattern)
        return replace(self, pattern=pattern, mirrored=turned, wander=-self.wander)


def library_segment(
    role: Role, pattern_id: str, repeats: int, *, mirrored: bool = False, locked: bool = False
) -> Segment:
    """A segment in a pattern of the library. Raises IllegalPiece if there is none of that id."""
    return Segment(role=role, pattern=find_pattern(pattern_id), repeats=repeats, mirrored=mirrored, locked=locked)


def same_cloth(one: Chart, other: Chart) -> bool:
    """Whether two charts make the same cloth; two repeats tell where the box stands, whose cut does not matter."""
    sizes = [(c.multiple, c.balance, c.height) for c in (one, other)]
    return sizes[0] == sizes[1] and all(a.ops(2) == b.ops(2) for a, b in zip(one.rows, other.rows, strict=True))


@lru_cache(maxsize=512)
def _mirror_image(pattern: StitchPattern) -> tuple[StitchPattern, bool]:
    """A pattern's picture in a mirror: itself, the library's own of that hand, or itself marked as mirrored."""
    mirrored = pattern.chart.mirrored()
    if same_cloth(mirrored, pattern.chart):
        return pattern, False
    for one, other in (("left", "right"), ("right", "left")):
        twin = "-".join(other if word == one else word for word in pattern.id.split("-"))
        if twin != pattern.id and twin in LIBRARY and same_cloth(mirrored, LIBRARY[twin].chart):
            return LIBRARY[twin], False
    return pattern, True


@lru_cache(maxsize=512)
def _cloth(pattern: StitchPattern, purl_margin: int, closed: bool) -> StitchPattern:
    chart = pattern.chart
    if closed:
        chart = closed_chart(chart) or chart
    if purl_margin:
        purl = (Stitch(Face.PURL),) * purl_margin

        def widened(row: ChartRow) -> ChartRow:
            return replace(row, before=purl + row.before, after=row.after + purl, written=None)

        chart = replace(chart.mapped(widened), balance=chart.balance + 2 * purl_margin)
    return pattern if chart is pattern.chart else replace(pattern, chart=chart)


@lru_cache(maxsize=1024)
def _placed(chart: Chart, phase: int, mirrored: bool) -> Chart:
    chart = chart.shifted(phase)
    return chart.mirrored() if mirrored else chart


@lru_cache(maxsize=1024)
def bare_sides(chart: Chart) -> tuple[bool, bool]:
    """Whether a crossing reaches the chart's first (last) stitch, so that nothing sets the cable off there."""
    return _bare(chart), _bare(chart.mirrored())


def _bare(chart: Chart) -> bool:
    return any(isinstance(row.ops(1)[0], Crossing) for row in chart.rows)


def proposed_purl_margin(pattern: StitchPattern) -> int:
    """Purl stitches to put on each side of a panel: none where its own chart ends in background."""
    return PURL_MARGIN if any(bare_sides(pattern.chart)) else 0

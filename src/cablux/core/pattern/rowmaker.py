"""Writes the rows of one piece from the bottom up: borders, rows that change the count, set-up rows and bodies."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

from ..ends.borders import border_chart, border_repeats, runs_through
from ..ends.cast_on import CastOnPlan, EdgePlan
from ..ends.transition import Transition
from ..needle.chart_columns import Lane
from ..needle.columns import PLAIN_ROW, RowShaping
from ..needle.needle import LaneRow, Needle
from ..needle.steps import CountStep
from ..notation import Face, Op, Side, faces, side_of, takes
from ..piece.piece import BandView, Piece
from ..piece.segment import Segment
from ..rows.heights import BandRows, RowPlan, chart_offset
from ..rows.shaped_band import shape_band, worked_view
from .worked import PieceSection, WorkedPart, WorkedRow


class RowMaker:
    """The rows of a piece whose ends and rows have been planned."""

    def __init__(self, piece: Piece, cast_on: CastOnPlan, rows: RowPlan) -> None:
        self.piece, self.cast_on, self.plan = piece, cast_on, rows
        self.number = 0
        self.made: dict[tuple[int, int, int], WorkedPart] = {}  # by band, segment, chart row: they come round again

    def rows(self) -> Iterator[WorkedRow]:
        """All rows in order."""
        last = len(self.piece.bands) - 1
        yield from self.border(0, self.cast_on.bottom, up=True)
        for band, rows in enumerate(self.plan.bands):
            yield from self.lead(band, rows)
            if worked_view(self.piece.band_views[band]).shaping is not None:
                yield from self.shaped(band)
                continue
            yield from self.steady(band, rows.body)
        yield from self.border(last, self.cast_on.top, up=False)

    def row(self, section: PieceSection, band: int, parts: Sequence[WorkedPart]) -> WorkedRow:
        """The next row of such parts."""
        return WorkedRow(
            number=self.number,
            section=section,
            side=self.side(),
            parts=tuple(p for p in parts if p.takes or p.makes or p.columns),
            band=band,
        )

    def side(self) -> Side:
        """The side that faces the knitter now."""
        if self.piece.round:
            return Side.WS if self.piece.inside_out else Side.RS
        return side_of(self.number)

    def sides(self, band: int) -> list[WorkedPart]:
        """The edges, right and left, in their own texture, which runs on from cast-on to bind-off."""
        view = self.piece.band_views[band]
        places = (0, len(view.segments) - 1) if view.sides else ()
        return [self.charted(band, at, (self.number - 1) % view.segments[at].chart.height + 1) for at in places]

    def charted(self, band: int, at: int, chart_row: int) -> WorkedPart:
        """A segment's row of its own chart; each is made once."""
        key = (band, at, chart_row)
        if key not in self.made:
            s = self.piece.band_views[band].segments[at]
            self.made[key] = _part(at, s, s.chart.ops(chart_row, s.repeats), chart_row=chart_row)
        return self.made[key]

    def inner(self, band: int) -> Iterator[tuple[int, Segment]]:
        """The segments between the sides, with their places."""
        view = self.piece.band_views[band]
        return iter(enumerate(view.inner, start=0 if self.piece.round else 1))

    # borders

    def border(self, band: int, edge: EdgePlan, *, up: bool) -> Iterator[WorkedRow]:
        """A border's rows, those that change the count among them: the last at the bottom, the first at the top."""
        if edge.change is None:
            for border_row in range(1, edge.border.rows + 1):
                self.number += 1
                parts = self.border_parts(band, edge, border_row)
                yield self.row("bottom border" if up else "top border", band, parts)
            return
        total, steps = edge.border.rows, edge.rows
        every = self.piece.row_step()
        changing = [total - every * i for i in range(steps)][::-1] if up else [1 + every * i for i in range(steps)]
        change = edge.change if up else edge.change.reversed()
        level = 0
        for border_row in range(1, total + 1):
            self.number += 1
            if border_row in changing:
                section: PieceSection = "bottom change row" if up else "top change row"
                sides, ops = self.border_ops(band, edge, border_row)
                yield self.stepped(section, band, change, level=level, texture=faces(ops), sides=sides, up=up)
                level += 1
            else:
                section = "bottom border" if up else "top border"
                whole = level == (0 if up else steps)
                if whole:
                    yield self.row(section, band, self.border_parts(band, edge, border_row))
                else:
                    sides, ops = self.border_ops(band, edge, border_row)
                    yield self.stepped(
                        section, band, change, level=level, texture=faces(ops), sides=sides, up=up, makes=False
                    )

    def border_ops(self, band: int, edge: EdgePlan, border_row: int) -> tuple[list[WorkedPart], tuple[Op, ...]]:
        """A border row between the sides, and its sides cut from it where they are one texture."""
        view = self.piece.band_views[band]
        chart = border_chart(view, edge.border)
        repeats = border_repeats(view, edge.border, edge.count)
        assert repeats is not None, "the count was chosen to fit the border"
        ops = chart.ops(border_row, repeats)
        sides = self.sides(band)
        if not sides or not runs_through(view, edge.border):
            return sides, ops
        chart_row = (border_row - 1) % chart.height + 1
        a, b = sides[0].takes, len(ops) - sides[1].takes
        cut = [
            WorkedPart(segment=part.segment, name=part.name, family=part.family, ops=mine, chart_row=chart_row)
            for part, mine in zip(sides, (ops[:a], ops[b:]), strict=True)
        ]
        return cut, ops[a:b]

    def border_parts(self, band: int, edge: EdgePlan, border_row: int) -> list[WorkedPart]:
        """Right edge, border, left edge."""
        sides, ops = self.border_ops(band, edge, border_row)
        pattern = edge.border.pattern
        chart_row = (border_row - 1) % pattern.chart.height + 1
        middle = WorkedPart(
            segment=0 if self.piece.round else 1, name=pattern.name, family=pattern.family, ops=ops, chart_row=chart_row
        )
        return [*sides[:1], middle, *sides[1:]]

    def stepped(
        self,
        section: PieceSection,
        band: int,
        change: Transition,
        *,
        level: int,
        texture: Sequence[Face],
        sides: Sequence[WorkedPart],
        up: bool,
        makes: bool = True,
    ) -> WorkedRow:
        """A row that changes the count (or with `makes` off a plain one between two such), in a texture's faces.

        `texture` has the faces of the row's columns: those at the change's beginning if it goes `up`, else at its end.
        """
        parts, start = [], 0
        last = len(change.parts) - 1
        for place, ((at, s), steps) in enumerate(zip(self.inner(band), change.parts, strict=True)):
            columns = (steps.from_columns if up else steps.to_columns)[level + makes]
            shown = [texture[start + c] for c in columns]
            step = steps.steps[level] if makes else CountStep(before=len(shown), after=len(shown))
            parts.append(_part(at, s, step.ops(shown, flip=2 * place > last, middle=2 * place == last)))
            start += steps.counts[0 if up else -1]
        return self.row(section, band, [*sides[:1], *parts, *sides[1:]])

    # bodies

    def lead(self, band: int, rows: BandRows) -> Iterator[WorkedRow]:
        """The rows that lead into a band: its set-up rows, and before them those that change the count."""
        change = self.cast_on.between[band - 1] if band else None
        levels = change.rows if change and change.changes else 0
        shown = tuple(face for _, s in self.inner(band) for face in s.chart.faces_below(1, s.repeats))
        level = 0
        for at in range(rows.lead):
            self.number += 1
            if change is not None and level < levels:
                makes = at % 2 == 0
                yield self.stepped(
                    "change row",
                    band,
                    change,
                    level=level,
                    texture=shown,
                    sides=self.sides(band),
                    up=False,
                    makes=makes,
                )
                level += makes
                continue
            yield self.setup_row(band, at, rows.lead)

    def setup_row(self, band: int, at: int, lead: int) -> WorkedRow:
        """One of the last plain rows before the charts begin."""
        parts = [_part(place, s, s.setup_ops(at + 1, lead)) for place, s in self.inner(band)]
        sides = self.sides(band)
        return self.row("set-up rows", band, [*sides[:1], *parts, *sides[1:]])

    def shaped(self, band: int) -> Iterator[WorkedRow]:
        """The rows of a band that changes its count: worked on its active loops."""
        view = worked_view(self.piece.band_views[band])
        found = shape_band(view)
        needle = Needle(found.plane.lanes, found.active.first, clear=found.shaping.keeps_clear, narrow=True)
        yield from self.on_needle(view, needle, zip(found.numbers, found.active.rows, strict=True), told=True)

    def steady(self, band: int, rows: int) -> Iterator[WorkedRow]:
        """The rows of a band in which every column lives from the first row to the last."""
        view = self.piece.band_views[band]
        lanes = tuple(Lane(chart=s.chart, repeats=s.repeats) for s in view.segments)
        first, offset, sides = self.number + 1, chart_offset(view), len(view.sides)
        last = len(lanes) - 1
        numbers = [
            tuple(
                ((first + r - 1) if sides and at in (0, last) else (r + offset)) % lane.chart.height + 1
                for at, lane in enumerate(lanes)
            )
            for r in range(rows)
        ]
        begin = numbers[0] if rows else ()
        columns = [
            (at, c)
            for at, (lane, number) in enumerate(zip(lanes, begin, strict=False))
            for c in range(takes(lane.chart.ops(number, lane.repeats)))
        ]
        yield from self.on_needle(view, Needle(lanes, columns), ((n, PLAIN_ROW) for n in numbers), told=False)

    def on_needle(
        self, view: BandView, needle: Needle, rows: Iterable[tuple[tuple[int, ...], RowShaping]], *, told: bool
    ) -> Iterator[WorkedRow]:
        """Rows worked on a needle, by their chart rows and shaping; columns are `told` where some of them end."""
        made: dict[int, tuple[LaneRow, WorkedPart]] = {}  # by the lane's row itself: rows come round again

        def part(worked: LaneRow) -> WorkedPart:
            if id(worked) not in made:
                s = view.segments[worked.lane]
                number, columns = max(0, worked.number), worked.columns if told else ()
                new = WorkedPart(
                    segment=worked.lane,
                    name=s.name,
                    family=s.pattern.family,
                    ops=worked.ops,
                    chart_row=number,
                    columns=columns,
                    held=worked.held,
                )
                made[id(worked)] = worked, new
            return made[id(worked)][1]

        for numbers, shaping in rows:
            self.number += 1
            yield self.row("body", view.at, [part(each) for each in needle.work(self.side(), numbers, shaping)])


def _part(at: int, s: Segment, ops: tuple[Op, ...], *, chart_row: int = 0) -> WorkedPart:
    return WorkedPart(segment=at, name=s.name, family=s.pattern.family, ops=ops, chart_row=chart_row)

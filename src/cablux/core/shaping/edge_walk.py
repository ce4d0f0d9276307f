"""The edges of a shaped band: which of its columns they make and take, row by row."""

from __future__ import annotations

from collections.abc import Sequence

from ..errors import IllegalPiece
from ..needle.columns import PLAIN_ROW, ActiveColumns, Column, CrossedColumns, MadeColumn, RowShaping, TakenColumn
from ..notation import Lean
from .manner import Edge, Manner, ShapedEdges
from .plane import Plane


class EdgeWalk:
    """Walks up a band and says which columns its edges make and take; inner columns are counted from the first row's.

    The edges keep their own stitches; where a piece begins or ends narrower than both, the columns next to its middle
    are the first to come and the last to go.
    """

    def __init__(
        self, plane: Plane, count: int, begun: tuple[Column, ...], *, edges: ShapedEdges, manner: Manner
    ) -> None:
        self.plane, self.edges, self.manner = plane, edges, manner
        sides = [s.stitches for s in plane.view.sides] or [0, 0]
        # too narrow for both edges: each keeps its outermost stitches, the right one at least one to work beside
        short = max(0, sum(sides) - count)
        # kept in order from the right: (0, i) right edge, (1, place) inner, (2, i) left edge
        self.right = [(0, i) for i in range(sides[0] - min(short, sides[0] - 1) if sides[0] else 0)]
        rest = max(0, short - (sides[0] - len(self.right)))
        self.left = [(2, i) for i in range(rest, sides[1])]
        self.full = sides
        self.low, self.high = 0, max(0, count - sum(sides))
        self.begun = len(begun) == count
        if self.begun:
            self._go_on(begun)
        self.first = self._needle()
        self.both = False
        self.widest: tuple[int, int] = (self.low, self.high)

    def _go_on(self, columns: tuple[Column, ...]) -> None:
        """On the columns that a band below has left: the outermost of them are the edges now."""
        last, starts, first = len(self.plane.lanes) - 1, self.plane.starts, self.plane.first
        sided = len(self.plane.view.sides) > 0
        now = [
            (0, c) if sided and lane == 0 else (2, c) if sided and lane == last else (1, starts[lane - first] + c)
            for lane, c in columns
        ]
        right, left = self.full
        self.right, self.left = now[:right], now[len(now) - left :]
        inner = now[right : len(now) - left]
        self.low, self.high = (inner[0][1], inner[-1][1] + 1) if inner else (0, 0)

    def _needle(self) -> list[tuple[int, int]]:
        inner = [(1, place) for place in range(self.low, self.high)]
        return [*self.right, *inner, *self.left]

    def row(self, edges: list[tuple[Edge, int]]) -> RowShaping:
        """The shaping of a row, columns still counted from the first row's."""
        made: list[MadeColumn] = []
        taken: list[TakenColumn] = []
        both = self.both = len(edges) == 2
        for edge, sign in edges:
            # an increase is settled at once, for a second one may stand beside what it made; decreases only afterwards,
            # for both ends take from the needle as it was when the row began
            if sign > 0:
                made.append(self._made(edge, made))
                self._settle(made[-1:], [])
            else:
                taken.append(self._taken(edge, both=both))
        self._settle([], taken)
        return RowShaping(made=tuple(made), taken=tuple(taken))

    def _made(self, edge: Edge, before: list[MadeColumn]) -> MadeColumn:
        lean = Lean.LEFT if edge == "left" else Lean.RIGHT
        if self.low == self.high:
            # no inner column lives: what the edges still lack comes before anything of the middle
            if len(self.right) < self.full[0]:
                return self._new((0, len(self.right)), lean, before)
            if len(self.left) < self.full[1]:
                return self._new((2, self.left[0][1] - 1), lean, before)
        return self._new((1, self.low - 1 if edge == "right" else self.high), lean, before)

    def _new(self, column: Column, lean: Lean, before: list[MadeColumn]) -> MadeColumn:
        kind = self.manner.increase
        beside: Column | None = None
        if kind == "kfb":
            needle = self._needle()
            near = [c for c in needle if c > column] if lean is Lean.RIGHT else [c for c in needle if c < column]
            beside = (near[0] if lean is Lean.RIGHT else near[-1]) if near else None
            if beside is None or any(beside in (m.column, m.beside) for m in before) or self._crowded():
                kind, beside = "M1", None  # on the first few stitches there may be no other left to make two of
        return MadeColumn(column=column, kind=kind, lean=lean, beside=beside)

    def _crowded(self) -> bool:
        """Whether both edges are shaped side by side, with hardly a stitch between them."""
        return self.both and self.high - self.low < 2

    def _taken(self, edge: Edge, *, both: bool) -> TakenColumn:
        """The outermost inner column, into the next one; where none is left, the innermost of the other edge."""
        inner = self.high - self.low
        lean = self.manner.decrease(edge)
        if inner == 0:
            return self._taken_of_edge(edge, lean)
        column = (1, self.low) if edge == "right" else (1, self.high - 1)
        # three are the fewest of which two ends take one each and find one to work it into
        if inner > (2 if both else 1):
            return TakenColumn(column, (1, column[1] + (1 if edge == "right" else -1)), lean)
        if not (self.right or self.left):
            raise IllegalPiece("So few stitches are left that both edges meet: give the narrowest place more of them.")
        # one end alone goes on inwards, into the other edge; of two each goes into its own edge, or both would
        # claim the same stitch
        if edge == "right":
            into = self.right[-1] if (both or not self.left) and self.right else self.left[0]
        else:
            into = self.left[0] if (both or not self.right) and self.left else self.right[-1]
        return TakenColumn(column, into, lean)

    def _taken_of_edge(self, edge: Edge, lean: Lean) -> TakenColumn:
        if len(self.right) >= len(self.left):
            return TakenColumn(self.right[-1], self.left[0] if self.left else self.right[-2], lean)
        return TakenColumn(self.left[0], self.right[-1] if self.right else self.left[1], lean)

    def bind_off(self, edge: Edge, stitches: int, *, keep: bool) -> RowShaping:
        """The outermost columns bound off. With `keep` as many as the edge had are kept at the new one, and shaping
        stands inside them; a piece that grows again is shaped at its very edge.

        Raises IllegalPiece where nothing would be left.
        """
        needle = self._needle()
        if stitches >= len(needle):
            raise IllegalPiece(f"{stitches} stitches are to be bound off of {len(needle)}: bind off fewer.")
        gone = needle[:stitches] if edge == "right" else needle[len(needle) - stitches :]
        kept = needle[stitches:] if edge == "right" else needle[: len(needle) - stitches]
        at, mine = (0, self.right) if edge == "right" else (1, self.left)
        left, inner = [c for c in mine if c in kept], [c for c in kept if c[0] == 1 and c not in self.right + self.left]
        more = min(self.full[at] - len(left), len(inner)) if keep else 0
        near = inner[:more] if edge == "right" else inner[len(inner) - more :]
        mine[:] = [*left, *near] if edge == "right" else [*near, *left]
        # what was kept is the edge from now on: nothing of the old one is to come back
        self.full[at] = len(mine)
        rest = [c for c in inner if c not in near]
        self.low, self.high = (rest[0][1], rest[-1][1] + 1) if rest else (self.low, self.low)
        return RowShaping(bound=tuple(gone))

    def cross(self, edges: Sequence[tuple[Edge, int]]) -> RowShaping:
        """So many of the outermost inner columns at an edge crossed with as many beside them, and taken into those.

        The crossing leans towards the edge. Raises IllegalPiece where two of them would meet.
        """
        if 2 * sum(stitches for _, stitches in edges) > self.high - self.low:
            raise IllegalPiece("So few stitches are left that the crossings of both edges meet: keep more of them.")
        out = []
        for edge, n in edges:
            # n cross over the n beside them and are worked together with those: of 2n columns n go on
            low = self.low if edge == "right" else self.high - 2 * n
            columns: tuple[Column, ...] = tuple((1, place) for place in range(low, low + 2 * n))
            out.append(
                CrossedColumns(columns, columns[n:], Lean.RIGHT)
                if edge == "right"
                else CrossedColumns(columns, columns[:n], Lean.LEFT)
            )
            self.low, self.high = (self.low + n, self.high) if edge == "right" else (self.low, self.high - n)
        return RowShaping(crossed=tuple(out))

    def _settle(self, made: list[MadeColumn], taken: list[TakenColumn]) -> None:
        for column in [m.column for m in made]:
            if column[0] == 0:
                self.right.append(column)
            elif column[0] == 2:
                self.left.insert(0, column)
            else:
                self.low, self.high = min(self.low, column[1]), max(self.high, column[1] + 1)
        for column in [t.column for t in taken]:
            if column in self.right:
                self.right.remove(column)
            elif column in self.left:
                self.left.remove(column)
            elif column[1] == self.low:
                self.low += 1
            else:
                self.high -= 1
        if self.high - self.low > self.widest[1] - self.widest[0]:
            self.widest = (self.low, self.high)

    def placed(self, rows: tuple[RowShaping, ...]) -> ActiveColumns:
        """The lives in the plane's own columns: the widest row lies over the layout's middle, or at its fixed edge."""
        # the walk counted from its first row, which may be its narrowest: the layout lies over the widest, where all of
        # it is seen; columns that a band below has left are the plane's own already
        low, high = self.widest
        across = self.plane.width
        shift = {"right": across - high, "left": -low}.get(self.edges, (across - (high - low)) // 2 - low)
        shift = 0 if self.begun else shift
        last = len(self.plane.lanes) - 1

        def place(column: Column) -> Column:
            lane, at = column
            return (0, at) if lane == 0 else (last, at) if lane == 2 else self.plane.column(at + shift)

        def placed_row(row: RowShaping) -> RowShaping:
            made = (
                MadeColumn(column=place(m.column), kind=m.kind, lean=m.lean, beside=m.beside and place(m.beside))
                for m in row.made
            )
            return RowShaping(
                made=tuple(made),
                taken=tuple(TakenColumn(place(t.column), place(t.into), t.lean) for t in row.taken),
                bound=tuple(sorted(map(place, row.bound))),
                crossed=tuple(
                    CrossedColumns(tuple(map(place, c.columns)), tuple(map(place, c.left)), c.lean) for c in row.crossed
                ),
            )

        return ActiveColumns(
            tuple(map(place, self.first)), tuple(row if row is PLAIN_ROW else placed_row(row) for row in rows)
        )

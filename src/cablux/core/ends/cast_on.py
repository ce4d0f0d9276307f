"""The cast-on and the bind-off: straight or stepped, where stitches are made, and what each choice does to the edge."""

from __future__ import annotations

from bisect import bisect_left
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise, starmap

from ..errors import IllegalPiece
from ..piece.border import Border, SpreadStyle
from ..piece.piece import BandView, Piece, count_stations
from ..piece.widths import body_um
from .borders import border_um, fitting_counts, multiple_text
from .transition import MOST_ROWS, Transition, increase_rows, transition_bounds


@dataclass(frozen=True, kw_only=True)
class EdgePlan:
    """How a piece begins or ends: the border's stitches, and the rows between it and the body band beside it.

    `count` stitches are cast on (or bound off); `change` leads from the border to the body, None where there is no
    border. `border_um` is how wide the border would lie by itself, `body_um` the body beside it.
    """

    border: Border
    count: int
    change: Transition | None
    body: int
    border_um: int
    body_um: int

    @property
    def difference(self) -> int:
        """Stitches the body has more than the border (fewer: less than none)."""
        return self.body - self.count

    @property
    def by_width(self) -> bool:
        """Whether each segment's share of the border follows its width, and not the row's even beat."""
        return self.border.spread == "cables" and (self.border.style != "straight" or self.border.count > 0)

    @property
    def flare_um(self) -> int:
        """Border width at its own ease, less the body's."""
        return self.border_um - self.body_um

    @property
    def rows(self) -> int:
        """In how many rows the count changes; 0 where it does not."""
        return self.change.rows if self.change and self.difference else 0


@dataclass(frozen=True)
class CastOnPlan:
    """Both ends of a piece, and what lies between its body bands (`between[i]`: from band i to band i + 1)."""

    bottom: EdgePlan
    top: EdgePlan
    between: tuple[Transition, ...] = ()

    @property
    def cast_on(self) -> int:
        """Stitches to cast on."""
        return self.bottom.count

    @property
    def body(self) -> int:
        """The count of the first body band."""
        return self.bottom.body

    @property
    def difference(self) -> int:
        """Stitches made between the bottom border and the body."""
        return self.bottom.difference


@lru_cache(maxsize=256)
def plan_cast_on(piece: Piece) -> CastOnPlan:
    """Both ends of a piece and the rows between its bands. Raises IllegalPiece where one cannot be had.

    >>> from cablux.core import Band, Evidence, Gauge, Piece, library_segment
    >>> edge, background = library_segment("edge", "garter", 5), library_segment("background", "stockinette", 40)
    >>> band = Band(own=(edge, background, edge))
    >>> known = Evidence(gauge=Gauge(stitches=18, rows=25))
    >>> piece = Piece(name="Scarf", width_mm=300.0, height_mm=1500.0, evidence=known, bands=(band,))
    >>> plan_cast_on(piece).cast_on
    48
    """
    empty = next((s for s in piece.everything if s.repeats < 1), None)
    if empty is not None:
        raise IllegalPiece(f"{empty.name} is worked {empty.repeats} times: give it one repeat or more.")
    bottom, top = end_plan(piece, top=False), end_plan(piece, top=True)
    between = tuple(starmap(_between, pairwise(piece.band_views)))
    return CastOnPlan(bottom, top, between)


def _between(below: BandView, above: BandView) -> Transition:
    """The rows between two bands; a shaped band begins and ends with the count of the one beside it."""
    if below.shaping is None and above.shaping is None:
        _check_reach(below, above)
        return increase_rows(above, sum(s.stitches for s in below.inner), "cables")
    ends = below.stitches if below.shaping is None else count_stations(below)[-1].count
    begins = above.stitches if above.shaping is None else count_stations(above)[0].count
    if ends != begins:
        raise IllegalPiece(
            f"The band below ends with {ends} stitches and the shaped one above begins with {begins}: give the place "
            "where they meet one count, or change the layout."
        )
    return increase_rows(above, sum(s.stitches for s in above.inner), "cables")


def _check_reach(below: BandView, above: BandView) -> None:
    low, high = transition_bounds(above.inner, MOST_ROWS, dense=above.piece.dense)
    count = sum(s.stitches for s in below.inner)
    if not low <= count <= high:
        raise IllegalPiece(
            f"From a band of {below.stitches} stitches one of {above.stitches} cannot be reached in {MOST_ROWS} rows; "
            f"make their counts more alike."
        )


def end_plan(piece: Piece, *, top: bool) -> EdgePlan:
    """How the piece begins or ends: a shaped band's border has the count of its first station, or of its last."""
    view, border = (piece.band_views[-1], piece.top) if top else (piece.band_views[0], piece.bottom)
    if view.shaping is None:
        return edge_plan(view, border)
    station = count_stations(view)[-1 if top else 0]
    own = border_um(view, border, station.count) if border.rows else round(station.width_um)
    return EdgePlan(
        border=border,
        count=station.count,
        change=None,
        body=station.count,
        border_um=own,
        body_um=round(station.width_um),
    )


def edge_plan(view: BandView, border: Border) -> EdgePlan:
    """How a band begins with (or ends in) a border.

    Stepped: the count whose border lies as wide as the body, times the border's factor. Straight: the body's own
    count. Both are moved to the nearest count that suits the border's multiple and that the rows can reach;
    IllegalPiece where none is. A count of the border's own must fit.
    """
    body, width = view.stitches, body_um(view)
    if not border.rows:
        return EdgePlan(border=border, count=body, change=None, body=body, border_um=width, body_um=width)
    count = _count(view, border, body, width=width)
    found = EdgePlan(
        border=border, count=count, change=None, body=body, border_um=border_um(view, border, count), body_um=width
    )
    spread: SpreadStyle = "cables" if found.by_width else "even"
    return replace(found, change=increase_rows(view, count - view.side_stitches, spread))


def _count(view: BandView, border: Border, body: int, *, width: int) -> int:
    sides, rows = view.side_stitches, min(MOST_ROWS, -(-border.rows // view.piece.row_step()))
    low, high = transition_bounds(view.inner, rows, dense=view.piece.dense)
    counts = fitting_counts(view, border, sides + low, high=sides + high)
    if not counts:
        raise IllegalPiece(
            f"{border.pattern.name} does not fit between the edges: it needs a multiple of "
            f"{multiple_text(view, border)}, and {rows} row{'s' if rows > 1 else ''} can only reach {low} to {high} "
            "stitches there."
        )
    if border.count:
        if border.count not in counts:
            near = sorted(counts, key=lambda n: abs(n - border.count))[:2]
            raise IllegalPiece(
                f"{border.count} stitches do not suit this border: it needs a multiple of "
                f"{multiple_text(view, border)}{'' if view.round else ' between the edges'} "
                f"and must lead to {body}. Try {' or '.join(map(str, sorted(near)))}."
            )
        return border.count
    if border.style == "straight":
        return min(counts, key=lambda n: (abs(n - body), n))
    # the width grows with the count, so the best lies beside the place where the two meet
    wanted = width * border.factor
    at = bisect_left(counts, wanted, key=lambda n: border_um(view, border, n))
    beside = counts[max(0, at - 1) : at + 1]
    return min(beside, key=lambda n: (abs(border_um(view, border, n) - wanted), abs(n - body)))


def as_style(border: Border, style: str) -> Border:
    """The border in another style, its count following from it."""
    return replace(border, style="straight" if style == "straight" else "stepped", count=0)

"""The cast-on: straight or stepped, where the increases go, and what each choice does to the edge."""

from __future__ import annotations

from dataclasses import dataclass

from ..errors import IllegalPiece
from .piece import Piece, Segment, is_symmetric
from .widths import body_um, border_um, segment_um


@dataclass(frozen=True)
class CastOnPlan:
    """How a piece begins and ends: stitches cast on, and for each body segment its stitches in the border.

    `shares[i]` border stitches carry body segment i; the difference is made in the increase row and taken
    back in the decrease row. `flare_um` is how much wider the border would lie than the body.
    """

    cast_on: int
    shares: tuple[int, ...]
    body: int
    border_um: int
    body_um: int

    @property
    def difference(self) -> int:
        """Stitches the increase row adds (fewer than none: takes away)."""
        return self.body - self.cast_on

    @property
    def flare_um(self) -> int:
        """Border width at its own ease, less the body's."""
        return self.border_um - self.body_um


def band_um(piece: Piece, count: int) -> int:
    """Width of a border of `count` stitches, edges included, at its own ease."""
    edges = piece.edges
    inside = count - sum(e.stitches for e in edges)
    return border_um(piece.border, inside, piece.measure) + sum(segment_um(e, piece.measure) for e in edges)


def border_runs_through(piece: Piece) -> bool:
    """Whether edges and border are one texture, so that the border is counted from edge to edge."""
    return all(e.pattern_id == piece.border_id for e in piece.edges)


def border_repeats(piece: Piece, count: int) -> int | None:
    """How often the border's multiple is worked in `count` stitches: between the edges, or right across."""
    edges = 0 if border_runs_through(piece) else sum(e.stitches for e in piece.edges)
    return piece.border.chart.repeats_for(count - edges)


def fits_border(piece: Piece, count: int) -> bool:
    """Whether the border's multiple fits."""
    return border_repeats(piece, count) is not None


def plan(piece: Piece, style: str = "") -> CastOnPlan:
    """The cast-on of a piece in its own style, or in the one named ("stepped", "straight").

    Stepped: the count whose border lies as wide as the body. Straight: the body's own count. Both are moved
    to the nearest count that suits the border's multiple and that one row can reach; IllegalPiece where none is.
    """
    body, width = piece.stitches, body_um(piece)
    straight = (style or piece.cast_on) == "straight"
    edges = sum(e.stitches for e in piece.edges)
    low, high = (sum(bounds) for bounds in zip(*map(_share_bounds, piece.inner), strict=True))
    counts = [n for n in range(edges + low, edges + high + 1) if fits_border(piece, n)]
    if not counts:
        raise IllegalPiece(
            f"{piece.border.name} does not fit between the edges: it needs a multiple of {piece.border.chart.multiple}"
            f" + {piece.border.chart.balance}, and one row can only reach {low} to {high} stitches there."
        )

    def miss(n: int) -> tuple[int, int]:
        off = abs(n - body) if straight else abs(band_um(piece, n) - width)
        return off, abs(n - body)

    cast_on = min(counts, key=miss)
    by_width = piece.spread == "cables" and not straight
    return CastOnPlan(cast_on, _shares(piece, cast_on, by_width=by_width), body, band_um(piece, cast_on), width)


def _shares(piece: Piece, cast_on: int, *, by_width: bool) -> tuple[int, ...]:
    """Border stitches under each segment: the edges keep theirs, the rest by width or by count.

    By width in the fabric the increases come to lie where the cables draw in. A straight cast-on is always
    shared by count: it has the body's stitches already, and nothing is to be moved. Largest remainders, in
    mirrored pairs where the layout is symmetric.
    """
    inner = piece.inner
    left = cast_on - sum(e.stitches for e in piece.edges)
    weights = [segment_um(s, piece.measure) if by_width else s.stitches for s in inner]
    total = sum(weights)
    exact = [left * w / total for w in weights]
    low, high = zip(*map(_share_bounds, inner), strict=True)
    shares = [min(max(int(e), lo), hi) for e, lo, hi in zip(exact, low, high, strict=True)]
    paired = is_symmetric(piece.segments)
    while (rest := left - sum(shares)) != 0:
        step = 1 if rest > 0 else -1
        open_ = [i for i in range(len(inner)) if (shares[i] < high[i] if step > 0 else shares[i] > low[i])]
        best = max(open_, key=lambda i: (step * (exact[i] - shares[i]), -abs(2 * i + 1 - len(inner))))
        partner = len(inner) - 1 - best
        if paired and partner != best:
            if abs(rest) >= 2:
                shares[best] += step
                shares[partner] += step
                continue
            middle = len(inner) // 2
            best = middle if len(inner) % 2 and middle in open_ else best
        shares[best] += step
    edge = [e.stitches for e in piece.edges]
    return (edge[0], *shares, edge[1])


def _share_bounds(segment: Segment) -> tuple[int, int]:
    """Fewest and most border stitches under a segment: one increase a gap, and a decrease joins two."""
    n = segment.stitches
    return (n + 2) // 2, 2 * n - 1

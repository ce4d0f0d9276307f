"""Springs as index arrays, and a banded Hessian whose pattern is worked out once for every Newton step."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from .constants import Constants
from .network import Floats, Ints, Network
from .rest import rest_sizes


@dataclass(frozen=True)
class Differences:
    """Linear forms `values · unknowns[columns]`, one a row; both arrays have shape (springs, terms)."""

    columns: Ints
    values: Floats

    def of(self, u: Floats) -> Floats:
        """The differences at `u`, shape (springs,)."""
        return np.asarray((self.values * u[self.columns]).sum(axis=1), float)

    def pull(self, force: Floats, size: int) -> Floats:
        """The transpose: forces along the springs gathered at the unknowns, shape (size,)."""
        weights = (self.values * force[:, None]).ravel()
        return np.asarray(np.bincount(self.columns.ravel(), weights=weights, minlength=size), float)


Coupling = tuple[Differences, Differences]


def _pairs(pairs: Ints, wrap: Ints, last: int) -> Differences:
    """(second − first) + wrap · unknown `last`, which is the tile's width or height."""
    if not wrap.any():  # a piece has no seam to wrap through
        ends = np.array([1.0, -1.0])
        return Differences(pairs[:, ::-1].astype(np.int64), np.broadcast_to(ends, pairs.shape).copy())
    columns = np.stack((pairs[:, 1], pairs[:, 0], np.full(len(pairs), last)), axis=1)
    values = np.stack((np.ones(len(pairs)), -np.ones(len(pairs)), wrap.astype(float)), axis=1)
    return Differences(columns.astype(np.int64), values)


@dataclass(frozen=True, kw_only=True)
class System:
    """The springs of a network at a gauge. Unknowns: x of each loop, width, y of each loop, height.

    Width and height are those of the tile; in a piece nothing depends on them. `weight` is that of each leg.
    `packing` is a tile's whole width, and `least` that at which its yarn lies packed; a piece has no such spring.
    """

    course: Differences
    tilt: Differences
    leg_x: Differences
    leg_y: Differences
    bend: Differences
    rest_w: Floats
    rest_h: Floats
    packing: Differences
    least: float
    weight: Floats
    size: int
    k: Constants

    @property
    def blocks(self) -> list[Coupling]:
        """One block of the Hessian's entries a kind of spring, in the order in which `energy` fills them."""
        blocks = [(self.course, self.course), (self.tilt, self.tilt), (self.bend, self.bend)]
        blocks += [(self.leg_x, self.leg_x), (self.leg_y, self.leg_y)]
        return [*blocks, (self.leg_x, self.leg_y), (self.leg_y, self.leg_x), (self.packing, self.packing)]

    @cached_property
    def hessian(self) -> Hessian:
        """The Hessian's pattern, ready for a direct solution."""
        return Hessian.of(self.blocks, self.size, np.array([self.size // 2 - 1, self.size - 1]))


@dataclass(frozen=True, kw_only=True)
class Hessian:
    """Where each product of two spring terms goes: a band of positions, bordered by the tile's width and height.

    Positions are ordered (reverse Cuthill–McKee) so that the matrix becomes a narrow band, which a banded
    Cholesky factorisation solves five times as fast as a general sparse one; the two unknowns that touch every
    spring across the seam would fill the band, so they are kept apart by block elimination.
    """

    products: tuple[Floats, ...]
    slot: Ints  # into: band (lower, by diagonals), border, corner, and one slot for what symmetry repeats
    diagonal: Ints
    order: Ints
    border: Ints
    width: int

    @staticmethod
    def of(blocks: list[Coupling], size: int, border: Ints) -> Hessian:
        """The pattern of Σ aᵀ·diag·b over the blocks, and the diagonal."""
        from scipy import sparse
        from scipy.sparse.csgraph import reverse_cuthill_mckee

        every = np.arange(size)
        rows = np.concatenate([np.repeat(a.columns, b.columns.shape[1], axis=1).ravel() for a, b in blocks] + [every])
        cols = np.concatenate([np.tile(b.columns, (1, a.columns.shape[1])).ravel() for a, b in blocks] + [every])
        products = tuple((a.values[:, :, None] * b.values[:, None, :]).reshape(len(a.values), -1) for a, b in blocks)
        inner = np.setdiff1d(every, border)
        n = len(inner)
        place = np.full(size, -1)
        place[inner] = np.arange(n)
        inside = (place[rows] >= 0) & (place[cols] >= 0)
        graph = sparse.csr_matrix((np.ones(inside.sum()), (place[rows[inside]], place[cols[inside]])), shape=(n, n))
        order = inner[reverse_cuthill_mckee(graph, symmetric_mode=True)]
        place[order] = np.arange(n)
        edge = np.full(size, -1)
        edge[border] = np.arange(len(border))
        r, c = place[rows], place[cols]
        inside &= r >= c
        width = int((r - c)[inside].max(initial=0)) + 1
        band, edges = width * n, len(border)
        slot = np.full(len(rows), band + edges * n + edges * edges)
        slot[inside] = (r - c)[inside] * n + c[inside]
        beside = (r >= 0) & (c < 0)
        slot[beside] = band + edge[cols[beside]] * n + r[beside]
        corner = (r < 0) & (c < 0)
        slot[corner] = band + edges * n + edge[rows[corner]] * edges + edge[cols[corner]]
        return Hessian(
            products=products, slot=slot[:-size], diagonal=slot[-size:], order=order, border=border, width=width
        )

    def solve(self, weights: tuple[Floats, ...], extra: Floats, right: Floats) -> Floats:
        """The solution for one weight a spring in each block, plus `extra` on the diagonal.

        Raises numpy.linalg.LinAlgError where the matrix is not positive definite.
        """
        from scipy.linalg import cho_solve_banded, cholesky_banded

        n, edges = len(self.order), len(self.border)
        band = self.width * n
        entries = np.concatenate([(p * w[:, None]).ravel() for p, w in zip(self.products, weights, strict=True)])
        count = band + edges * n + edges * edges + 1
        data = np.asarray(np.bincount(self.slot, weights=entries, minlength=count), float)
        data[self.diagonal] += extra
        sides = data[band : band + edges * n].reshape(edges, n).T
        corner = data[band + edges * n : -1].reshape(edges, edges)
        factor = cholesky_banded(data[:band].reshape(self.width, n), lower=True, check_finite=False)
        solved = cho_solve_banded((factor, True), np.column_stack((sides, right[self.order])), check_finite=False)
        ends = np.linalg.solve(corner - sides.T @ solved[:, :edges], right[self.border] - sides.T @ solved[:, edges])
        out = np.empty(len(right))
        out[self.border] = ends
        out[self.order] = solved[:, edges] - solved[:, :edges] @ ends
        return out


def _turns(leg_x: Differences, high: Ints, low: Ints) -> Differences:
    """How much each strand turns from the leg below to the leg above, sideways."""
    return Differences(
        np.concatenate((leg_x.columns[high], leg_x.columns[low]), axis=1),
        np.concatenate((leg_x.values[high], -leg_x.values[low]), axis=1),
    )


def spring_system(net: Network, ratio: float, k: Constants) -> System:
    """The springs of a network at `ratio` rows to stitches."""
    n = net.loops
    rest_w, rest_h = rest_sizes(net, k)
    leg_x = _pairs(net.leg, -net.leg_side, n)
    low, high = net.bend.T
    return System(
        course=_pairs(net.course, net.course_wrap, n),
        tilt=_pairs(net.course + n + 1, np.zeros(len(net.course), np.int64), n),
        leg_x=leg_x,
        leg_y=_pairs(net.leg + n + 1, net.leg_up, 2 * n + 1),
        bend=_turns(leg_x, high, low),
        rest_w=rest_w,
        rest_h=rest_h / ratio,
        packing=Differences(np.full((int(net.endless), 1), n), np.ones((int(net.endless), 1))),
        least=k.thick * float(net.counts.max()),
        weight=net.leg_weight,
        size=2 * n + 2,
        k=k,
    )

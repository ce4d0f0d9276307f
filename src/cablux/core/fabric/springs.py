"""Springs as index arrays, and a sparse Hessian whose pattern is worked out once for every Newton step."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np

from .constants import Constants
from .network import Floats, Ints, Network
from .rest import rest_sizes

if TYPE_CHECKING:
    from scipy import sparse


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


def _pairs(pairs: Ints, wrap: Ints, last: int) -> Differences:
    """(second − first) + wrap · unknown `last`, which is the tile's width or height."""
    columns = np.stack((pairs[:, 1], pairs[:, 0], np.full(len(pairs), last)), axis=1)
    values = np.stack((np.ones(len(pairs)), -np.ones(len(pairs)), wrap.astype(float)), axis=1)
    return Differences(columns.astype(np.int64), values)


@dataclass(frozen=True)
class System:
    """The spring network of a tile at a gauge. Unknowns: x of each loop, width, y of each loop, height."""

    course: Differences
    tilt: Differences
    leg_x: Differences
    leg_y: Differences
    bend: Differences
    rest_w: Floats
    rest_h: Floats
    size: int
    k: Constants

    @cached_property
    def hessian(self) -> Pattern:
        """The pattern of the Hessian: one block of entries a kind of spring, in the order `energy` fills them."""
        blocks = [(self.course, self.course), (self.tilt, self.tilt), (self.bend, self.bend)]
        blocks += [(self.leg_x, self.leg_x), (self.leg_y, self.leg_y)]
        blocks += [(self.leg_x, self.leg_y), (self.leg_y, self.leg_x)]
        return Pattern.of(blocks, self.size)


@dataclass(frozen=True)
class Pattern:
    """Where each product of two spring terms goes in the compressed Hessian."""

    products: tuple[Floats, ...]
    slot: Ints
    indices: Ints
    indptr: Ints
    diagonal: Ints
    size: int

    @staticmethod
    def of(blocks: list[tuple[Differences, Differences]], size: int) -> Pattern:
        """The pattern of Σ aᵀ·diag·b over the blocks, and the diagonal."""
        rows = [np.repeat(a.columns, b.columns.shape[1], axis=1).ravel() for a, b in blocks]
        cols = [np.tile(b.columns, (1, a.columns.shape[1])).ravel() for a, b in blocks]
        products = tuple((a.values[:, :, None] * b.values[:, None, :]).reshape(len(a.values), -1) for a, b in blocks)
        every = np.arange(size)
        key = np.concatenate([*cols, every]) * size + np.concatenate([*rows, every])
        unique, slot = np.unique(key, return_inverse=True)
        column, indices = np.divmod(unique, size)
        indptr = np.searchsorted(column, np.arange(size + 1))
        n = len(key) - size
        return Pattern(products, slot[:n], indices, indptr, slot[n:], size)

    def fill(self, weights: tuple[Floats, ...], extra: Floats) -> sparse.csc_matrix:
        """The matrix for one weight a spring in each block, plus `extra` on the diagonal."""
        from scipy import sparse

        entries = np.concatenate([(p * w[:, None]).ravel() for p, w in zip(self.products, weights, strict=True)])
        data = np.asarray(np.bincount(self.slot, weights=entries, minlength=len(self.indices)), float)
        data[self.diagonal] += extra
        return sparse.csc_matrix((data, self.indices, self.indptr), shape=(self.size, self.size))


def system(net: Network, ratio: float, k: Constants) -> System:
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
        bend=Differences(
            np.concatenate((leg_x.columns[high], leg_x.columns[low]), axis=1),
            np.concatenate((leg_x.values[high], -leg_x.values[low]), axis=1),
        ),
        rest_w=rest_w,
        rest_h=rest_h / ratio,
        size=2 * n + 2,
        k=k,
    )

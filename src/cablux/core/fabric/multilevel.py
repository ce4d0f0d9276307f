"""Solves the large sparse systems of whole pieces: conjugate gradients on two levels, without forming the matrix.

Along a row the springs are stiff, so each row is solved exactly (it is tridiagonal). What is left lies between
rows and over long distances, and a coarse grid of bilinear functions takes it away. Both are banded, and
together they precondition the fine system: its steps then hardly grow with the size of the piece.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from .network import Floats, Network
from .relax import Weights
from .springs import Differences, System

Singles = NDArray[np.float32]

# Our choice, by trial on throws of 47,000 to 55,000 loops: half as many steps as with columns twice as coarse.
_COARSE_ROWS = 4
_COARSE_COLUMNS = 8
_FORCING = 0.03  # our choice: a Newton step is worth no better solution than that
_MOST_STEPS = 400
_SINGLE = np.float32  # precise enough for a step that is only good to some hundredths, and half the memory to move
_HOLD = 1e-6  # holds the free translation, and the unknowns of a tile that a piece has not


class TwoLevel:
    """The springs of a piece as an operator: what does not change from one Newton step to the next."""

    def __init__(self, s: System, net: Network) -> None:
        from scipy import sparse

        self.s = s
        kinds = (s.course, s.tilt, s.bend, s.leg_x, s.leg_y)
        exact = sparse.vstack([_matrix(form, s.size) for form in kinds]).tocsr()
        self.forms = exact.astype(_SINGLE)
        self.gather = self.forms.T.tocsr()
        self.squares = self.gather.multiply(self.gather).tocsr()
        prolong = _bilinear(net)
        self.prolong = prolong.astype(_SINGLE)
        self.restrict = self.prolong.T.tocsr()
        self.coarse = (exact @ prolong).tocsr()
        self.coarse_gather = self.coarse.T.tocsr()
        legs = len(s.leg_x.values)
        self.leg_x = slice(self.forms.shape[0] - 2 * legs, self.forms.shape[0] - legs)
        self.leg_y = slice(self.forms.shape[0] - legs, self.forms.shape[0])

    def solve(self, weights: Weights, right: Floats) -> Floats:
        """The Newton step for the Hessian's weights, to a few hundredths of the right side."""
        from scipy.sparse.linalg import LinearOperator, cg

        course, level, bend, xx, yy, xy, *_ = weights
        diagonal = np.concatenate((course, level, bend, xx, yy))
        weight, twist = diagonal.astype(_SINGLE), xy.astype(_SINGLE)

        def times(v: Singles) -> Singles:
            at = self.forms @ v
            force = weight * at
            force[self.leg_x] += twist * at[self.leg_y]
            force[self.leg_y] += twist * at[self.leg_x]
            return np.asarray(self.gather @ force + _SINGLE(_HOLD) * v)

        shape = (self.s.size, self.s.size)
        within = self._preconditioner(diagonal, course, level)
        found, _ = cg(
            LinearOperator(shape, matvec=times, dtype=_SINGLE),
            right.astype(_SINGLE),
            rtol=_FORCING,
            maxiter=_MOST_STEPS,
            M=LinearOperator(shape, matvec=within, dtype=_SINGLE),
        )
        return np.asarray(found, float)

    def _preconditioner(self, diagonal: Floats, course: Floats, level: Floats) -> Any:
        """Rows solved exactly plus the coarse grid."""
        from scipy import sparse
        from scipy.linalg import cho_solve_banded, cholesky_banded

        rows = np.zeros((2, self.s.size), _SINGLE)
        rows[0] = self.squares @ diagonal + _HOLD
        for form, weight in ((self.s.course, course), (self.s.tilt, level)):
            right, left = form.columns[:, 1], form.columns[:, 0]
            beside = left == right + 1  # the course that closes a round is left to the coarse grid
            rows[1, right[beside]] = -weight[beside]
        fine = (cholesky_banded(rows, lower=True, overwrite_ab=True, check_finite=False), True)
        product = (self.coarse_gather @ (sparse.diags_array(diagonal) @ self.coarse)).tocoo()
        off = product.row - product.col
        low = off >= 0
        band = np.zeros((int(off.max()) + 1, self.coarse.shape[1]))
        band[off[low], product.col[low]] = product.data[low]
        band[0] += _HOLD
        factor = cholesky_banded(band, lower=True, overwrite_ab=True, check_finite=False).astype(_SINGLE)

        def within(v: Singles) -> Singles:
            far = cho_solve_banded((factor, True), self.restrict @ v, check_finite=False)
            return np.asarray(cho_solve_banded(fine, v, check_finite=False) + self.prolong @ far)

        return within


def _matrix(form: Differences, size: int) -> Any:
    from scipy import sparse

    springs, terms = form.columns.shape
    ends = np.arange(0, springs * terms + 1, terms, dtype=np.int32)
    return sparse.csr_array((form.values.ravel(), form.columns.ravel().astype(np.int32), ends), shape=(springs, size))


def _bilinear(net: Network) -> Any:
    """Bilinear functions over rows and places in the row, x and y apart, one a column."""
    from scipy import sparse

    high = max(2, math.ceil(net.rows / _COARSE_ROWS)) + 1
    wide = max(2, math.ceil(int(net.counts.max()) / _COARSE_COLUMNS)) + 1
    v = net.row / max(1, net.rows - 1) * (high - 1)
    u = (net.place + 0.5) / net.counts[net.row] * (wide - 1)
    i, j = np.minimum(v.astype(int), high - 2), np.minimum(u.astype(int), wide - 2)
    a, b = v - i, u - j
    corner = 2 * wide * i + j
    columns = np.stack((corner, corner + 1, corner + 2 * wide, corner + 2 * wide + 1), axis=1)
    values = np.stack(((1 - a) * (1 - b), (1 - a) * b, a * (1 - b), a * b), axis=1).ravel()
    n = net.loops
    ends = np.concatenate((np.arange(0, 4 * n + 1, 4), [4 * n], 4 * n + np.arange(4, 4 * n + 1, 4), [8 * n])).astype(
        np.int32
    )
    every = np.concatenate((columns.ravel(), (columns + wide).ravel())).astype(np.int32)
    return sparse.csr_array((np.tile(values, 2), every, ends), shape=(2 * n + 2, 2 * wide * high))

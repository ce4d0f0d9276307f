"""Rest sizes: what the faces of neighbouring loops do to the size at which a spring is at ease.

Knit and purl columns side by side roll into ribs and take up less width; knit and purl rows one above
the other roll into ridges and take up less height. Both come from the same property of a loop, so both
are computed from the same faces, smoothed along the column for ribs and along the row for ridges.
"""

from __future__ import annotations

import numpy as np

from .constants import Constants
from .network import Floats, Network

_PASSES = 4  # our choice: enough for a texture that changes every second row (Irish moss) to average out

_AROUND = 4  # our choice: columns looked at on each side of a course to see whether knits and purls balance
_STEEPEST = 1.35  # our choice: a fold of 77 degrees is shut


def rest_sizes(net: Network, k: Constants) -> tuple[Floats, Floats]:
    """Rest widths of the courses in stitch widths, rest heights of the legs in row heights."""
    flips = _flips(net)
    width = _rib_folds(net, k) * (1.0 + k.spread * flips[net.course].mean(axis=1))
    along = _smooth_rows(net)
    parent, child = net.leg.T
    flip = (net.sign[parent] != net.sign[child]).astype(float)
    ridge = np.abs(along[parent] - along[child]) / 2.0
    return width, 1.0 - k.flip * flip - k.ridge * ridge


def _rib_folds(net: Network, k: Constants) -> Floats:
    """cos of each course's slope, for a cloth that wants to curve one way at knits, the other at purls.

    Minimises ½ Σ (curvature − curl·sign)² + ½ flat Σ slope² along each row, which wraps round.
    """
    steady, free = _smooth_columns(net), _free_to_fold(net)
    counts = np.array(net.counts)[net.row]
    out = np.ones(len(net.course))
    for n in sorted(set(net.counts)):  # rows of one count are solved together
        rows = counts == n
        sign = steady[rows].reshape(-1, n)
        step = np.roll(sign, -1, axis=1) - sign
        kernel = np.zeros(n)
        kernel[0] += 2.0 + k.flat
        kernel[1 % n] -= 1.0
        kernel[-1 % n] -= 1.0
        # the system is circulant, so it is solved in the frequency domain
        slope = -k.curl * np.fft.irfft(np.fft.rfft(step) / np.fft.rfft(kernel), n)
        slope *= _balance(sign) * free[rows].reshape(-1, n)
        out[rows] = np.cos(np.clip(slope, -_STEEPEST, _STEEPEST)).ravel()
    return out


def _balance(sign: Floats) -> Floats:
    """For each course 1 where knits and purls around it balance, less where one of them rules.

    Cloth that is nearly all of one face holds a narrow channel of the other flatter than a rib would.
    """
    mean = np.mean([np.roll(sign, -shift, axis=1) for shift in range(1 - _AROUND, _AROUND + 1)], axis=0)
    return np.asarray(1.0 - mean**2)


def _free_to_fold(net: Network) -> Floats:
    """For each course 0 where a crossing ties its columns down so that they do not roll, else 1.

    Knit and purl that cross together in one group stay a rib: such a cable folds within its groups.
    """
    widest = max(net.counts)
    column = (net.place * widest) // np.array(net.counts)[net.row]
    first, second = net.course.T
    crossed = np.bincount(column, weights=net.depth != 0, minlength=widest) > 0
    together = (net.depth[first] == net.depth[second]) & (net.depth[first] != 0)
    ribbed = together & (net.sign[first] != net.sign[second])
    rib = np.bincount(column[first], weights=ribbed, minlength=widest) > 0
    tied = (crossed[column[first]] | crossed[column[second]]) & ~rib[column[first]]
    return np.where(tied, 0.0, 1.0)


def _smooth_columns(net: Network) -> Floats:
    """Faces averaged up and down the column (by place), so that a texture that alternates cancels out."""
    starts = np.concatenate(([0], np.cumsum(net.counts)))[:-1]
    counts = np.array(net.counts)
    up, down = (np.roll(np.arange(net.rows), shift)[net.row] for shift in (-1, 1))
    own = counts[net.row]
    above, below = (starts[r] + (net.place * counts[r]) // own for r in (up, down))
    sign = net.sign
    for _ in range(_PASSES):
        sign = 0.5 * sign + 0.25 * (sign[above] + sign[below])
    return sign


def _smooth_rows(net: Network) -> Floats:
    """Faces averaged to and fro along the row."""
    left, right = net.course[:, 1], np.empty(net.loops, np.int64)
    right[left] = net.course[:, 0]
    sign = net.sign
    for _ in range(_PASSES):
        sign = 0.5 * sign + 0.25 * (sign[left] + sign[right])
    return sign


def _flips(net: Network) -> Floats:
    """For each loop 1 where its face differs from its parents', else 0."""
    out = np.zeros(net.loops)
    parent, child = net.leg.T
    np.maximum.at(out, child, (net.sign[parent] != net.sign[child]).astype(float))
    return out

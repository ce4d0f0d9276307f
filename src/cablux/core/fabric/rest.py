"""Rest sizes: what the faces of neighbouring loops do to the size at which a spring is at ease.

Knit and purl columns side by side roll into ribs and take up less width; knit and purl rows one above
the other roll into ridges and take up less height. Both come from the same property of a loop, so both
are computed from the same faces, smoothed along the column for ribs and along the row for ridges.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from .constants import Constants
from .network import Floats, Ints, Network
from .runs import WAITS

_WAITING = 0.02  # our choice, of a row: next to nothing, since it is one and the same loop
_PASSES = 4  # our choice: enough for a texture that changes every second row (Irish moss) to average out
_AROUND = 4  # our choice: columns looked at on each side of a course to see whether knits and purls balance
_STEEPEST = 1.35  # our choice: a fold of 77 degrees is shut
_REACH = 24  # our choice, rows: beyond that nothing that counts is left of a crossing's hold on its columns
_RIBBED = 12  # our choice, rows: so far up and down a cable in rib stays the rib that it is, as far as ropes run plain


def rest_sizes(net: Network, k: Constants) -> tuple[Floats, Floats]:
    """Rest widths of the courses in stitch widths, rest heights of the legs in row heights."""
    flips = _flips(net)
    width = _rib_folds(net, k) * (1.0 + k.spread * flips[net.course].mean(axis=1))
    past = (net.slipped == 1)[net.course].mean(axis=1)  # yarn that runs straight past a slipped loop
    width *= 1.0 - k.passing * past
    along = smooth_rows(net)
    parent, child = net.leg.T
    flip = (net.sign[parent] != net.sign[child]).astype(float)
    ridge = np.abs(along[parent] - along[child]) / 2.0
    height = 1.0 - k.flip * flip - k.ridge * ridge
    passed = np.where(net.slipped[child] == WAITS, _WAITING, k.slip)
    return width, np.where(net.slipped[child] > 0, passed, height) * net.tall[child]


def _rib_folds(net: Network, k: Constants) -> Floats:
    """cos of each course's slope, for a cloth that wants to curve one way at knits, the other at purls.

    Minimises ½ Σ (curvature − curl·sign)² + ½ flat Σ slope² along each row. A row with ends is laid out
    once more backwards behind itself, so that both run round alike and the ends are free.
    """
    steady, free = smooth_columns(net), _free_to_fold(net, k)
    own = net.counts[net.row]
    slopes = np.zeros(net.loops)
    for n in np.unique(net.counts):  # rows of one count are solved together
        rows = own == n
        sign = steady[rows].reshape(-1, n)
        if not net.closed:
            sign = np.concatenate((sign, sign[:, ::-1]), axis=1)
        step = np.roll(sign, -1, axis=1) - sign
        m = sign.shape[1]
        kernel = np.zeros(m)
        kernel[0] += 2.0 + k.flat
        kernel[1 % m] -= 1.0
        kernel[-1 % m] -= 1.0
        # the system is circulant, so it is solved in the frequency domain
        slope = -k.curl * np.fft.irfft(np.fft.rfft(step) / np.fft.rfft(kernel), m) * _balance(sign)
        slopes[rows] = slope[:, :n].ravel()
    first = net.course[:, 0]
    return np.asarray(np.cos(np.clip(slopes[first] * free, -_STEEPEST, _STEEPEST)), float)


def _balance(sign: Floats) -> Floats:
    """For each course 1 where knits and purls around it balance, less where one of them rules.

    Cloth that is nearly all of one face holds a narrow channel of the other flatter than a rib would.
    """
    mean = np.mean([np.roll(sign, -shift, axis=1) for shift in range(1 - _AROUND, _AROUND + 1)], axis=0)
    return np.asarray(1.0 - mean**2)


def _free_to_fold(net: Network, k: Constants) -> Floats:
    """For each course how freely it folds, 1 where nothing holds it: a crossing keeps its columns from rolling.

    A group of g stitches, two or more, holds its columns wholly for g − lead rows up and down, and by `fade` of that in
    each row further on, within the band; the strongest hold counts. Single stitches that pass each other hold nothing:
    a twist stays part of the rib it stands in. Knit and purl that cross together in one group stay a rib: such a
    cable folds within its groups.
    """
    first, second = net.course.T
    together = (net.depth[first] == net.depth[second]) & (net.depth[first] != 0) & _consecutive(net)
    size = _group_sizes(net, together)
    hold = np.where(size >= 2.0, k.fade ** (k.lead - size), 0.0)
    held = np.minimum(1.0, _felt(net, hold, k.fade, reach=_REACH))
    ribbed = np.zeros(net.loops)
    ribbed[first] = together & (net.sign[first] != net.sign[second])
    rib = _felt(net, ribbed, 1.0, reach=_RIBBED)
    return np.where(rib[first] > 0.0, 1.0, 1.0 - np.maximum(held[first], held[second]))


def _consecutive(net: Network) -> NDArray[np.bool_]:
    """For each course whether its loops were neighbours in the row below too, in that order: one group passes."""
    first, second = net.course.T
    below = np.where(net.strand >= 0, net.leg[net.strand, 0], -1)
    return np.asarray((below[first] >= 0) & (below[second] == below[first] + 1))


def _group_sizes(net: Network, together: NDArray[np.bool_]) -> Floats:
    """For each loop that passes another the stitches of its group, else 0."""
    first, second = net.course.T
    root = np.arange(net.loops)
    joined = np.flatnonzero(together)
    for _ in range(int(together.sum() > 0) * int(net.counts.max()).bit_length()):  # doubling: chains of any length
        root[second[joined]] = np.minimum(root[second[joined]], root[first[joined]])
        root = root[root]
    members = np.bincount(root, minlength=net.loops)
    return np.where(net.depth != 0, members[root].astype(float), 0.0)


def _felt(net: Network, here: Floats, fade: float, *, reach: int) -> Floats:
    """The strongest of what lies in the same column at most `reach` rows away, within the band, faded row by row."""
    above, below = column_neighbours(net)
    band = net.band[net.row]
    up, down = fade * (band[above] == band), fade * (band[below] == band)
    out = here
    if not here.any():
        return out
    for _ in range(reach):
        out = np.maximum(out, np.maximum(out[above] * up, out[below] * down))
    return out


def column_neighbours(net: Network) -> tuple[Ints, Ints]:
    """The loop above and the loop below each loop: of its own column where columns are told, else by place.

    At the ends of a piece, and where a column ends, it is the loop itself.
    """
    counts, starts = net.counts, net.starts
    own = counts[net.row]
    out = []
    for step in (1, -1):
        to = net.row + step
        to = to % net.rows if net.endless else np.clip(to, 0, net.rows - 1)
        # the middle of a loop's share of its row, so that a mirrored row gives the mirrored neighbour
        place = np.minimum(((2 * net.place + 1) * counts[to]) // (2 * own), counts[to] - 1)
        found = starts[to] + place
        out.append(_in_column(net, found, step) if (net.column >= 0).any() else found)
    return out[0], out[1]


def _in_column(net: Network, by_place: Ints, step: int) -> Ints:
    """The neighbours `step` rows on by their columns, in rows that have them; the loop itself where it has none."""
    out, starts = by_place.copy(), net.starts
    for row in range(net.rows):
        there = row + step
        if not 0 <= there < net.rows:
            continue
        mine = slice(starts[row], starts[row] + net.counts[row])
        own, others = net.column[mine], net.column[starts[there] : starts[there] + net.counts[there]]
        if own[0] < 0 or others[0] < 0:
            continue
        at = np.minimum(np.searchsorted(others, own), len(others) - 1)
        out[mine] = np.where(others[at] == own, starts[there] + at, np.arange(mine.start, mine.stop))
    return out


def smooth_columns(net: Network) -> Floats:
    """Faces averaged up and down the column (by place), so that a texture that alternates cancels out."""
    above, below = column_neighbours(net)
    sign = net.sign
    for _ in range(_PASSES):
        sign = 0.5 * sign + 0.25 * (sign[above] + sign[below])
    return sign


def smooth_rows(net: Network) -> Floats:
    """Faces averaged to and fro along the row."""
    left, right = np.arange(net.loops), np.arange(net.loops)
    left[net.course[:, 0]] = net.course[:, 1]
    right[net.course[:, 1]] = net.course[:, 0]
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

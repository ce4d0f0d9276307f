"""Spreads increases between stitches, and decreases over stitches, evenly and symmetrically."""

from __future__ import annotations

from ..errors import IllegalPiece


def gaps(stitches: int, increases: int) -> tuple[int, ...]:
    """After how many of `stitches` each of `increases` is made, from 1 to stitches − 1, each gap used once.

    The places are symmetric about the middle where the numbers allow it, and the runs between them differ by
    at most one inside. Raises IllegalPiece where there are fewer gaps than increases.
    """
    if increases == 0:
        return ()
    if increases > stitches - 1:
        raise IllegalPiece(f"{increases} increases do not fit between {stitches} stitches in one row.")
    # the middle of each of `increases` equal parts; halves go down in the first half and up in the second
    places = []
    for i in range(increases):
        twice = (2 * i + 1) * stitches  # 2 · increases · place
        low, rest = divmod(twice, 2 * increases)
        mirrored = 2 * rest > 2 * increases or (rest == increases and 2 * i + 1 > increases)
        places.append(low + (1 if mirrored else 0))
    return tuple(places)


def joins(stitches: int, decreases: int) -> tuple[int, ...]:
    """The first stitch (from 0) of each pair that is worked together, so that `decreases` pairs never overlap."""
    if decreases == 0:
        return ()
    if 2 * decreases > stitches:
        raise IllegalPiece(f"{decreases} decreases do not fit into {stitches} stitches in one row.")
    # what remains is a row of `stitches − decreases` stitches, of which the spread ones are pairs
    left = stitches - decreases
    chosen = [(2 * i + 1) * left // (2 * decreases) for i in range(decreases)]
    half = [*chosen[: (decreases + 1) // 2]]
    chosen = half + [left - 1 - c for c in reversed(half[: decreases // 2])]
    return tuple(c + i for i, c in enumerate(chosen))

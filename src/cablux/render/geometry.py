"""A whole piece's loops as bytes for the canvas: little-endian, nine bytes a loop; docs/formats.md has the layout."""

from __future__ import annotations

import struct

import numpy as np

from ..core.pattern.cloth import Cloth
from .light import loop_tone
from .visible_loops import visible_loops

MAGIC = b"CBX1"
X_PER_STITCH = 16.0
Y_PER_STITCH = 256.0
LEAN_PER_STITCH = 32.0


def encode_geometry(cloth: Cloth, *, behind: bool = False) -> bytes:
    """The cloth as seen from one side.

    Header: `CBX1`, rows, loops (u32 each), height of a row in stitch widths (f32). Then, each for all of its kind:
    loops of each row (u32) and the row's level (f32), the cast-on first; of each loop, row by row, right to left
    on the right side: x from the middle, to the right (i16, sixteenths of a stitch), y above its row's level (i16,
    1/256), lean (i8, 1/32 of a stitch a row), how far it stands out (i8, 1/127), tone (u8), kind (u8), segment (u8).
    """
    net = cloth.relaxed.net
    loops = visible_loops(cloth.relaxed, behind=behind)
    levels = cloth.shape.levels.astype("<f4")
    above = loops.y - levels[net.row]
    head = struct.pack("<4sIIf", MAGIC, net.rows, net.loops, loops.row)
    arrays = (
        net.counts.astype("<u4"),
        levels,
        _scaled(loops.x - loops.x.mean(), X_PER_STITCH, "<i2"),
        _scaled(above, Y_PER_STITCH, "<i2"),
        _scaled(loops.lean, LEAN_PER_STITCH, "i1"),
        _scaled(loops.stands, 127.0, "i1"),
        _scaled(loop_tone(loops), 255.0, "u1"),
        loops.kind.astype("u1"),
        cloth.segment.astype("u1"),
    )
    return head + b"".join(array.tobytes() for array in arrays)


def _scaled(values: np.ndarray, by: float, kind: str) -> np.ndarray:
    limits = np.iinfo(np.dtype(kind))
    return np.clip(np.rint(values * by), limits.min, limits.max).astype(kind)

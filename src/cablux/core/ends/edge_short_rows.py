"""Edges whose rows are lower than the body's, and after how many rows of it short rows would fill them in."""

from __future__ import annotations

from dataclasses import dataclass

from ..piece.piece import BandView
from ..piece.widths import segment_um, segment_unit

SEEN = 0.03
"""Common practice: a seam or an edge eases in up to 3 % without a pucker; less than that nobody fills in."""


@dataclass(frozen=True)
class EdgeRows:
    """One pair of short rows over each edge after every `every` rows of a body whose rows are higher than the edge's.

    `edge_um`, `body_um`: the height of a row of either, each by itself.
    """

    edge_um: float
    body_um: float
    every: int


def edge_short_rows(view: BandView) -> EdgeRows | None:
    """After how many rows of a band its edges want a pair of short rows; None where they are high enough.

    A pair is two rows more in the edge: after n rows of the body, n · body = (n + 2) · edge, so n is
    2 · edge / (body − edge), rounded to whole pairs of rows.
    """
    if not view.sides or view.sides[0].role != "edge":
        return None
    row = view.measure.gauge.row_mm * 1000.0
    listed = [(segment_um(s, view.measure), segment_unit(s, view.measure).draw_up) for s in view.inner]
    body = row * sum(w * up for w, up in listed) / sum(w for w, _ in listed)
    edge = row * segment_unit(view.sides[0], view.measure).draw_up
    if edge > (1.0 - SEEN) * body:
        return None
    return EdgeRows(edge, body, max(2, 2 * round(edge / (body - edge))))

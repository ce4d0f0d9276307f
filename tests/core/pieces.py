"""Small pieces to test with: a throw between garter edges, its backgrounds and its panels."""

from __future__ import annotations

from dataclasses import replace

from cablux.core.gauge import Basis, Gauge, estimate
from cablux.core.piece.piece import Piece
from cablux.core.piece.segment import Segment, library_segment

from .strategies import piece_of

GAUGE = Gauge(20.0, 28.0)
PLAIN = estimate(Basis(gauge=GAUGE))
EDGE = library_segment("edge", "garter", 4)


def throw(*inner: Segment, width: float = 300, **more) -> Piece:
    return piece_of(EDGE, *inner, EDGE, width=width, height=400, **more)


def background(n: int, pattern: str = "reverse-stockinette", **more) -> Segment:
    return replace(library_segment("background", pattern, n), **more)


def panel(pattern: str, n: int = 1, **more) -> Segment:
    return replace(library_segment("panel", pattern, n), **more)

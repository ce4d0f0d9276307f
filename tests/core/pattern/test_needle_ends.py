"""Rounds divided over needles: as even as can be by brute force, and no crossing split."""

from __future__ import annotations

from itertools import combinations

from hypothesis import given
from hypothesis import strategies as st

from cablux.core.gauge import Evidence, Gauge
from cablux.core.notation import Crossing
from cablux.core.pattern import compile_piece
from cablux.core.pattern.needle_ends import divide_round, needles_text
from cablux.core.piece.piece import Band, Piece
from cablux.core.piece.segment import library_segment
from tests.core.shaping.test_edges import BACKGROUNDS, NONE, PANELS
from tests.examples import examples


@given(st.lists(st.sampled_from(PANELS), min_size=1, max_size=2), st.sampled_from(BACKGROUNDS), st.integers(1, 4))
@examples(13)
def test_a_round_is_divided_as_evenly_as_its_crossings_allow(names: list[str], background: str, wide: int) -> None:
    own = [library_segment("background", background, wide)]
    for name in names:
        own += [library_segment("panel", name, 1), library_segment("background", background, wide)]
    band = Band(own=tuple(own), rows=60)
    piece = Piece(
        name="tube",
        width_mm=200.0,
        height_mm=200.0,
        evidence=Evidence(gauge=Gauge(20.0, 28.0)),
        bands=(band,),
        tolerance_mm=100.0,
        bottom=NONE,
        top=NONE,
        round=True,
    )
    view = piece.band_views[0]
    split: set[int] = set()
    for row in compile_piece(piece).rows:  # read off the rows as they are worked
        at = 0
        for op in row.ops:
            if isinstance(op, Crossing):
                split.update(range(at + 1, at + op.takes))
            at += op.takes
    open_places = [place for place in range(1, view.stitches) if place not in split]
    for needles in (2, 3):
        found = divide_round(view, needles)
        tries = combinations(open_places, needles - 1)
        every = [[b - a for a, b in zip((0, *t), (*t, view.stitches), strict=True)] for t in tries]
        if not every:
            assert found.counts == ()
            continue
        least = min(sum(n * n for n in counts) for counts in every)
        assert sum(n * n for n in found.counts) == least and list(found.counts) in every
    text = needles_text(view)
    assert not text or str(divide_round(view, 2).counts[0]) in text

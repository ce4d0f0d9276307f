"""Bands bent by short rows: their words knitted row by row, and each zone worked as often as its radius wants."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import IllegalPiece
from cablux.core.gauge import Evidence, Gauge
from cablux.core.needle.columns import PLAIN_ROW
from cablux.core.needle.stations import Station
from cablux.core.pattern import compile_piece
from cablux.core.pattern.inpattern import stretches_in_pattern
from cablux.core.piece.piece import Band, Piece
from cablux.core.piece.segment import library_segment
from cablux.core.piece.widths import segment_um
from cablux.core.rows.heights import plan_rows
from cablux.core.rows.shaped_band import shape_band
from cablux.core.shaping import Bent
from cablux.service.exchange.project_file import read_project
from cablux.service.pattern.plain_text import file_text
from tests.core.columns import look_at_columns
from tests.core.pattern.test_knitted import project_file
from tests.core.shaping.test_edges import BACKGROUNDS, NONE, PANELS
from tests.examples import examples
from tests.knitter import knit_pattern


@st.composite
def bent(draw: st.DrawFn) -> Piece:
    """A strip of a few panels between backgrounds, round a radius that is drawn."""
    edge = library_segment("edge", draw(st.sampled_from(["garter", "seed"])), 2)
    own = [edge, library_segment("background", draw(st.sampled_from(BACKGROUNDS)), draw(st.integers(2, 9)))]
    for name in draw(st.lists(st.sampled_from(PANELS), min_size=1, max_size=2)):
        own += [library_segment("panel", name, 1), library_segment("background", "reverse-stockinette", 4)]
    width = 5.0 * sum(s.stitches for s in own)
    ends = (
        Station(name="begin", width_mm=width),
        Station(name="end", width_mm=width, at_mm=draw(st.integers(60, 250))),
    )
    inside = draw(st.sampled_from(["right", "left"]))
    bend = Bent(stations=ends, radius_mm=draw(st.integers(60, 900)), inside=inside)
    band = Band(own=(*own, edge), shaping=bend)
    piece = Piece(
        name="bent",
        width_mm=width,
        height_mm=ends[1].at_mm,
        evidence=Evidence(gauge=Gauge(20.0, 28.0)),
        bands=(band,),
        bottom=NONE,
        top=NONE,
    )
    return replace(piece, tolerance_mm=20.0)


@given(bent())
@examples(13)
def test_a_bent_band_knitted_from_its_words_works_each_zone_as_often_as_its_radius_wants(piece: Piece) -> None:
    view = piece.band_views[0]
    try:
        found = shape_band(view)
    except IllegalPiece as error:  # no place to turn: told in words
        assert "no place to turn" in str(error)
        return
    rows = knit_pattern(file_text(read_project(project_file(piece).text())))[1]
    active_now, faces = found.active.first, ["k"] * len(found.active.first)
    worked = dict.fromkeys(active_now, 0)
    done = [0] * len(view.segments)
    for n, (row, shaping) in enumerate(zip(rows, found.active.rows, strict=True)):
        low, high = shaping.reach or (0, len(active_now))
        for i, loop in enumerate(row.loops):
            if not low <= i < high:
                assert loop.slipped and loop.parents == (i,), "what is not reached waits"
        here, mine = active_now[low:high], row.loops[low:high]
        inside = [loop._replace(parents=tuple(p - low for p in loop.parents)) for loop in mine]
        look_at_columns(found.plane.lanes, found.numbers[n], PLAIN_ROW, here, faces[low:high], here, inside)
        for lane in {lane for lane, _ in here}:
            done[lane] += 1
            height = view.segments[lane].chart.height
            assert found.numbers[n][lane] == (done[lane] - 1) % height + 1, "its chart goes on where it stopped"
        for column in here:
            worked[column] += 1
        for i in range(low, high):
            faces[i] = row.loops[i].face
    check_zones(piece, list(worked.values()))


def check_zones(piece: Piece, worked: list[int]) -> None:
    """How often each column was worked, from the right: as the lengths round the bend, to a pair of rows and a zone."""
    view = piece.band_views[0]
    shaping = view.shaping
    assert isinstance(shaping, Bent)
    each = [segment_um(s, view.measure) / s.stitches / 1000.0 for s in view.segments for _ in range(s.stitches)]
    if shaping.inside == "left":
        each, worked = each[::-1], worked[::-1]
    assert worked == sorted(worked), "the further outside, the more rows"
    rows = {count: [i for i, w in enumerate(worked) if w == count] for count in worked}
    first = sum(each[: max(rows[worked[0]]) + 1]) / 2
    for count, columns in rows.items():
        middle = sum(each[: columns[0]]) + sum(each[c] for c in columns) / 2
        wanted = worked[0] * (shaping.radius_mm + middle) / (shaping.radius_mm + first)
        zone = sum(each[c] for c in columns) / shaping.radius_mm * worked[0] / 2
        assert abs(count - wanted) <= 4 + zone, "as long as its place round the bend"


def test_a_bend_is_as_high_as_its_inside_edge_and_told_in_wedges() -> None:
    edge, background = library_segment("edge", "garter", 2), library_segment("background", "reverse-stockinette", 6)
    rope = library_segment("panel", "rope-2-2-left", 1)
    ends = (Station(name="begin", width_mm=140.0), Station(name="end", width_mm=140.0, at_mm=200.0))
    shaping = Bent(stations=ends, radius_mm=100.0)
    band = Band(own=(edge, background, rope, background, rope, background, edge), shaping=shaping)
    piece = Piece(
        name="collar",
        width_mm=140.0,
        height_mm=200.0,
        evidence=Evidence(gauge=Gauge(20.0, 28.0)),
        bands=(band,),
        bottom=NONE,
        top=NONE,
    )
    assert plan_rows(piece).height_um == pytest.approx(200_000.0, rel=0.04)
    pattern = compile_piece(piece)
    crossed = [sum(part.segment == at for row in pattern.rows for part in row.crossing_parts) for at in (2, 4)]
    assert crossed[1] > crossed[0], "the outer rope crosses more often"
    whole, *wedges = stretches_in_pattern(piece.band_views[0])
    turned = sorted(n for w in wedges for n in w.calendar)
    said = [row.number for row in pattern.rows if "w&t" in [op.token for op in row.ops]]
    assert turned == said and "all the way across" in whole.sentence
    for wrong, reason in (
        (replace(piece, round=True, bands=(replace(band, own=(background,)),)), "worked flat"),
        (replace(piece, bands=(replace(band, shaping=replace(shaping, radius_mm=2.0)),)), "radius of 1 to 500 cm"),
        (replace(piece, bands=(replace(band, own=(edge, rope, edge)),)), "no place to turn"),
    ):
        with pytest.raises(IllegalPiece, match=reason):
            compile_piece(wrong)

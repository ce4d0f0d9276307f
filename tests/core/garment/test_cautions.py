"""What a layout is warned of, looked for in the cloth column by column; and where every limit stands."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.ends.edge_short_rows import edge_short_rows
from cablux.core.garment.cautions import layout_cautions, needle_lengths
from cablux.core.library import StitchPattern
from cablux.core.notation import Crossing, P, parse_chart
from cablux.core.notation.audit import audited_chart
from cablux.core.pattern import compile_piece
from cablux.core.piece.border import Border
from cablux.core.piece.piece import Band, Piece
from cablux.core.piece.problems import piece_problems
from cablux.core.piece.segment import Segment, library_segment
from cablux.core.piece.symmetry import describe_asymmetry
from cablux.core.piece.widths import segment_um
from cablux.core.rows.clashing_heights import height_mismatches
from cablux.core.rows.heights import plan_rows
from tests.core.pieces import EDGE, background, panel, throw
from tests.core.strategies import backgrounds, panels, pieces

PLAIN = throw(background(8), panel("braid-9"), background(8))
LOPSIDED = [  # purls at one side only, or more at one side
    StitchPattern(
        id=f"own-{a}-{b}",
        chart=audited_chart(parse_chart(f"row 1: p{a}, 2/2 LC, p{b}\nrow 2 (WS): k{b}, p4, k{a}")),
        uses=("panel",),
        family="rope",
    )
    for a, b in ((1, 3), (4, 1), (1, 1))
]


def columns(s: Segment) -> list[set[str]]:
    """What each column of a placed segment ever shows: purl, crossed, other."""
    found: list[set[str]] = [set() for _ in range(s.stitches)]
    for number in range(1, s.chart.height + 1):
        at = 0
        for op in s.chart.ops(number, s.repeats):
            kind = "purl" if op == P else "crossed" if isinstance(op, Crossing) else "other"
            for column in found[at : at + op.takes]:
                column.add(kind)
            at += op.takes
    return found


def steady(piece: Piece) -> bool:
    return all(op.takes == op.makes for s in piece.band_views[0].segments for row in s.chart.rows for op in row.ops())


def told(piece: Piece, kind: str) -> list:
    return [c for c in layout_cautions(piece.band_views[0], plan_rows(piece).bands[0]) if c.kind == kind]


@st.composite
def crowded(draw: st.DrawFn) -> Piece:
    """Flat pieces whose panels, with and without purl margins, stand anywhere between narrow backgrounds."""
    inner = []
    for _ in range(draw(st.integers(1, 4))):
        if draw(st.booleans()):
            made = panel(draw(panels), 1)
            if draw(st.booleans()):
                made = replace(made, pattern=draw(st.sampled_from(LOPSIDED)))
            made = replace(made, mirrored=draw(st.booleans()), purl_margin=draw(st.integers(0, 1)))
            inner.append(replace(made, phase=2 * draw(st.integers(0, made.chart.height // 2 - 1))))
        else:
            inner.append(background(draw(st.integers(1, 4)), draw(backgrounds)))
    side = library_segment(
        *draw(st.sampled_from([("edge", "garter"), ("seam", "stockinette")])), draw(st.integers(1, 4))
    )
    body = replace(throw(), bands=(Band(own=(side, *inner, side)),), setup_rows=draw(st.sampled_from([0, 2, 4])))
    return replace(body, bottom=Border(pattern_id="garter", rows=draw(st.sampled_from([0, 4]))))


@given(crowded())
def test_a_cable_too_near_the_edge_is_named_with_the_stitches_between(piece):
    """Common practice: two stitches of background beside an edge, three beside a seam, which swallows one."""
    if not steady(piece):
        return
    found = {c.at[0]: c for c in told(piece, "side")}
    wanted, said = (3, "seam") if piece.band_views[0].sides[0].role == "seam" else (2, "edge"), {}
    for step in (1, -1):
        between, inner = 0, [*enumerate(piece.band_views[0].segments)][1:-1][::step]
        for i, s in inner:
            if s.role == "panel" and s.cloth.chart.crossing_rows:
                shown = columns(s)[::step]
                between += next(k for k, kinds in enumerate(shown) if kinds != {"purl"})
                if between < wanted[0]:
                    said.setdefault(i, []).append(between)
                break
            between += s.stitches
    assert set(found) == set(said)
    for i, counts in said.items():
        assert any(f"is only {n} stitch{'es' * (n != 1)} from the {wanted[1]}" in found[i].text for n in counts)
        assert f"Leave {wanted[0]} stitches" in found[i].mend and piece.band_views[0].segments[i].name in found[i].text


@given(crowded())
def test_cables_that_touch_are_told_where_both_cross_to_the_last_column(piece):
    if not steady(piece):
        return
    shown = [columns(s) for s in piece.band_views[0].segments]
    cabled = [s.role == "panel" and bool(s.cloth.chart.crossing_rows) for s in piece.band_views[0].segments]
    wanted = {
        (i, i + 1)
        for i in range(len(shown) - 1)
        if cabled[i] and cabled[i + 1] and "crossed" in shown[i][-1] and "crossed" in shown[i + 1][0]
    }
    assert {c.at for c in told(piece, "touching")} == wanted


@given(crowded())
def test_a_crossing_soon_above_the_border_is_told_with_the_rows_between(piece):
    """Common practice: two plain rows or more; counted in the rows as they are compiled."""
    rows = compile_piece(replace(piece, bands=(replace(piece.band_views[0].band, rows=96),))).rows[piece.bottom.rows :]
    first: dict[int, int] = {}
    for above, row in enumerate(rows):
        for part in row.crossing_parts:
            first.setdefault(part.segment, above)
    early = {
        (piece.band_views[0].segments[i].pattern_id, piece.band_views[0].segments[i].phase, n)
        for i, n in first.items()
        if n < 2 and piece.band_views[0].segments[i].role == "panel"
    }
    found = told(piece, "tight")
    assert {
        (piece.band_views[0].segments[c.at[0]].pattern_id, piece.band_views[0].segments[c.at[0]].phase) for c in found
    } == {(name, phase) for name, phase, _ in early}
    for c in found:
        s = piece.band_views[0].segments[c.at[0]]
        assert any(
            f"crosses {n} row{'s' * (n != 1)} above" in c.text for a, b, n in early if (a, b) == (s.pattern_id, s.phase)
        )


@given(pieces())
def test_heights_that_clash_are_told_with_how_much_they_differ(piece):
    """A segment knitted alone is rows × row height / draw-up high; who is told of is taller, by what is said."""
    view = piece.band_views[0]
    rows = plan_rows(piece).bands[0].body
    row = view.measure.gauge.row_mm
    high = [rows * row * view.measure.unit(s.cloth, s.role == "panel").draw_up for s in view.segments]
    for clash in height_mismatches(view, rows):
        i = clash.left_of
        assert clash.um == pytest.approx(1000.0 * (high[i + 1] - high[i]), rel=1e-3, abs=60.0)
    for c in told(piece, "heights"):
        a, b = c.at
        assert c.um == pytest.approx(1000.0 * abs(high[a] - high[b]), rel=1e-3, abs=60.0)
        taller, shorter = (view.segments[k].pattern.name for k in sorted(c.at, key=lambda k: -high[k]))
        assert shorter.lower() in c.text.lower() and c.text.startswith((taller, "The edge in"))
    names = [s.pattern.name for s in view.segments]
    said_of = {frozenset(names[k] for k in c.at) for c in told(piece, "heights")}
    off = {(k, k + 1): abs(high[k] - high[k + 1]) / (rows * row) for k in range(1, len(high) - 2)}
    apart = {frozenset(names[k] for k in at) for at, much in off.items() if much > 0.051}
    assert apart <= said_of, "each pair of neighbours that cannot be eased in"
    edges = {frozenset(pair) for pair in (names[:2], names[-2:])}
    tall = {frozenset(names[k] for k in at) for at, much in off.items() if much > 0.049}
    assert view.round or said_of <= tall | edges, "and no other"


@given(st.integers(20, 900), st.sampled_from([23, 40, 60, 80, 100, 150]), st.booleans())
def test_a_needle_is_crowded_or_too_long_by_the_stitches_on_it(stitches, cord, in_the_round):
    """Common practice: twice its length flat and one and a half times round; stockinette of 20 stitches to 10 cm."""
    body = (background(stitches, "stockinette"),)
    piece = replace(throw(*body), round=in_the_round, bands=(Band(own=body if in_the_round else (EDGE, *body, EDGE)),))
    long = 5.0 * piece.band_views[0].stitches
    told_of = layout_cautions(piece.band_views[0], plan_rows(piece).bands[0], 10.0 * cord)
    said = [c.text for c in told_of if c.kind == "needle"]
    most = (1.5 if in_the_round else 2.0) * 10.0 * cord
    assert any("crowd" in text for text in said) == (long > most)
    assert any("will not reach round" in text for text in said) == (in_the_round and long < 10.0 * cord)
    for caution in (c for c in told_of if "crowd" in c.text):
        (least,) = re.findall(r"Use one of (\d+) cm or longer", caution.mend)
        assert int(least) - 1 < long / (15.0 if in_the_round else 20.0) <= int(least), "the next whole centimetre"
    fitting = [c for c in (23, 30, 40, 50, 60, 80, 100, 120, 150) if long <= (15.0 if in_the_round else 20.0) * c]
    assert needle_lengths(piece.band_views[0]) == tuple(
        c for c in fitting if not in_the_round or 10.0 * c <= long * 1.001
    )


@given(crowded())
def test_short_rows_fill_an_edge_in_as_often_as_brings_it_nearest_to_the_body(piece):
    """n rows of the body are n + 2 of the edge; of all even n the nearest, and none where the edge is high enough."""
    found = edge_short_rows(piece.band_views[0])
    inner = [
        (segment_um(s, piece.measure), piece.measure.unit(s.cloth, s.role == "panel").draw_up)
        for s in piece.band_views[0].inner
    ]
    body = sum(w * up for w, up in inner) / sum(w for w, _ in inner)
    edge = piece.measure.unit(piece.band_views[0].sides[0].pattern, False).draw_up
    if piece.band_views[0].sides[0].role == "seam" or edge > 0.97 * body:
        assert found is None
        return
    assert found.edge_um == pytest.approx(edge * 100_000 / 28, rel=1e-3), "28 rows to 10 cm"
    assert found.edge_um / found.body_um == pytest.approx(edge / body, rel=1e-3)
    pairs = edge / (body - edge)
    assert found.every % 2 == 0 and (abs(found.every / 2 - pairs) <= 0.501 or found.every == 2 > 2 * pairs)


@given(pieces())
def test_a_pair_that_spoils_the_symmetry_is_called_by_its_places(piece):
    segments = piece.band_views[0].segments
    said = describe_asymmetry(segments)
    named = re.findall(r"(\S[^()]*(?:\(mirrored\))?) \(segment (\d+)\)", said)
    for name, number in named:
        assert name.removeprefix("does not mirror ") == segments[int(number) - 1].name
    assert not named or sum(int(n) for _, n in named) == len(segments) + 1


LIMITS = [  # what is changed, the values that just will do, those that just will not
    (lambda n: replace(PLAIN, width_mm=n, tolerance_mm=1.0), (10, 10_000), (9, 10_001)),
    (lambda n: replace(PLAIN, height_mm=n), (10, 10_000), (9, 10_001)),
    (lambda n: replace(PLAIN, tolerance_mm=n), (0.1, PLAIN.width_mm / 2), (0, PLAIN.width_mm / 2 + 1)),
    (lambda n: replace(PLAIN, least_background=n), (1, 40), (0, 41)),
    (lambda n: replace(PLAIN, total=(n, 0)), (1, 100), (0, 101)),
    (lambda n: replace(PLAIN, total=(5, n)), (0, 4), (-1, 5)),
    (lambda n: replace(PLAIN, setup_rows=n), (0, 2, 60), (-2, 1, 3, 62)),
    (
        lambda n: replace(PLAIN, round=True, bands=(Band(own=PLAIN.band_views[0].inner),), setup_rows=n),
        (0, 1, 60),
        (-1, 61),
    ),
    (lambda n: replace(PLAIN, bands=(PLAIN.band_views[0].band,) * n), (1, 4), (0, 5)),
    (lambda n: throw(*[background(2)] * n), (1, 58), (0, 59)),
    (lambda n: replace(PLAIN, round=True, bands=(Band(own=(background(2),) * n),)), (1, 60), (0, 61)),
    (lambda n: throw(background(n)), (1, 1500 - 2 * EDGE.stitches), (0, -1, 1501 - 2 * EDGE.stitches)),
    (lambda n: throw(panel("braid-9", purl_margin=n)), (0, 6), (-1, 7)),
    (lambda n: throw(panel("braid-9", phase=n)), (0, 6), (-2, 1, 8)),
    (lambda n: throw(background(5, least=4, most=n)), (0, 4), (3, -1)),
    (lambda n: throw(background(5, most=n)), (0, 1), (-1,)),
    (lambda n: throw(background(5, least=n)), (0, 90), (-1,)),
    (lambda n: throw(background(5, by=n)), (1, 9), (0, -1)),
    (lambda n: replace(PLAIN, bands=(replace(PLAIN.band_views[0].band, rows=n),)), (0, 5000), (-1, 5001)),
    (lambda n: replace(PLAIN, bands=(replace(PLAIN.band_views[0].band, share=n),)), (0.05, 20), (0.04, 20.1)),
    (lambda n: replace(PLAIN, bottom=Border(rows=n)), (0, 60), (-1, 61)),
    (lambda n: replace(PLAIN, top=Border(factor=n)), (0.5, 1.5), (0.49, 1.51)),
    (lambda n: replace(PLAIN, top=Border(count=n)), (0, 2, 1500), (1, 1501)),
]


@pytest.mark.parametrize(("made", "will", "will_not"), LIMITS)
def test_every_limit_stands_where_it_says(made, will, will_not):
    for n in will:
        assert not list(piece_problems(made(n))), n
    for n in will_not:
        said = list(piece_problems(made(n)))
        assert said and all(sentence.endswith(".") for sentence in said), n


def test_a_problem_is_told_at_its_band_and_its_segment():
    broken = Band(own=(*PLAIN.band_views[0].segments[:2], background(0), PLAIN.band_views[0].segments[-1]))
    (alone,) = piece_problems(replace(PLAIN, bands=(broken,)))
    assert alone.startswith("Segment 3: ")
    (second,) = piece_problems(replace(PLAIN, bands=(PLAIN.band_views[0].band, broken)))
    assert second.startswith("Band 2: Segment 3: ")
    other = replace(
        PLAIN, bands=(PLAIN.band_views[0].band, Band(own=(background(2, "seed"), *PLAIN.band_views[0].inner, EDGE)))
    )
    assert any("same edges" in p for p in piece_problems(other)) and len(list(piece_problems(other))) >= 1

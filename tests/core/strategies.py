"""Hypothesis strategies for operations, rows, charts and pieces."""

from __future__ import annotations

from dataclasses import replace

from hypothesis import strategies as st

from cablux.core.ends.cast_on import edge_plan
from cablux.core.ends.transition import MOST_ROWS, rows_needed
from cablux.core.errors import IllegalPiece
from cablux.core.gauge import Evidence, Gauge
from cablux.core.library import LIBRARY
from cablux.core.notation import (
    YO,
    Bobble,
    Chart,
    ChartRow,
    CrossedDecrease,
    Crossing,
    DoubleStitch,
    Face,
    Increase,
    Into,
    Lean,
    Leave,
    NoStitch,
    Side,
    Slip,
    Stitch,
    Turn,
    WrapTurn,
    YarnOver,
)
from cablux.core.notation.crossings import crossing_on
from cablux.core.notation.shaping import DECREASES, FRONT_BACK
from cablux.core.piece.border import Border
from cablux.core.piece.piece import Band, Piece
from cablux.core.piece.segment import SIDES, Segment, library_segment

faces = st.sampled_from(Face)
leans = st.sampled_from(Lean)
stitches = st.builds(Stitch, faces, st.booleans())


def groups(low: int, high: int) -> st.SearchStrategy[tuple[Stitch, ...]]:
    mixed = st.lists(stitches, min_size=low, max_size=high).map(tuple)
    plain = st.tuples(st.integers(low, high), faces).map(lambda nf: (Stitch(nf[1]),) * nf[0])
    return mixed | plain


@st.composite
def crossings(draw: st.DrawFn) -> Crossing:
    """Any n over m, with or without a centre, of any faces or all of one rib."""
    at = draw(st.sampled_from(["between", "front", "behind"]))
    background = draw(st.sampled_from([None, None, "rib", "2x2 rib", "tbl", "purl"]))
    lean = draw(leans)
    if background is None:
        centre = draw(groups(0, 4))
        return Crossing(
            over=draw(groups(1, 8)),
            under=draw(groups(1, 8)),
            lean=lean,
            centre=centre,
            centre_at=at if centre else "between",
        )
    over, centre, under = (4 * draw(st.integers(low, 2)) for low in (1, 0, 1))
    made = crossing_on(over, under, lean, background=background, centre=centre, centre_at=at if centre else "between")
    assert made is not None
    return made


twists = st.builds(
    lambda f, lean: Crossing(over=(Stitch(Face.KNIT),), under=(Stitch(f),), lean=lean, twist=True), faces, leans
)
slips = st.sampled_from([Slip("front"), Slip("back")])
bobbles = st.builds(Bobble, st.sampled_from([3, 5, 7]), st.booleans())
steady_ops = stitches | crossings() | twists | slips | bobbles
intos = st.lists(stitches | st.none(), min_size=2, max_size=9).map(tuple).map(Into)
counting_ops = (
    st.sampled_from([YO, YarnOver(2), *DECREASES.values(), *FRONT_BACK.values()])
    | st.builds(Increase, leans, faces)
    | st.builds(CrossedDecrease, st.sampled_from([2, 3]), leans, faces)
    | intos
)
marks = st.sampled_from([WrapTurn(), Turn(), DoubleStitch(), Leave(), NoStitch()])
ops = steady_ops | counting_ops | marks
rows = st.lists(ops, min_size=1, max_size=14).map(tuple)


@st.composite
def charts(draw: st.DrawFn) -> Chart:
    """Charts that add up: every row takes the same stitches, cut from steady operations."""
    width = draw(st.integers(1, 12))

    def line() -> tuple[object, ...]:
        out, left = [], width
        while left:
            op = draw(steady_ops if left > 3 else stitches)
            if op.takes > left:
                continue
            out.append(op)
            left -= op.takes
        return tuple(out)

    edge = draw(st.integers(0, 3))
    made = []
    for _ in range(draw(st.integers(1, 6))):
        before = draw(st.integers(0, edge))
        outside = [Stitch(draw(faces)) for _ in range(edge)]
        side = draw(st.sampled_from(Side))
        made.append(ChartRow(box=line(), before=tuple(outside[:before]), after=tuple(outside[before:]), side=side))
    name = draw(st.text("abcdefgh ×3/", min_size=1, max_size=12).map(str.strip).filter(bool))
    return Chart(name=name, multiple=width, rows=tuple(made), balance=edge)


panels = st.sampled_from(sorted(p.id for p in LIBRARY.values() if "panel" in p.uses))
backgrounds = st.sampled_from(sorted(p.id for p in LIBRARY.values() if "background" in p.uses))


def piece_of(
    *segments: Segment, width: float = 300, height: float = 300, both: Border | None = None, **more: object
) -> Piece:
    """A piece of one body band, with the same border at both ends."""
    border = both or Border()
    known = {name: more.pop(name) for name in ("readings", "finish", "fibre", "method") if name in more}
    ends = {"bottom": border, "top": border} | more
    return Piece(
        name="t",
        width_mm=width,
        height_mm=height,
        evidence=Evidence(gauge=Gauge(20.0, 28.0), **known),
        bands=(Band(own=segments),),
        **ends,
    )


@st.composite
def bands(draw: st.DrawFn, sides: tuple[Segment, ...]) -> Band:
    """Body bands between given sides: one to eight segments or half of them, with phases, purl margins and bounds."""
    inner = [
        library_segment("background", draw(backgrounds), draw(st.integers(6, 12)), locked=draw(st.integers(0, 3)) == 0)
    ]
    for _ in range(draw(st.integers(1, 5))):
        if draw(st.booleans()):
            panel = library_segment("panel", draw(panels), draw(st.integers(1, 2)), mirrored=draw(st.booleans()))
            phase = 2 * draw(st.integers(0, panel.chart.height // 2 - 1))
            inner.append(replace(panel, phase=phase, purl_margin=draw(st.integers(0, 2))))
        else:
            bounds = draw(st.sampled_from([(0, 0), (3, 0), (0, 60), (4, 40)]))
            background = library_segment(
                "background", draw(backgrounds), draw(st.integers(1, 9)), locked=draw(st.booleans())
            )
            inner.append(replace(background, least=bounds[0], most=bounds[1], by=draw(st.sampled_from([1, 1, 2]))))
    if draw(st.booleans()):
        return Band(own=(*sides[:1], *inner), symmetric=True, middle=draw(st.booleans()))
    return Band(own=(*sides[:1], *inner, *sides[1:]))


@st.composite
def pieces(draw: st.DrawFn) -> Piece:
    """Pieces that can be knitted: flat or round, one or two body bands, any borders."""
    in_the_round = draw(st.booleans())
    edge = draw(
        st.sampled_from([("edge", "garter"), ("edge", "seed"), ("edge", "slipped-edge"), ("seam", "stockinette")])
    )
    side = library_segment(edge[0], edge[1], draw(st.integers(1, 6)))
    sides = () if in_the_round else (side, side.reflected())
    body = [draw(bands(sides))]
    if draw(st.integers(0, 3)) == 0:
        body.append(replace(body[0], own=body[0].own[: max(3, len(body[0].own) - 1)], symmetric=True))
    inner = [[s for s in band.segments if s.role not in SIDES] for band in body]
    if rows_needed(inner[-1], sum(s.stitches for s in inner[0])) > MOST_ROWS:
        del body[1:]  # a band that lies out of reach is refused, and is no piece that can be knitted
    ends = [
        Border(
            pattern_id=draw(st.sampled_from(["garter", "seed", "rib-2x2", "double-moss"])),
            rows=draw(st.sampled_from([0, 4, 8])),
            style=draw(st.sampled_from(["stepped", "straight"])),
            spread=draw(st.sampled_from(["cables", "even"])),
            factor=draw(st.sampled_from([1.0, 0.85])),
        )
        for _ in "ab"
    ]
    made = Piece(
        name="drawn",
        width_mm=draw(st.integers(300, 1500)),
        height_mm=draw(st.integers(300, 900)),
        evidence=Evidence(gauge=Gauge(20.0, 28.0)),  # one gauge, so that relaxed tiles are shared between examples
        bands=tuple(body),
        bottom=ends[0],
        top=ends[1],
        round=in_the_round,
        gaps=draw(st.sampled_from(["equal", "outside"])),
        total=draw(st.sampled_from([(1, 0), (1, 0), (2, 0), (4, 2)])),
    )
    if made.bottom.rows and draw(st.integers(0, 3)) == 0:  # a count of the border's own, as low as can be
        fewer = (replace(made, bottom=replace(made.bottom, count=n)) for n in range(1, made.band_views[0].stitches))
        return next(filter(_reached, fewer), made)
    return made


def _reached(piece: Piece) -> bool:
    try:
        return bool(edge_plan(piece.band_views[0], piece.bottom))
    except IllegalPiece:
        return False

"""Hypothesis strategies for operations, rows, charts and pieces."""

from __future__ import annotations

from hypothesis import strategies as st

from cablux.core.gauge import Gauge
from cablux.core.layout.piece import Piece, segment
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
    ground = draw(st.sampled_from([None, None, "rib", "2x2 rib", "tbl", "purl"]))
    lean = draw(leans)
    if ground is None:
        centre = draw(groups(0, 4))
        return Crossing(draw(groups(1, 8)), draw(groups(1, 8)), lean, centre, centre_at=at if centre else "between")
    over, centre, under = (4 * draw(st.integers(low, 2)) for low in (1, 0, 1))
    made = crossing_on(over, under, lean, ground, centre=centre, centre_at=at if centre else "between")
    assert made is not None
    return made


twists = st.builds(lambda f, lean: Crossing((Stitch(Face.KNIT),), (Stitch(f),), lean, twist=True), faces, leans)
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
        made.append(ChartRow(line(), tuple(outside[:before]), tuple(outside[before:]), side))
    name = draw(st.text("abcdefgh ×3/", min_size=1, max_size=12).map(str.strip).filter(bool))
    return Chart(name, width, tuple(made), edge)


panels = st.sampled_from(sorted(p.id for p in LIBRARY.values() if "panel" in p.uses))
grounds = st.sampled_from(sorted(p.id for p in LIBRARY.values() if "background" in p.uses))


@st.composite
def pieces(draw: st.DrawFn) -> Piece:
    """Throws that can be knitted: an edge, one to eight segments, an edge, and any border."""
    edge = draw(st.sampled_from(["garter", "seed"]))
    sides = [segment("edge", edge, draw(st.integers(1, 6))) for _ in range(2)]
    inner = [segment("background", draw(grounds), draw(st.integers(6, 12)))]
    for _ in range(draw(st.integers(1, 7))):
        if draw(st.booleans()):
            inner.append(segment("panel", draw(panels), draw(st.integers(1, 2)), mirrored=draw(st.booleans())))
        else:
            inner.append(segment("background", draw(grounds), draw(st.integers(1, 9)), locked=draw(st.booleans())))
    return Piece(
        name="drawn",
        width_mm=draw(st.integers(300, 1500)),
        height_mm=draw(st.integers(300, 900)),
        gauge=Gauge(20.0, 28.0),  # one gauge, so that relaxed tiles are shared between examples
        segments=(sides[0], *inner, sides[1]),
        border_id=draw(st.sampled_from(["garter", "seed", "rib-2x2", "double-moss"])),
        border_rows=draw(st.sampled_from([2, 4, 8])),
        cast_on=draw(st.sampled_from(["stepped", "straight"])),
        spread=draw(st.sampled_from(["cables", "even"])),
        symmetric=draw(st.booleans()),
    )

"""What a skilled knitter would warn of when she sees a layout, each at the segments it concerns."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from ..ends.edge_short_rows import edge_short_rows
from ..notation import Face, Stitch
from ..notation.closing import closed_chart
from ..piece.piece import BandView
from ..piece.segment import Segment, bare_sides, same_cloth
from ..piece.widths import body_um, plain_um
from ..rows.clashing_heights import height_mismatches
from ..rows.endings import REST
from ..rows.heights import BandRows
from ..units import Unit, cord_text

CautionKind = Literal["join", "heights", "side", "touching", "unbalanced", "tight", "cut", "needle"]

FROM_EDGE, FROM_SEAM = 2, 3
"""Common practice: one or two purl stitches set a cable off; a seam takes one more of them."""

EASED = 0.05
"""Common practice: up to 3 % can be eased in flat, 5 % with steam; beyond that it puckers."""

FLAT_COMFORT = 2.0
"""Common practice: flat, a circular needle holds stitches of twice its length with comfort, 2.5 to 3 times at most."""
ROUND_CROWD = 1.5
"""Common practice: in the round half as much again as the needle's length is crowded."""


@dataclass(frozen=True, kw_only=True)
class Caution:
    """One warning: the segments it concerns (from 0 at the right), what is the matter, and what would mend it.

    `short_rows`: after how many rows a pair of short rows would fill an edge in; 0 where that is not the matter.
    """

    kind: CautionKind
    at: tuple[int, ...]
    text: str
    mend: str
    um: float = 0.0
    short_rows: int = 0


def layout_cautions(view: BandView, rows: BandRows, cord_mm: float = 0.0, *, unit: Unit = "cm") -> tuple[Caution, ...]:
    """Everything to warn of in a band, in the person's unit; `cord_mm` is the needle's length, 0 if not known."""
    found = [
        *_sides(view),
        *_join(view),
        *_touching(view),
        *_tight(view, rows),
        *_unbalanced(view),
        *_cut(view, rows),
        *_heights(view, rows),
    ]
    return (*found, *_needle(view, cord_mm, unit)) if cord_mm else tuple(found)


def purls_beside(s: Segment) -> tuple[int, int]:
    """Purl columns at the right and at the left of a segment's chart."""
    rows = [row.ops(s.repeats) for row in s.chart.rows]
    return _purls(rows), _purls([row[::-1] for row in rows])


def _purls(rows: Sequence[tuple[object, ...]]) -> int:
    purl = Stitch(Face.PURL)
    return min(next((i for i, op in enumerate(row) if op != purl), len(row)) for row in rows)


def _cabled(s: Segment) -> bool:
    return s.is_panel and bool(s.cloth.chart.crossing_rows)


def _sides(view: BandView) -> Iterator[Caution]:
    if view.round:
        return
    for places, hand in ((range(1, len(view.segments)), 0), (range(len(view.segments) - 2, -1, -1), 1)):
        side = view.segments[0 if hand == 0 else -1]
        between, at = 0, -1
        for i in places:
            s = view.segments[i]
            if _cabled(s):
                between += purls_beside(s)[hand]
                at = i
                break
            between += s.stitches
        wanted = FROM_SEAM if side.is_seam else FROM_EDGE
        if at >= 0 and between < wanted:
            what = "seam" if side.is_seam else "edge"
            hard = "the seam swallows it" if what == "seam" else "it curls round the edge and cannot stand out"
            yield Caution(
                kind="side",
                at=(at,),
                text=f"{view.segments[at].name} is only {_stitches(between)} from the {what}: {hard}.",
                mend=f"Leave {wanted} stitches of background or more beside it.",
            )


def _join(view: BandView) -> Iterator[Caution]:
    """A tube of one pattern that has no place where its rounds could begin without cutting what is worked in two.

    In a shaped band the beginning is not moved for a crossing.
    """
    one = view.segments[0]
    if view.round and len(view.segments) == 1 and (not one.closed or closed_chart(one.pattern.chart) is None):
        yield Caution(
            kind="join",
            at=(0,),
            text=f"{one.name} cannot be joined into a round without a break: every column has something "
            "worked across it, so a line shows where the rounds begin.",
            mend="Put a background beside it, so that the line looks intended, or use another pattern.",
        )


def _stitches(n: int) -> str:
    return f"{n} stitch" if n == 1 else f"{n} stitches"


def _touching(view: BandView) -> Iterator[Caution]:
    pairs = zip(view.segments, view.segments[1:], strict=False)
    for i, (right, left) in enumerate(pairs):
        if not (_cabled(right) and _cabled(left)):
            continue
        if bare_sides(right.chart)[1] and bare_sides(left.chart)[0]:
            yield Caution(
                kind="touching",
                at=(i, i + 1),
                text=f"{right.name} and {left.name} cross side by side with no purl stitch between them, and "
                "run together.",
                mend="Give one of them a purl margin of a stitch or two.",
            )


def _tight(view: BandView, rows: BandRows) -> Iterator[Caution]:
    seen = set()
    for i, s in enumerate(view.segments):
        if not _cabled(s):
            continue
        first = min((c - 1 - s.phase) % s.cloth.chart.height for c in s.cloth.chart.crossing_rows)
        if rows.lead + first >= REST or (s.pattern_id, s.phase) in seen:
            continue
        seen.add((s.pattern_id, s.phase))
        yield Caution(
            kind="tight",
            at=(i,),
            text=f"{s.name} crosses {rows.lead + first} row{'' if rows.lead + first == 1 else 's'} above "
            "the border: it will pull.",
            mend="Work two set-up rows, or start it at another row of its repeat.",
        )


def _unbalanced(view: BandView) -> Iterator[Caution]:
    if view.round:
        return
    for i, s in enumerate(view.segments):
        if s.is_side or s.pattern.chart.multiple == 1 or view.band.partner(i) is not None or _cabled(s):
            continue
        if not same_cloth(s.chart.mirrored(), s.chart):
            yield Caution(
                kind="unbalanced",
                at=(i,),
                text=f"{s.name} does not end as it begins: its repeat has no balance stitches.",
                mend="Use a texture whose repeat is balanced, or make both halves alike.",
            )


def _cut(view: BandView, rows: BandRows) -> Iterator[Caution]:
    cut = {e.name for e in rows.endings if e.look == "cut"}
    seen: set[str] = set()
    for i, s in enumerate(view.segments):
        if s.is_panel and s.pattern.name in cut and s.pattern.name not in seen:
            seen.add(s.pattern.name)
            yield Caution(
                kind="cut",
                at=(i,),
                text=f"{s.pattern.name} stops in mid motif below the top border.",
                mend="See “Rows that end well” on the cast-on page: another count, or another start row.",
            )


def _heights(view: BandView, rows: BandRows) -> Iterator[Caution]:
    tall = rows.body * view.measure.gauge.row_mm * 1000.0
    worst: dict[tuple[str, str], tuple[float, int]] = {}
    for clash in height_mismatches(view, rows.body):
        pair = [view.segments[clash.left_of + 1], view.segments[clash.left_of]]
        taller, shorter = pair if clash.um > 0 else reversed(pair)
        edge = any(s.is_side for s in pair)
        if edge or abs(clash.um) > EASED * tall:
            key = ("", shorter.pattern.name) if edge else (taller.pattern.name, shorter.pattern.name)
            worst.setdefault(key, (abs(clash.um), clash.left_of))
    for (name, shorter_name), (um, at) in worst.items():
        if name:
            text = f"{name} wants to stand taller than {shorter_name} beside it"
            mend = "Put a background between them whose rows are as high as one of theirs, or block the piece well."
        else:
            if view.piece.short_rows:
                continue
            text = f"The edge in {shorter_name.lower()} alone would be shorter than the body"
            mend = "A little can be blocked out; more pulls the side up."
        every = filled.every if not name and (filled := edge_short_rows(view)) else 0
        if every:
            mend += (
                f" Knitters work two short rows over the edge every {every} rows of the body, or slip its outermost "
                "stitch, or work it loosely; an edge of garter ridges keeps step better."
            )
        yield Caution(kind="heights", at=(at, at + 1), text=text, mend=mend, um=um, short_rows=every)


def _needle(view: BandView, cord_mm: float, unit: Unit) -> Iterator[Caution]:
    plain, fabric = plain_um(view.stitches, view.measure.gauge) / 1000.0, body_um(view, view.outlook) / 1000.0
    if view.round and fabric < cord_mm:
        yield Caution(
            kind="needle",
            at=(),
            text=f"{view.stitches} stitches will not reach round a {cord_text(cord_mm, unit)} needle "
            "without stretching.",
            mend="Use a shorter one, double-pointed needles, or a long one with a loop of its cord pulled out.",
        )
    fills = ROUND_CROWD if view.round else FLAT_COMFORT
    if plain > fills * cord_mm:
        yield Caution(
            kind="needle",
            at=(),
            text=f"{view.stitches} stitches are crowded on a {cord_text(cord_mm, unit)} needle.",
            mend=f"Use one of {cord_text(plain / fills, unit, at_least=True)} or longer.",
        )


CORDS_CM = (23, 30, 40, 50, 60, 80, 100, 120, 150)
"""Lengths of circular needles that are sold, tip to tip (common practice)."""


def needle_lengths(view: BandView) -> tuple[int, ...]:
    """The lengths of circular needles, in cm, on which the piece sits well."""
    plain, fabric = plain_um(view.stitches, view.measure.gauge) / 10_000.0, body_um(view, view.outlook) / 10_000.0
    if view.round:
        return tuple(c for c in CORDS_CM if c <= 1.001 * fabric and plain <= ROUND_CROWD * c)
    return tuple(c for c in CORDS_CM if plain <= FLAT_COMFORT * c)

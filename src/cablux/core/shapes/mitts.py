"""Mitts and mittens in the round: cuff, thumb gusset between two lines, hand, and a thumb on its held stitches."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..errors import Infeasible
from ..gauge import Measure
from ..layout.heights import plan_rows
from ..layout.parts import PartEnd, Source
from ..layout.piece import Band, Border, Piece
from ..layout.segment import Segment, proposed_gutter
from ..layout.widths import body_row_um, body_um, segment_um
from ..library import Pattern, find_pattern
from ..shaping.outline import ALL, Holder, Section, Shaping, Station
from ..units import Unit, length_text
from .asks import Answers, Ask, StandardSize, millimetres
from .bodies import HANDS, sources
from .shape import GROUND, Made, MadePiece, Shape, Wanted, border_rows, plain

KINDS = ("fingerless mitts", "mittens")
THUMBS = ("gusset", "straight")
RIB = "rib-2x2"
CUFF, EDGE, TIP = 0.85, 0.95, 0.75
"""Our choice: a cuff is a seventh smaller than the hand, an edge a little, a thumb's edge a quarter; all give."""
THUMB = 1 / 3
"""Common practice: a gusset is a third of the hand, 30 to 36 %."""
STRAIGHT = 1 / 5
"""Our choice: without a gusset a fifth of the hand is held, and as much is cast on, which goes round a thumb."""
ROUNDS = 2.5
"""Common practice: two stitches are made every second to third round."""
ABOVE_WRIST = 10.0  # common practice, millimetres: a gusset begins 0 to 2.5 cm above the cuff
GAP = 1 / 12
"""Our choice: of the hand's stitches so many are cast on where the thumb has been put aside; 3 of 36."""
TOP = 1 / 3
"""Our choice: a mitten's top is drawn in to a third of its stitches, and grafted."""
LEAST_HAND = 4
_PRACTICE = "common practice"
_STARTS = ("rope-3-3-left", "braid-9", "rope-2-2-left", "braid-6", "rope-1-1-left", "twist-columns")


@dataclass(frozen=True)
class _Hand:
    """The layout of a hand: its back, the thumb's stitches at their widest and elsewhere, the palm."""

    back: tuple[Segment, ...]
    palm: Segment
    thumb: int
    before: int
    gap: int

    def segments(self, thumb: int, *, left: bool) -> tuple[Segment, ...]:
        """From the right, for either hand; the left one mirrors the right one."""
        own = (*self.back, plain(thumb), self.palm)
        return tuple(s.reflected() for s in reversed(own)) if left else own


def _make(wanted: Wanted) -> Made:
    answers = wanted.answers
    hand = _laid_out(wanted, millimetres(answers, "hand") * (1.0 + float(answers["ease"]) / 100.0))
    out: list[MadePiece] = []
    for left in (False, True):
        number = len(out) + 1
        palm = _hand_piece(wanted, hand, left=left)
        out += [MadePiece(palm), MadePiece(_thumb_piece(wanted, hand, palm, number, left=left))]
    return Made(tuple(out))


def _laid_out(wanted: Wanted, around: float) -> _Hand:
    """Half of the way round for the back, with a panel in its middle; the palm is plain."""
    measure, ground = wanted.evidence.measure, wanted.ground or find_pattern(GROUND)
    panels = wanted.panels[:1] or tuple(map(find_pattern, _STARTS))
    found = next((b for b in (_back(p, ground, measure, around * 500.0) for p in panels) if b), None)
    if found is None:
        names = " or ".join(p.name for p in panels)
        raise Infeasible(
            f"{names} will not fit on the back of a hand of {wanted.length(around)} at this gauge: choose a "
            "narrower one."
        )
    stitch = segment_um(plain(1), measure)
    back = sum(segment_um(s, measure) for s in found)
    straight = wanted.answers["thumb"] == "straight"
    rest = max(6, round((around * 1000.0 - back) / stitch))
    nearest = (back + rest * stitch) / 1000.0
    if abs(nearest - around) > limb_tolerance_mm(around):
        raise Infeasible(
            f"At this gauge a hand comes to {wanted.length(nearest)} round, not {wanted.length(around)}: choose a "
            "narrower panel, or a finer yarn."
        )
    total = rest + sum(s.stitches for s in found)
    if straight:
        thumb = max(3, round(STRAIGHT * total))
        return _Hand(found, plain(max(2, rest - thumb)), thumb, thumb, thumb)
    thumb = max(5, 2 * round((THUMB * total - 1) / 2) + 1)
    return _Hand(found, plain(rest - 1), thumb, 1, max(1, 2 * round((GAP * total - 1) / 2) + 1))


def limb_tolerance_mm(around: float) -> float:
    """How far off the way round may be: a twentieth, half a stitch of a thick yarn at the least (our choice)."""
    return float(max(8, round(around / 20.0)))


def _back(panel: Pattern, ground: Pattern, measure: Measure, half_um: float) -> tuple[Segment, ...] | None:
    placed = Segment("panel", panel, 1, gutter=proposed_gutter(panel))
    unit = segment_um(Segment("background", ground, 1), measure)
    left = half_um - segment_um(placed, measure)
    aside = max(0, round(left / 2.0 / unit))
    repeats = next((ground.chart.repeats_for(n) for n in range(aside, 0, -1) if ground.chart.repeats_for(n)), None)
    if repeats is None:
        return None
    side = Segment("background", ground, repeats)
    return (side, placed, side)


def _hand_piece(wanted: Wanted, hand: _Hand, *, left: bool) -> Piece:
    answers, evidence = wanted.answers, wanted.evidence
    mitten = answers["kind"] == "mittens"
    cuff = Border(RIB, border_rows(RIB, millimetres(answers, "cuff"), evidence, 1), factor=CUFF)
    edge = Border(RIB, border_rows(RIB, 15.0, evidence, 1), factor=EDGE)
    own = hand.segments(hand.before, left=left)
    around = millimetres(answers, "hand") * (1.0 + float(answers["ease"]) / 100.0)
    bare = Piece(
        name=f"{'Left' if left else 'Right'} hand",
        width_mm=around,
        height_mm=millimetres(answers, "cuff") + millimetres(answers, "length"),
        evidence=evidence,
        bands=(Band(own, rows=1),),
        tolerance_mm=limb_tolerance_mm(around),
        bottom=cuff,
        top=Border(rows=0) if mitten else edge,
        round=True,
        setup_rows=0,
        ends=PartEnd("grafted together") if mitten else PartEnd(),
    )
    row_um = body_row_um(bare.band_views[0])
    wrist = Band(own, rows=max(2, round(ABOVE_WRIST * 1000.0 / row_um)))
    whole = hand.segments(hand.thumb, left=left)
    grows = Band(whole, shaping=_gusset(hand, whole, row_um, bare.width_mm, left=left), runs_on=True)
    above = Band(hand.segments(hand.gap, left=left), runs_on=True)
    top = Band(above.own, shaping=_top(hand, above.own, row_um, around, left=left), runs_on=True)
    bands = (wrist, grows, above, *((top,) if mitten else ()))
    piece = replace(bare, bands=bands)
    short = replace(piece, bands=tuple(replace(b, rows=LEAST_HAND) if b is above else b for b in bands))
    if plan_rows(short).height_um > piece.height_mm * 1000.0 + 2.0 * row_um:
        taken, high = wanted.length(plan_rows(short).height_um / 1000.0), wanted.length(piece.height_mm)
        raise Infeasible(f"Cuff, thumb and edge take {taken} of {high}: make the mitt longer, or its cuff lower.")
    return piece


def _gusset(hand: _Hand, whole: tuple[Segment, ...], row_um: float, around: float, *, left: bool) -> Shaping:
    at = 1 if left else len(hand.back)
    grown = 0.0 if hand.before == hand.thumb else ROUNDS * (hand.thumb - 1) / 2.0
    stations = [Station("Thumb begins", around)]
    counts = [hand.before]
    if grown:
        stations.append(Station("Thumb is wide enough", around * (1.0 + THUMB), at_mm=round(grown) * row_um / 1000.0))
        counts.append(ALL)
    stations.append(Station("Above the thumb", around, paced=True))
    counts.append(hand.gap)
    holder = Holder("thumb", 0, len(stations) - 2, hand.gap)
    return Shaping(tuple(stations), sections=(Section(at, at, tuple(counts)),), holders=(holder,), whole_panels=False)


def _top(hand: _Hand, own: tuple[Segment, ...], row_um: float, around: float, *, left: bool) -> Shaping:
    """Back and palm are drawn in at both ends: every second round to half of it, then every round."""
    back = len(hand.back)
    halves = ((0, 1), (2, len(own) - 1)) if left else ((0, back - 1), (back, len(own) - 1))
    counts = [sum(s.stitches for s in own[a : b + 1]) for a, b in halves]
    end = max(2, round(TOP * min(counts)))
    middle = [count - 2 * ((count - end + 1) // 4) for count in counts]
    slow = max(2 * ((count - m + 1) // 2) for count, m in zip(counts, middle, strict=True))
    fast = max(-(-(m - end) // 2) for m in middle)
    stations = (
        Station("Top begins", around),
        Station("Every round from here", 0.7 * around, at_mm=slow * row_um / 1000.0),
        Station("Grafted", 0.4 * around, at_mm=(slow + fast) * row_um / 1000.0),
    )
    sections = tuple(Section(a, b, (ALL, m, end)) for (a, b), m in zip(halves, middle, strict=True))
    return Shaping(stations, sections=sections, whole_panels=False)


def _thumb_piece(wanted: Wanted, hand: _Hand, palm: Piece, number: int, *, left: bool) -> Piece:
    answers, evidence = wanted.answers, wanted.evidence
    count, mitten = hand.thumb + hand.gap, answers["kind"] == "mittens"
    halves = (plain(count // 2), plain(count - count // 2))
    around = count * evidence.gauge.stitch_mm
    thumb = Piece(
        name=f"{'Left' if left else 'Right'} thumb",
        width_mm=around,
        height_mm=millimetres(answers, "thumb_length"),
        evidence=evidence,
        bands=(Band(halves),),
        tolerance_mm=max(4.0, around / 8.0),
        bottom=Border(rows=0),
        top=Border(rows=0) if mitten else Border("rib-1x1", 4, factor=TIP),
        round=True,
        setup_rows=0,
        begins=(Source("held", number, "thumb", hand.thumb), Source("picked up", number, "gap", hand.gap)),
        ends=PartEnd("drawn together") if mitten else PartEnd(),
    )
    if not mitten:
        return thumb
    row_um = body_row_um(thumb.band_views[0])
    end = 2 if count < 16 else 3
    rows = max(-(-(s.stitches - end) // 2) for s in halves)
    stations = (Station("Tip begins", around), Station("Drawn together", 0.3 * around, at_mm=rows * row_um / 1000.0))
    sections = tuple(Section(at, at, (ALL, end)) for at in (0, 1))
    return replace(
        thumb, bands=(Band(halves), Band(halves, shaping=Shaping(stations, sections=sections), runs_on=True))
    )


def _cautions(answers: Answers, pieces: Sequence[Piece], unit: Unit) -> tuple[str, ...]:
    hand = pieces[0]
    wide = body_um(hand.band_views[0]) / 1000.0
    out = [f"It lies {length_text(wide, unit)} round for a hand of {length_text(millimetres(answers, 'hand'), unit)}."]
    out.append(
        "Pick up one stitch more in each corner of the thumb and work it together with the next: no hole is left."
    )
    return tuple(out)


def _ask(name: str, label: str, mm: float, source: str, **more: object) -> Ask:
    return Ask(name, label, mm, source, **more)  # type: ignore[arg-type]


MITTS = Shape(
    id="mitts",
    name="Mitts and mittens",
    what="In the round with a thumb gusset; right and left mirror each other, thumbs are worked from held stitches.",
    asks=(
        Ask("kind", "Made as", KINDS[0], "our choice", "choice", KINDS, names_it=True),
        _ask(
            "hand", "Hand", 185.0, sources(HANDS), least=100.0, most=300.0, hint="Over the knuckles, without the thumb."
        ),
        Ask("ease", "Ease", -5.0, f"{_PRACTICE}: mitts 0 to −10 %", "percent", least=-20.0, most=20.0),
        _ask("cuff", "Height of the cuff", 60.0, f"{_PRACTICE}: 5 to 7 cm", least=10.0, most=250.0),
        _ask(
            "length",
            "Length above the cuff",
            120.0,
            f"{_PRACTICE}: fingerless ones end 3 to 6 cm above the thumb, mittens at the fingertips",
            least=60.0,
            most=300.0,
            by={"mittens": 185.0},
        ),
        Ask("thumb", "Thumb", "gusset", "our choice", "choice", THUMBS),
        _ask(
            "thumb_length",
            "Length of the thumb",
            25.0,
            f"{_PRACTICE}: 2 to 3 cm, of mittens 5.5 to 6.5",
            least=10.0,
            most=100.0,
            by={"mittens": 60.0},
        ),
    ),
    make=_make,
    shows=(0, 1, 2),
    sizes=tuple(
        StandardSize(
            who,
            {"hand": hand.around, "length": hand.length if kind == "mittens" else hand.length / 2.0 + 40.0},
            hand.source,
            kind,
        )
        for kind in KINDS
        for who, hand in HANDS.items()
    ),
    cautions=_cautions,
)

"""Mitts and mittens: cuff, thumb gusset between two lines, hand, and a thumb on its held stitches; or a slit."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ...errors import Infeasible
from ...garment.joins import Join, Opening, PieceEdge
from ...library import find_pattern
from ...needle.stations import Station
from ...piece.border import Border
from ...piece.parts import PartEnd, Source
from ...piece.piece import Band, Piece
from ...piece.segment import Segment
from ...piece.widths import body_row_um, body_um
from ...rows.heights import plan_rows
from ...shaping.manner import CUT_PANELS
from ...shaping.sections import ALL, Holder, Section, SectionShaped
from ...units import Unit, length_text
from ..asks import Ask, StandardSize
from ..bodies.heads_hands_feet import HANDS, sources
from ..halves import halves_drawn_in, limb_tolerance_mm
from ..shape import Made, MadePiece, ShapeOf, Wanted, border_rows, plain
from .hands import SLIT, THUMB, THUMBS, HandLayout, MittsAnswers, lay_out_hand

_KINDS = ("fingerless mitts", "mittens")
SLIT_FROM, SLIT_TO = 1 / 8, 3 / 8
"""Our choice: above the cuff a slit is open from an eighth of the way round the hand to three eighths of it."""
_RIB = "rib-2x2"
CUFF, EDGE, TIP = 0.85, 0.95, 0.75
"""Our choice: a cuff is a seventh smaller than the hand, an edge a little, a thumb's edge a quarter; all give."""
ROUNDS = 2.5
"""Common practice: two stitches are made every second to third round."""
ABOVE_WRIST = 10.0  # common practice, millimetres: a gusset begins 0 to 2.5 cm above the cuff
TOP = 1 / 3
"""Our choice: a mitten's top is drawn in to a third of its stitches, and grafted."""
LEAST_HAND = 4
_PRACTICE = "common practice"


def _make(wanted: Wanted[MittsAnswers]) -> Made:
    answers = wanted.answers
    around = answers.hand_mm * (1.0 + answers.ease_percent / 100.0)
    hand = lay_out_hand(wanted, around)
    if answers.thumb == SLIT:
        flat = [MadePiece(_flat_piece(wanted, hand, around, left=left)) for left in (False, True)]
        return Made(tuple(flat), tuple(_side_seam(answers, at, around) for at in range(2)))
    out: list[MadePiece] = []
    for left in (False, True):
        number = len(out) + 1
        palm = _hand_piece(wanted, hand, left=left)
        out += [MadePiece(palm), MadePiece(_thumb_piece(wanted, hand, palm, number=number, left=left))]
    return Made(tuple(out))


def _hand_piece(wanted: Wanted[MittsAnswers], hand: HandLayout, *, left: bool) -> Piece:
    answers, evidence = wanted.answers, wanted.evidence
    mitten = answers.kind == "mittens"
    cuff = Border(pattern_id=_RIB, rows=border_rows(_RIB, answers.cuff_mm, evidence, step=1), factor=CUFF)
    edge = Border(pattern_id=_RIB, rows=border_rows(_RIB, 15.0, evidence, step=1), factor=EDGE)
    own = hand.segments(hand.before, left=left)
    around = answers.hand_mm * (1.0 + answers.ease_percent / 100.0)
    bare = Piece(
        name=f"{'Left' if left else 'Right'} hand",
        width_mm=around,
        height_mm=answers.cuff_mm + answers.length_mm,
        evidence=evidence,
        bands=(Band(own=own, rows=1),),
        tolerance_mm=limb_tolerance_mm(around),
        bottom=cuff,
        top=Border(rows=0) if mitten else edge,
        round=True,
        setup_rows=0,
        ends=PartEnd("grafted together") if mitten else PartEnd(),
    )
    row_um = body_row_um(bare.band_views[0])
    wrist = Band(own=own, rows=max(2, round(ABOVE_WRIST * 1000.0 / row_um)))
    whole = hand.segments(hand.thumb, left=left)
    grows = Band(own=whole, shaping=_gusset(hand, whole, row_um, around=bare.width_mm, left=left), runs_on=True)
    above = Band(own=hand.segments(hand.gap, left=left), runs_on=True)
    top = Band(own=above.own, shaping=_top(hand, above.own, row_um, around=around, left=left), runs_on=True)
    bands = (wrist, grows, above, *((top,) if mitten else ()))
    piece = replace(bare, bands=bands)
    _check_length(wanted, piece, bands.index(above))
    return piece


def _flat_piece(wanted: Wanted[MittsAnswers], hand: HandLayout, around: float, *, left: bool) -> Piece:
    """A hand worked flat, whose seam lies at the thumb: the palm, then the back, as the right side is seen."""
    answers, evidence = wanted.answers, wanted.evidence
    mitten, seam = answers.kind == "mittens", Segment(role="seam", pattern=find_pattern("stockinette"), repeats=1)
    inner = (hand.palm, *hand.back)
    own = (seam, *(tuple(s.reflected() for s in reversed(inner)) if left else inner), seam)
    bare = Piece(
        name=f"{'Left' if left else 'Right'} hand",
        width_mm=around,
        height_mm=answers.cuff_mm + answers.length_mm,
        evidence=evidence,
        bands=(Band(own=own),),
        tolerance_mm=limb_tolerance_mm(around),
        bottom=Border(pattern_id=_RIB, rows=border_rows(_RIB, answers.cuff_mm, evidence), factor=CUFF),
        top=Border(rows=0) if mitten else Border(pattern_id=_RIB, rows=border_rows(_RIB, 15.0, evidence), factor=EDGE),
        setup_rows=0,
        ends=PartEnd("grafted together") if mitten else PartEnd(),
    )
    if mitten:
        row_um, back = body_row_um(bare.band_views[0]), len(hand.back)
        halves = ((1, back), (back + 1, back + 1)) if left else ((1, 1), (2, back + 1))
        top = halves_drawn_in(own, halves, "Top", part=TOP, least=2, around=around, row_um=row_um, flat=True)
        bare = replace(bare, bands=(*bare.bands, Band(own=own, shaping=top, runs_on=True)))
    _check_length(wanted, bare, 0)
    return bare


def _side_seam(answers: MittsAnswers, at: int, around: float) -> Join:
    """The seam at the thumb, with the slit in it."""
    cuff = answers.cuff_mm
    slit = Opening("thumb", cuff + SLIT_FROM * around, cuff + SLIT_TO * around)
    return Join(
        one=PieceEdge(piece=at, edge="right edge"),
        other=PieceEdge(piece=at, edge="left edge"),
        swallows=1,
        openings=(slit,),
    )


def _check_length(wanted: Wanted[MittsAnswers], piece: Piece, hand: int) -> None:
    """What is shaped and the edges must leave some rows for the band of the hand."""
    bands = tuple(replace(b, rows=LEAST_HAND) if at == hand else b for at, b in enumerate(piece.bands))
    short = plan_rows(replace(piece, bands=bands))
    if short.height_um > piece.height_mm * 1000.0 + 2.0 * short.bands[hand].row_um:
        taken, high = wanted.length(short.height_um / 1000.0), wanted.length(piece.height_mm)
        raise Infeasible(
            f"Cuff, thumb and edge take {taken} of {high}: make the mitt longer, or its cuff lower.",
            clash=("length", "cuff"),
        )


def _gusset(hand: HandLayout, whole: tuple[Segment, ...], row_um: float, *, around: float, left: bool) -> SectionShaped:
    at = 1 if left else len(hand.back)
    grown = 0.0 if hand.before == hand.thumb else ROUNDS * (hand.thumb - 1) / 2.0
    stations = [Station(name="Thumb begins", width_mm=around)]
    counts = [hand.before]
    if grown:
        stations.append(
            Station(name="Thumb is wide enough", width_mm=around * (1.0 + THUMB), at_mm=round(grown) * row_um / 1000.0)
        )
        counts.append(ALL)
    stations.append(Station(name="Above the thumb", width_mm=around, paced=True))
    counts.append(hand.gap)
    holder = Holder(name="thumb", section=0, station=len(stations) - 2, cast_on=hand.gap)
    return SectionShaped(
        stations=tuple(stations),
        sections=(Section(first=at, last=at, counts=tuple(counts)),),
        holders=(holder,),
        manner=CUT_PANELS,
    )


def _top(hand: HandLayout, own: tuple[Segment, ...], row_um: float, *, around: float, left: bool) -> SectionShaped:
    """Back and palm are drawn in and grafted together."""
    back = len(hand.back)
    halves = ((0, 1), (2, len(own) - 1)) if left else ((0, back - 1), (back, len(own) - 1))
    return halves_drawn_in(own, halves, "Top", part=TOP, least=2, around=around, row_um=row_um)


def _thumb_piece(wanted: Wanted[MittsAnswers], hand: HandLayout, palm: Piece, *, number: int, left: bool) -> Piece:
    answers, evidence = wanted.answers, wanted.evidence
    count, mitten = hand.thumb + hand.gap, answers.kind == "mittens"
    halves = (plain(count // 2), plain(count - count // 2))
    around = count * evidence.gauge.stitch_mm
    thumb = Piece(
        name=f"{'Left' if left else 'Right'} thumb",
        width_mm=around,
        height_mm=answers.thumb_length_mm,
        evidence=evidence,
        bands=(Band(own=halves),),
        tolerance_mm=max(4.0, around / 8.0),
        bottom=Border(rows=0),
        top=Border(rows=0) if mitten else Border(pattern_id="rib-1x1", rows=4, factor=TIP),
        round=True,
        setup_rows=0,
        begins=(
            Source(kind="held", piece=number, name="thumb", stitches=hand.thumb),
            Source(kind="picked up", piece=number, name="gap", stitches=hand.gap),
        ),
        ends=PartEnd("drawn together") if mitten else PartEnd(),
    )
    if not mitten:
        return thumb
    row_um = body_row_um(thumb.band_views[0])
    end = 2 if count < 16 else 3
    rows = max(-(-(s.stitches - end) // 2) for s in halves)
    stations = (
        Station(name="Tip begins", width_mm=around),
        Station(name="Drawn together", width_mm=0.3 * around, at_mm=rows * row_um / 1000.0),
    )
    sections = tuple(Section(first=at, last=at, counts=(ALL, end)) for at in (0, 1))
    return replace(
        thumb,
        bands=(
            Band(own=halves),
            Band(own=halves, shaping=SectionShaped(stations=stations, sections=sections), runs_on=True),
        ),
    )


def _cautions(answers: MittsAnswers, pieces: Sequence[Piece], unit: Unit) -> tuple[str, ...]:
    hand = pieces[0]
    wide = body_um(hand.band_views[0]) / 1000.0
    out = [f"It lies {length_text(wide, unit)} round for a hand of {length_text(answers.hand_mm, unit)}."]
    if answers.thumb == SLIT:
        out.append("Fasten the ends of the seam well above and below the slit: that is where it is pulled.")
    else:
        out.append(
            "Pick up one stitch more in each corner of the thumb and work it together with the next: no hole is left."
        )
    return tuple(out)


def _ask(name: str, label: str, mm: float, *, source: str, **more: object) -> Ask:
    return Ask(name=name, label=label, default=mm, source=source, **more)  # type: ignore[arg-type]


MITTS = ShapeOf(
    id="mitts",
    name="Mitts and mittens",
    what="With a thumb gusset in the round, or flat with a slit; right and left mirror each other.",
    record=MittsAnswers,
    asks=(
        Ask(
            name="kind",
            label="Made as",
            default=_KINDS[0],
            source="our choice",
            kind="choice",
            choices=_KINDS,
            names_it=True,
        ),
        _ask(
            "hand",
            "Hand",
            185.0,
            source=sources(HANDS),
            least=100.0,
            most=300.0,
            hint="Over the knuckles, without the thumb.",
        ),
        Ask(
            name="ease",
            label="Ease",
            default=-5.0,
            source=f"{_PRACTICE}: mitts 0 to −10 %",
            kind="percent",
            least=-20.0,
            most=20.0,
        ),
        _ask("cuff", "Height of the cuff", 60.0, source=f"{_PRACTICE}: 5 to 7 cm", least=10.0, most=250.0),
        _ask(
            "length",
            "Length above the cuff",
            120.0,
            source=f"{_PRACTICE}: fingerless ones end 3 to 6 cm above the thumb, mittens at the fingertips",
            least=60.0,
            most=300.0,
            by={"mittens": 185.0},
        ),
        Ask(name="thumb", label="Thumb", default="gusset", source="our choice", kind="choice", choices=THUMBS),
        _ask(
            "thumb_length",
            "Length of the thumb",
            25.0,
            source=f"{_PRACTICE}: 2 to 3 cm, of mittens 5.5 to 6.5",
            least=10.0,
            most=100.0,
            by={"mittens": 60.0},
        ),
    ),
    make=_make,
    shows=(0, 1, 2),
    sizes=tuple(
        StandardSize(
            name=who,
            answers={
                "hand": hand.around_mm,
                "length": hand.length_mm if kind == "mittens" else hand.length_mm / 2.0 + 40.0,
            },
            source=hand.source,
            choice=kind,
        )
        for kind in _KINDS
        for who, hand in HANDS.items()
    ),
    cautions=_cautions,
)

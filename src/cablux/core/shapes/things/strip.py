"""The strip worn sideways: its length goes round, so its rows decide the way round; its ends are joined."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ...garment.joins import Join, JoinKind, Opening, PieceEdge, lost_rows, way_round_um
from ...piece.border import Border
from ...piece.piece import Piece
from ...piece.widths import body_row_um
from ...practice import HEAD_MM
from ...rows.row_room import meeting_rows
from ...units import Unit, length_text
from ..asks import Ask, ShapeAnswers, StandardSize
from ..shape import Made, MadePiece, ShapeOf, Wanted, bare_piece, laid_out

_WORN = ("cowl", "headband", "mitts", "bracelet", "mug wrap", "bottle wrap")
_EDGES = {"ridge": "garter-ridge-edge", "garter": "garter", "seed": "seed", "slipped": "slipped-edge"}
CLOSINGS: dict[str, JoinKind] = {"sewn": "mattress", "grafted": "grafted", "button and loop": "button and loop"}
_PRACTICE = "common practice"
_STARTS = (("honeycomb",), ("braid-9",), ("rope-3-3-left",), ("rope-2-2-left",))


@dataclass(frozen=True, kw_only=True)
class StripAnswers(ShapeAnswers):
    """What a strip is asked."""

    worn: str
    around_mm: float
    ease_percent: float
    width_mm: float
    opening_from_mm: float
    opening_to_mm: float
    closing: str
    edge: str


def _make(wanted: Wanted[StripAnswers]) -> Made:
    answers = wanted.answers
    width = answers.width_mm
    around = answers.around_mm * (1.0 + answers.ease_percent / 100.0)
    none = Border(rows=0)
    stitches = 2 if width < 80.0 else 3
    piece = bare_piece(
        wanted,
        width_mm=width,
        height_mm=around,
        tolerance_mm=float(max(4, min(10, round(width / 12)))),
        edge=(_EDGES[answers.edge], stitches),
        bottom=none,
        top=none,
        setup_rows=0,
        meets=True,
    )
    copies = 2 if answers.worn == "mitts" else 1
    join = _join(answers)
    strip = laid_out(piece, wanted, _STARTS, prefer="all over")
    lost = lost_rows(join) * body_row_um(strip.band_views[0]) / 1000.0
    return Made((MadePiece(replace(strip, height_mm=around + lost), copies),), (join,))


def _join(answers: StripAnswers) -> Join:
    how = CLOSINGS[answers.closing]
    swallows = 1 if how == "mattress" else 0
    return Join(
        one=PieceEdge(piece=0, edge="cast-on"),
        other=PieceEdge(piece=0, edge="bind-off"),
        how=how,
        swallows=swallows,
        openings=_openings(answers),
    )


def _openings(answers: StripAnswers) -> tuple[Opening, ...]:
    start, end = answers.opening_from_mm, answers.opening_to_mm
    if end <= 0.0:
        return ()
    return (Opening({"mitts": "thumb", "mug wrap": "handle"}.get(answers.worn, "slit"), start, end),)


def _cautions(answers: StripAnswers, pieces: Sequence[Piece], unit: Unit) -> tuple[str, ...]:
    height = (way_round_um(pieces[0], [_join(answers)]) or 0.0) / 1000.0
    out = []
    if answers.worn == "cowl" and height < HEAD_MM:
        out.append(
            f"At {length_text(height, unit)} round it may not pass over a head of {length_text(HEAD_MM, unit)}: "
            "knitted cloth gives a little in height. Make it longer, or close it with buttons."
        )
    if answers.worn in ("mug wrap", "bottle wrap"):
        out.append("Wool and cotton stand heat; acrylic softens at it. Do not put the wrap near a flame or a hob.")
    if answers.worn == "bracelet" or answers.closing == "button and loop":
        out.append("Buttons and loops are nothing for small children, who may swallow or catch on them.")
    return tuple(out)


def _near(answers: StripAnswers, pieces: Sequence[Piece], unit: Unit) -> str:
    """The numbers of whole repeats near the way round, with what each comes to, joined."""
    piece = pieces[0]
    view, row_mm = piece.band_views[0], body_row_um(piece.band_views[0]) / 1000.0
    lost = lost_rows(_join(answers))
    said = ", ".join(
        f"{rows} rows come to {length_text((rows - lost) * row_mm, unit)}"
        for rows in meeting_rows(view, piece.height_mm / row_mm)
    )
    return f"Whole repeats near {length_text(piece.height_mm - lost * row_mm, unit)}: {said}."


def _ask(name: str, label: str, cm: float, *, source: str, **more: object) -> Ask:
    return Ask(name=name, label=label, default=cm * 10.0, source=source, **more)  # type: ignore[arg-type]


def _by(**cm: float) -> dict[str, float | str]:
    return {name.replace("_", " "): value * 10.0 for name, value in cm.items()}


STRIP = ShapeOf(
    id="strip",
    name="Strip worn sideways",
    what="A strip knitted to the way round and joined at its ends: cowl, mitts, headband, bracelet, wrap.",
    record=StripAnswers,
    asks=(
        Ask(
            name="worn",
            label="Worn as",
            default="cowl",
            source="our choice",
            kind="choice",
            choices=_WORN,
            names_it=True,
        ),
        _ask(
            "around",
            "It goes round",
            60.0,
            source=f"{_PRACTICE}: close cowls are 55 to 66 cm round",
            least=80.0,
            most=2000.0,
            hint="Measure what it goes round: the head, the hand over the knuckles, the wrist, the mug.",
            by=_by(headband=56, mitts=19, bracelet=16, mug_wrap=26, bottle_wrap=24),
        ),
        Ask(
            name="ease",
            label="Ease",
            default=0.0,
            source=f"{_PRACTICE}: cowls none; cabled headbands −10 to −12 %, mitts 0 to −10 %",
            kind="percent",
            least=-25.0,
            most=40.0,
            hint="Less than 0 sits close and stretches, more than 0 hangs loose.",
            by={"headband": -10.0, "mitts": -5.0, "mug wrap": -4.0, "bottle wrap": -4.0},
        ),
        _ask(
            "width",
            "Width of the strip",
            22.0,
            source=f"{_PRACTICE}: close cowls are 18 to 28 cm high, headbands 7 to 12",
            least=20.0,
            most=800.0,
            hint="How far it reaches along the neck, the arm or the mug.",
            by=_by(headband=10, mitts=17, bracelet=5, mug_wrap=8, bottle_wrap=15),
        ),
        _ask(
            "opening_from",
            "Opening from",
            0.0,
            source="our choice: a thumb’s height above the wrist",
            least=0.0,
            most=800.0,
            hint="Along the seam from the strip’s right edge; 0 to 0 is no opening.",
            by=_by(mitts=8, mug_wrap=1.5),
        ),
        _ask(
            "opening_to",
            "Opening to",
            0.0,
            source="our choice: a thumb slit of 4.5 cm, a handle slit of 5 cm",
            least=0.0,
            most=800.0,
            by=_by(mitts=12.5, mug_wrap=6.5),
        ),
        Ask(
            name="closing",
            label="Ends closed",
            default="sewn",
            source="our choice",
            kind="choice",
            choices=tuple(CLOSINGS),
            by={"bracelet": "button and loop", "cowl": "grafted"},
        ),
        Ask(name="edge", label="Edge", default="ridge", source="our choice", kind="choice", choices=tuple(_EDGES)),
    ),
    make=_make,
    seam_ask="opening_to",
    sizes=(
        StandardSize(name="Close", answers={"around": 600.0, "width": 220.0}, source=_PRACTICE, choice="cowl"),
        StandardSize(name="Long", answers={"around": 900.0, "width": 250.0}, source=_PRACTICE, choice="cowl"),
        StandardSize(name="Twice round", answers={"around": 1400.0, "width": 220.0}, source=_PRACTICE, choice="cowl"),
        *(
            StandardSize(name=name, answers={"around": cm * 10.0}, source=source, choice="headband")
            for name, cm, source in (
                ("Child of 2 years", 48.0, "WHO Child Growth Standards, median head at 24 months"),
                ("Child of 5 years", 50.5, "WHO Child Growth Standards, median head at 5 years"),
                ("Woman", 56.0, _PRACTICE),
                ("Man", 59.0, _PRACTICE),
            )
        ),
        *(
            StandardSize(name=name, answers={"around": cm * 10.0}, source=_PRACTICE, choice="mitts")
            for name, cm in (("Child of 8 to 10", 16.0), ("Woman", 18.5), ("Man", 21.5))
        ),
        *(
            StandardSize(name=name, answers={"around": cm * 10.0}, source=_PRACTICE, choice="bracelet")
            for name, cm in (("Child", 13.0), ("Woman", 15.5), ("Man", 18.0))
        ),
        StandardSize(
            name="Mug of 8.3 cm across",
            answers={"around": 260.0},
            source="our choice: π times its width",
            choice="mug wrap",
        ),
        StandardSize(
            name="Bottle of 7.6 cm across",
            answers={"around": 240.0},
            source="our choice: π times its width",
            choice="bottle wrap",
        ),
    ),
    cautions=_cautions,
    near=_near,
)

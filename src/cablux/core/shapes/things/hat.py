"""The hat: brim, body, and a crown in gores into which the panels run on, drawn together at the top."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ...ends.cast_on import plan_cast_on
from ...errors import Infeasible
from ...garment.joins import Join, PieceEdge
from ...library import find_pattern
from ...piece.border import Border
from ...piece.parts import PartEnd, Source
from ...piece.piece import Band, Piece
from ...piece.segment import Segment
from ...piece.widths import body_row_um, body_um, pattern_um
from ...rows.heights import plan_rows
from ...rows.row_room import border_row_um
from ...rows.shaped_band import shape_band
from ...shaping.sections import SectionShaped
from ...units import Unit, length_text
from ..asks import Ask, ShapeAnswers
from ..bodies.heads_hands_feet import BABIES, HEADS, sources
from ..shape import BACKGROUND, Made, MadePiece, ShapeOf, Wanted, border_rows
from .crowns import CROWNS, gored_crown, spined_crown
from .gores import GORES, Gores, nearest_gores, possible_gores

BRIMS = {"2×2": "rib-2x2", "1×1": "rib-1x1", "twisted": "twisted-rib", "flowing": "", "picked up": "rib-2x2"}
SLOUCH = 50.0  # our choice, millimetres: so much longer a slouched body is
WORK = ("in the round", "flat with a seam")
PANELS = ("into the gores", "on the lines between them")
TOPS = ("narrowed", "crossed and halved")
BRIM = 0.85
"""Common practice: ribs are 10 to 15 % smaller than the head, where cables are 5 to 10 %; they give more."""
LEAST_BODY = 4
"""Our choice: rounds of body that a hat has at least between brim and crown."""
_PRACTICE = "common practice"
_STARTS = (("rope-3-3-left",), ("rope-2-2-left",), ("braid-6",), ("rope-1-1-left",), ("twist-columns",))


@dataclass(frozen=True, kw_only=True)
class HatAnswers(ShapeAnswers):
    """What a hat is asked."""

    for_: str
    head_mm: float
    ease_percent: float
    height_mm: float
    brim: str
    brim_height_mm: float
    folded: str
    crown: str
    gores: str
    cables: str
    tops: str
    worked: str


def _make(wanted: Wanted[HatAnswers]) -> Made:
    answers = wanted.answers
    around = answers.head_mm * (1.0 + answers.ease_percent / 100.0)
    gores = _gores(wanted, around)[0]
    flat, spines = answers.worked == WORK[1], answers.cables == PANELS[1]
    seam = (Segment(role="seam", pattern=find_pattern("stockinette"), repeats=1),) if flat else ()
    own = (*seam, *(gores.spined if spines else gores.segments), *seam)
    brim, picked = answers.brim, answers.brim == "picked up"
    high = answers.brim_height_mm * (2.0 if answers.folded == "yes" else 1.0)
    step = 2 if flat else 1
    rows = border_rows(BRIMS[brim] or "rib-2x2", high, wanted.evidence, step=step)
    none = Border(rows=0)
    bare = Piece(
        name=wanted.name if not picked else "Hat",
        width_mm=around,
        height_mm=answers.height_mm + (SLOUCH if answers.crown == "slouched" else 0.0),
        evidence=wanted.evidence,
        bands=(Band(own=own),),
        tolerance_mm=tolerance_mm(around),
        bottom=Border(pattern_id=BRIMS[brim], rows=rows, factor=BRIM) if BRIMS[brim] and not picked else none,
        top=none,
        round=not flat,
        ends=PartEnd("drawn together"),
    )
    if brim == "flowing":
        bare = replace(bare, setup_rows=rows)
    row_um = body_row_um(bare.band_views[0])
    height = CROWNS[answers.crown] * around * 1000.0 / (2.0 * math.pi)
    crown = spined_crown(gores, height, row_um, seam=seam) if spines else gored_crown(gores, height, row_um, seam=seam)
    turned = rows * border_row_um(bare, Border(pattern_id=BRIMS[brim] or "rib-2x2")) / 2000.0
    folded = turned if answers.folded == "yes" else 0.0
    if answers.tops == TOPS[1]:
        crown = tuple(
            replace(b, shaping=replace(b.shaping, cabled=True)) for b in crown if isinstance(b.shaping, SectionShaped)
        )
    piece = replace(bare, height_mm=bare.height_mm + folded, bands=(Band(own=own), *crown))
    _check_height(piece, wanted)
    if not picked:
        return Made((MadePiece(piece),), _seams(flat=flat))
    hat = replace(piece, height_mm=piece.height_mm - high)
    _check_height(hat, wanted)
    return Made((MadePiece(hat), MadePiece(_picked_brim(hat, BRIMS[brim], high))), _seams(flat=flat))


def _seams(*, flat: bool) -> tuple[Join, ...]:
    """The seam of a hat that is worked flat, up its side to the crown."""
    return (
        (Join(one=PieceEdge(piece=0, edge="right edge"), other=PieceEdge(piece=0, edge="left edge"), swallows=1),)
        if flat
        else ()
    )


def _picked_brim(hat: Piece, rib_id: str, high: float) -> Piece:
    """A brim of nine to ten of the hat's stitches (common practice), picked up along its cast-on and worked down."""
    rib = find_pattern(rib_id)
    multiple = rib.chart.multiple
    count = max(multiple, round(0.9 * plan_cast_on(hat).cast_on / multiple) * multiple)
    return Piece(
        name="Brim",
        width_mm=pattern_um(rib, count, hat.measure) / 1000.0,
        height_mm=max(10.0, high),
        evidence=hat.evidence,
        bands=(Band(own=(Segment(role="background", pattern=rib, repeats=count // multiple, closed=True),)),),
        tolerance_mm=hat.tolerance_mm,
        bottom=Border(rows=0),
        top=Border(rows=0),
        round=True,
        setup_rows=0,
        begins=(Source(kind="picked up", piece=1, name="cast-on edge", stitches=count),),
    )


def tolerance_mm(around: float) -> float:
    """How far off the way round may be: a fortieth, half a stitch of a thick yarn at the least (our choice)."""
    return float(max(8, round(around / 40.0)))


def _gores(wanted: Wanted[HatAnswers], around: float) -> tuple[Gores, ...]:
    """The ways round that come nearest to the head, for the panels chosen, or the first of our own that fits."""
    measure, background = wanted.evidence.measure, wanted.background or find_pattern(BACKGROUND)
    asked = wanted.answers.gores
    many = GORES if asked == "as fits" else (int(asked),)
    tolerance = tolerance_mm(around) * 1000.0
    starts = (wanted.panels,) if wanted.panels else [tuple(map(find_pattern, start)) for start in _STARTS]
    best: tuple[Gores, ...] = ()
    for panels in starts:
        found = nearest_gores(list(possible_gores(panels, background, measure, many=many)), around * 1000.0)
        if found and abs(found[0].width_um - around * 1000.0) <= tolerance:
            return found
        if found and (not best or abs(found[0].width_um - around * 1e3) < abs(best[0].width_um - around * 1e3)):
            best = found
    near = f" The nearest is {wanted.length(best[0].width_um / 1000.0)}." if best else ""
    names = " and ".join(p.name for p in wanted.panels) or "no panel of ours"
    what = f"{names} will not close" if wanted.panels else f"{names} will close"
    raise Infeasible(
        f"In {asked if asked != 'as fits' else '6 to 10'} gores {what} round {wanted.length(around)} at this gauge."
        f"{near} Choose a panel of another width, another number of gores, or another ease.",
        clash=("panels", "gores", "ease"),
        nearest=best[0].width_um / 1000.0 if best else None,
    )


def _check_height(piece: Piece, wanted: Wanted[HatAnswers]) -> None:
    """There must be some body between the brim and the crown."""
    plan = plan_rows(replace(piece, bands=(replace(piece.bands[0], rows=LEAST_BODY), *piece.bands[1:])))
    if plan.height_um > piece.height_mm * 1000.0 + 2.0 * plan.bands[1].row_um:
        taken, whole = wanted.length(plan.height_um / 1000.0), wanted.length(piece.height_mm)
        raise Infeasible(
            f"Brim and crown with a few rounds between them take {taken} of {whole}: make the hat higher, the "
            "brim lower, or the crown flat-topped.",
            clash=("height", "brim_height", "crown"),
        )


def _cautions(answers: HatAnswers, pieces: Sequence[Piece], unit: Unit) -> tuple[str, ...]:
    hat, head = pieces[0], answers.head_mm
    out = []
    drawn = min(plan_cast_on(p).cast_on for p in pieces) * hat.measure.gauge.stitch_mm
    if drawn < head:
        out.append(
            f"Drawn out, its brim is about {length_text(drawn, unit, 0)} round, less than a head of "
            f"{length_text(head, unit, 0)}: cast on on a larger needle, or take a 2×2 rib."
        )
    wide = body_um(hat.band_views[0]) / 1000.0
    out.append(f"It lies {length_text(wide, unit)} round for a head of {length_text(head, unit)}.")
    if not hat.round:
        out.append("Sew the seam from the crown down; turn it over on the fold of the brim, so that it is hidden.")
    if answers.tops == TOPS[1] and not _halved(hat):
        out.append("No cable of this crown stands alone when it crosses, so none is halved: they are narrowed instead.")
    if answers.for_ in BABIES:
        out.append(
            "For a baby take soft, washable yarn, and no ties, beads or loose ends. A baby should not sleep in a hat: "
            "it can get too warm, or slip over the face."
        )
    return tuple(out)


def _halved(hat: Piece) -> bool:
    """Whether any cable of the crown loses half its stitches as it crosses."""
    crowns = (shape_band(view) for view in hat.band_views[1:] if view.shaping is not None)
    return any(row.crossed for crown in crowns for row in crown.active.rows)


def _near(answers: HatAnswers, pieces: Sequence[Piece], unit: Unit) -> str:
    """The ways to go round in equal gores that come nearest to the head, with what each comes to."""
    view = pieces[0].band_views[0]
    panels = tuple(dict.fromkeys(s.pattern for s in view.segments if s.is_panel))
    background = next((s.pattern for s in view.segments if s.is_background), None)
    if not panels or background is None:
        return ""
    around = answers.head_mm * (1.0 + answers.ease_percent / 100.0)
    found = nearest_gores(list(possible_gores(panels, background, view.measure)), around * 1000.0)
    said = ", ".join(
        f"{len(g.each)} gores of {g.count} come to {length_text(g.width_um / 1000.0, unit)}" for g in found
    )
    return f"Ways round near {length_text(around, unit)}: {said}."


def _by(name: str) -> dict[str, float | str]:
    return {who: getattr(head, name) for who, head in HEADS.items()}


HAT = ShapeOf(
    id="hat",
    name="Hat",
    what="From the brim up, cables running on into a crown in gores that is drawn together at the top.",
    record=HatAnswers,
    asks=(
        Ask(name="for", label="For", default="woman", source=sources(HEADS), kind="choice", choices=tuple(HEADS)),
        Ask(
            name="head",
            label="Head",
            default=560.0,
            source=sources(HEADS),
            least=250.0,
            most=700.0,
            by=_by("around_mm"),
            hint="Above the ears.",
        ),
        Ask(
            name="ease",
            label="Ease",
            default=-8.0,
            source=f"{_PRACTICE}: hats −5 to −10 %, ribbed ones −10 to −15 %",
            kind="percent",
            least=-25,
            most=20,
        ),
        Ask(
            name="height",
            label="Height",
            default=230.0,
            source=f"{_PRACTICE}; from the edge to the middle of the crown, the brim unfolded",
            least=90.0,
            most=450.0,
            by=_by("height_mm"),
        ),
        Ask(name="brim", label="Brim", default="2×2", source="our choice", kind="choice", choices=tuple(BRIMS)),
        Ask(
            name="brim_height",
            label="Height of the brim",
            default=45.0,
            source=f"{_PRACTICE}: 3 to 6 cm",
            least=5.0,
            most=150.0,
            by=dict.fromkeys(BABIES, 30.0),
        ),
        Ask(name="folded", label="Folded up", default="no", source="our choice", kind="choice", choices=("no", "yes")),
        Ask(name="crown", label="Crown", default="round", source="our choice", kind="choice", choices=tuple(CROWNS)),
        Ask(
            name="gores",
            label="Gores",
            default="as fits",
            source=f"{_PRACTICE}: 6 to 10",
            kind="choice",
            choices=("as fits", *map(str, GORES)),
        ),
        Ask(name="cables", label="Cables run", default=PANELS[0], source="our choice", kind="choice", choices=PANELS),
        Ask(
            name="tops",
            label="Cables end",
            default=TOPS[0],
            source=_PRACTICE,
            kind="choice",
            choices=TOPS,
            hint="A 2/2 or 3/3 cable that stands alone can lose half its stitches in its last crossing.",
        ),
        Ask(name="worked", label="Worked", default=WORK[0], source="our choice", kind="choice", choices=WORK),
    ),
    make=_make,
    cautions=_cautions,
    near=_near,
)

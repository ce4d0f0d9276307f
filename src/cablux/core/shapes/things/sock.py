"""The sock: cuff, leg, heel, foot and toe; columns run on from the leg over the instep, the sole is plain."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ...errors import Infeasible
from ...gauge import Measure
from ...library import StitchPattern, find_pattern
from ...needle.stations import Station
from ...piece.border import Border
from ...piece.parts import HeldGroup, PartEnd, Source
from ...piece.piece import Band, Piece
from ...piece.segment import Segment
from ...piece.stretch import stretched_um
from ...piece.widths import body_row_um, body_um, segment_um
from ...rows.heights import plan_rows
from ...shaping.heel import FEWEST, Heeled, HeelKind, heel_columns, heel_depth
from ...shaping.manner import CUT_PANELS
from ...shaping.sections import ALL, Section, SectionShaped
from ...units import Unit, length_text
from ..asks import Ask, ShapeAnswers, StandardSize
from ..bodies.heads_hands_feet import FEET, sources
from ..halves import halves_drawn_in, limb_tolerance_mm, panel_half
from ..shape import Made, MadePiece, ShapeOf, Wanted, border_rows, plain

HEELS: dict[str, HeelKind] = {"flap and gusset": "turned", "short rows": "short rows"}
FLAPS = {"slipped stitches": "slipped-rib", "rib": "rib-1x1"}
_RIB = "rib-2x2"
_BACKGROUND = "rib-2x1"
"""Our choice: twists and ropes stand in a rib, which keeps the stretch."""
_CUFF = 0.9
"""Our choice: the cuff holds the leg up, so it is a tenth smaller; it gives."""
TOE_END = 1 / 3
"""Common practice: a toe is drawn in to 8 to 16 stitches, about a third, and grafted."""
SHORTER = 0.95
"""Common practice: a sock's foot is 1 to 1.5 cm shorter than the foot, 5 %."""
LEAST_FOOT = 4
LEAST_LEG = 2
PASSES = 1.3
"""Our choice: round heel and instep a foot is about three tenths more than round its ball."""
_PRACTICE = "common practice"
_STARTS = ("twist-pair", "twist-columns", "rope-2-2-left", "rope-1-1-left", "braid-6")


@dataclass(frozen=True, kw_only=True)
class SockAnswers(ShapeAnswers):
    """What a sock is asked."""

    heel: str
    flap: str
    foot_mm: float
    ease_percent: float
    foot_length_mm: float
    leg_mm: float
    cuff_mm: float


@dataclass(frozen=True)
class _Sock:
    """The layout: the instep from the right, the stitches of the heel, and the way round."""

    instep: tuple[Segment, ...]
    heel: int
    around_mm: float

    @property
    def stitches(self) -> int:
        """The stitches of the instep."""
        return sum(s.stitches for s in self.instep)


def _make(wanted: Wanted[SockAnswers]) -> Made:
    answers = wanted.answers
    sock = _laid_out(wanted, answers.foot_mm * (1.0 + answers.ease_percent / 100.0))
    kind = HEELS[answers.heel]
    leg, heel = _leg(wanted, sock), _heel(wanted, sock, kind)
    foot = _foot(wanted, sock, kind, heel=heel)
    return Made(tuple(MadePiece(piece, 2) for piece in (leg, heel, foot)))


def _laid_out(wanted: Wanted[SockAnswers], around: float) -> _Sock:
    measure, background = wanted.evidence.measure, wanted.background or find_pattern(_BACKGROUND)
    panels = wanted.panels[:1] or tuple(map(find_pattern, _STARTS))
    tries = [
        (p, _instep(p, g, measure, half_um=around * 500.0))
        for p in panels
        for g in (background, find_pattern("stockinette"))
    ]
    found = next((instep for _, instep in tries if instep), None)
    stitch = segment_um(plain(1), measure)
    if found is not None:
        rest = around * 1000.0 - sum(segment_um(s, measure) for s in found)
        heel = 2 * round(rest / stitch / 2.0)
        if heel >= FEWEST and abs(rest - heel * stitch) <= limb_tolerance_mm(around) * 1000.0:
            return _Sock(found, heel, around)
    names = " or ".join(p.name for p in panels)
    raise Infeasible(
        f"{names} will not fit on the instep of a sock {wanted.length(around)} round at this gauge: choose a narrower "
        "panel, or a finer yarn.",
        clash=("panels", "foot"),
    )


def _instep(
    panel: StitchPattern, background: StitchPattern, measure: Measure, *, half_um: float
) -> tuple[Segment, ...] | None:
    """The panel on the instep; None where it is much wider or narrower than a half."""
    found = panel_half(panel, background, measure, half_um=half_um)
    wide = sum(segment_um(each, measure) for each in found or ())
    return found if 0.6 * half_um <= wide <= 1.25 * half_um else None


def _bare(wanted: Wanted[SockAnswers], sock: _Sock, name: str, *, band: Band, height: float, **more: object) -> Piece:
    return Piece(
        name=name,
        width_mm=sock.around_mm,
        height_mm=height,
        evidence=wanted.evidence,
        bands=(band,),
        tolerance_mm=limb_tolerance_mm(sock.around_mm),
        bottom=Border(rows=0),
        top=Border(rows=0),
        setup_rows=0,
        **more,  # type: ignore[arg-type]
    )


def _leg(wanted: Wanted[SockAnswers], sock: _Sock) -> Piece:
    answers = wanted.answers
    cuff = Border(pattern_id=_RIB, rows=border_rows(_RIB, answers.cuff_mm, wanted.evidence, step=1), factor=_CUFF)
    leg = _bare(
        wanted,
        sock,
        "Leg",
        band=Band(own=(*sock.instep, plain(sock.heel))),
        height=answers.leg_mm,
        round=True,
        ends=PartEnd("held", (HeldGroup("instep", sock.stitches), HeldGroup("heel", sock.heel))),
    )
    leg = replace(leg, bottom=cuff)
    short = plan_rows(replace(leg, bands=(replace(leg.bands[0], rows=LEAST_LEG),)))
    if short.height_um > leg.height_mm * 1000.0 + 2 * short.bands[0].row_um:
        taken = wanted.length(short.height_um / 1000.0)
        raise Infeasible(
            f"The cuff alone takes {taken} of the leg: make the leg longer, or the cuff lower.", clash=("leg", "cuff")
        )
    return leg


def _heel(wanted: Wanted[SockAnswers], sock: _Sock, kind: HeelKind) -> Piece:
    """A flap that is as many rows high as it has stitches, and its turn; or short rows alone."""
    count = sock.heel
    one, two = (Segment(role="edge", pattern=find_pattern("garter"), repeats=n) for n in (1, 2))
    flap = find_pattern(FLAPS[wanted.answers.flap])
    firm = Segment(role="background", pattern=flap, repeats=flap.chart.repeats_for(count - 3) or 1)
    width = count * wanted.evidence.gauge.stitch_mm
    shaping = Heeled(
        stations=(Station(name="Heel begins", width_mm=width), Station(name="Heel is turned", width_mm=width)),
        heel=kind,
    )
    turn = Band(own=(one, plain(count - 3), two), shaping=shaping)
    bands = (Band(own=(one, firm, two), rows=count), turn) if kind == "turned" else (turn,)
    piece = _bare(
        wanted,
        sock,
        "Heel",
        band=turn,
        height=50.0,
        begins=(Source(kind="held", piece=1, name="heel", stitches=count),),
    )
    piece = replace(piece, bands=bands, width_mm=width, tolerance_mm=max(10.0, width / 4.0))
    left = heel_columns(piece.band_views[-1], kind).counts[-1]
    high = plan_rows(replace(piece, ends=PartEnd())).height_um / 1000.0
    return replace(piece, height_mm=max(10.0, round(high, 1)), ends=PartEnd("held", (HeldGroup("turned heel", left),)))


def _foot(wanted: Wanted[SockAnswers], sock: _Sock, kind: HeelKind, *, heel: Piece) -> Piece:
    """Over the instep's held stitches, what was picked up beside the flap, and the heel's; gusset, foot and toe."""
    length, turned = wanted.answers.foot_length_mm, heel.ends.groups[0].stitches
    depth = heel_depth(heel_columns(heel.band_views[-1], kind), kind) * wanted.evidence.gauge.row_mm
    picked = heel.bands[0].rows // 2 + 1 if kind == "turned" else 0
    aside = max(1, (sock.heel - turned) // 2)
    sole = (plain(aside), plain(turned), plain(aside)) if picked else (plain(turned),)
    own = (*sock.instep, *sole)
    bare = _bare(
        wanted,
        sock,
        "Foot",
        band=Band(own=own, runs_on=bool(picked)),
        height=max(20.0, SHORTER * length - depth),
        round=True,
        begins=_sources(sock, turned, picked),
        ends=PartEnd("grafted together"),
    )
    row_um = body_row_um(bare.band_views[0])
    gusset = (_gusset(sock, picked, turned, aside=aside, row_um=row_um),) if picked else ()
    last = len(sock.instep)
    drawn = halves_drawn_in(
        own,
        ((0, last - 1), (last, len(own) - 1)),
        "Toe",
        part=TOE_END,
        least=3,
        around=sock.around_mm,
        row_um=row_um,
    )
    toe = Band(own=own, shaping=drawn, runs_on=True)
    piece = replace(bare, bands=(*gusset, *bare.bands, toe))
    least = (replace(b, rows=LEAST_FOOT) if b.shaping is None else b for b in piece.bands)
    short = plan_rows(replace(piece, bands=tuple(least))).height_um
    if short > piece.height_mm * 1000.0 + 2.0 * row_um:
        taken, whole = (wanted.length(mm) for mm in (short / 1000.0 + depth, length))
        raise Infeasible(
            f"Heel, gusset and toe take {taken} of a foot of {whole}: choose a heel of short rows, or a longer foot.",
            clash=("heel", "foot_length"),
        )
    return piece


def _sources(sock: _Sock, turned: int, picked: int) -> tuple[Source, ...]:
    """What a foot begins with, from the instep's right edge."""
    instep, heel = (
        Source(kind="held", piece=1, name="instep", stitches=sock.stitches),
        Source(kind="held", piece=2, name="turned heel", stitches=turned),
    )
    if not picked:
        return (instep, heel)
    right, left = (
        Source(kind="picked up", piece=2, name=f"{side} edge of the flap", stitches=picked)
        for side in ("right", "left")
    )
    return (instep, right, heel, left)


def _gusset(sock: _Sock, picked: int, turned: int, *, aside: int, row_um: float) -> Band:
    """What was picked up is decreased beside the instep, two every second round, to the count of the leg."""
    at, rows = len(sock.instep), 2 * (picked - aside)
    stations = (
        Station(name="Gusset begins", width_mm=sock.around_mm * 1.2),
        Station(name="Gusset is done", width_mm=sock.around_mm, at_mm=rows * row_um / 1000.0),
    )
    sections = (
        Section(first=at, last=at, counts=(ALL, aside), edges="right"),
        Section(first=at + 2, last=at + 2, counts=(ALL, aside), edges="left"),
    )
    wide = (*sock.instep, plain(picked), plain(turned), plain(picked))
    return Band(own=wide, shaping=SectionShaped(stations=stations, sections=sections, manner=CUT_PANELS))


def _cautions(answers: SockAnswers, pieces: Sequence[Piece], unit: Unit) -> tuple[str, ...]:
    leg, foot = pieces[0], answers.foot_mm
    wide = body_um(leg.band_views[0]) / 1000.0
    out = [f"It lies {length_text(wide, unit)} round for a foot of {length_text(foot, unit)}."]
    drawn = stretched_um(leg.band_views[0]) / 1000.0
    out.append(
        f"Its ribs open and its plain stitches give: drawn out, the leg is about {length_text(drawn, unit, 0)} round."
    )
    if drawn < PASSES * foot:
        out.append(
            f"Over the heel a foot wants {length_text(PASSES * foot, unit, 0)}, more than that. Crossings of two "
            "stitches and more take the stretch: choose a narrower panel, twists, or less ease."
        )
    out.append("Cast on loosely: the cuff must pass the heel. On smooth floors socks slip; mind stairs.")
    return tuple(out)


SOCK = ShapeOf(
    id="sock",
    name="Sock",
    what="From the cuff down: leg, heel, gusset and toe, with cables that run on over the instep.",
    record=SockAnswers,
    asks=(
        Ask(
            name="heel",
            label="Heel",
            default="flap and gusset",
            source="our choice",
            kind="choice",
            choices=tuple(HEELS),
        ),
        Ask(
            name="flap",
            label="Heel flap",
            default="slipped stitches",
            source=_PRACTICE,
            kind="choice",
            choices=tuple(FLAPS),
            hint="If the heel has one.",
        ),
        Ask(
            name="foot",
            label="Foot",
            default=225.0,
            source=sources(FEET),
            least=100.0,
            most=350.0,
            hint="Round the ball of the foot.",
        ),
        Ask(
            name="ease",
            label="Ease",
            default=-10.0,
            source=f"{_PRACTICE}: socks −5 to −15 %",
            kind="percent",
            least=-20.0,
            most=5.0,
        ),
        Ask(
            name="foot_length", label="Length of the foot", default=255.0, source=sources(FEET), least=90.0, most=350.0
        ),
        Ask(
            name="leg",
            label="Height of the leg",
            default=160.0,
            source=f"{_PRACTICE}: 12 to 20 cm, the cuff with it",
            least=20.0,
            most=500.0,
        ),
        Ask(
            name="cuff",
            label="Height of the cuff",
            default=45.0,
            source=f"{_PRACTICE}: 4 to 5 cm",
            least=5.0,
            most=200.0,
        ),
    ),
    make=_make,
    shows=(0, 1, 2),
    sizes=tuple(
        StandardSize(name=who, answers={"foot": foot.around_mm, "foot_length": foot.length_mm}, source=foot.source)
        for who, foot in FEET.items()
    ),
    cautions=_cautions,
)

"""The pullover: back and front with panels in their middle, sleeves from the cuff, a neckband; dropped or set in."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ..errors import Infeasible
from ..layout.heights import plan_rows
from ..layout.joins import EdgeName, Join, PieceEdge
from ..layout.parts import HeldGroup, PartEnd, Source
from ..layout.piece import Band, Border, Piece
from ..layout.segment import Segment
from ..layout.silhouette import edge_path, path_um
from ..layout.stretch import stretched_um
from ..layout.widths import body_row_um, body_um, pattern_um
from ..library import find_pattern
from ..units import Unit, length_text
from .asks import Answers, Ask, millimetres
from .shape import Made, MadePiece, Shape, Wanted, border_rows
from .sizes import BODIES, SOURCE, by_size
from .sleeves import SleeveWish, cap_begins_mm, sleeve_piece
from .torso import RIB, Torso, back_bands, fit_neck, front_bands, front_end, lay_out_body, shoulder_piece

CONSTRUCTIONS = ("drop", "modified-drop", "set-in")
NECKS = ("crew", "V", "boat")
MODIFIED_MM = 50.0
"""Common practice: a modified armhole binds off 2.5 to 8 cm, and the sleeve is that much longer."""
UNDERARM_MM = 25.0
"""Common practice: a set-in armhole begins with 2 to 4 cm bound off at each side."""
NECK_DEPTH = {"crew": 1.0, "V": 2.0, "boat": 0.4}
"""Our choice: a V is twice as deep as a crew neck of the depth that is asked, a boat neck less than half."""
NECK_HELD = {"crew": 0.5, "V": 0.0, "boat": 0.7}
"""Our choice: what of the front neck is held in its middle; the rest is decreased to both sides."""
LEAST_SHOULDER = 3
HEM, CUFF, BAND = 0.95, 0.9, 25.0
_PRACTICE = "common practice"


def _make(wanted: Wanted) -> Made:
    answers = wanted.answers
    half = (millimetres(answers, "chest") + millimetres(answers, "ease")) / 2.0
    body = lay_out_body(wanted, "Back", half, tolerance_mm=max(15.0, half / 20.0))
    hem = Border(RIB, border_rows(RIB, millimetres(answers, "hem"), wanted.evidence), factor=HEM)
    body = replace(body, bottom=hem)
    torso = plan_torso(wanted, body)
    back, front = _back(body, torso), _front(body, torso)
    sides = [shoulder_piece(front, torso, 2, right=right, paced=answers["neckline"] != "V") for right in (True, False)]
    armhole = _armhole_mm(back, front, sides[0], torso)
    panels = tuple(dict.fromkeys(s.pattern for s in reversed(torso.segments) if s.is_panel))
    sleeve = sleeve_piece(wanted, _sleeve_wish(wanted, torso, half, armhole), panels)
    neckband = _neckband(back, sides[0], torso)
    pieces = (MadePiece(back), MadePiece(front), *map(MadePiece, sides), MadePiece(sleeve, 2), MadePiece(neckband))
    return Made(pieces, _joins(back, front, sides, sleeve, torso))


def plan_torso(wanted: Wanted, body: Piece) -> Torso:
    """The counts and the rows of a body. Raises Infeasible where its measures leave no shoulder or no neck."""
    answers, view = wanted.answers, body.band_views[0]
    row_mm, stitch = body_row_um(view) / 1000.0, wanted.evidence.gauge.stitch_mm
    segments, count = view.segments, view.stitches
    each = body_um(view) / 1000.0 / count
    construction = answers["construction"]
    across = millimetres(answers, "cross_back")
    mm = {"drop": 0.0, "modified-drop": MODIFIED_MM, "set-in": UNDERARM_MM}[str(construction)]
    bound = round(mm / stitch)
    narrower = max(0, round((body_um(view) / 1000.0 - across) / 2.0 / each) - bound) if construction == "set-in" else 0
    if construction == "set-in" and narrower < 1:
        bound, narrower = max(1, bound - 1), 1
    neck = fit_neck(segments, millimetres(answers, "neck_width") / each, each, LEAST_SHOULDER, bound + narrower)
    shoulder = (count - neck) // 2 - bound - narrower
    if shoulder < LEAST_SHOULDER:
        raise Infeasible(
            f"A neck of {wanted.length(millimetres(answers, 'neck_width'))} leaves no shoulders in a body of "
            f"{wanted.length(body.width_mm)}: make the neck narrower, or the body wider."
        )
    held = 2 * round(NECK_HELD[str(answers["neckline"])] * neck / 2.0) + neck % 2
    depth = 2 * round(millimetres(answers, "armhole_depth") / row_mm / 2.0)
    hem_mm = plan_rows(replace(body, bands=(Band(segments, rows=2),))).bottom * border_mm(body)
    whole = 2 * round((millimetres(answers, "length") - hem_mm) / row_mm / 2.0)
    deep = NECK_DEPTH[str(answers["neckline"])] * millimetres(answers, "neck_depth")
    neck_rows = max(4, 2 * round(deep / row_mm / 2.0))
    slow = 1 if answers["neckline"] == "boat" else 2  # a boat neck is decreased in every row
    least = slow * ((neck - held) // 2) + 2
    neck_rows = max(neck_rows, least + least % 2)
    below = 2 + 2 * narrower if bound else 0
    if whole - depth < 4:
        raise Infeasible("The armholes are as deep as the body is long: make it longer, or the armholes less deep.")
    if bound and depth - neck_rows < below:
        raise Infeasible(
            "The front neck would begin before the armholes are shaped: make the armholes deeper, or the neck less "
            "deep."
        )
    return Torso(segments, bound, narrower, shoulder, neck, whole - depth, depth, neck_rows, held)


def border_mm(piece: Piece) -> float:
    """Height of a row of the lower border."""
    return plan_rows(replace(piece, bands=(replace(piece.bands[0], rows=2),))).bottom_row_um / 1000.0


def _back(body: Piece, torso: Torso) -> Piece:
    ends = PartEnd("held", (HeldGroup("back neck", torso.neck),))
    return _high(replace(body, name="Back", bands=back_bands(torso), ends=ends))


def _front(body: Piece, torso: Torso) -> Piece:
    return _high(replace(body, name="Front", bands=front_bands(torso), ends=front_end(torso)))


def _high(piece: Piece) -> Piece:
    return replace(piece, height_mm=round(plan_rows(replace(piece, ends=PartEnd())).height_um / 1000.0, 1))


def _level_um(piece: Piece, rows: int) -> float:
    """The height of a piece after so many rows of its charts."""
    plan = plan_rows(piece)
    at, left = plan.bottom * plan.bottom_row_um, rows
    for band in plan.bands:
        here = min(left, band.body)
        at += (band.lead + here) * band.row_um
        left -= here
    return at


def _armhole_mm(back: Piece, front: Piece, side: Piece, torso: Torso) -> float:
    """An armhole's way round: the back's edge, and the front's with what goes on from it beside the neck."""
    under, over = _level_um(back, torso.body), _level_um(back, torso.body + torso.depth)
    lines = (
        edge_path(back, "right", under, over),
        edge_path(front, "right", under),
        edge_path(side, "right", 0.0, _level_um(side, torso.neck_rows)),
    )
    return sum(map(path_um, lines)) / 1000.0


def _sleeve_wish(wanted: Wanted, torso: Torso, half: float, armhole: float) -> SleeveWish:
    answers = wanted.answers
    construction, wrist = str(answers["construction"]), millimetres(answers, "wrist")
    cuff = millimetres(answers, "cuff")
    if construction == "set-in":
        return SleeveWish(
            wrist, millimetres(answers, "upper_arm"), millimetres(answers, "arm"), cuff, armhole, torso.bound
        )
    along = MODIFIED_MM if construction == "modified-drop" else 0.0
    length = millimetres(answers, "reach") - half / 2.0
    top = armhole - 2.0 * along
    if length < cuff + 20.0:
        raise Infeasible("The body reaches down to the wrists: type a greater length from the neck, or less ease.")
    return SleeveWish(wrist, max(top, wrist), length, cuff, armhole, straight=along)


def _neckband(back: Piece, side: Piece, torso: Torso) -> Piece:
    """Ribbing round the neck: over what is held, and picked up along both edges of the front neck."""
    rib, measure = find_pattern(RIB), back.measure
    each = pattern_um(rib, rib.chart.multiple, measure) / rib.chart.multiple
    multiple, held = rib.chart.multiple, torso.neck + torso.held
    wide = path_um(edge_path(side, "left")) / (0.5 * (each + measure.gauge.stitch_mm * 1000.0))
    count = multiple * max(1, round((held + 2.0 * wide) / multiple))
    count += multiple * max(0, -(-(held + 2 - count) // multiple))
    picked = count - held
    sources = [
        Source("held", 1, "back neck", torso.neck),
        Source("picked up", 3, "neck edge", picked // 2),
        *([Source("held", 2, "front neck", torso.held)] if torso.held else []),
        Source("picked up", 4, "neck edge", picked - picked // 2),
    ]
    rows = border_rows(RIB, BAND, back.evidence, 1)
    own = (Segment("background", rib, count // multiple, closed=True),)
    piece = Piece(
        name="Neckband",
        width_mm=pattern_um(rib, count, measure) / 1000.0,
        height_mm=BAND,
        evidence=back.evidence,
        bands=(Band(own, rows=rows),),
        tolerance_mm=30.0,
        bottom=Border(rows=0),
        top=Border(rows=0),
        round=True,
        setup_rows=0,
        begins=tuple(sources),
    )
    return replace(piece, height_mm=max(10.0, round(plan_rows(piece).height_um / 1000.0, 1)))


def _joins(back: Piece, front: Piece, sides: Sequence[Piece], sleeve: Piece, torso: Torso) -> tuple[Join, ...]:
    """Shoulders, sleeves into their armholes, sides and sleeves; the right side of a back meets a front's left."""
    steps = 2 * len(torso.steps)
    under, over = (_level_um(back, rows) / 1000.0 for rows in (torso.body, torso.body + torso.depth))
    cap, neck = cap_begins_mm(sleeve), torso.neck_rows
    ways: tuple[tuple[EdgeName, EdgeName, int, int], ...] = (
        ("right edge", "left edge", 3, 0),
        ("left edge", "right edge", 2, 1),
    )
    shoulders, armholes, seams = [], [], []
    for mine, other, part, late in ways:  # steps begin a row later at a left edge
        low, high = (_level_um(back, torso.body + torso.depth + n) / 1000.0 for n in (late, steps - 1 + late))
        above, begin = (_level_um(sides[part - 2], rows) / 1000.0 for rows in (neck, neck + 1 - late))
        shoulder = PieceEdge(part, other, start_mm=begin, over="whole")
        shoulders.append(Join(PieceEdge(0, mine, low, high), shoulder, swallows=1))
        more = (PieceEdge(part, other, end_mm=above),)
        back_half, front_half = (PieceEdge(4, edge, start_mm=cap, over="half") for edge in (other, mine))
        armholes.append(Join(back_half, PieceEdge(0, mine, under, over), swallows=1))
        armholes.append(Join(front_half, PieceEdge(1, other, under), swallows=1, more=more))
        seams.append(Join(PieceEdge(0, mine, end_mm=under), PieceEdge(1, other, end_mm=under), swallows=1))
    arm = Join(PieceEdge(4, "right edge", end_mm=cap), PieceEdge(4, "left edge", end_mm=cap), swallows=1)
    return (*shoulders, *armholes, *seams, arm)


def _cautions(answers: Answers, pieces: Sequence[Piece], unit: Unit) -> tuple[str, ...]:
    back = pieces[0]
    wide, chest = 2.0 * body_um(back.band_views[0]) / 1000.0, length_text(millimetres(answers, "chest"), unit)
    out = [f"It will be {length_text(wide, unit)} round the chest, for a chest of {chest}."]
    drawn = stretched_um(pieces[-1].band_views[0]) / 1000.0
    head = float(by_size("head")[str(answers["for"])])
    if drawn < head:
        out.append(
            f"Drawn out, the neckband is about {length_text(drawn, unit, 0)} round, less than a head of "
            f"{length_text(head, unit, 0)}: make the neck wider or deeper, and bind off loosely."
        )
    if str(answers["for"]).startswith("baby"):
        out.append(
            "For a baby take soft, washable yarn; no cords at the neck, and buttons only where they are sewn on fast."
        )
    return tuple(out)


def _length(name: str) -> float:
    """Our choice: from the shoulder to the hem; men's backs are measured to the hips, others' to the waist."""
    body = BODIES[name]
    more = {"woman": 5.5, "man": 0.0}.get(name.split()[0], 0.25 * body.back_length)
    return float(round((body.back_length + more) * 25.4))


def _sized(name: str, label: str, measure: str, source: str, **more: object) -> Ask:
    """A length that is a measure of the body's, with so much `added` to it, or so many `times` it."""
    by = by_size(measure, float(str(more.pop("added", 0.0))), float(str(more.pop("times", 1.0))))
    return Ask(name, label, by[SOME], source, by=by, **more)  # type: ignore[arg-type]


SOME = "woman M"
_EDGES = {name: {"baby": 30.0, "child": 45.0}.get(name.split()[0], 60.0) for name in BODIES}
_WIDER = f"{SOURCE}, and 2.5 to 10 cm more ({_PRACTICE})"


def body_asks() -> tuple[Ask, ...]:
    """What every sweater is asked: for whom, its chest and ease, lengths, armholes, neck and edges."""
    long = {name: _length(name) for name in BODIES}
    return (
        Ask("for", "Size", SOME, SOURCE, "choice", tuple(BODIES)),
        _sized("chest", "Chest", "chest", SOURCE, least=300.0, most=2000.0),
        Ask(
            "ease",
            "Ease",
            100.0,
            f"{_PRACTICE}: 5 to 15 cm; heavy cables 2.5 to 5 cm more",
            least=0.0,
            most=500.0,
            hint="What it is wider than the chest, all round.",
        ),
        Ask("length", "Length to the shoulder", long[SOME], f"{SOURCE}; the hem is our choice", by=long, least=150.0),
        _sized(
            "cross_back",
            "Cross back",
            "cross_back",
            SOURCE,
            least=120.0,
            most=700.0,
            hint="Set-in sleeves: between them.",
        ),
        _sized(
            "armhole_depth",
            "Depth of the armhole",
            "armhole",
            f"{SOURCE}, and 2.5 to 7.5 cm more ({_PRACTICE})",
            times=1.2,
            least=80.0,
            most=450.0,
        ),
        _sized(
            "neck_width",
            "Width of the neck",
            "cross_back",
            f"{_PRACTICE}: a third of the cross back, to 20 cm",
            times=0.4,
            least=60.0,
            most=320.0,
        ),
        Ask("neckline", "Neck", NECKS[0], "our choice", "choice", NECKS),
        _sized(
            "neck_depth",
            "Depth of the front neck",
            "cross_back",
            f"{_PRACTICE}: crew necks 7 to 9 cm",
            times=0.2,
            least=10.0,
            most=400.0,
            hint="Of a crew neck; a V is twice as deep, a boat neck 0.4 times.",
        ),
        Ask("hem", "Height of the hem", 60.0, "our choice", least=5.0, most=200.0, by=_EDGES),
    )


def sleeve_asks() -> tuple[Ask, ...]:
    """What a sleeve is asked."""
    return (
        _sized(
            "reach",
            "Middle of the back to the wrist",
            "wrist",
            SOURCE,
            least=200.0,
            most=1100.0,
            hint="Over the shoulder; dropped shoulders.",
        ),
        _sized("arm", "Arm to the underarm", "arm", SOURCE, least=100.0, most=700.0, hint="Set-in sleeves."),
        _sized(
            "upper_arm",
            "Round the upper arm",
            "upper_arm",
            _WIDER,
            added=70.0,
            least=130.0,
            most=700.0,
            hint="Set-in sleeves.",
        ),
        _sized(
            "wrist",
            "Round the wrist",
            "upper_arm",
            "our choice: five eighths of the upper arm, and 2.5 cm",
            times=0.62,
            added=25.0,
            least=90.0,
            most=400.0,
        ),
        Ask("cuff", "Height of the cuff", 60.0, "our choice", least=5.0, most=200.0, by=_EDGES),
    )


PULLOVER = Shape(
    id="pullover",
    name="Pullover",
    what="Back, front and sleeves with panels in their middle; dropped, modified or set-in sleeves, a ribbed neck.",
    asks=(
        body_asks()[0],
        Ask("construction", "Sleeves", CONSTRUCTIONS[0], "our choice", "choice", CONSTRUCTIONS),
        *body_asks()[1:],
        *sleeve_asks(),
    ),
    make=_make,
    shows=(0, 1, 4),
    cautions=_cautions,
)

"""The raglan: yoke, body and sleeves in the round, shaped along four lines, each part by a schedule of its own."""

from __future__ import annotations

from collections.abc import Sequence

from ...piece.piece import BandView, Piece, Shaping
from ...piece.segment import Segment
from ...piece.widths import body_um
from ...rows.shaped_band import plan_stations
from ...shaping.sections import Section, SectionShaped
from ...units import Unit
from ..shape import Made, ShapeOf, Wanted
from ..sweater.sweater_cautions import worn_cautions
from .raglan_answers import RaglanAnswers
from .raglan_asks import FROM, NECKS, raglan_asks
from .raglan_plan import LINE_STITCHES, OWN_SPLIT, SPLITS, plan_raglan, split_neck
from .raglan_ways import raglan_down, raglan_up


def _make(wanted: Wanted[RaglanAnswers]) -> Made:
    way = raglan_down if wanted.answers.from_ == FROM[0] else raglan_up
    return way(wanted, plan_raglan(wanted), raise_neck=wanted.answers.neckline == NECKS[0])


def _yoke(pieces: Sequence[Piece]) -> Piece:
    return next(p for p in pieces if p.name.startswith("Yoke"))


def _body(pieces: Sequence[Piece]) -> int:
    return next(at for at, p in enumerate(pieces) if "body" in p.name.casefold())


def _layout(pieces: Sequence[Piece]) -> tuple[Segment, ...]:
    """The segments of the back."""
    band = _yoke(pieces).bands[0]
    back = next(s for s in _sections(band.shaping) if s.name == "back")
    return band.segments[back.first : back.last + 1]


def _sections(shaping: Shaping | None) -> tuple[Section, ...]:
    """The four sections of a yoke."""
    return shaping.sections if isinstance(shaping, SectionShaped) else ()


def _cautions(answers: RaglanAnswers, pieces: Sequence[Piece], unit: Unit) -> tuple[str, ...]:
    """The chest, the head; the neck as each method splits it; what body and sleeves are shaped by; the underarms."""
    down = answers.from_ == FROM[0]
    wide = body_um(pieces[_body(pieces)].band_views[-1]) / 1000.0
    yoke = _yoke(pieces).band_views[0]
    out = list(worn_cautions(raglan_asks(), answers, wide, layout=_layout(pieces), neckband=pieces[-1], unit=unit))
    out.append(_splits(answers, yoke))
    out += _schedules(yoke)
    if down:
        out.append(
            "Under the arms pick up one stitch more in each corner and work it together with the next: no hole is left."
        )
        out.append(
            "Pictures and charts show it as it is worked, the neck at the bottom; worn, crossings stand on their heads."
        )
    else:
        out.append("Work the first rounds of the yoke loosely: the sleeves pull at the needle until they lie flat.")
    return tuple(out)


def _splits(answers: RaglanAnswers, yoke: BandView) -> str:
    """The neck's stitches by each split, side by side."""
    wanted, (sleeve, back) = Wanted(name="", answers=answers, evidence=yoke.piece.evidence), _counts(yoke)[:2]
    count = 2 * (min(back) + min(sleeve)) + 4 * LINE_STITCHES
    methods = {split: split_neck(wanted, split, count, back=max(back)) for split in (*SPLITS, OWN_SPLIT)}
    told = "; ".join(f"{name}: {b}, {b}, {s} and {s}" for name, (b, s) in methods.items())
    return (
        f"Of {count} stitches round the neck, back, front and sleeves by {told}; here: {min(back)} and {min(sleeve)}."
    )


def _counts(yoke: BandView) -> list[tuple[int, ...]]:
    shaping = yoke.shaping
    return [each[:2] for each in shaping.asked(yoke).counts()] if isinstance(shaping, SectionShaped) else []


def _schedules(yoke: BandView) -> list[str]:
    """What each part is shaped by; where they differ a person minds two counts at once."""
    sections, stretches = _sections(yoke.shaping), plan_stations(yoke).stretches
    each = {sections[s.section or 0].name: s.schedule for s in stretches if s.above == 1}
    if len({schedule.at for schedule in each.values()}) == 1:
        return []
    verb = "increased" if stretches[0].grows else "decreased"
    back, sleeve = (each[name].changes for name in ("back", "right sleeve"))
    return [
        f"Back and front are {verb} {back} times, the sleeves {sleeve} times, in other rounds: cross them out in the "
        "calendar as you go."
    ]


RAGLAN = ShapeOf(
    id="raglan",
    name="Raglan",
    what="Yoke, body and sleeves in the round, shaped along four lines; panels on front, back and sleeves.",
    record=RaglanAnswers,
    asks=raglan_asks(),
    make=_make,
    one_layout=True,
    shows=(0, 1, 2),
    cautions=_cautions,
    main=_body,
    layout=_layout,
)

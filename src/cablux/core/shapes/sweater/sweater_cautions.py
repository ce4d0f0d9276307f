"""What a skilled knitter would warn of in a sweater: its fit, odd measures, the head; warned of, never forbidden."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ...gauge import Measure
from ...piece.piece import Piece
from ...piece.segment import Segment
from ...piece.stretch import GIVES, stretched_um
from ...piece.widths import body_um
from ...units import Unit, length_text
from ..asks import Ask, ShapeAnswers
from ..bodies.garment_sizes import head_mm
from .ease import FITS, OWN_EASE, THICK_MM, cables_part, is_thick, wanted_ease_mm
from .panel_cuts import cut_sentences
from .sweater_answers import SweaterAnswers, WornAnswers
from .sweater_asks import COLLARS, body_asks, sleeve_asks

ODD = (0.6, 1.6)
"""Our choice: a measure of less than six tenths of its size's, or more than sixteen, is most often a slip."""


def odd_measures(asks: Sequence[Ask], answers: ShapeAnswers, unit: Unit) -> Iterator[str]:
    """Each length that is far from what the size's table has for it, as a sentence."""
    size = str(answers.answer(asks[0]))
    for ask in asks:
        usual, typed = ask.default_for(size), answers.answer(ask)
        if not ask.by or ask.kind != "length" or not isinstance(usual, float) or not isinstance(typed, float):
            continue
        if not ODD[0] * usual <= typed <= ODD[1] * usual:
            yield (
                f"{ask.label}: {length_text(typed, unit)} is far from the {length_text(usual, unit)} of {size}; "
                "check it."
            )


def fit_sentences(ease_mm: float, segments: Sequence[Segment], measure: Measure, *, unit: Unit) -> Iterator[str]:
    """How it will fit, and whether thick cables take of its ease."""
    fit = next(name for least, name in reversed(FITS) if ease_mm >= least)
    yield f"With {length_text(ease_mm, unit)} of ease that is {fit}."
    if is_thick(segments, measure) and ease_mm < 100.0 + THICK_MM[0]:
        part, (low, high) = cables_part(segments, measure), (length_text(mm, unit) for mm in THICK_MM)
        yield f"Cables take {100 * part:.0f} % of its width and make it thick: {low} to {high} more ease is usual."


def sweater_cautions(answers: SweaterAnswers, pieces: Sequence[Piece], unit: Unit) -> tuple[str, ...]:
    """Those of a sweater whose first piece is its back and whose last goes round the neck and over the head."""
    back, asks = pieces[0].band_views[0], (*body_asks(), *sleeve_asks())
    wide = 2.0 * body_um(back) / 1000.0 + answers.front_wider_mm
    worn = worn_cautions(asks, answers, wide, layout=back.segments, neckband=pieces[-1], unit=unit)
    hooded = answers.collar == COLLARS[1] and answers.for_.startswith(("baby", "child"))
    cords = ("No cords, ties or drawstrings in a child’s hood: they catch and choke.",) if hooded else ()
    return (*worn, *cut_sentences(pieces[0]), *cords)


def _for_cables(answers: WornAnswers, ease_mm: float) -> str:
    return ", more than without cables that make thick cloth" if ease_mm > wanted_ease_mm(answers) else ""


def _neck_drawn_mm(neck: Piece) -> float:
    """How wide a neck can be drawn: a neckband's ribs open; a hood is as wide there as the stitches it begins with."""
    if neck.round:
        return stretched_um(neck.band_views[0]) / 1000.0
    return GIVES * neck.measure.gauge.stitch_mm * sum(source.stitches for source in neck.begins)


def worn_cautions(
    asks: Sequence[Ask],
    answers: WornAnswers,
    wide: float,
    *,
    layout: Sequence[Segment],
    neckband: Piece,
    unit: Unit,
) -> tuple[str, ...]:
    """Its width round the chest (millimetres) and its fit, odd measures, the head, what babies must not have."""
    chest = length_text(answers.chest_mm, unit)
    out = [f"It will be {length_text(wide, unit)} round the chest, for a chest of {chest}."]
    if answers.fit == OWN_EASE:
        out += fit_sentences(answers.ease_mm, layout, neckband.measure, unit=unit)
    else:
        ease = wanted_ease_mm(answers, layout, neckband.measure)
        out.append(f"For {answers.fit} it was given {length_text(ease, unit)} of ease{_for_cables(answers, ease)}.")
    out += odd_measures([ask for ask in asks if answers.has(ask)], answers, unit)
    drawn = _neck_drawn_mm(neckband)
    head = head_mm(answers.for_)
    if drawn < head:
        out.append(
            f"Drawn out, the neck is about {length_text(drawn, unit, 0)} round, less than a head of "
            f"{length_text(head, unit, 0)}: make the neck wider or deeper, and bind off loosely."
        )
    if answers.for_.startswith("baby"):
        out.append(
            "For a baby take soft, washable yarn; no cords at the neck, and buttons only where they are sewn on fast."
        )
    return tuple(out)

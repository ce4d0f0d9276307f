"""The width of each pattern of a piece against stockinette: by its chart, by its own swatches, by both together."""

from __future__ import annotations

import math

from ...core.gauge import Basis, Estimate, Reading, estimate
from ...core.gauge.model import CABLES, cloth_key, cloth_kind, model_ratio
from ...core.library import StitchPattern
from ...core.piece.piece import Piece
from ...core.piece.widths import segment_shares
from ..answers import EightInTen, PatternWidth


def pattern_widths(piece: Piece) -> list[PatternWidth]:
    """Each pattern of the piece, cables first, the widest share of the piece first."""
    known, before = (
        piece.outlook,
        estimate(Basis(gauge=piece.gauge, readings=(), finish=piece.evidence.finish, fibre=piece.evidence.fibre)),
    )
    size: dict[str, float] = {}
    patterns: dict[str, StitchPattern] = {}  # mirror images are one
    names: dict[str, dict[str, None]] = {}
    measured = [(p.pattern, 0.0) for r in piece.evidence.readings if r.along == "width" for p in r.parts]
    for pattern, um in [*segment_shares(piece.main_view), *measured]:
        key = cloth_key(pattern)
        patterns.setdefault(key, pattern)
        names.setdefault(key, {})[pattern.name] = None
        size[key] = size.get(key, 0.0) + um
    shown = [p for p in patterns.values() if p.id != "stockinette"]
    order = sorted(shown, key=lambda p: (cloth_kind(p) not in CABLES, -size.get(cloth_key(p), 0.0)))
    out = []
    for pattern in order:
        model, result = before.draw_in(pattern), known.draw_in(pattern)
        out.append(
            PatternWidth(
                pattern=pattern.id,
                name=", ".join(names[cloth_key(pattern)]),
                model=EightInTen(low=model.low, value=model.value, high=model.high),
                readings=tuple(_implied(known, r, pattern) for r in piece.evidence.readings if _of(r, pattern)),
                together=EightInTen(low=result.low, value=result.value, high=result.high),
            )
        )
    return out


def _of(reading: Reading, pattern: StitchPattern) -> bool:
    return reading.along == "width" and [cloth_key(p.pattern) for p in reading.parts] == [cloth_key(pattern)]


def _implied(known: Estimate, reading: Reading, pattern: StitchPattern) -> float:
    """The draw-in that a reading of one pattern alone would mean, in the state the piece is finished in."""
    ((base, weights),) = known.terms(reading)
    own = known.weights(pattern)
    rest = sum(w * known.width.value(name) for name, w in weights.items() if name not in own or name == "stitch")
    opened = sum(known.width.value(name) for name in own.keys() - weights.keys() if name != "stitch")
    return model_ratio(pattern, known.ratio) * reading.mm * math.exp(opened) / (base * math.exp(rest))

"""Shapes before they are made: the cards to choose from, and what a project would be with the answers as typed."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from ...core.gauge import Evidence, Gauge
from ...core.pattern import compile_piece
from ...core.shapes import SHAPES, Shape, Wanted, read_answers
from ...render.schematic import draw_beside, draw_schematic
from ..exchange import ProjectFile
from ..projects import piece_numbers
from .shaped_projects import joins_of, main_place, shape_cautions, shape_of


@dataclass(frozen=True)
class ShapeCard:
    """A shape to choose: what it is, its pieces drawn to one scale from its defaults."""

    shape: Shape
    pictures: tuple[str, ...]


@lru_cache(maxsize=1)
def shape_cards() -> tuple[ShapeCard, ...]:
    """All shapes with their pictures, laid out from their defaults at a common gauge."""
    evidence = Evidence(gauge=Gauge(18.0, 25.0))
    out = []
    for shape in SHAPES.values():
        made = shape.make(
            Wanted(name=shape.name, answers=shape.answered(read_answers(shape.asks, {}, "cm")), evidence=evidence)
        )
        shown = [made.pieces[at].piece for at in shape.shows]
        one = (draw_schematic(shown[0], "cm", made.joins, bare=True),)
        out.append(ShapeCard(shape, one if len(shown) == 1 else draw_beside(shown, "cm")))
    return tuple(out)


@dataclass(frozen=True, kw_only=True)
class Preview:
    """What a project would be: its picture, its numbers in words, and what to mind."""

    picture: str
    cast_on: int
    lines: tuple[str, ...]
    near: str
    cautions: tuple[str, ...]


def preview(file: ProjectFile) -> Preview:
    """What the piece that shows a project best would be."""
    found, pieces, at = shape_of(file), file.all_pieces(), main_place(file)
    file, piece = file.opened_at(file.pieces[at].number), pieces[at]
    n = piece_numbers(piece)
    size = n.size.text(file.unit, by="by")
    panels = dict.fromkeys(s.name for s in piece.everything if s.is_panel)
    lines = [f"{n.rows.total} {piece.row_word}s, {size}", ", ".join(panels) or "no panel fits at this width"]
    if piece.bands[0].shaping is not None:
        lines.insert(0, f"{max(row.after for row in compile_piece(piece).rows)} stitches at the widest")
    near = found[0].near(found[0].answered(found[1]), file.all_pieces(), file.unit) if found else ""
    lines += [f"Make {file.own.copies}"] if file.own.copies > 1 else []
    joins = tuple(join for join in joins_of(file) if any(e.piece == at for e in join.edges))
    picture = draw_schematic(piece, file.unit, joins, place=at)
    return Preview(
        picture=picture, cast_on=n.cast_on.cast_on, lines=tuple(lines), near=near, cautions=shape_cautions(file)
    )

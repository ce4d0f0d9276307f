"""Projects made from shapes: the answers read, the pieces made, and what a shape says of them afterwards."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from typing import Any

from ..core.errors import IllegalPiece
from ..core.layout.joins import Join, Opening, PieceEdge, join_problems
from ..core.library import Pattern, find_pattern
from ..core.shapes import SHAPES, Answer, Answers, Shape, Wanted, find_shape, in_unit, read_answers
from ..core.units import MM_PER, Unit, to_mm
from .exchange import JoinFile, PieceFile, ProjectFile, ShapeFile, fresh_project, join_file


def list_shapes(unit: Unit = "cm") -> list[dict[str, Any]]:
    """Every shape with what it asks, lengths in the unit."""
    return [
        {
            "id": shape.id,
            "name": shape.name,
            "what": shape.what,
            "asks": [
                {
                    "name": ask.name,
                    "label": ask.label,
                    "default": in_unit(ask, ask.default, unit),
                    "unit": {"length": unit, "percent": "%", "choice": ""}[ask.kind],
                    "choices": list(ask.choices),
                    "source": ask.source,
                }
                for ask in shape.asks
            ],
        }
        for shape in SHAPES.values()
    ]


def shaped_file(
    shape_id: str,
    given: Mapping[str, Answer],
    base: ProjectFile,
    panels: Sequence[Pattern] = (),
    ground: Pattern | None = None,
) -> ProjectFile:
    """A project of a shape: name, yarn, gauge and unit from `base`, lengths in that unit.

    Raises IllegalPiece with every mistake in the answers, or where the pieces or joins cannot be had; Infeasible where
    the panels do not fit.
    """
    shape = find_shape(shape_id)
    answers = read_answers(shape.asks, given, base.unit)
    made = shape.make(Wanted(base.name, answers, base.evidence, tuple(panels), ground))
    pieces = [m.piece for m in made.pieces]
    problems = [text for join in made.joins for text in join_problems(pieces, join, base.unit)]
    if problems:
        raise IllegalPiece(" ".join(problems))
    template = base.pieces[0]
    several = len(pieces) > 1
    files = tuple(
        PieceFile(
            number=number,
            name=m.piece.name if several else "",
            copies=m.copies,
            size=template.size,
            bands=template.bands,
        )
        for number, m in enumerate(made.pieces, start=1)
    )
    file = base.model_copy(
        update={
            "shape": ShapeFile(id=shape.id, asked=_asked(shape, answers, base.unit)),
            "pieces": files,
            "joins": tuple(join_file(join, base.unit) for join in made.joins),
        }
    )
    for number, piece in enumerate(pieces, start=1):
        file = file.opened_at(number).with_piece(piece)
    return file.opened_at(0)


def _asked(shape: Shape, answers: Answers, unit: Unit) -> dict[str, Answer]:
    return {ask.name: in_unit(ask, answers[ask.name], unit) for ask in shape.asks}


def new_project(
    shape_id: str,
    measures: Sequence[str],
    *,
    gauge: str,
    panels: str = "",
    ground: str = "",
    unit: Unit = "cm",
    name: str = "",
) -> ProjectFile:
    """A project from words as they are typed on a command line. Raises CabluxError with what would mend them."""
    shape = find_shape(shape_id)
    counted = re.fullmatch(r"\s*(\d+(?:\.\d+)?)\s*[x×/]\s*(\d+(?:\.\d+)?)\s*", gauge)
    if not counted:
        raise IllegalPiece(f"“{gauge}” is no gauge: type stitches and rows, such as 18x25.")
    given: dict[str, Answer] = {}
    for measure in measures:
        key, equals, value = measure.partition("=")
        if not equals:
            raise IllegalPiece(f"“{measure}” says no value: type it as name=value, such as {shape.asks[0].name}=…")
        given[key.strip()] = value.strip()
    base = bare_file(name or shape.name, unit, float(counted[1]), float(counted[2]))
    chosen = [find_pattern(each.strip()) for each in panels.split(",") if each.strip()]
    return shaped_file(shape_id, given, base, chosen, find_pattern(ground.strip()) if ground.strip() else None)


def bare_file(name: str, unit: Unit, stitches: float, rows: float) -> ProjectFile:
    """A project of that gauge to make a shape in."""
    side = 600.0 / MM_PER[unit]
    return fresh_project(
        name=name, unit=unit, yarn="", width=side, height=side, tolerance=side / 20, stitches=stitches, rows=rows
    )


def shape_of(file: ProjectFile) -> tuple[Shape, Answers] | None:
    """What a project is made as, with its answers; None where it says nothing, or what is no longer known."""
    if file.shape is None or file.shape.id not in SHAPES:
        return None
    shape = SHAPES[file.shape.id]
    known = {name: value for name, value in file.shape.asked.items() if name in [ask.name for ask in shape.asks]}
    return shape, read_answers(shape.asks, known, file.unit)


def shape_cautions(file: ProjectFile) -> tuple[str, ...]:
    """What the project's shape warns of, its pieces being as they are now."""
    found = shape_of(file)
    return found[0].cautions(found[1], file.all_pieces(), file.unit) if found else ()


def joins_of(file: ProjectFile) -> tuple[Join, ...]:
    """The joins, by the places of the pieces."""
    places = {p.number: at for at, p in enumerate(file.pieces)}
    return tuple(_join(join, places, file.unit) for join in file.joins)


def _join(join: JoinFile, places: Mapping[int, int], unit: Unit) -> Join:
    one, other = (PieceEdge(places[e.piece], e.edge) for e in (join.one, join.other))
    openings = tuple(Opening(o.name, to_mm(o.start, unit), to_mm(o.end, unit)) for o in join.openings)
    return Join(one, other, join.how, join.swallows, openings)

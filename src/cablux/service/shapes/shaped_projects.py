"""Projects made from shapes: the answers read, the pieces made, and what a shape says of them afterwards."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ...core.errors import IllegalPiece
from ...core.garment.holders import holder_problems
from ...core.garment.joins import Join, UnmadeJoin, join_problems
from ...core.library import LIBRARY, StitchPattern, find_pattern
from ...core.piece.piece import Piece
from ...core.piece.segment import Segment
from ...core.shapes import SHAPES, Answer, Answers, Ask, Shape, StandardSize, Wanted, find_shape, in_unit, read_answers
from ...core.units import GAUGE_SPAN, MM_PER, Unit
from ..answers import AskedFor, ShapeAsked
from ..errors import InvalidForm
from ..exchange import MOST_PANELS, PieceFile, ProjectFile, ShapeFile, file_in_unit, fresh_project, join_file, join_of
from ..forms import FormReader
from ..projects import piece_numbers


def list_shapes(unit: Unit = "cm") -> tuple[ShapeAsked, ...]:
    """Every shape with what it asks, lengths in the unit."""
    return tuple(
        ShapeAsked(
            id=shape.id,
            name=shape.name,
            what=shape.what,
            asks=tuple(
                AskedFor(
                    name=ask.name,
                    label=ask.label,
                    default=in_unit(ask, ask.default, unit),
                    unit={"length": unit, "percent": "%"}.get(ask.kind, ""),
                    choices=ask.choices,
                    source=ask.source,
                )
                for ask in shape.asks
            ),
        )
        for shape in SHAPES.values()
    )


def shaped_file(
    shape_id: str,
    given: Mapping[str, Answer],
    base: ProjectFile,
    *,
    panels: Sequence[StitchPattern] = (),
    background: StitchPattern | None = None,
    layout: tuple[Segment, ...] = (),
) -> ProjectFile:
    """A project of a shape: name, yarn, gauge and unit from `base`, lengths in that unit.

    With a `layout` of the piece that shows it best the others are made after that. Raises IllegalPiece with every
    mistake in the answers, or where the pieces or joins cannot be had; Infeasible where the panels do not fit.
    """
    shape = find_shape(shape_id)
    answers = read_answers(shape.asks, given, base.unit)
    made = shape.make(
        Wanted(
            name=base.name,
            answers=shape.answered(answers),
            evidence=base.evidence,
            panels=tuple(panels),
            background=background,
            unit=base.unit,
            layout=layout,
        )
    )
    pieces = [m.piece for m in made.pieces]
    for piece in pieces:
        piece_numbers(piece)  # refuses what cannot be knitted
    problems = [text for join in made.joins for text in join_problems(pieces, join, base.unit)]
    if problems:
        raise UnmadeJoin(" ".join(problems))
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
            "shape": ShapeFile(
                id=shape.id,
                asked=_asked(shape, answers, base.unit),
                panels=tuple(dict.fromkeys(p.id for p in panels))[:MOST_PANELS],
                left_out=_left_out(panels, pieces),
            ),
            "pieces": files,
            "joins": tuple(join_file(join, base.unit) for join in made.joins),
        }
    )
    for number, piece in enumerate(pieces, start=1):
        file = file.opened_at(number).with_piece(piece)
    return file.opened_at(0)


def _left_out(chosen: Sequence[StitchPattern], pieces: Sequence[Piece]) -> tuple[str, ...]:
    """The panels of the library that were chosen, and lie nowhere."""
    used = {s.pattern_id for piece in pieces for s in piece.everything}
    return tuple(dict.fromkeys(p.id for p in chosen if p.id in LIBRARY and p.id not in used))[:MOST_PANELS]


@dataclass(frozen=True, kw_only=True)
class ShapeForm:
    """The form of a new project of a shape, as typed."""

    name: str
    unit: str
    stitches: str
    rows: str
    answers: Mapping[str, str]
    yarn: str = ""
    panels: tuple[str, ...] = ()


def empty_form(shape: Shape, choice: str = "", unit: Unit = "cm", *, size: str = "") -> ShapeForm:
    """The form with the shape's defaults for a choice made in its first ask, or with one of its standard sizes."""
    first = shape.asks[0]
    given = {first.name: choice} if first.kind == "choice" and choice in first.choices else {}
    answers = read_answers(shape.asks, given, unit)
    picked = next((s for s in sizes_for(shape, str(answers[first.name])) if s.name == size), None)
    answers |= picked.answers if picked else {}
    return ShapeForm(name="", unit=unit, stitches="18", rows="25", answers=typed_answers(shape, answers, unit))


def sizes_for(shape: Shape, choice: str) -> tuple[StandardSize, ...]:
    """The standard sizes of a shape for a choice made in its first ask."""
    return tuple(s for s in shape.sizes if s.choice in ("", choice))


def typed_answers(shape: Shape, answers: Answers, unit: Unit) -> dict[str, str]:
    """The answers as a person would type them in that unit."""
    found = {ask.name: in_unit(ask, answers[ask.name], unit) for ask in shape.asks}
    return {name: value if isinstance(value, str) else f"{value:g}" for name, value in found.items()}


def file_of_form(
    shape: Shape,
    form: ShapeForm,
    panels: Sequence[StitchPattern] = (),
    *,
    background: StitchPattern | None = None,
    base: ProjectFile | None = None,
) -> ProjectFile:
    """A project from the form, a new one or `base` made anew.

    Raises InvalidForm with every mistake beside its field, or what the shape raises.
    """
    typed = FormReader()
    unit: Unit = "in" if form.unit == "in" else "cm"
    span = GAUGE_SPAN[unit][1]
    name = typed.words(form.name, "The name", "name", most=80)
    yarn = typed.words(form.yarn, "The yarn", "yarn", most=200)
    stitches = typed.number(form.stitches, f"Stitches to {span}", "stitches")
    rows = typed.number(form.rows, f"Rows to {span}", "rows")
    given: dict[str, Answer] = {}
    for ask in shape.asks:
        try:
            given[ask.name] = read_answers([ask], {ask.name: form.answers.get(ask.name, "")}, unit)[ask.name]
        except IllegalPiece as error:
            typed.refuse(ask.name, str(error))
    typed.done()
    in_its_unit = {ask.name: in_unit(ask, given[ask.name], unit) for ask in shape.asks}
    name = name or shape.thing(given)
    bare = bare_file(name, unit, stitches, rows=rows)
    if base is not None:
        gauge = base.gauge.model_copy(update={"stitches": stitches, "rows": rows})
        bare = emptied_file(file_in_unit(base, unit).model_copy(update={"name": name, "gauge": gauge}))
    bare = bare.model_copy(update={"yarn": yarn})
    try:
        return shaped_file(shape.id, in_its_unit, bare, panels=panels, background=background)
    except UnmadeJoin as error:
        if shape.seam_ask:
            raise InvalidForm({shape.seam_ask: str(error)}) from error
        raise


def main_place(file: ProjectFile) -> int:
    """The place of the piece that shows a project best."""
    found = shape_of(file)
    return found[0].main(file.all_pieces()) if found else 0


def _asked(shape: Shape, answers: Answers, unit: Unit) -> dict[str, Answer]:
    return {ask.name: in_unit(ask, answers[ask.name], unit) for ask in shape.asks}


def new_project(
    shape_id: str,
    measures: Sequence[str],
    *,
    gauge: str,
    panels: str = "",
    background: str = "",
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
    base = bare_file(name or shape.thing(given), unit, float(counted[1]), rows=float(counted[2]))
    chosen = [find_pattern(each.strip()) for each in panels.split(",") if each.strip()]
    return shaped_file(
        shape_id,
        given,
        base,
        panels=chosen,
        background=find_pattern(background.strip()) if background.strip() else None,
    )


def bare_file(name: str, unit: Unit, stitches: float, *, rows: float) -> ProjectFile:
    """A project of that gauge to make a shape in."""
    side = 600.0 / MM_PER[unit]
    return fresh_project(
        name=name, unit=unit, yarn="", width=side, height=side, tolerance=side / 20, stitches=stitches, rows=rows
    )


def emptied_file(file: ProjectFile) -> ProjectFile:
    """A project with a bare piece in place of its own: what it is made in and of stays, for a shape to be made in."""
    bare = bare_file(file.name, file.unit, file.gauge.stitches, rows=file.gauge.rows)
    return file.model_copy(update={"pieces": bare.pieces, "joins": (), "shape": None}).opened_at(0)


def shape_of(file: ProjectFile) -> tuple[Shape, Answers] | None:
    """What a project is made as, with its answers; None where it says nothing, or what is no longer known."""
    if file.shape is None or file.shape.id not in SHAPES:
        return None
    shape = SHAPES[file.shape.id]
    first, asked = shape.asks[0], file.shape.asked
    choice = str(asked.get(first.name, first.default)) if first.kind == "choice" else ""
    return shape, {ask.name: _kept_answer(ask, asked, choice, unit=file.unit) for ask in shape.asks}


def _kept_answer(ask: Ask, asked: Mapping[str, Answer], choice: str, *, unit: Unit) -> Answer:
    """What was asked, or the default where a file says nothing of it, or what nobody could have been asked."""
    try:
        return read_answers([ask], {ask.name: asked[ask.name]}, unit)[ask.name]
    except (KeyError, IllegalPiece):
        return ask.default_for(choice)


def shape_cautions(file: ProjectFile) -> tuple[str, ...]:
    """What the project's shape warns of, and joins that no longer fit, its pieces being as they are now."""
    found, pieces = shape_of(file), file.all_pieces()
    own = found[0].cautions(found[0].answered(found[1]), pieces, file.unit) if found else ()
    numbered = {p.number: piece for p, piece in zip(file.pieces, pieces, strict=True)}
    chosen = [find_pattern(panel) for panel in (file.shape.left_out if file.shape else ()) if panel in LIBRARY]
    left_out = _left_out(chosen, pieces)
    narrow = [
        f"There is no room for {p.name} in this size: it is left out, and laid out again where the size has room."
        for p in chosen
        if p.id in left_out
    ]
    own = (*own, *narrow, *holder_problems(numbered))
    return (*own, *(text for join in joins_of(file) for text in join_problems(pieces, join, file.unit)))


def joins_of(file: ProjectFile) -> tuple[Join, ...]:
    """The joins, by the places of the pieces."""
    places = {p.number: at for at, p in enumerate(file.pieces)}
    return tuple(join_of(join, places, file.unit) for join in file.joins)

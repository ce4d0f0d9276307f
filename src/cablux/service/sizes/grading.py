"""All sizes at once: one project made for every body of its shape's table, each solved by itself."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

from ...core.errors import CabluxError, IllegalPiece
from ...core.rows.shaped_band import plan_stations
from ...core.shapes import Answer, Answers, Shape, in_unit
from ...core.units import length_text
from ..answers import GradedPiece, SizeNumbers
from ..exchange import ProjectFile, read_project
from ..projects import piece_numbers
from ..shapes import file_in_size, measured_shape, project_patterns, shape_of

SIZE = "for"
"""What a shape calls its ask for a size."""


@dataclass(frozen=True)
class GradedSize:
    """A project in one size, or why it cannot be had in it."""

    size: str
    file: ProjectFile | None
    refusal: str = ""

    @cached_property
    def pieces(self) -> tuple[GradedPiece, ...]:
        """The numbers of every piece; none where it cannot be had."""
        return tuple(_pieces(self.file))


def grade_project(text: str, sizes: Sequence[str] = ()) -> tuple[GradedSize, ...]:
    """A project file in each of the sizes, by their names or the last words of them; in all that there are without any.

    Its panels, background, gauge and choices stay. What was asked and is another by size is that size's, in the
    proportion in which it was changed for the project's own. Raises BadFile or IllegalPiece for none such.
    """
    file = read_project(text)
    shape, found = measured_shape(file), shape_of(file)
    assert found is not None, "a measured shape has answers"
    if not by_sizes(shape):
        raise IllegalPiece(f"A {shape.name.lower()} is not made by a table of sizes; type its measures instead.")
    wanted = [_size(shape, found[1], name) for name in sizes] or list(shape.asks[0].choices)
    return tuple(graded_size(text, name) for name in wanted)


def by_sizes(shape: Shape) -> bool:
    """Whether its first ask is a size, by which others have their defaults."""
    return shape.asks[0].name == SIZE and any(ask.by for ask in shape.asks)


@lru_cache(maxsize=32)
def graded_size(text: str, size: str) -> GradedSize:
    """A project file in one size, called by its whole name."""
    try:
        return GradedSize(size, file_in(read_project(text), size))
    except CabluxError as error:
        return GradedSize(size, None, str(error))


def file_in(file: ProjectFile, size: str) -> ProjectFile:
    """A project made anew in another size of its shape's table. Raises what the shape raises."""
    shape, found = measured_shape(file), shape_of(file)
    assert found is not None, "a measured shape has answers"
    panels, background = project_patterns(file)
    answers = answers_in_size(shape, found[1], _size(shape, found[1], size))
    given = {ask.name: in_unit(ask, answers[ask.name], file.unit) for ask in shape.asks}
    return file_in_size(file, shape.id, given, panels=panels, background=background)


def _size(shape: Shape, answers: Answers, name: str) -> str:
    """A size by its whole name, or by its last word among those for the same body."""
    first = shape.asks[0]
    kind = str(answers[first.name]).rsplit(" ", 1)[0]
    tries = (name, f"{kind} {name}")
    found = next((c for c in first.choices for each in tries if c.casefold() == each.casefold()), None)
    if found is None:
        raise IllegalPiece(f"There is no size “{name}”; these are there: {', '.join(first.choices)}.")
    return found


def answers_in_size(shape: Shape, answers: Answers, size: str) -> dict[str, Answer]:
    """The answers for another size: what is another by size in the proportion in which it was changed."""
    first, out = shape.asks[0], dict[str, Answer](answers)
    own = str(answers[first.name])
    out[first.name] = size
    for ask in shape.asks[1:]:
        there, here = ask.default_for(size), ask.default_for(own)
        asked = answers[ask.name]
        if ask.by and isinstance(there, float) and isinstance(here, float) and isinstance(asked, float) and here:
            out[ask.name] = min(ask.most, max(ask.least, asked * there / here))
    return out


def graded_report(sizes: Sequence[GradedSize]) -> tuple[SizeNumbers, ...]:
    """Every size with the numbers of its pieces, as a program reads them."""
    return tuple(SizeNumbers(size=each.size, refusal=each.refusal, pieces=each.pieces) for each in sizes)


def _pieces(file: ProjectFile | None) -> Iterator[GradedPiece]:
    for own, piece in zip(file.pieces, file.all_pieces(), strict=True) if file else ():
        n = piece_numbers(piece)
        shaped = (view for view in piece.band_views if view.shaping is not None)
        stations = {s.station.name: s.count for view in shaped for s in plan_stations(view).stations}
        yield GradedPiece(
            name=own.name or piece.name,
            copies=own.copies,
            begun=bool(piece.begins),
            cast_on=n.cast_on.cast_on,
            rows=n.rows.total,
            bind_off=n.cast_on.top.count,
            width_mm=round(n.width_um / 1000.0, 1),
            height_mm=round(n.rows.height_um / 1000.0, 1),
            stations=stations,
        )


def graded_lines(sizes: Sequence[GradedSize]) -> Iterator[str]:
    """The sizes side by side, as patterns print them: the first, and the others in brackets."""
    made = [each for each in sizes if each.file is not None]
    if made:
        yield f"Sizes: {together([each.size for each in made])}"
        tables = [each.pieces for each in made]
        unit = made[0].file.unit if made[0].file else "cm"
        for at, piece in enumerate(tables[0]):
            row = [table[at] for table in tables if at < len(table)]
            width = together([length_text(p.width_mm, unit, 0) for p in row])
            height = together([length_text(p.height_mm, unit, 0) for p in row])
            yield f"{piece.name}: {width} wide, {height} high"
            yield f"  begin with {together([p.cast_on for p in row])}, {together([p.rows for p in row])} rows"
            for name in piece.stations:
                yield f"  {name}: {together([p.stations.get(name, '–') for p in row])} stitches"
            yield f"  at the end {together([p.bind_off for p in row])}"
    for each in sizes:
        if each.refusal:
            yield f"{each.size} cannot be had: {each.refusal}"


def together(values: Sequence[object]) -> str:
    """As patterns print several sizes: the first, and the others in brackets; once where they are all the same.

    >>> together([92, 100, 108])
    '92 (100, 108)'
    """
    first, *others = map(str, values)
    return f"{first} ({', '.join(others)})" if others and {first} != set(others) else first

"""The page of a project's sizes: a table of every size's numbers, what is awkward in one, and one text for all."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

from ...core.units import Unit, length_text
from ..answers import GradedPiece
from ..errors import NotFound
from ..exchange import ProjectFile
from ..projects import Project, piece_numbers
from ..shapes import measured_shape, shape_cautions, shape_of
from .grading import GradedSize, by_sizes, graded_size
from .size_texts import graded_pieces, graded_words

NEAR = 0.6
"""Our choice: a width that uses more than six tenths of its tolerance is told."""


@dataclass(frozen=True)
class SizeRow:
    """A line of the table: what it tells of which piece, and its value in each size; empty where there is none."""

    piece: str
    label: str
    values: tuple[str, ...]

    @property
    def alike(self) -> bool:
        """Whether it is the same in all sizes."""
        return len(set(self.values)) == 1


@dataclass(frozen=True, kw_only=True)
class SizesView:
    """The sizes that were asked for, `found` those of them that are solved, in their order; `own` is the project's."""

    project: Project
    own: str
    choices: tuple[str, ...]
    wanted: tuple[str, ...]
    found: tuple[GradedSize, ...]

    @property
    def made(self) -> tuple[GradedSize, ...]:
        """Those that can be had."""
        return tuple(each for each in self.found if each.file is not None)

    @property
    def done(self) -> bool:
        """Whether all are solved."""
        return len(self.found) == len(self.wanted)

    @cached_property
    def rows(self) -> tuple[SizeRow, ...]:
        """The table, piece by piece in the order of the first size."""
        tables = [{piece.name: piece for piece in each.pieces} for each in self.made]
        names = dict.fromkeys(name for table in tables for name in table)
        unit, out = self.project.unit, list[SizeRow]()
        for name in names:
            here = [table.get(name) for table in tables]
            out += (SizeRow(name, label, values) for label, values in _lines(here, unit))
        return tuple(out)

    @cached_property
    def panels(self) -> tuple[str, ...]:
        """The panels of each size's layout."""
        return tuple(_panels(each.file) for each in self.made if each.file is not None)

    @cached_property
    def awkward(self) -> tuple[tuple[str, str], ...]:
        """Each size that is to be checked, with the reason."""
        out = [(each.size, each.refusal) for each in self.found if each.refusal]
        mine = _panels(self.project.file)
        for each, panels in zip(self.made, self.panels, strict=True):
            if panels != mine:
                out.append((each.size, f"Its layout has {panels}; {self.own} has {mine}."))
            out += [(each.size, reason) for reason in _reasons(each)]
        return tuple(out)

    @cached_property
    def texts(self) -> tuple[tuple[str, tuple[str, ...]], ...]:
        """One text for all of them, piece by piece."""
        return tuple(graded_pieces(self.made))

    @property
    def words(self) -> str:
        """The same as plain text."""
        return "\n".join(graded_words(self.made)) + "\n"


def _lines(sizes: Sequence[GradedPiece | None], unit: Unit) -> Iterator[tuple[str, tuple[str, ...]]]:
    """What the table says of one piece: each number in all sizes, empty in those that do not have the piece."""

    def each(told: Callable[[GradedPiece], object]) -> tuple[str, ...]:
        return tuple("" if piece is None else str(told(piece)) for piece in sizes)

    first, last = each(lambda piece: piece.cast_on), each(lambda piece: piece.bind_off)
    yield "Begins with" if any(piece and piece.begun for piece in sizes) else "Cast on", first
    for station in dict.fromkeys(name for piece in sizes if piece for name in piece.stations):
        counts = each(lambda piece, name=station: piece.stations.get(name, ""))  # type: ignore[misc]
        if counts not in (first, last):
            yield station, counts
    yield "At the end", last
    yield "Rows", each(lambda piece: piece.rows)
    yield "Width", each(lambda piece: length_text(piece.width_mm, unit))
    yield "Height", each(lambda piece: length_text(piece.height_mm, unit))


def _panels(file: ProjectFile) -> str:
    """The panels of a project's layout in words."""
    found = shape_of(file)
    segments = found[0].layout(file.all_pieces()) if found else ()
    many = Counter(s.name for s in segments if s.is_panel)
    return ", ".join(f"{n} × {name}" if n > 1 else name for name, n in many.items()) or "no panel"


def _reasons(each: GradedSize) -> list[str]:
    assert each.file is not None, "only sizes that are made"
    out = []
    for own, piece in zip(each.file.pieces, each.file.all_pieces(), strict=True):
        off = piece_numbers(piece).width_um / 1000.0 - piece.width_mm
        if abs(off) > NEAR * piece.tolerance_mm and not piece.begins:
            how = "wider" if off > 0 else "narrower"
            out.append(f"{own.name or piece.name} is {length_text(abs(off), each.file.unit)} {how} than wanted.")
    return out + [line for line in shape_cautions(each.file) if "less than a head" in line]


def sizes_view(project: Project, sizes: Sequence[str] = (), done: int | None = None) -> SizesView:
    """The sizes of a project, by their whole names; those for the same body where none is asked for.

    Of them the first `done` are solved, all without it. Raises NotFound where its shape has no table of sizes.
    """
    own, near = size_choices(project)
    if not own:
        raise NotFound("This project is not made by a table of sizes.")
    choices = measured_shape(project.file).asks[0].choices
    wanted = tuple(c for c in choices if c in sizes) or near
    text = project.file.text()
    solved = tuple(graded_size(text, size) for size in wanted[: len(wanted) if done is None else done])
    return SizesView(project=project, own=own, choices=choices, wanted=wanted, found=solved)


def has_sizes(project: Project) -> bool:
    """Whether a project is made by a table of sizes."""
    found = shape_of(project.file)
    return found is not None and by_sizes(found[0])


def size_choices(project: Project) -> tuple[str, tuple[str, ...]]:
    """A project's size, and those of its table for the same body; nothing where it is not made by a table."""
    found = shape_of(project.file)
    if found is None or not by_sizes(found[0]):
        return "", ()
    ask = found[0].asks[0]
    own = str(found[1][ask.name])
    kind = own.rsplit(" ", 1)[0]
    return own, tuple(c for c in ask.choices if c.rsplit(" ", 1)[0] == kind)

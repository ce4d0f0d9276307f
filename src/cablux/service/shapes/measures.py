"""The measures of a project's shape: as they were asked, and its pieces made anew with others."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

from ...core.library import LIBRARY, StitchPattern, find_pattern
from ...core.piece.symmetry import is_symmetric
from ...core.shapes import Answer, Shape, in_unit
from ..errors import NotFound
from ..exchange import ProjectFile
from .shaped_projects import ShapeForm, emptied_file, file_of_form, shape_of, shaped_file, typed_answers


def has_measures(file: ProjectFile) -> bool:
    """Whether a project was made of a shape whose pieces can be made anew."""
    found = shape_of(file)
    return found is not None and found[0].measured


def measured_shape(file: ProjectFile) -> Shape:
    """The shape of a project that has measures. Raises NotFound."""
    found = shape_of(file)
    if found is None or not has_measures(file):
        raise NotFound("This project was laid out by hand: change its size under “Size & yarn”.")
    return found[0]


def measures_form(file: ProjectFile) -> ShapeForm:
    """The form as it was filled in for the project, with its yarn and gauge of today. Raises NotFound."""
    shape, found = measured_shape(file), shape_of(file)
    assert found is not None, "a measured shape has answers"
    answers, gauge = typed_answers(shape, found[1], file.unit), file.gauge
    return ShapeForm(
        name=file.name,
        unit=file.unit,
        stitches=f"{gauge.stitches:g}",
        rows=f"{gauge.rows:g}",
        answers=answers,
        yarn=file.yarn,
    )


def made_anew(form: ShapeForm, chosen: Sequence[StitchPattern] = ()) -> Callable[[ProjectFile], ProjectFile]:
    """The change that makes a project's pieces anew: of the panels that it has, or of others, on its background.

    Yarn, swatches and the patterns of its own stay; the layout is that of the shape. Raises as `file_of_form` does.
    """

    def changed(file: ProjectFile) -> ProjectFile:
        panels, background = project_patterns(file)
        return file_of_form(measured_shape(file), form, chosen or panels, background=background, base=file.opened_at(0))

    return changed


def project_patterns(file: ProjectFile) -> tuple[Sequence[StitchPattern], StitchPattern | None]:
    """The panels of a project's layout, each once, those that had no room in it, and the first background beside them.

    Of a layout that mirrors itself those of one half: the other hand of a panel comes with it.
    """
    found = shape_of(file)
    pieces = file.all_pieces()
    own = found[0].layout(pieces) if found else pieces[0].bands[0].segments
    own = own[: (len(own) + 1) // 2] if is_symmetric(own) else own
    backgrounds = (s.pattern for s in own if s.is_background)
    order, left_out = (file.shape.panels, file.shape.left_out) if file.shape else ((), ())
    panels = [*(s.pattern for s in own if s.is_panel), *(find_pattern(panel) for panel in left_out if panel in LIBRARY)]
    place = {panel: at for at, panel in enumerate(order)}
    panels.sort(key=lambda p: place.get(p.id, len(order)))  # those that were not chosen stand last
    return tuple(dict.fromkeys(panels)), next(backgrounds, None)


def after_layout(file: ProjectFile) -> ProjectFile:
    """A project with all pieces made after the layout of the one that shows it best. Raises what the shape raises."""
    shape, found = measured_shape(file), shape_of(file)
    if found is None or not shape.one_layout:
        raise NotFound("The pieces of this project do not share a layout.")
    panels, background = project_patterns(file)
    given = {ask.name: in_unit(ask, found[1][ask.name], file.unit) for ask in shape.asks}
    layout = shape.layout(file.all_pieces())
    return shaped_file(shape.id, given, emptied_file(file), panels=panels, background=background, layout=layout)


def shared_layout(file: ProjectFile) -> str:
    """The name of the piece after whose layout all others are made; empty where each has its own."""
    found = shape_of(file)
    if found is None or not found[0].one_layout:
        return ""
    return file.pieces[found[0].main(file.all_pieces())].name or file.name


def file_in_size(
    file: ProjectFile,
    shape_id: str,
    given: Mapping[str, Answer],
    *,
    panels: Sequence[StitchPattern],
    background: StitchPattern | None,
) -> ProjectFile:
    """A project with its pieces made anew of other answers, all else as it is. Raises what the shape raises."""
    return shaped_file(shape_id, given, emptied_file(file), panels=panels, background=background)

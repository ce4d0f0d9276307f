"""Projects of shapes: what each asks, made, measured anew, pictured, with the joins of their pieces."""

from .measures import (
    after_layout,
    file_in_size,
    has_measures,
    made_anew,
    measured_shape,
    measures_form,
    project_patterns,
    shared_layout,
)
from .shape_pictures import preview, shape_cards
from .shaped_projects import (
    ShapeForm,
    empty_form,
    file_of_form,
    joins_of,
    list_shapes,
    main_place,
    new_project,
    shape_cautions,
    shape_of,
    sizes_for,
)

__all__ = [
    "ShapeForm",
    "after_layout",
    "empty_form",
    "file_in_size",
    "file_of_form",
    "has_measures",
    "joins_of",
    "list_shapes",
    "made_anew",
    "main_place",
    "measured_shape",
    "measures_form",
    "new_project",
    "preview",
    "project_patterns",
    "shape_cards",
    "shape_cautions",
    "shape_of",
    "shared_layout",
    "sizes_for",
]

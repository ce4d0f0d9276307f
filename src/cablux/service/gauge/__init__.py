"""The gauge of a project: its page, and what the knitter does there."""

from .edits import (
    add_measure,
    choose_method,
    leave_out_swatch,
    read_lengths,
    remove_measure,
    renew_swatch,
    same_yarn,
    set_body_rows,
    use_swatch,
)
from .methods import METHOD_NAMES, methods_table
from .page import gauge_answer, gauge_sentences
from .planned import planned_for, swatch_to_knit
from .progress import project_outlook

__all__ = [
    "METHOD_NAMES",
    "add_measure",
    "choose_method",
    "gauge_answer",
    "gauge_sentences",
    "leave_out_swatch",
    "methods_table",
    "planned_for",
    "project_outlook",
    "read_lengths",
    "remove_measure",
    "renew_swatch",
    "same_yarn",
    "set_body_rows",
    "swatch_to_knit",
    "use_swatch",
]

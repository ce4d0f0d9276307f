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
from .page import METHOD_NAMES, gauge_page, methods_table, planned_for, swatch_to_knit

__all__ = [
    "METHOD_NAMES",
    "add_measure",
    "choose_method",
    "gauge_page",
    "leave_out_swatch",
    "methods_table",
    "planned_for",
    "read_lengths",
    "remove_measure",
    "renew_swatch",
    "same_yarn",
    "set_body_rows",
    "swatch_to_knit",
    "use_swatch",
]

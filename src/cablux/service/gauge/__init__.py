"""The gauge of a project: its page, and what the knitter does there."""

from .edits import (
    add_measure,
    choose_school,
    leave_out_swatch,
    read_lengths,
    remove_measure,
    renew_swatch,
    same_yarn,
    set_body_rows,
    use_swatch,
)
from .page import SCHOOL_NAMES, gauge_page, planned_for, schools_table, swatch_to_knit

__all__ = [
    "SCHOOL_NAMES",
    "add_measure",
    "choose_school",
    "gauge_page",
    "leave_out_swatch",
    "planned_for",
    "read_lengths",
    "remove_measure",
    "renew_swatch",
    "same_yarn",
    "schools_table",
    "set_body_rows",
    "swatch_to_knit",
    "use_swatch",
]

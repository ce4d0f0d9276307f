"""Jinja for pages and booklets: what both expect of a template."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from jinja2 import Environment, FileSystemLoader, Undefined
from jinja2.utils import missing


class NotGiven(Undefined):
    """What a page was not given is empty; a field that a record does not have is a mistake in the template."""

    def __init__(self, *args: Any, **named: Any) -> None:
        super().__init__(*args, **named)
        if self._undefined_obj is not missing:
            self._fail_with_undefined_error()


def templates_in(folder: Path) -> Environment:
    """The templates of a folder."""
    loader = FileSystemLoader(folder)
    return Environment(loader=loader, autoescape=True, trim_blocks=True, lstrip_blocks=True, undefined=NotGiven)

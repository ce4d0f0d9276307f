"""A booklet as one HTML file that refers to nothing outside itself."""

from __future__ import annotations

import base64
from functools import lru_cache
from pathlib import Path

from jinja2 import Template

from ...core.booklet import Booklet
from ..templates import templates_in


@lru_cache(maxsize=1)
def _template() -> Template:
    env = templates_in(Path(__file__).parent)
    env.globals |= {"data": _data, "kind_of": lambda block: type(block).__name__}
    return env.get_template("booklet.html.jinja")


def _data(svg: str) -> str:
    """A picture as an address that holds it."""
    return f"data:image/svg+xml;base64,{base64.b64encode(svg.encode()).decode()}"


def write_html(booklet: Booklet, *, large: bool = False) -> str:
    """The booklet as an HTML page with its style and its pictures inside."""
    return _template().render(book=booklet, large=large)

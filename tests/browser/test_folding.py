"""Templates are folded so that a browser shows what it showed: looked at in its own layout, not in the text."""

from __future__ import annotations

from importlib import import_module
from pathlib import Path

import pytest
from jinja2 import Environment
from playwright.sync_api import Page

STYLE = """<style>.flex { display: flex; gap: 8px } .button { display: inline-flex } b { padding: 3px }</style>"""
LINES = """<p class="card flex gap-2">{% if a %}<b>{{ a }}</b>{% endif %}<i class="quiet">one</i></p>{# a remark #}
<p>{% if a %}<b>{{ a }}</b>{% endif %}<i class="quiet">one</i>{{ a }}<b>two</b> three{% if a %} four{% endif %}, 5</p>
<span title="one  two">{{ a }}</span>{% if a %}<a class="button quiet" href="?a={{ a }}"{% if a == 'x  y' %} \
aria-current="true"{% endif %}>{{ a }}, {{ 'no  space' if a else 'none' }}</a>{% else %}none{% endif %}{{ a }}
<button>{{ a }}</button><button>Save {{ a }}</button><select><option>{{ a }}</option><option>2{{ a }}</option></select>
{% macro of(b) %}<i>{{ b }}</i>{% if a %}<b>{{ a }}</b>{% endif %}{% endmacro %}{{ of(1) }}{{ of(2) }}<p>{{ of(3) }}</p>
<ul>{% for n in (1, 2, 3) %}<li>{{ n }}{{ of(n) }}</li>{% endfor %}</ul>one{{ a }}two {{ a }} {% if a %}3{% endif %}"""
SEEN = """() => [document.body.innerText, [...document.body.querySelectorAll('*')].map((e) => [
  e.tagName, [...e.attributes].map((a) => [a.name, a.value]), JSON.stringify(e.getBoundingClientRect())])]"""


@pytest.mark.parametrize("wide", [100, 60, 40])
def test_a_folded_template_is_shown_as_it_was(page: Page, monkeypatch: pytest.MonkeyPatch, wide: int) -> None:
    monkeypatch.syspath_prepend(str(Path(__file__).parents[2] / "tools"))
    templates = import_module("templates")
    monkeypatch.setattr(templates, "WIDE", wide)
    folded = templates.formatted(LINES)
    assert folded.count("\n") > LINES.count("\n") + 10 and max(map(len, folded.split("\n"))) < 1.5 * wide
    jinja = Environment(autoescape=True, trim_blocks=True, lstrip_blocks=True)
    for a in ("", "x  y", "<"):
        shown = []
        for text in (LINES, folded):
            page.set_content(STYLE + jinja.from_string(text).render(a=a))
            shown.append(page.evaluate(SEEN))
        assert shown[0] == shown[1]

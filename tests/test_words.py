"""The words of the interface: every template, script and message is read for what docs/words.md forbids."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from html.parser import HTMLParser
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
SOURCES = ROOT / "src" / "cablux"
LINES = (ROOT / "docs" / "words.md").read_text("utf-8").splitlines()
FORBIDDEN = sorted({word for line in LINES if line.startswith("| ") for word in re.findall(r"`([^`]+)`", line)})
SHOWN = {"title", "aria-label", "placeholder", "alt"}


class Shown(HTMLParser):
    """What a person sees or hears of a template: its text, and the attributes that are read out."""

    def __init__(self, text: str) -> None:
        super().__init__()
        self.words: list[str] = []
        text = re.sub(r"{#.*?#}", "", text, flags=re.S)
        for code in re.findall(r"{[{%](.*?)[}%]}", text, flags=re.S):  # words in expressions: those with a space
            quoted = (a or b for a, b in re.findall(r"'([^']*)'|\"([^\"]*)\"", code))
            self.words += [words for words in quoted if " " in words]
        self.feed(re.sub(r"{[{%].*?[}%]}", "…", text, flags=re.S))

    def handle_starttag(self, tag, attrs):
        self.words += [value for name, value in attrs if name in SHOWN and value]

    def handle_data(self, data):
        self.words.append(data)


def of_python(source: str) -> Iterator[str]:
    """The texts of a module with a space in them, docstrings apart."""
    tree = ast.parse(source)
    docs = {id(n.value) for n in ast.walk(tree) if isinstance(n, ast.Expr)}
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr):
            text = "".join(v.value if isinstance(v, ast.Constant) else "…" for v in node.values)
            yield text if " " in text else ""
        elif isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in docs:
            yield node.value if " " in node.value else ""


def shown(file: Path) -> list[str]:
    text = file.read_text("utf-8")
    if file.suffix == ".html":
        return Shown(text).words
    if file.suffix == ".py":
        return list(of_python(text))
    return re.findall(r"[\"'`]([^\"'`\n]* [^\"'`\n]*)[\"'`]", text)


FILES = sorted([*SOURCES.rglob("*.py"), *SOURCES.rglob("*.html"), *(SOURCES / "web/static").glob("*.js")])
FILES = [f for f in FILES if "migrations" not in f.parts and "demo" not in f.parts]


@pytest.mark.parametrize("file", FILES, ids=lambda f: str(f.relative_to(SOURCES)))
def test_nothing_is_said_that_the_list_of_words_forbids(file: Path):
    text = " ¶ ".join(" ".join(words.split()) for words in shown(file)).lower()
    found = [word for word in FORBIDDEN if re.search(rf"(?<![\w-]){re.escape(word.lower())}(?![\w-])", text)]
    assert not found, found


def test_the_terms_are_the_ones_on_the_pages():
    everything = " ".join(word for f in FILES if f.suffix == ".html" for word in shown(f)).lower()
    terms = [cell.strip() for line in LINES if line.startswith("| ") for cell in line.split("|")[1:2]]
    said = [
        term for cell in terms for term in cell.split(", ") if cell not in ("term", "button", "say") and "…" not in term
    ]
    missing = {term for term in said if term.lower() not in everything}
    examples = {"78 in 100", "the field’s label and what is wanted", "1 stitch", "1 row", "suits", "fits", "to travel"}
    examples.add("read the chart right to left")
    assert len(FORBIDDEN) > 40 and len(said) > 30 and missing <= examples, missing


def test_the_reader_of_words_sees_what_is_forbidden():
    assert "gutter" in " ".join(Shown('<p title="a gutter">x</p>').words)
    assert "go by it" in Shown("<b>{{ 'go by it' if x else '' }}</b>").words
    assert next(of_python('"""go by"""\nf"a {x} gutter"\ny = "look twice now"')) == "a … gutter"

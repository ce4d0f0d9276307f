"""What the tests of pages share: the words of a page, a new project, the demo's projects."""

from __future__ import annotations

from html.parser import HTMLParser

SKERRY, BOTHY, WINDOW = 3, 2, 1
PART = {"hx-request": "true"}
NEW = {"name": "T", "unit": "cm", "width": "60", "height": "80", "tolerance": "2", "stitches": "20", "rows": "28"}


class Text(HTMLParser):
    """The words of a page, with the elements that carry forbidden attributes."""

    def __init__(self, html: str) -> None:
        super().__init__()
        self.words: list[str] = []
        self.forbidden: list[str] = []
        self.feed(html)

    def handle_starttag(self, tag, attrs):
        self.forbidden += [name for name, _ in attrs if name == "style" or name.startswith("on")]
        if tag == "script" and "src" not in dict(attrs):
            self.forbidden.append("inline script")

    def handle_data(self, data):
        self.words.append(data)

    def __str__(self) -> str:
        return " ".join(" ".join(self.words).split())

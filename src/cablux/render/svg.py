"""Drawing primitives and their SVG text: no style attributes, so that a strict policy lets them pass."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from xml.sax.saxutils import escape, quoteattr

Point = tuple[float, float]
_NAMES: dict[str, str] = {}  # attribute names as they are written
_PLAIN = re.compile(r"[^&<>\"\n\r\t]*").fullmatch


def number(value: float) -> str:
    """A coordinate with two decimals at most, without trailing zeros."""
    text = f"{value:.2f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


@dataclass(kw_only=True)
class Element:
    """An SVG element; attribute names may use _ for -."""

    tag: str
    attributes: dict[str, str | float] = field(default_factory=dict)
    children: list[Element] = field(default_factory=list)
    text: str = ""

    def add(self, tag: str, **attributes: str | float) -> Element:
        """A new child, returned."""
        child = Element(tag=tag, attributes=attributes)
        self.children.append(child)
        return child

    def write(self) -> str:
        """The element and its children as text."""
        out: list[str] = []
        self._write(out)
        return "".join(out)

    def _write(self, out: list[str]) -> None:
        out.append(f"<{self.tag}")
        for key, value in self.attributes.items():
            text = value if isinstance(value, str) else number(value)
            name = _NAMES.get(key) or _NAMES.setdefault(key, key.rstrip("_").replace("_", "-"))
            out.append(f' {name}="{text}"' if _PLAIN(text) else f" {name}={quoteattr(text)}")
        if not self.children and not self.text:
            out.append("/>")
            return
        out.append(">")
        if self.text:
            out.append(escape(self.text))
        for child in self.children:
            child._write(out)
        out.append(f"</{self.tag}>")


def picture_root(across: float, up: float, **attributes: str | float) -> Element:
    """The root of a picture `across` by `up` units."""
    box = f"0 0 {number(across)} {number(up)}"
    return Element(tag="svg", attributes={"xmlns": "http://www.w3.org/2000/svg", "viewBox": box, **attributes})


def picture_size(svg: str) -> tuple[int, int]:
    """How wide and how tall a picture that says so is, in whole units: what keeps its place until it has come."""
    across, up = (re.search(rf' {side}="([\d.]+)"', svg[: svg.index(">")]) for side in ("width", "height"))
    if across is None or up is None:
        raise ValueError("this picture does not say how large it is")
    return round(float(across[1])), round(float(up[1]))

"""A booklet on paper: laid out by Typst as PDF, or page by page as pictures, with our own fonts and no others."""

from __future__ import annotations

import json
import re
import tempfile
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Literal

from ...core.booklet import (
    Block,
    Booklet,
    Calendar,
    ChartSheet,
    Key,
    Note,
    Paragraph,
    Picture,
    RowList,
    Subheading,
    Table,
)

HERE = Path(__file__).parent
FONTS = HERE.parent / "fonts"
SYMBOL_MM = 0.28  # of a symbol's unit on paper, our choice: a cell is then 4.5 mm wide
PREVIEW_PPI = 96.0


@dataclass(frozen=True)
class Sheet:
    """The paper, and how it is printed on."""

    paper: Literal["a4", "letter"] = "a4"
    colour: bool = True
    large: bool = False


def write_pdf(booklet: Booklet, sheet: Sheet = Sheet()) -> bytes:
    """The booklet as PDF."""
    return _compiled(booklet, sheet, "pdf")[0]


def write_pages(booklet: Booklet, sheet: Sheet = Sheet(), ppi: float = PREVIEW_PPI) -> tuple[bytes, ...]:
    """The same pages as PNG pictures."""
    return _compiled(booklet, sheet, "png", ppi=ppi)


def _compiled(booklet: Booklet, sheet: Sheet, form: Literal["pdf", "png"], *, ppi: float = 0.0) -> tuple[bytes, ...]:
    import typst  # here: only paper wants the engine

    with tempfile.TemporaryDirectory() as folder:
        pictures = _Pictures(Path(folder))
        chapters = [
            {"fresh": c.fresh, "title": c.title, "blocks": [_told(block, pictures) for block in c.blocks]}
            for c in booklet.chapters
        ]
        book: dict[str, Any] = {
            "title": booklet.title,
            "subtitle": booklet.subtitle,
            "chapters": chapters,
        }
        book |= {"paper": sheet.paper, "colour": sheet.colour, "large": sheet.large}
        Path(folder, "booklet.json").write_text(json.dumps(book, ensure_ascii=False), "utf-8")
        page = Path(folder, "booklet.typ")
        page.write_bytes((HERE / "booklet.typ").read_bytes())
        fonts = typst.Fonts(font_paths=[str(FONTS)], include_system_fonts=False)
        made: bytes | list[bytes] = typst.compile(str(page), format=form, font_paths=fonts, ppi=ppi or None)
    pages = made if isinstance(made, list) else [made]
    return tuple(pages)


class _Pictures:
    """Pictures as files beside the page, each written once."""

    def __init__(self, folder: Path) -> None:
        self.folder, self.names = folder, dict[str, str]()

    def file(self, svg: str) -> str:
        """The name of the file that holds a picture."""
        if svg not in self.names:
            self.names[svg] = f"p{len(self.names)}.svg"
            (self.folder / self.names[svg]).write_text(svg, "utf-8")
        return self.names[svg]


def _told(block: Block, pictures: _Pictures) -> dict[str, Any]:
    """A block as the page template reads it."""
    match block:
        case Paragraph():
            return {"kind": "paragraph", "lines": block.lines}
        case Note():
            return {"kind": "note", "text": block.text}
        case Subheading():
            return {"kind": "subheading", "text": block.text, "detail": block.detail}
        case Table():
            return {"kind": "table", "head": block.head, "rows": block.rows}
        case Calendar():
            return {"kind": "calendar", "what": block.what, "numbers": block.numbers}
        case RowList():
            rows = [
                {"what": r.what, "numbers": r.numbers, "side": r.side, "text": r.text, "count": r.count}
                for r in block.rows
            ]
            return {"kind": "rows", "rows": rows, "again": block.again}
        case Key():
            terms = [
                {"symbol": pictures.file(t.symbol), "width": _wide(t.symbol) * SYMBOL_MM, "name": t.name,
                 "other": t.other_name, "text": t.text}
                for t in block.terms
            ]  # fmt: skip
            return {"kind": "key", "terms": terms}
        case Picture():
            strips = [{"file": pictures.file(s.svg), "share": s.share} for s in block.strips]
            return {"kind": "picture", "strips": strips, "caption": block.caption, "tall": block.tall,
                    "across": block.across, "beside": block.beside}  # fmt: skip
        case ChartSheet():
            return {"kind": "chart", "file": pictures.file(block.svg), "caption": block.caption,
                    "width": block.width_mm, "height": block.height_mm}  # fmt: skip


def _wide(svg: str) -> float:
    found = re.search(r'viewBox="0 0 ([\d.]+)', svg)
    return float(found[1]) if found else 16.0

"""The booklet: paper is read back and knitted, charts are looked at cell by cell, every form says the same."""

from __future__ import annotations

import csv
import io
import re
import zipfile
from dataclasses import replace
from html.parser import HTMLParser
from itertools import accumulate, pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pypdf import PdfReader

from cablux.core.booklet import Table
from cablux.core.notation import Op, parse_ops, shortest_text
from cablux.core.pattern import compile_piece
from cablux.core.pattern.wording import Wording
from cablux.core.pattern.words import pattern_words
from cablux.demo.loader import DEMO
from cablux.render.booklet import Sheet, write_pdf
from cablux.render.chart import ChartLine, ChartPart
from cablux.render.chart_cuts import cut_chart
from cablux.service.booklet import Printing, booklet_file, build_booklet
from cablux.service.booklet.charts import PAGE_MM, band_chart
from cablux.service.booklet.printing import PARTS
from cablux.service.errors import NotFound
from cablux.service.pattern import project_words
from tests.examples import over, turn_of
from tests.knitter import Loop, knit_pattern
from tests.service.chair.test_lost_place import demo

NAMES = [name for name, _ in DEMO]
PAPER = {"a4": (595, 842), "letter": (612, 792)}  # points: ISO 216, ANSI Y14.1
SECTIONS = "Bottom border|Top border|Body|Set-up|Increase|Decrease|Change"
ENTRY = re.compile(
    r"(Rows?|Rounds?) ((?:\d+ ?)+)(?:\((RS|WS)\))?: (.*?)\. ?(?:\((\d+) stitches\))?(?= (?:Rows?|Rounds?) \d|$)"
)


def pages_of(content: bytes) -> list[str]:
    """The text of each page, spaces as on the page."""
    return [" ".join(page.extract_text().split()) for page in PdfReader(io.BytesIO(content)).pages]


def from_paper(content: bytes, title: str, under: str) -> str:
    """The rows of a printed booklet as lines that a knitter reads; heads and feet of pages are left out."""
    first, *others = pages_of(content)
    head = f"{title} {under}".strip()
    pages = [re.sub(r"\d+ / \d+$", "", page.removeprefix(head)) for page in (first, *others)]
    text = re.sub(rf"\b({SECTIONS}) (rows?|rounds?) [\d–]+ (?:\(band \d\) )?", "", " ".join(" ".join(pages).split()))
    start = re.search(r"Row by row (.*?\.) (?=Rows? |Rounds? )", text)
    end = re.search(r"(?:Bind off|Leave the) \d+ stitches", text)
    assert start and end, text
    lines = [start[1]]
    for what, numbers, side, words, count in ENTRY.findall(text[start.end() : end.start()].strip()):
        label = f"{what} {', '.join(numbers.split())}" + (f" ({side})" if side else "")
        lines.append(f"{label}: {words}." + (f" ({count} stitches)" if count else ""))
    return "\n".join([*lines, text[end.start() :]])


@pytest.mark.parametrize("name", ["skerry-throw.json", "bothy-blanket.json", "tideline-cowl.json"])
def test_a_booklet_is_knitted_from_its_paper(name: str) -> None:
    file = demo(name)
    only = Printing(leave_out=frozenset(PARTS) - {"words"})
    content = booklet_file(file.text(), "pdf", only)
    book = build_booklet(file, only)
    cast_on, rows = knit_pattern(from_paper(content, book.title, book.subtitle))
    pattern = compile_piece(file.piece())
    assert cast_on == pattern.cast_on.cast_on and len(rows) == len(pattern.rows)
    assert [len(row.loops) for row in rows] == [row.after for row in pattern.rows]
    told = knit_pattern(project_words(file))[1]
    assert [row.loops for row in rows] == [row.loops for row in told]


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_pages_have_the_paper_s_size_and_carry_their_fonts(paper: str) -> None:
    printing = Printing(paper=paper, large=paper == "letter")  # type: ignore[arg-type]
    text = demo("skerry-throw.json").text()
    reader = PdfReader(io.BytesIO(booklet_file(text, "pdf", printing)))
    fonts = set()
    for at, page in enumerate(reader.pages, start=1):
        assert (round(page.mediabox.width), round(page.mediabox.height)) == PAPER[paper]
        last = at == len(reader.pages)
        assert not last or f"{at} / {at}" in page.extract_text()
        for font in page["/Resources"].get_object()["/Font"].values():  # type: ignore[index]
            own = font.get_object()["/DescendantFonts"][0].get_object()
            fonts.add(own["/BaseFont"].split("+")[-1])
            assert {"/FontFile2", "/FontFile3"} & set(own["/FontDescriptor"].get_object()), "a font is not embedded"
    assert any("Atkinson" in font for font in fonts) and any("Fraunces" in font for font in fonts)


@pytest.mark.parametrize("name", NAMES)
def test_every_form_says_the_same_rows(name: str) -> None:
    file, printing = demo(name), Printing(charts="none")
    told = build_booklet(file, printing)
    rows = [r for c in told.chapters for b in c.blocks for r in getattr(b, "rows", ()) if hasattr(r, "label")]
    assert rows
    text = booklet_file(file.text(), "txt", printing).decode()
    marked = re.sub(r"\\(.)", r"\1", booklet_file(file.text(), "md", printing).decode().replace("**", ""))
    page = _Words()
    page.feed(booklet_file(file.text(), "html", printing).decode())
    assert not page.outside, "the page refers to something outside itself"
    for row in rows:
        assert f"{row.label}: {row.text}." in text and f"{row.label}: {row.text}." in marked
        assert f"{row.label}: {row.text}." in page.text
    for chapter in told.chapters:
        assert not chapter.title or (f"## {chapter.title}" in marked and chapter.title in page.text)


def test_in_plain_text_the_title_comes_first_and_each_piece_names_its_measures() -> None:
    file = demo("dotterel-cardigan.json")
    for form, title in (("txt", "Dotterel cardigan\n====="), ("md", "# Dotterel cardigan\n")):
        text = booklet_file(file.text(), form, Printing()).decode()
        assert text.startswith(title) and "\n\n\n\n" not in text
        measures = text[text.index("Measures\n") : text.index("What you need")]
        parts = re.split("|".join(f"(?m:^(?:### )?{own.name}$)" for own in file.pieces), measures)[1:]
        assert len(parts) == len(file.pieces) and all("Comes to" in part for part in parts)
        assert all(len(set(rows)) == len(rows) for rows in (part.split("\n\n")[1].splitlines() for part in parts))


@pytest.mark.parametrize("large", [False, True])
def test_every_measure_of_every_piece_is_on_paper(large: bool) -> None:
    file = demo("dotterel-cardigan.json")
    book = build_booklet(file, Printing())
    measures = next(c for c in book.chapters if c.kind == "measures")
    text = " ".join(pages_of(write_pdf(replace(book, chapters=(measures,)), Sheet(large=large))))
    tables = [block for block in measures.blocks if isinstance(block, Table)]
    heads = text.count("At height")  # a table that a page cuts has its head again
    assert len(tables) == len(file.pieces) and (heads == len(tables) or (large and heads > len(tables)))
    for table, own in zip(tables, file.pieces, strict=True):
        assert own.name in text
        assert all(word in text for row in table.rows for cell in row for word in cell.split())


class _Words(HTMLParser):
    """A page's words, and what it refers to that is not inside it."""

    def __init__(self) -> None:
        super().__init__()
        self.text, self.outside = "", list[str]()

    def handle_data(self, data: str) -> None:
        self.text += data

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        refers = (v or "" for k, v in attrs if k in ("src", "href", "srcset", "action", "data"))
        self.outside += [v for v in refers if not v.startswith(("data:", "#"))]
        if tag in ("script", "link", "iframe"):
            self.outside.append(tag)


def test_rows_as_csv_are_all_rows_with_their_counts() -> None:
    file = demo("dotterel-cardigan.json")
    lines = list(csv.DictReader(io.StringIO(booklet_file(file.text(), "csv", Printing()).decode())))
    for own in file.pieces:
        pattern = compile_piece(file.opened_at(own.number).piece())
        mine = [line for line in lines if line["piece"] == own.name]
        assert [int(line["row"]) for line in mine] == [*range(1, len(pattern.rows) + 1)]
        assert all(a["after"] == b["before"] for a, b in pairwise(mine))


@pytest.mark.parametrize("name", NAMES)
@pytest.mark.parametrize("folded", [True, False])
def test_each_cell_of_a_printed_chart_is_the_stitch_it_is_numbered_as(name: str, folded: bool) -> None:
    """Cell by cell against the rows in words, which are read anew; what a box leaves out is the box again and again."""
    for piece in demo(name).all_pieces():
        pattern = compile_piece(piece)
        for view in piece.band_views:
            if view.shaping is not None or any(s.wander for s in view.segments):
                continue
            chart = band_chart(pattern, view, folded=folded)
            for line, worked in zip(chart.lines, chart.worked, strict=True):
                whole = _cells(_reread(pattern.row(line.number).ops))
                shown = _cells([op for part in line.parts for op in part.ops])
                assert len(shown) == len(chart.stitches)
                if len(whole) != max(chart.stitches):
                    continue  # a row with fewer stitches has empty cells
                for cell, stitch in zip(shown, chart.stitches, strict=True):
                    assert cell == whole[stitch - 1], f"{piece.name}, row {line.number}, stitch {stitch}"
                for box in (b for b in chart.boxes if b.last - b.first < sum(chart.widths)):
                    first = chart.stitches[box.first] - 1
                    after = chart.stitches[box.last] - 1 if box.last < len(chart.stitches) else len(whole)
                    many, rest = divmod(after - first, box.last - box.first)
                    assert rest == 0 and whole[first:after] == whole[first : first + box.last - box.first] * many
                    assert any(name.endswith(f"· {many}×") for name in chart.names)
                if folded and chart.boxes:
                    again = [r for r in pattern.rows if r.band == view.at and r.section == "body"]
                    assert worked >= 1 and sum(chart.worked) == len(again) + len(chart.lines) - piece.row_period(
                        view.at
                    )


def _reread(ops: tuple[Op, ...]) -> list[Op]:
    """Operations as a reader makes them of their words."""
    return list(parse_ops(shortest_text(ops)))


def _cells(ops: list[Op]) -> list[tuple[str, int]]:
    return [(op.token, part) for op in ops for part in range(op.cells)]


@given(st.lists(st.integers(1, 9), min_size=1, max_size=60), st.integers(12, 40), st.integers(3, 30), st.data())
def test_a_chart_is_cut_so_that_everything_is_seen_and_nothing_is_halved(
    widths: list[int], across: int, up: int, data: st.DataObject
) -> None:
    ops = [op for wide in widths for op in parse_ops("k1" if wide == 1 else f"{wide}/{wide} LC")]
    lines = [ChartLine(n, None, (ChartPart("", "", tuple(ops)),)) for n in range(data.draw(st.integers(1, 70)))]  # type: ignore[arg-type]
    spans = [1 if wide == 1 else 2 * wide for wide in widths]
    ends = [*accumulate(spans)]
    cells, closed = ends[-1], set(range(1, ends[-1])) - set(ends)  # within a crossing
    windows = cut_chart(lines, cells, across, up=up)
    seen = {(x, y) for w in windows for x in range(w.first, w.last) for y in range(w.low, w.high)}
    assert len(seen) == cells * len(lines)
    for w in windows:
        assert 0 < w.last - w.first <= across and 0 < w.high - w.low <= up
        if w.last in closed:  # only where no place in the whole sheet was open
            assert all(at in closed for at in range(w.first + 3, w.first + across + 1))
        before = [o for o in windows if o.low == w.low and o.first < w.first]
        assert w.again == max((o.last for o in before), default=w.first) - w.first


@pytest.mark.breadth
def test_sheets_fit_the_page_and_say_what_they_show() -> None:
    charts = Printing(charts="whole", leave_out=frozenset(PARTS) - {"charts"})
    for at, name in enumerate(NAMES):
        for large in turn_of(at, (False, True)):
            for sheet in build_booklet(demo(name), replace(charts, large=large)).charts():
                assert sheet.width_mm <= PAGE_MM[0] and sheet.height_mm <= PAGE_MM[1]
                assert re.search(r": (?:row|round)s \d+–\d+, stitches \d+–\d+", sheet.caption)
    names = zipfile.ZipFile(io.BytesIO(booklet_file(demo("skerry-throw.json").text(), "zip", Printing()))).namelist()
    assert len(names) == len(set(names)) and all(n.endswith(".svg") for n in names)


@over("name", NAMES, of=2)
def test_an_inside_out_and_a_left_handed_edition_make_the_same_cloth(name: str) -> None:
    file = demo(name)
    if any(p.inside_out for p in file.pieces):
        return  # it is told inside out already
    plain = Printing(leave_out=frozenset(PARTS) - {"words"}, manner="every")
    for own in file.pieces:
        texts = {}
        for inside in (False, True):
            text = booklet_file(file.text(), "txt", replace(plain, piece=own.name, inside_out=inside)).decode()
            texts[inside] = [[*map(_shown, r.loops)] for r in knit_pattern(text, inside=inside and own.round)[1]]
        assert texts[True] == texts[False]
    for own in file.pieces:
        left = replace(plain, piece=own.name, wording=Wording(left_handed=True))
        text = booklet_file(file.text(), "txt", left).decode()
        read = [r.loops for r in knit_pattern(text)[1]]
        right = [
            r.loops
            for r in knit_pattern(booklet_file(file.text(), "txt", replace(left, wording=Wording())).decode())[1]
        ]
        tied = re.search(r"Row \d.*(?:bind off \d|cast on \d|w&t|turn|\bds\b)", text)
        assert read == right or tied, f"{own.name} is another piece for the left hand"
        # what begins at the other edge begins a row later
        assert abs(len(read) - len(right)) <= 2 and len(read[-1]) == len(right[-1])


def _shown(loop: Loop) -> tuple[object, ...]:
    """A loop as it is compared; one that is cast on has no face of its own, whoever looks at it."""
    return (loop.face if loop.parents else None, loop.parents, loop.depth, loop.knob)


@pytest.mark.parametrize("name", ["puffin-pullover.json", "wren-vest.json", "sanderling-pullover.json"])
def test_what_is_bound_off_at_the_beginning_of_a_row_is_so_for_the_left_hand(name: str) -> None:
    """A row that is read from its other end would bind off where it ends, which cannot be done."""
    file = demo(name)
    text = project_words(file, Wording(left_handed=True), manner="every")
    begun = [line.split(": ", 1)[1] for line in text.splitlines() if re.match(r"Rows? \d.*bind off \d", line)]
    assert begun and all(words.startswith("bind off") for words in begun)
    plain = project_words(file, manner="every")
    off = [sum(map(int, re.findall(r"bind off (\d+)", each))) for each in (text, plain)]
    assert off[0] == off[1], "as much goes, whichever hand begins"


@pytest.mark.parametrize("order", ["order", "every"])
def test_rows_in_their_order_are_in_their_order_and_all_there(order: str) -> None:
    for name in NAMES:
        for piece in demo(name).all_pieces():
            sections = pattern_words(compile_piece(piece), order=order)  # type: ignore[arg-type]
            firsts = [row.numbers[0] for section in sections for row in section.rows]
            assert firsts == sorted(firsts)
            told = sorted(n for section in sections for row in section.rows for n in row.numbers)
            assert told == [*range(1, len(compile_piece(piece).rows) + 1)]
            assert not any(section.repeat for section in sections)


def test_only_what_is_used_is_explained_and_needles_are_never_bare_numbers() -> None:
    text = booklet_file(demo("skerry-throw.json").text(), "txt", Printing()).decode()
    key = text[text.index("Abbreviations") : text.index("Row by row")]
    words = text[text.index("Row by row") :]
    for term in re.findall(r"^(\d/\d [LR]P?C|M1P?[LR]|k2tog|ssk|p2tog|ssp)", key, re.M):
        assert term in words, f"{term} is explained, but never worked"
    for term in set(re.findall(r"\d/\d [LR]P?C|M1P?[LR]|k2tog|ssk|p2tog|ssp", words)):
        assert term in key, f"{term} is worked, but not explained"
    assert re.search(r"Needles +\d+(?:\.\d+)? mm \(US [\d½]+, UK \d+\)", text)
    with pytest.raises(NotFound, match="There is no piece"):
        build_booklet(demo("skerry-throw.json"), Printing(piece="Sleeve"))

"""The front of a booklet: cover, finished measures beside those wanted, materials, gauge, abbreviations."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence

from ...core.booklet import Block, Key, KeyTerm, Note, Paragraph, Picture, Strip, Subheading, Table
from ...core.making import needle_text
from ...core.notation import Crossing, Op
from ...core.pattern.howto import ways_to_work
from ...core.piece.piece import Piece
from ...core.piece.widths import body_row_um, segment_um
from ...core.units import GAUGE_SPAN, cord_text, length_text
from ...render.print_styles import styled_schematic, styled_symbol
from ...render.schematic import draw_schematic
from ...render.yarn import UNDYED, Yarn
from ..exchange import ProjectFile
from ..panels import key_of, relief_picture
from ..pattern import chart_ops
from ..projects import piece_numbers, station_table
from ..shapes import joins_of, main_place
from .printing import Printing

COVER_MM = 400.0
"""Our choice: so much of the cloth's height is on the cover at the most, which shows some repeats of any panel."""
SCHEMATIC = 0.48
"""Our choice: the part of a page’s width for a schematic, whose measures then stand in letters of about 7 points."""
SHORT_WORDS = (  # common practice
    ("RS", "the right side, which shows when the piece is worn or lies"),
    ("WS", "the wrong side"),
    ("k", "knit"),
    ("p", "purl"),
    ("sl", "slip, as if to purl"),
    ("wyif", "with the yarn in front"),
    ("wyib", "with the yarn behind"),
    ("tbl", "through the back loop"),
    ("rep from *", "work again what stands between the * and here"),
    ("sm", "slip the marker"),
    ("pm", "place a marker"),
)


def cover_blocks(file: ProjectFile, files: Sequence[ProjectFile], printing: Printing) -> Iterator[Block]:
    """The cloth in relief, each piece in outline, and the numbers of all pieces."""
    pieces = file.all_pieces()
    yarn = Yarn(file.colour if printing.colour else UNDYED, file.thick)
    yield cover_relief(pieces[main_place(file)], yarn)
    rows = []
    for each in files:
        n, times = piece_numbers(each.piece()), each.own.copies
        size = n.size.text(each.unit, give=f"(give or take {_length(each, n.give_um)})")
        begins = "begin with" if each.piece().begins else "cast on"
        rows.append((each.own.name or each.name, str(times), f"{begins} {n.cast_on.cast_on}", str(n.rows.total), size))
    yield Table(("Piece", "Make", "Stitches", "Rows", "Finished"), tuple(rows))


def cover_relief(piece: Piece, yarn: Yarn) -> Picture:
    """A strip of the main band's cloth over its whole width."""
    view = piece.main_view
    widths = [segment_um(s, view.outlook) / 1000.0 for s in view.segments]
    across, gauge = sum(widths), view.outlook.gauge
    high = min(COVER_MM, 0.4 * across, max(40.0, piece.height_mm))
    tall = round(high / gauge.stitch_mm * 10.0)
    strips = [
        Strip(relief_picture(s, "front", round(gauge.ratio, 4), tall=tall, yarn=yarn), mm / across)
        for s, mm in zip(view.segments, widths, strict=True)
        if mm
    ]
    return Picture(strips=tuple(reversed(strips)), caption="", tall=high / across)


def measures_blocks(file: ProjectFile, files: Sequence[ProjectFile], printing: Printing) -> Iterator[Block]:
    """Each piece in outline with its measures; what each comes to beside what was wanted."""
    joins = joins_of(file)
    for each in files:
        piece = each.piece()
        place = file.pieces.index(each.own)
        mine = tuple(join for join in joins if any(e.piece == place for e in join.edges))
        svg = draw_schematic(piece, file.unit, mine, place=place)
        wide, tall = map(float, re.findall(r'viewBox="0 0 ([\d.]+) ([\d.]+)"', svg)[0])
        strip = Strip(styled_schematic(svg, colour=printing.colour), 1.0)
        if len(files) > 1:
            yield Subheading(each.own.name)
        yield Picture(strips=(strip,), caption="", tall=tall / wide, across=SCHEMATIC, beside=True)
        rows = [
            (s.name, _length(each, s.at_mm * 1000.0), _length(each, s.wanted_mm * 1000.0),
             _length(each, s.expected_mm * 1000.0), str(s.count))
            for s in station_table(piece)
        ]  # fmt: skip
        yield Table(("Where", "At height", "Wanted", "Comes to", "Stitches"), tuple(dict.fromkeys(rows)))


def _length(file: ProjectFile, um: float) -> str:
    return length_text(um / 1000.0, file.unit)


def material_blocks(file: ProjectFile, files: Sequence[ProjectFile]) -> Iterator[Block]:
    """Yarn, needles with every label they have, and notions."""
    rows = [("Yarn", file.yarn or "the one you swatched with")]
    if file.fibre != "other":
        rows.append(("Fibre", file.fibre))
    needle = needle_text(file.needle) if file.needle else "those with which you get the gauge"
    cord = f", {cord_text(file.cord * 10.0, file.unit)} long"
    rows.append(("Needles", needle + (cord if file.cord else "")))
    rows.append(("Notions", "; ".join(_notions(file, files))))
    yield Table(("", ""), tuple(rows))


def _notions(file: ProjectFile, files: Sequence[ProjectFile]) -> Iterator[str]:
    pieces = [each.piece() for each in files]
    crossings = {op for piece in pieces for op in chart_ops(piece) if isinstance(op, Crossing)}
    needles = max((min(way.needles for way in ways_to_work(op)) for op in crossings), default=0)
    if needles:
        yield "a cable needle" if needles == 1 else f"{needles} cable needles"
    markers = max(len(view.segments) - 1 for piece in pieces for view in piece.band_views)
    if markers:
        yield f"{markers} stitch markers, if you put one between sections"
    if any(
        piece.ends.kind == "held" or any(b.shaping and b.shaping.put_aside for b in piece.bands) for piece in pieces
    ):
        yield "stitch holders, or lengths of smooth yarn"
    if any(join.how == "button and loop" for join in file.joins):
        yield "buttons"
    yield "a row counter"
    yield f"a blunt needle for the ends{' and the seams' if file.joins else ''}"


def gauge_blocks(file: ProjectFile, files: Sequence[ProjectFile]) -> Iterator[Block]:
    """Stitches of every pattern used over the unit's span, as the piece will have them, and rows."""
    span, said = GAUGE_SPAN[file.unit]
    found: dict[str, tuple[str, str, str]] = {}
    for each in files:
        for view in each.piece().band_views:
            for s in view.segments:
                um = segment_um(s, view.outlook)
                if um and s.name not in found:
                    wide = f"{s.stitches} stitches are {_length(file, um)}"
                    found[s.name] = (s.name, f"{s.stitches * span * 1000.0 / um:.3g} stitches", wide)
    g, per = file.gauge, file.piece().measure.gauge
    yield Paragraph(
        (
            f"Stockinette: {g.stitches:.3g} stitches and {g.rows:.3g} rows to {said}"
            f"{', from the label' if g.band else ''}, {file.finish}.",
        )
    )
    yield Table(("In the piece", f"to {said}", "In this layout"), tuple(found.values()))
    rows = [
        f"{each.own.name or each.name}: {span * 1000.0 / body_row_um(each.piece().main_view):.3g} "
        f"{each.piece().row_word}s to {said}"
        for each in files
    ]
    yield Paragraph((f"Over the cables, rows: {'; '.join(rows)}.",))
    if abs(per.stitches - g.stitches * 100.0 / span) > 0.05 * per.stitches:  # swatches have moved it
        yield Note(f"Your swatches make it {per.stitches * span / 100.0:.3g} stitches of stockinette.")


def key_blocks(files: Sequence[ProjectFile], words: Sequence[str], printing: Printing) -> Iterator[Block]:
    """The short words and the operations that are used here, and no others."""
    ops: dict[Op, None] = {}
    for each in files:
        ops.update(dict.fromkeys(chart_ops(each.piece())))
    text = "\n".join(words)
    used = [(short, long) for short, long in SHORT_WORDS if re.search(rf"\b{short.rstrip('*')}(?!\w*[A-Z])", text)]
    yield Table(("", ""), tuple(used))
    terms = []
    for entry in key_of(ops):
        name, other = entry.name, entry.other_name
        if printing.wording.hold and other:
            name, other = other, name
        how = " Or: ".join(way.text for way in entry.ways[:2])
        terms.append(
            KeyTerm(symbol=styled_symbol(entry.symbol, colour=printing.colour), name=name, other_name=other, text=how)
        )
    yield Key(tuple(terms))

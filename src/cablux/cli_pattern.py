"""Commands about knitting from a pattern: its booklet, and a lost place found again."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated, Literal

import typer

from .cli_io import AsJson, File, quiet, read_input, tell, write_output

app = typer.Typer()


@app.command()
def pattern(
    file: File,
    form: Annotated[
        Literal["pdf", "html", "md", "txt", "csv", "zip"],
        typer.Option("--as", help="what to write; zip: the charts as SVG"),
    ] = "pdf",
    to: Annotated[Path | None, typer.Option("--to", help="file to write; standard output without it")] = None,
    piece: Annotated[str, typer.Option(help="the piece of that name; all of them without it")] = "",
    size: Annotated[str, typer.Option(help="another size of its table, such as M; its own without it")] = "",
    paper: Annotated[Literal["a4", "letter"], typer.Option(help="the paper of a PDF")] = "a4",
    large: Annotated[bool, typer.Option("--large", help="large print")] = False,
    black: Annotated[bool, typer.Option("--black", help="for black ink alone")] = False,
    charts: Annotated[
        Literal["repeat", "whole", "none"], typer.Option(help="what repeats once, every row, or no charts")
    ] = "repeat",
    manner: Annotated[
        Literal["rows", "order", "every", "pattern"],
        typer.Option(help="alike rows together, each in its order, every row by itself, or shaped parts in pattern"),
    ] = "order",
    left_handed: Annotated[bool, typer.Option("--left-handed", help="rows from their other end")] = False,
    inside_out: Annotated[
        bool, typer.Option("--inside-out", help="what goes round with its wrong side facing")
    ] = False,
    british: Annotated[bool, typer.Option("--british", help="cast off, moss, tension")] = False,
    hold: Annotated[bool, typer.Option("--hold", help="names like C6F instead of 3/3 LC")] = False,
    markers: Annotated[bool, typer.Option("--markers", help="sm between the sections of a piece")] = False,
    sizes: Annotated[bool, typer.Option("--sizes", help="all sizes in one text as well")] = False,
) -> None:
    """Write a project's booklet, or its rows as CSV."""
    from .core.pattern.wording import Wording
    from .service.booklet import LEFT_OUT, Printing, booklet_file, file_in_size

    wording = Wording(hold=hold, markers=markers, british=british, left_handed=left_handed)
    left_out = LEFT_OUT - {"sizes"} if sizes else LEFT_OUT
    printing = Printing(
        paper=paper,
        colour=not black,
        large=large,
        charts=charts,
        manner=manner,
        wording=wording,
        inside_out=inside_out,
        leave_out=left_out,
        piece=piece,
    )
    with quiet():
        content = booklet_file(file_in_size(read_input(file), size), form, printing)
    write_output(content, to)


@app.command()
def row(
    file: File,
    number: Annotated[int, typer.Argument(help="the row, from the cast-on")],
    piece: Annotated[str, typer.Option(help="the piece of that name; the first without it")] = "",
    left_handed: Annotated[bool, typer.Option("--left-handed", help="rows from their other end")] = False,
    as_json: AsJson = False,
) -> None:
    """Tell one row as it is told at the chair: what to do first, its sections as they are worked, its counts."""
    from .service.chair import row_report, row_sentences

    with quiet():
        found = row_report(read_input(file), piece, number, left_handed=left_handed)
    tell(found, row_sentences, as_json=as_json)


@app.command()
def where(
    file: File,
    seen: Annotated[
        list[str] | None,
        typer.Option(help="PANEL:BARS:LEAN, bars above a panel’s last crossing; may be given several times"),
    ] = None,
    piece: Annotated[str, typer.Option(help="the piece of that name; the first without it")] = "",
    length: Annotated[float, typer.Option(min=0, help="how long it is from the cast-on, in the file’s unit")] = 0,
    ridges: Annotated[int | None, typer.Option(min=0, help="ridges at the edge, from the cast-on")] = None,
    stitches: Annotated[int | None, typer.Option(min=0, help="stitches on the needle")] = None,
    crossings: Annotated[
        int | None, typer.Option(min=0, help="crossings from the cast-on of the panel it counts (“crosser” in --json)")
    ] = None,
    facing: Annotated[
        Literal["RS", "WS"] | None, typer.Option(help="the side that faces you as the next row begins")
    ] = None,
    as_json: AsJson = False,
) -> None:
    """Find the rows of a piece that fit what its cables show."""
    from .core.notation import Side
    from .core.tracking import Question
    from .service.chair import place_report, place_sentences

    told: dict[Question, int | Side | None] = {
        "ridges": ridges,
        "stitches": stitches,
        "crossings": crossings,
        "facing": Side(facing) if facing else None,
    }
    found = place_report(read_input(file), piece, seen or [], length=length, told=told)
    tell(found, place_sentences, as_json=as_json)


@app.command()
def mend(
    file: File,
    row: Annotated[int, typer.Option(help="the row in which it was made")],
    what: Annotated[str, typer.Option(help="what happened, such as crossing-missed; see the formats")],
    segment: Annotated[int, typer.Option(min=1, help="its section, counted from the right")],
    seen_at: Annotated[int, typer.Option(help="the last row that was worked when it was seen; its own without it")] = 0,
    stitch: Annotated[int, typer.Option(min=0, help="the stitch of the section, counted from the right")] = 0,
    piece: Annotated[str, typer.Option(help="the piece of that name; the first without it")] = "",
    lifeline: Annotated[list[int] | None, typer.Option(help="a row through which a lifeline lies")] = None,
    as_json: AsJson = False,
) -> None:
    """Tell what can be done about a mistake, in loops and minutes."""
    from .core.mistakes import Mistake
    from .service import chair

    mistake = Mistake(
        kind=chair.checked_kind(what), row=row, segment=segment - 1, seen_at=seen_at or row, stitch=stitch
    )
    found = chair.mend_report(read_input(file), piece, mistake, lifelines=lifeline or [])
    tell(found, chair.mend_sentences, as_json=as_json)

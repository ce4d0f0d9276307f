"""Commands about projects of shapes: what can be made, a new one, its numbers, all sizes of it."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated, Literal

import typer

from .cli_io import AsJson, File, print_json, quiet, read_input, tell, write_output

app = typer.Typer()


@app.command()
def shapes(
    as_json: AsJson = False,
    unit: Annotated[Literal["cm", "in"], typer.Option(help="the unit of the defaults")] = "cm",
) -> None:
    """List the shapes that a project can be made as, and what each asks."""
    from .service.shapes import list_shapes

    found = list_shapes(unit)
    if as_json:
        print_json(found)
        return
    for shape in found:
        typer.echo(f"{shape.id}: {shape.name}. {shape.what}")
        for ask in shape.asks:
            choices = f" ({', '.join(ask.choices)})" if ask.choices else ""
            typer.echo(f"  {ask.name} = {ask.default}{ask.unit and ' ' + ask.unit}{choices}: {ask.source}")


@app.command()
def new(
    shape: Annotated[str, typer.Argument(help="a shape’s id; see shapes")],
    gauge: Annotated[str, typer.Option(help="stitches and rows of stockinette to 10 cm (or 4 in), such as 18x25")],
    to: Annotated[Path | None, typer.Option("--to", help="file to write; standard output without it")] = None,
    measures: Annotated[
        list[str] | None, typer.Option("--set", help="NAME=VALUE, a measure or a choice; may be given several times")
    ] = None,
    panels: Annotated[str, typer.Option(help="ids of panels, with commas between them")] = "",
    background: Annotated[str, typer.Option("--background", "--ground", help="id of the background")] = "",
    unit: Annotated[Literal["cm", "in"], typer.Option(help="the unit of the measures and of the project")] = "cm",
    name: Annotated[str, typer.Option(help="the project’s name; the shape’s without it")] = "",
) -> None:
    """Make a project of a shape, laid out and ready to knit."""
    from .service.shapes import new_project

    with quiet():
        made = new_project(
            shape, measures or [], gauge=gauge, panels=panels, background=background, unit=unit, name=name
        )
    write_output(made.text().encode(), to)


@app.command()
def size(file: File, as_json: AsJson = False) -> None:
    """Size a project: its cast-on, width and rows, and the good answers near it."""
    from .service import reports

    with quiet():
        report = reports.size_report(read_input(file))
    tell(report, reports.size_sentences, as_json=as_json)


@app.command()
def pieces(file: File, as_json: AsJson = False) -> None:
    """Tell the pieces of a project: their counts and sizes, how each begins and ends, how they are joined."""
    from .service.exchange import read_project
    from .service.pieces import pieces_answer, pieces_sentences

    with quiet():
        found = pieces_answer(read_project(read_input(file)))
    tell(found, pieces_sentences, as_json=as_json)


@app.command()
def gauge(
    file: File,
    piece: Annotated[str, typer.Option(help="the piece of that name; the first without it")] = "",
    as_json: AsJson = False,
) -> None:
    """Tell how wide a piece will be, how sure that is, and which swatch would tell more."""
    from .service.exchange import read_at_piece
    from .service.gauge import gauge_answer, gauge_sentences

    with quiet():
        found = gauge_answer(read_at_piece(read_input(file), piece))
    tell(found, gauge_sentences, as_json=as_json)


@app.command()
def bench(
    file: File,
    piece: Annotated[str, typer.Option(help="the piece of that name; the first without it")] = "",
    band: Annotated[int, typer.Option(help="which body band, from the bottom")] = 1,
    as_json: AsJson = False,
) -> None:
    """Tell what lies on the bench: a band of a piece segment by segment, how it is shaped, what to check."""
    from .service.bench import bench_report, bench_sentences

    with quiet():
        found = bench_report(read_input(file), piece, band)
    tell(found, bench_sentences, as_json=as_json)


@app.command(name="cast-on")
def cast_on(
    file: File,
    piece: Annotated[str, typer.Option(help="the piece of that name; the first without it")] = "",
    as_json: AsJson = False,
) -> None:
    """Tell how a piece begins and ends: both edges, the rows that change the count, the widths it follows from."""
    from .service.caston import cast_on_answer, cast_on_sentences
    from .service.exchange import read_at_piece

    with quiet():
        found = cast_on_answer(read_at_piece(read_input(file), piece))
    tell(found, cast_on_sentences, as_json=as_json)


@app.command()
def grade(
    file: File,
    sizes: Annotated[
        str, typer.Option(help="sizes with commas between them, such as S,M,L; all that there are without it")
    ] = "",
    as_json: AsJson = False,
    words: Annotated[bool, typer.Option("--words", help="one text for all sizes, in place of the numbers")] = False,
) -> None:
    """Make a project in several sizes: its numbers in each, or why it cannot be had in one."""
    from .service import sizes as graded

    with quiet():
        found = graded.grade_project(read_input(file), [each.strip() for each in sizes.split(",") if each.strip()])
    if as_json:
        print_json(graded.graded_report(found))
        return
    for line in graded.graded_words(found) if words else graded.graded_lines(found):
        typer.echo(line)


@app.command()
def change(
    file: File,
    do: Annotated[list[str], typer.Option("--do", help="a command as JSON, see commands; may be given several times")],
    piece: Annotated[str, typer.Option(help="the piece of that name; the first without it")] = "",
    to: Annotated[Path | None, typer.Option("--to", help="file to write; standard output without it")] = None,
) -> None:
    """Carry commands out on a project file, one after the other: all of them, or none where one is refused."""
    from .service.commands import changed_project

    with quiet():
        changed = changed_project(read_input(file), do, piece)
    write_output(changed.encode(), to)


@app.command()
def commands(as_json: AsJson = False) -> None:
    """List the commands that change a project; as JSON their schema."""
    from .service.commands import REGISTRY, commands_schema

    if as_json:
        print_json(commands_schema())
        return
    for name, command in sorted(REGISTRY.items()):
        typer.echo(f"{name}: {(command.__doc__ or '').strip().splitlines()[0]}")

"""The command line: demo, serve, check, draw-in, words, chart, shapes, new, size, gauge, pattern, where, spread …

Each command imports what it needs, so that none waits for another's solvers.
"""

from __future__ import annotations

import os
import sys
from pathlib import Path
from typing import Annotated, Literal

import typer

from . import __version__
from .cli_io import AsJson, File, Size, choose_passphrase, print_json, read_input, write_output
from .cli_pattern import app as pattern_commands
from .cli_projects import app as project_commands
from .core.errors import CabluxError
from .settings import Settings

Lan = Annotated[bool, typer.Option("--lan", help="let phones in the same network in, by a passphrase")]

app = typer.Typer(no_args_is_help=True, add_completion=False, help="Cablux lays out and sizes cabled knitting.")

app.add_typer(project_commands)
app.add_typer(pattern_commands)


def main() -> None:
    """The entry point: a person's mistake ends in a sentence and status 1, never in a traceback."""
    try:
        app()
    except CabluxError as error:
        typer.echo(str(error), err=True)
        sys.exit(1)


@app.command()
def version() -> None:
    """Say the version."""
    typer.echo(__version__)


@app.command()
def demo(
    port: Annotated[int | None, typer.Option(help="port to listen on; 0 picks a free one")] = None,
    fresh: Annotated[bool, typer.Option("--fresh", help="put the old data aside and start anew")] = False,
    lan: Lan = False,
) -> None:
    """Start with demo data; what you changed the last time is kept."""
    from .demo.loader import prepare_demo
    from .web.server import serve as run

    settings = Settings() if "CABLUX_DATA" in _environment() else Settings(data=Settings().data / "demo")
    aside = prepare_demo(settings, fresh=fresh)
    if aside:
        typer.echo(f"The old data lies in {aside}")
    run(_opened(settings, port, lan=lan))


@app.command()
def serve(
    port: Annotated[int | None, typer.Option(help="port to listen on; 0 picks a free one")] = None,
    lan: Lan = False,
    passphrase: Annotated[
        bool, typer.Option("--new-passphrase", help="choose another one; every device is asked for it again")
    ] = False,
) -> None:
    """Start with your own data."""
    from .web.server import serve as run

    run(_opened(Settings(), port, lan=lan, anew=passphrase))


def _opened(settings: Settings, port: int | None, *, lan: bool, anew: bool = False) -> Settings:
    """The settings with the port and the openness that were asked for; beyond this machine a passphrase is chosen."""
    if lan and not settings.reaches_out:
        settings = settings.model_copy(update={"host": "0.0.0.0"})
    if anew or lan:
        choose_passphrase(settings.data, anew=anew)
    return settings if port is None else settings.model_copy(update={"port": port})


def _environment() -> set[str]:
    return {name.upper() for name in os.environ}


@app.command()
def check(
    file: File,
    as_json: AsJson = False,
    in_the_round: Annotated[bool, typer.Option("--round", help="worked in the round: no wrong side, no edges")] = False,
    size: Size = 0,
) -> None:
    """Check a chart: every problem with its line, column, row and stitch."""
    from .service import exchange

    report = exchange.check_chart(read_input(file), flat=not in_the_round, size=size)
    if as_json:
        print_json(report.answer)
    else:
        for problem in report.problems:
            typer.echo(f"{file}: {problem}", err=True)
        if report.ok:
            typer.echo(report.sentence)
        for note in report.notes:
            typer.echo(note)
        for warning in report.warnings:
            typer.echo(f"Check ({warning.name}): {warning.message} {warning.mend}")
    if not report.ok:
        raise typer.Exit(1)


@app.command("draw-in")
def draw_in(
    file: File,
    stitches: Annotated[float, typer.Option(help="stockinette stitches to 10 cm")],
    rows: Annotated[float, typer.Option(help="stockinette rows to 10 cm")],
    as_json: AsJson = False,
) -> None:
    """Compute how far a chart draws in and up."""
    from .service import reports

    result = reports.draw_in_report(read_input(file), stitches, rows)
    if as_json:
        print_json(result)
        return
    typer.echo(
        f"{result.name}: {result.stitches} stitches come to {result.width_mm / 10:.1f} cm "
        f"(draw-in {result.draw_in:.2f}), {result.rows} rows to {result.height_mm / 10:.1f} cm "
        f"(draw-up {result.draw_up:.2f})."
    )
    if not result.converged:
        typer.echo(f"The computation did not settle after {result.iterations} steps; do not rely on it.", err=True)


@app.command()
def words(
    file: File,
    hold: Annotated[bool, typer.Option("--hold", help="names like C6F instead of 3/3 LC")] = False,
    until: Annotated[bool, typer.Option("--until", help="repeats counted down to what remains")] = False,
    markers: Annotated[bool, typer.Option("--markers", help="sm between the sections of a piece")] = False,
    british: Annotated[bool, typer.Option("--british", help="cast off, moss, tension")] = False,
    left_handed: Annotated[bool, typer.Option("--left-handed", help="rows from their other end")] = False,
    counts: Annotated[bool, typer.Option(help="stitch counts after the rows")] = True,
    work: Annotated[Literal["flat", "round", "inside out"], typer.Option(help="how a chart is worked")] = "flat",
    piece: Annotated[str, typer.Option(help="of a project the piece of that name; all of them without it")] = "",
    manner: Annotated[
        Literal["rows", "pattern"], typer.Option(help="shaped rows one by one, or in pattern with a calendar")
    ] = "rows",
    size: Size = 0,
    as_json: AsJson = False,
) -> None:
    """Write a chart, or a project's whole pattern, in words; as JSON a project's alone."""
    from .core.pattern.wording import Wording
    from .service import reports

    wording = Wording(hold=hold, until=until, counts=counts, markers=markers, british=british, left_handed=left_handed)
    if as_json:
        if manner == "pattern":
            raise CabluxError("As JSON every row is told by itself: use --manner rows, or no --json.")
        print_json(reports.words_in_answers(read_input(file), wording, piece))
        return
    typer.echo(reports.words_of_text(read_input(file), wording, work, size=size, piece=piece, manner=manner), nl=False)


@app.command()
def chart(
    file: File,
    form: Annotated[Literal["text", "csv", "svg", "png"], typer.Option("--as", help="what to write")] = "text",
    hold: Annotated[bool, typer.Option("--hold", help="names like C6F in the text")] = False,
    to: Annotated[Path | None, typer.Option("--to", help="file to write; standard output without it")] = None,
    size: Size = 0,
) -> None:
    """Write a chart, read from text, prose or a grid, as chart text, CSV grid, SVG or PNG."""
    from .service import exchange

    content = exchange.convert_chart(read_input(file), form, hold=hold, size=size)
    write_output(content, to)


@app.command()
def spread(
    start: Annotated[int, typer.Argument(help="stitches on the needle now")],
    goal: Annotated[int, typer.Argument(help="stitches wanted")],
    edge: Annotated[int, typer.Option(help="edge stitches on each side that are left alone")] = 0,
    in_the_round: Annotated[bool, typer.Option("--round", help="in the round")] = False,
    rows: Annotated[int, typer.Option(help="rows at the most, a stitch made in every gap if need be")] = 0,
    as_json: AsJson = False,
) -> None:
    """Spread increases or decreases evenly between two counts."""
    from .service.small_tools import spread_evenly as spread_out

    found = spread_out(start, goal, edge=edge, in_the_round=in_the_round, rows=rows)
    if as_json:
        print_json(found)
        return
    typer.echo(found.sentence)
    for number, row in enumerate(found.rows, start=1):
        typer.echo(f"{'Round' if found.round else 'Row'} {number}: {row.text}. ({row.after} stitches)")


@app.command()
def export(
    project: Annotated[str, typer.Argument(help="a project's number or name; without one, all are listed")] = "",
    to: Annotated[Path | None, typer.Option("--to", help="file to write; standard output without it")] = None,
    text: Annotated[bool, typer.Option("--text", help="the pattern in words instead of the project file")] = False,
) -> None:
    """Write a stored project as a file."""
    from .service import reports

    found = reports.export_project(Settings().database, project, text=text)
    write_output(found.encode(), to)

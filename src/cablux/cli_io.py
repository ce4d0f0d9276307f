"""What commands read and write: files, standard input, JSON; and the arguments that several of them take."""

from __future__ import annotations

import json
import os
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Annotated

import typer

from .core.errors import CabluxError

File = Annotated[Path, typer.Argument(help="a file; - reads standard input")]
Size = Annotated[int, typer.Option(help="of a text in several sizes the one to read, from 1")]
AsJson = Annotated[bool, typer.Option("--json", help="print JSON instead of sentences")]


def read_input(file: Path) -> str:
    """The text of a file, or of the chart that a picture of ours carries."""
    from .service.exchange import chart_source

    try:
        content = sys.stdin.buffer.read() if str(file) == "-" else file.read_bytes()
    except OSError as error:
        raise CabluxError(f"{file} cannot be read: {error.strerror}.") from None
    return chart_source(content)


@contextmanager
def quiet() -> Iterator[None]:
    """Lets what the solver's own library prints go to the error output: ours is read by programs."""
    sys.stdout.flush()
    ours = os.dup(1)
    os.dup2(2, 1)
    try:
        yield
    finally:
        os.dup2(ours, 1)
        os.close(ours)


def print_json(value: object) -> None:
    """Prints a value as JSON."""
    typer.echo(json.dumps(value, ensure_ascii=False, indent=2))

"""What commands read and write: files, standard input, JSON; and the arguments that several of them take."""

from __future__ import annotations

import json
import os
import sys
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Annotated, Any, TypeVar

import typer

from .core.errors import CabluxError

Told = TypeVar("Told")
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


def write_output(content: bytes, to: Path | None) -> None:
    """Writes a file's content, to standard output where no file is named."""
    if to is None:
        sys.stdout.flush()
        sys.stdout.buffer.write(content)
        sys.stdout.buffer.flush()
        return
    try:
        to.write_bytes(content)
    except OSError as error:
        raise CabluxError(f"{to} cannot be written: {error.strerror}.") from None
    typer.echo(f"Written to {to}")


def choose_passphrase(data: Path, *, anew: bool) -> None:
    """Asks for a passphrase where none is kept, or another is wanted; an empty answer, or nobody to ask, makes one."""
    from .service.door import Door, made_passphrase

    door = Door(data)
    if door.has_passphrase and not anew:
        return
    asked = "A passphrase for your phone (Enter makes one)"
    typed = typer.prompt(asked, default="", hide_input=True, show_default=False) if sys.stdin.isatty() else ""
    chosen = typed.strip() or made_passphrase()
    door.set_passphrase(chosen)
    if not typed.strip():
        typer.echo(f"The passphrase: {chosen}\nIt is not shown again; --new-passphrase makes another one.")


def print_json(value: object) -> None:
    """Prints an answer, or several, as JSON; what does not apply to it is left out."""
    typer.echo(json.dumps(value, ensure_ascii=False, indent=2, default=_plain))


def tell(answer: Told, words: Callable[[Told], Iterable[str]], *, as_json: bool) -> None:
    """Prints an answer as JSON, or in words, a line each."""
    if as_json:
        print_json(answer)
        return
    for line in words(answer):
        typer.echo(line)


def _plain(answer: Any) -> object:
    return answer.model_dump(mode="json", exclude_unset=True)

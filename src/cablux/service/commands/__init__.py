"""Every edit of a project as a command: pages, the command line and scripts carry out the same ones."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from typing import Annotated, Any, Union

from pydantic import Field, TypeAdapter, ValidationError

from ..errors import BadFile
from ..exchange import read_at_piece
from ..forms import field_faults
from . import bands, ends, measured, pieces, segments
from .bands import (
    AddBand,
    BeginShaping,
    EndShaping,
    MendEdges,
    RemoveBand,
    SetBandRows,
    SetRules,
    SetSides,
    SetTarget,
    TakeAnswer,
    TakeArrangement,
    TakeCure,
    TieHalves,
    TypeShaping,
)
from .command import Command, Here, carry_out
from .ends import SetBodyRows, SetBorder, SetDense, TakeRows
from .measured import (
    AddMeasurement,
    ChooseMethod,
    LeaveSwatch,
    RemoveMeasurement,
    RenewSwatch,
    ToggleYarn,
    UseSwatch,
)
from .pieces import (
    AddSquare,
    CopyPiece,
    MatchSquares,
    NamePiece,
    RemovePiece,
    SetMeasures,
    SetSizeAndYarn,
    ShareLayout,
    TakeSize,
)
from .segments import (
    AddPattern,
    MoveSegment,
    PlacePanel,
    RemoveSegments,
    SetBounds,
    SetPattern,
    SetRepeats,
    SetStitches,
    SetWidth,
    StepRepeats,
    ToggleFlag,
    WanderPanel,
)

REGISTRY: dict[str, type[Command]] = {
    command.model_fields["do"].default: command
    for room in (segments, bands, ends, measured, pieces)
    for command in room.COMMANDS
}
"""Every command by what it is called."""


@cache
def _adapter() -> TypeAdapter[Command]:
    kinds: Any = Union[tuple(REGISTRY.values())]  # noqa: UP007
    return TypeAdapter(Annotated[kinds, Field(discriminator="do")])


def parse_command(text: str | bytes) -> Command:
    """A command from JSON such as `{"do": "set repeats", "at": [3], "repeats": 2}`. Raises BadFile."""
    try:
        return _adapter().validate_json(text)
    except ValidationError as error:
        if error.errors()[0]["type"].startswith("union_tag"):  # its `do` is missing, or none of ours
            known = ", ".join(sorted(REGISTRY))
            raise BadFile(f"This is no command: its “do” names none. These are known: {known}.") from None
        raise BadFile("This is no command: " + " ".join(field_faults(error, "the command"))) from None


def changed_project(text: str, commands: Sequence[str], piece: str = "") -> str:
    """A project file after commands, each given as JSON. Raises what the first of them raises that cannot be done."""
    file = read_at_piece(text, piece)
    for command in map(parse_command, commands):
        file = command.apply(Here(file=file))
        file.all_pieces()
    return file.text()


def commands_schema() -> dict[str, Any]:
    """The JSON Schema of all commands."""
    return _adapter().json_schema()


__all__ = [
    "REGISTRY",
    "AddBand",
    "AddMeasurement",
    "AddPattern",
    "AddSquare",
    "BeginShaping",
    "ChooseMethod",
    "Command",
    "CopyPiece",
    "EndShaping",
    "Here",
    "LeaveSwatch",
    "MatchSquares",
    "MendEdges",
    "MoveSegment",
    "NamePiece",
    "PlacePanel",
    "RemoveBand",
    "RemoveMeasurement",
    "RemovePiece",
    "RemoveSegments",
    "RenewSwatch",
    "SetBandRows",
    "SetBodyRows",
    "SetBorder",
    "SetBounds",
    "SetDense",
    "SetMeasures",
    "SetPattern",
    "SetRepeats",
    "SetRules",
    "SetSides",
    "SetSizeAndYarn",
    "SetStitches",
    "SetTarget",
    "SetWidth",
    "ShareLayout",
    "StepRepeats",
    "TakeAnswer",
    "TakeArrangement",
    "TakeCure",
    "TakeRows",
    "TakeSize",
    "TieHalves",
    "ToggleFlag",
    "ToggleYarn",
    "TypeShaping",
    "UseSwatch",
    "WanderPanel",
    "carry_out",
    "changed_project",
    "commands_schema",
    "parse_command",
]

"""What every answer is: a record of plain values, of which pages, the command line and its JSON tell alike."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, ConfigDict
from pydantic.json_schema import models_json_schema


class Answer(BaseModel):
    """Plain values under fixed names; lengths are in millimetres (`_mm`), chances are parts of one.

    What does not apply to what was asked about is left out of its JSON, or is null.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")


def answers_schema() -> dict[str, Any]:
    """The JSON schema of every answer, by its name among the definitions (docs/answers.schema.json)."""
    every = sorted(Answer.__subclasses__(), key=lambda answer: answer.__name__)
    return models_json_schema([(answer, "serialization") for answer in every])[1]

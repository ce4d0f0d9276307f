"""Reads what a person types into a form: numbers, words and choices, with a sentence for every mistake."""

from __future__ import annotations

import math
import re
from collections.abc import Sequence

from pydantic import ValidationError

from ..core.errors import InvalidText
from ..core.making import needle_mm
from .errors import InvalidForm

PLAIN = r"^[^<>\x00-\x1f]*$"  # plain words: no markup, no control characters
PLAIN_LINES = r"^[^<>\x00-\x08\x0b-\x1f]*$"  # the same, over several lines
MOST_PLACES = 12  # our choice: nobody reads a swatch in more places


class FormReader:
    """Reads fields one by one and gathers what is wrong with each, so that all of it can be said at once.

    `what` is a field's label, as it begins a sentence; `field` its name in the form.
    """

    def __init__(self) -> None:
        self.problems: dict[str, str] = {}

    def refuse(self, field: str, sentence: str) -> None:
        """Says what is wrong with a field."""
        self.problems[field] = f"{self.problems[field]} {sentence}" if field in self.problems else sentence

    def number(self, text: str, what: str, field: str, *, least: float = 0.0, most: float = math.inf) -> float:
        """A number above zero, with a point or a comma; NaN where it is none."""
        text = text.strip()
        try:
            value = float(text.replace(",", "."))
        except ValueError:
            value = math.nan
        if not math.isfinite(value):
            self.refuse(field, f"{what} must be a number, such as 110 or 12.5.")
        elif least and math.isfinite(most) and not least <= value <= most:
            self.refuse(field, f"{what} must be {least:g} to {most:g}.")
        elif value <= 0:
            self.refuse(field, f"{what} must be more than 0.")
        elif value > most:
            self.refuse(field, f"{what} must be {most:g} at most.")
        return value

    def needle(self, text: str, field: str) -> float:
        """A needle's size in millimetres, typed so or by its American or old British number."""
        try:
            return needle_mm(text)
        except InvalidText as error:
            self.refuse(field, str(error))
            return math.nan

    def count(self, text: str, what: str, field: str, *, most: int) -> int:
        """A whole number from 1 to `most`; 1 where it is none."""
        text = text.strip()
        if not re.fullmatch(r"\d{1,9}", text) or not 1 <= int(text) <= most:
            self.refuse(field, f"{what} must be a whole number from 1 to {most}.")
            return 1
        return int(text)

    def places(self, text: str, what: str, field: str, *, example: str) -> tuple[float, ...]:
        """Numbers read in one place or several, with spaces or commas between them."""
        texts = [t for t in re.split(r"[;\s]+|,\s+", text.strip()) if t]
        if not texts:
            self.refuse(field, f"{what}: type one number or several, such as {example}.")
        if len(texts) > MOST_PLACES:
            self.refuse(field, f"{what}: no more than {MOST_PLACES} numbers.")
        return tuple(self.number(t, f"{what}: each", field, most=5_000) for t in texts[:MOST_PLACES])

    def words(self, text: str, what: str, field: str, *, most: int, lines: bool = False) -> str:
        """Plain words, on one line or several."""
        clean = text.strip() if lines else " ".join(text.split())
        if len(clean) > most:
            self.refuse(field, f"{what} must be {most} letters at most.")
        if not re.fullmatch(PLAIN_LINES if lines else PLAIN, clean):
            self.refuse(field, f"{what} must be plain words, without < and >.")
        return clean

    def choice(self, text: str, what: str, field: str, *, choices: Sequence[str]) -> str:
        """One of the choices; the first where it is none of them."""
        if text in choices:
            return text
        self.refuse(field, f"{what} must be one of: {', '.join(sorted(choices))}.")
        return choices[0]

    def done(self) -> None:
        """Raises InvalidForm with everything that is wrong."""
        if self.problems:
            raise InvalidForm(self.problems)


def field_faults(error: ValidationError, whole: str) -> list[str]:
    """What a model refused, a sentence each with its place; `whole` is the name of what has no place of its own."""
    out = []
    for fault in error.errors(include_url=False)[:12]:
        place = ".".join(str(part + 1) if isinstance(part, int) else part for part in fault["loc"])
        where = f"“{place}”" if place else whole
        if fault["type"] == "extra_forbidden":
            out.append(f"{where} is an unknown field; remove it.")
        elif fault["type"] == "missing":
            out.append(f"{where} is missing.")
        elif fault["type"] == "string_pattern_mismatch" and fault["ctx"]["pattern"] in (PLAIN, PLAIN_LINES):
            out.append(f"{where} must be plain words, without < and >.")
        elif fault["type"] == "json_invalid":
            out.append(f"it is not JSON ({fault['ctx']['error'] if 'ctx' in fault else 'unreadable'}).")
        else:
            text = fault["msg"].removeprefix("Value error, ")
            out.append(f"{where}: {text[:1].lower()}{text[1:]}.")
    return out

"""What a shape asks: measures and choices by plain names, with their defaults, limits and where those come from."""

from __future__ import annotations

import math
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from keyword import iskeyword
from typing import Literal, Self

from ..declared import Choosing
from ..errors import IllegalPiece
from ..units import MM_PER, Unit, from_mm, length_text

AskKind = Literal["length", "percent", "choice", "number"]
Answer = float | str
Answers = Mapping[str, Answer]
"""By the name of what was asked: lengths in millimetres, percentages as numbers, choices as words."""


@dataclass(frozen=True, kw_only=True)
class Ask(Choosing):
    """One thing asked. `default` holds where nothing is said; `by` has others, by the choice made in the first ask.

    Lengths are millimetres between `least` and `most`, numbers as they are; `hint` is a sentence beside the field;
    `source` says where the default comes from. `names_it`: its choices are names of the thing. `group`: the heading
    under which it is asked.
    """

    name: str
    label: str
    default: Answer
    source: str
    kind: AskKind = "length"
    choices: tuple[str, ...] = ()
    least: float = 10.0
    most: float = 4000.0
    hint: str = ""
    by: Mapping[str, Answer] = field(default_factory=dict)
    names_it: bool = False
    group: str = ""

    def default_for(self, choice: str) -> Answer:
        """The default where the shape's first ask was answered so."""
        return self.by.get(choice, self.default)


@dataclass(frozen=True, kw_only=True)
class StandardSize:
    """A size to pick: its name, the answers it gives, and their source; `choice` is the first ask's that it is for."""

    name: str
    answers: Answers
    source: str
    choice: str = ""


_TYPED = re.compile(r"([+-]?\d+(?:[.,]\d+)?)\s*(mm|cm|in|%)?")


def read_answers(asks: Iterable[Ask], given: Mapping[str, Answer], unit: Unit) -> dict[str, Answer]:
    """Every answer, those that were not given by their defaults. Raises IllegalPiece with every mistake.

    A length is a number in `unit`, or a text with its own unit behind it, such as 22in.
    """
    listed = tuple(asks)
    names = [ask.name for ask in listed]
    problems = [
        f"There is no “{name}” here; these are asked: {', '.join(names)}." for name in given if name not in names
    ]
    out: dict[str, Answer] = {}
    choice = ""
    for at, ask in enumerate(listed):
        try:
            value = _read(ask, given[ask.name], unit) if ask.name in given else ask.default_for(choice)
        except IllegalPiece as error:
            problems.append(str(error))
            value = ask.default_for(choice)
        out[ask.name] = value
        if at == 0 and isinstance(value, str):
            choice = value
    if problems:
        raise IllegalPiece(" ".join(problems))
    return out


def _read(ask: Ask, value: Answer, unit: Unit) -> Answer:
    if ask.kind == "choice":
        text = str(value).strip()
        found = next((c for c in ask.choices if c.casefold() == text.casefold()), None)
        if found is None:
            raise IllegalPiece(f"{ask.label} must be one of: {', '.join(ask.choices)}; not “{text}”.")
        return found
    number, its_unit = _number(ask, value)
    if ask.kind == "percent":
        if not ask.least <= number <= ask.most:
            raise IllegalPiece(f"{ask.label} must be {ask.least:g} to {ask.most:g} per cent, not {number:g}.")
        return number
    if ask.kind == "number":
        if not ask.least <= number <= ask.most:
            raise IllegalPiece(f"{ask.label}: type {ask.least:g} to {ask.most:g}, not {number:g}.")
        return number
    mm = number * ({"mm": 1.0} | MM_PER)[its_unit or unit]
    if not (mm == 0.0 and ask.least == 0.0) and not ask.least <= mm <= ask.most:
        low, high, own = (length_text(v, unit) for v in (ask.least, ask.most, mm))
        raise IllegalPiece(f"{ask.label} must be {low} to {high}, not {own}.")
    return mm


def _number(ask: Ask, value: Answer) -> tuple[float, str]:
    if isinstance(value, str):
        found = _TYPED.fullmatch(value.strip())
        if not found:
            raise IllegalPiece(f"{ask.label}: type a number, such as {_example(ask)}, not “{value.strip()}”.")
        return float(found[1].replace(",", ".")), found[2] or ""
    if not math.isfinite(value):
        raise IllegalPiece(f"{ask.label}: type a number, such as {_example(ask)}.")
    return float(value), ""


def _example(ask: Ask) -> str:
    return f"{ask.default:g}" if ask.kind != "length" else f"{float(ask.default) / 10.0:g} cm"


def in_unit(ask: Ask, value: Answer, unit: Unit) -> Answer:
    """An answer as a person types it: lengths in the unit, to a hundredth."""
    return round(from_mm(float(value), unit), 2) if ask.kind == "length" else value


_BEHIND = {"length": "_mm", "percent": "_percent"}


@dataclass(frozen=True, kw_only=True)
class ShapeAnswers:
    """What a person answered to one shape: a field for each ask, named as `field_of` says.

    Lengths are millimetres, percentages numbers such as −10.0, choices words of the ask's own.
    """

    @classmethod
    def of(cls, asks: Iterable[Ask], answers: Answers) -> Self:
        """From what `read_answers` read of these asks. Raises TypeError where asks and fields are not the same."""
        return cls(**{field_of(ask): answers[ask.name] for ask in asks})

    def answer(self, ask: Ask) -> Answer:
        """What was answered to that ask. Raises AttributeError where this shape does not ask it."""
        return getattr(self, field_of(ask))  # type: ignore[no-any-return]

    def has(self, ask: Ask) -> bool:
        """Whether this shape asks it."""
        return hasattr(self, field_of(ask))


def field_of(ask: Ask) -> str:
    """The field that holds an ask's answer: its name, with the unit behind it, or _ where it is a word of Python's."""
    name = ask.name + _BEHIND.get(ask.kind, "")
    return f"{name}_" if iskeyword(name) else name

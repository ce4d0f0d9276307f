"""What shapes ask, and the typed record of what each was answered."""

from __future__ import annotations

import re
from dataclasses import dataclass, fields
from pathlib import Path
from typing import get_type_hints

import pytest

from cablux.core.shapes import SHAPES, Ask, read_answers
from cablux.core.shapes.asks import ShapeAnswers, field_of


@pytest.mark.parametrize("name", sorted(SHAPES))
def test_every_answer_has_a_field_of_its_kind_with_its_unit_and_no_field_is_left_over(name: str) -> None:
    shape = SHAPES[name]
    asked = {field_of(ask): ask for ask in shape.asks}
    assert {field.name for field in fields(shape.record)} == set(asked)
    kinds = get_type_hints(shape.record)
    assert all(kinds[field] is (str if ask.kind == "choice" else float) for field, ask in asked.items())
    assert all(field.endswith("_mm") == (ask.kind == "length") for field, ask in asked.items())
    read = read_answers(shape.asks, {}, "cm")
    answers = shape.answered(read)
    assert {ask.name: answers.answer(ask) for ask in shape.asks} == read
    assert all(type(answers.answer(ask)) is kinds[field] for field, ask in asked.items())


def test_an_ask_without_a_field_and_a_field_without_an_ask_are_refused() -> None:
    @dataclass(frozen=True, kw_only=True)
    class Sashed(ShapeAnswers):
        width_mm: float

    width = Ask(name="width", label="Width", default=100.0, source="invented")
    ends = Ask(name="from", label="From", default="top", source="invented", kind="choice", choices=("top",))
    assert Sashed.of([width], {"width": 120.0}).width_mm == 120.0
    assert (field_of(ends), Sashed.of([width], {"width": 1.0}).has(ends)) == ("from_", False)
    for asks in ([width, ends], []):
        with pytest.raises(TypeError):
            Sashed.of(asks, {"width": 120.0, "from": "top"})


def test_no_shape_looks_an_answer_up_by_a_literal() -> None:
    shapes = Path(__file__).parents[3] / "src" / "cablux" / "core" / "shapes"
    for file in shapes.rglob("*.py"):
        assert not re.search(r'answers(\[|\.get\()["\']', file.read_text("utf-8")), file

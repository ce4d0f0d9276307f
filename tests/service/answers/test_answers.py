"""Answers: what the command line prints as JSON is what they declare, and nothing of the core is left in them."""

from __future__ import annotations

import json
from pathlib import Path
from types import NoneType, UnionType
from typing import Literal, Union, get_args, get_origin

import jsonschema
import pytest

from cablux.service.answers import Answer, answers_schema
from tests.test_cli import ROPE, run

ROOT = Path(__file__).parents[3]
DEMO = ROOT / "src" / "cablux" / "demo"
SCHEMA = json.loads((ROOT / "docs" / "answers.schema.json").read_text("utf-8"))


def test_the_published_schema_is_that_of_the_answers():
    assert answers_schema() == SCHEMA


def plain(hint: object) -> bool:
    """Whether a value of this type is a plain value, or made of such."""
    if get_origin(hint) in (tuple, dict, Union, UnionType):
        return all(plain(each) for each in get_args(hint) if each is not Ellipsis)
    if get_origin(hint) is Literal:
        return all(isinstance(each, str) for each in get_args(hint))
    return hint in (int, float, str, bool, NoneType) or (isinstance(hint, type) and issubclass(hint, Answer))


def test_an_answer_is_made_of_plain_values_and_other_answers():
    answers = Answer.__subclasses__()
    assert len(answers) > 20
    for answer in answers:
        odd = {name: field.annotation for name, field in answer.model_fields.items() if not plain(field.annotation)}
        assert not odd, answer


SHAWL, THROW, PULLOVER = (str(DEMO / f"{n}.json") for n in ("kittiwake-shawl", "skerry-throw", "puffin-pullover"))


@pytest.mark.parametrize(
    ("name", "args"),
    [
        ("ChartCheck", ["check", "-"]),
        ("ChartDrawIn", ["draw-in", "-", "--stitches", "18", "--rows", "25"]),
        ("ProjectSize", ["size", SHAWL]),
        ("ProjectSize", ["size", PULLOVER]),
        ("ProjectSize", ["size", THROW]),
        ("ProjectGauge", ["gauge", THROW]),
        ("ProjectGauge", ["gauge", PULLOVER, "--piece", "Sleeve"]),
        ("PieceCastOn", ["cast-on", THROW]),
        ("PieceCastOn", ["cast-on", PULLOVER, "--piece", "Sleeve"]),
        ("ShapeAsked", ["shapes", "--unit", "in"]),
        ("SizeNumbers", ["grade", PULLOVER, "--sizes", "S,M"]),
        ("RowsFound", ["where", THROW, "--ridges", "4"]),
        ("MendingWays", ["mend", THROW, "--row", "40", "--what", "dropped", "--segment", "2", "--stitch", "2"]),
        ("EvenSpread", ["spread", "80", "91"]),
    ],
)
def test_what_the_command_line_prints_keeps_to_the_schema(name, args):
    """Against JSON Schema 2020-12, by a general-purpose validator."""
    done = run(*args, "--json", text=ROPE)
    assert not done.stderr
    found = json.loads(done.stdout)
    schema = {"$ref": f"#/$defs/{name}", "$defs": SCHEMA["$defs"]}
    for each in found if isinstance(found, list) else [found]:
        jsonschema.Draft202012Validator(schema).validate(each)
        with pytest.raises(jsonschema.ValidationError):
            jsonschema.Draft202012Validator(schema).validate(each | {"another": 1})

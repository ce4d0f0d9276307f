"""Answers: what the command line prints as JSON is what they declare, and nothing of the core is left in them."""

from __future__ import annotations

import json
from itertools import pairwise
from pathlib import Path
from types import NoneType, UnionType
from typing import Literal, Union, get_args, get_origin

import jsonschema
import pytest

from cablux.demo.loader import DEMO
from cablux.service.answers import Answer, answers_schema
from cablux.service.bench import bench_report
from cablux.service.caston import cast_on_answer
from cablux.service.chair import row_report
from cablux.service.exchange import read_project
from cablux.service.gauge import gauge_answer
from cablux.service.pattern import project_words, words_answer
from cablux.service.pieces import pieces_answer
from tests.knitter import knit_pattern
from tests.test_cli import ROPE, run

ROOT = Path(__file__).parents[3]
FILES = ROOT / "src" / "cablux" / "demo"
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


SHAWL, THROW, PULLOVER = (str(FILES / f"{n}.json") for n in ("kittiwake-shawl", "skerry-throw", "puffin-pullover"))


@pytest.mark.parametrize(
    ("name", "args"),
    [
        ("ChartCheck", ["check", "-"]),
        ("ChartDrawIn", ["draw-in", "-", "--stitches", "18", "--rows", "25"]),
        ("ProjectSize", ["size", SHAWL]),
        ("ProjectSize", ["size", PULLOVER]),
        ("ProjectSize", ["size", THROW]),
        ("ProjectPieces", ["pieces", PULLOVER]),
        ("PieceInWords", ["words", PULLOVER, "--british", "--left-handed"]),
        ("ProjectGauge", ["gauge", THROW]),
        ("ProjectGauge", ["gauge", PULLOVER, "--piece", "Sleeve"]),
        ("PieceCastOn", ["cast-on", THROW]),
        ("PieceCastOn", ["cast-on", PULLOVER, "--piece", "Sleeve"]),
        ("ChairNow", ["row", THROW, "21"]),
        ("ChairNow", ["row", PULLOVER, "3", "--piece", "Sleeve", "--left-handed"]),
        ("PieceOnBench", ["bench", THROW]),
        ("PieceOnBench", ["bench", PULLOVER, "--piece", "Sleeve"]),
        ("PieceOnBench", ["bench", SHAWL]),
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


def test_words_that_cannot_be_json_are_refused_with_what_to_type():
    assert "leave --json out" in run("words", "-", "--json", text=ROPE).stderr
    assert "use --manner rows" in run("words", PULLOVER, "--json", "--manner", "pattern").stderr


@pytest.mark.parametrize("name", [name for name, _ in DEMO])
def test_what_a_page_is_told_of_any_demo_piece_goes_through_json_and_agrees_with_its_words(name):
    """The counts are read from the printed words: what is cast on, and what each row leaves on the needle."""
    file = read_project((FILES / name).read_text("utf-8"))
    pieces = pieces_answer(file)
    for own in file.pieces:
        at = file.opened_at(own.number)
        printed = project_words(file, piece=own.name)
        cast_on, rows = knit_pattern(printed)
        cast = cast_on_answer(at)
        assert (cast.counts.cast_on, cast.counts.bind_off, cast.rows.total) == (cast_on, len(rows[-1].loops), len(rows))
        changes = {c.row: (c.before, c.after) for c in (*cast.between, *(c for end in cast.ends for c in end.changes))}
        needle = [cast_on, *(len(row.loops) for row in rows)]
        changed = {i: now for i, now in enumerate(pairwise(needle), start=1) if now[0] != now[1]}
        assert changes.items() <= changed.items()
        shaped = [band.shaping is not None for band in own.bands]
        assert any(shaped) or changes == changed
        assert shaped[0] or cast.bands[0].below == cast_on
        for i, band in enumerate(cast.bands):
            assert sum(s.stitches for s in band.segments) == band.stitches
            assert sum(s.below for s in band.segments) == band.below
            assert not i or any(shaped[i - 1 : i + 1]) or band.below == cast.bands[i - 1].stitches
        told = [cast, gauge_answer(at), row_report(file.text(), own.name, 1)]
        benches = [bench_report(file.text(), own.name, band) for band in range(1, len(own.bands) + 1)]
        for bench, band in zip(benches, cast.bands, strict=True):
            assert (bench.stitches, bench.width_mm) == (band.stitches, band.expected_mm)
            assert [s.name for s in bench.segments] == [s.name for s in band.segments]
        assert told[2].row.before == cast_on and told[2].total == len(rows)
        words = words_answer(at, manner="every")
        assert {n: line.after for part in words.parts for line in part.lines for n in line.numbers} == dict(
            enumerate(needle[1:], start=1)
        )
        assert (words.counts.cast_on, words.rows) == (cast_on, len(rows))
        assert words.begin in printed and words.end in printed
        assert [part.band for part in words.parts if part.section == "body"] == [*range(1, len(own.bands) + 1)]
        piece = pieces.pieces[file.pieces.index(own)]
        assert (piece.name, piece.counts, piece.rows, piece.size) == (words.name, words.counts, len(rows), words.size)
        for each in (*told, *benches, words, pieces):
            assert type(each).model_validate_json(each.model_dump_json()) == each

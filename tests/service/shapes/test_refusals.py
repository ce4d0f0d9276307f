"""What a shape refuses: for programs it names what clashes, and without that the refusal is gone."""

from __future__ import annotations

import ast
from dataclasses import replace
from pathlib import Path

import pytest

import cablux.core.shapes
from cablux.core.errors import CabluxError, IllegalChart, Infeasible, InvalidText
from cablux.core.notation.audit import audited_chart
from cablux.core.notation.grid import read_source
from cablux.core.shapes import SHAPES
from cablux.service.bench import take_layout
from cablux.service.shapes import new_project
from tests.core.pieces import background, panel, throw

ASKS = {ask.name for shape in SHAPES.values() for ask in shape.asks}
BESIDE = {"panels", "background", "gauge"}
"""What is asked for every shape alike."""


def made(shape: str, sets: list[str], panels: str = "") -> None:
    new_project(shape, sets, gauge="18x25", panels=panels).all_pieces()


@pytest.mark.parametrize(
    ("shape", "sets", "panels"),
    [
        ("pullover", ["construction=drop", "front_wider=4"], ""),
        ("pullover", ["back_longer=30", "length=40", "for=child 8"], ""),
        ("pullover", ["length=16", "for=woman M"], ""),
        ("pullover", ["neck_depth=25", "construction=set-in"], ""),
        ("pullover", ["reach=30"], ""),
        ("pullover", ["upper_arm=60", "construction=set-in"], ""),
        ("cardigan", ["buttons=20", "for=child 2"], ""),
        ("raglan", ["yoke_depth=7"], ""),
        ("raglan", ["neck=90", "chest=40"], ""),
        ("raglan", ["underarm=20", "chest=30", "ease=0"], ""),
        ("raglan", ["length=20"], ""),
        ("raglan", ["arm=10", "cuff=10"], ""),
        ("hat", ["height=12", "brim_height=9"], ""),
        ("sock", ["foot_length=9"], ""),
        ("rectangle", ["width=5"], "honeycomb"),
        ("shawl", ["depth=10"], "honeycomb"),
    ],
)
def test_a_refusal_names_what_clashes_and_is_gone_without_it(shape: str, sets: list[str], panels: str) -> None:
    with pytest.raises(Infeasible) as refused:
        made(shape, sets, panels)
    clash = refused.value.data["clash"]
    assert refused.value.code == "infeasible" and clash and {*clash} <= ASKS | BESIDE
    kept = [each for each in sets if each.partition("=")[0] not in clash]
    assert kept != sets or (panels and "panels" in clash), "something that was typed is named"
    try:
        made(shape, kept, "" if "panels" in clash else panels)
    except CabluxError as error:
        assert str(error) != str(refused.value)


def test_every_refusal_of_a_shape_names_what_it_asks() -> None:
    """Read from the source, since few of them are met by a test."""
    found = 0
    for file in Path(cablux.core.shapes.__file__).parent.rglob("*.py"):
        for call in ast.walk(ast.parse(file.read_text("utf-8"))):
            if isinstance(call, ast.Call) and isinstance(call.func, ast.Name) and call.func.id == "Infeasible":
                clash = next(each.value for each in call.keywords if each.arg == "clash")
                assert {*ast.literal_eval(clash)} <= ASKS | BESIDE, (file.name, call.lineno)
                found += 1
    assert found > 30


def test_the_nearest_that_would_fit_is_told_in_millimetres() -> None:
    with pytest.raises(Infeasible, match=r"makes the shawl ([\d.]+) cm deep") as refused:
        made("shawl", ["depth=10"], "honeycomb")
    told = float(str(refused.value).partition("makes the shawl ")[2].partition(" cm")[0])
    assert refused.value.data["nearest"] == pytest.approx(10.0 * told, abs=0.51)


def test_a_layout_that_is_not_there_names_the_wishes_that_clash() -> None:
    locked = [replace(background(5), locked=True), panel("honeycomb"), replace(background(5), locked=True)]
    with pytest.raises(Infeasible) as refused:
        take_layout(0, "closest")(throw(*locked, width=2000))
    clash = refused.value.data["clash"]
    assert clash and all(wish in str(refused.value) for wish in clash) and any("width of 200 cm" in w for w in clash)


def test_a_text_that_cannot_be_read_points_to_its_place() -> None:
    with pytest.raises(InvalidText) as unread:
        read_source("row 1: k2, zz9\n")
    assert unread.value.pointer.startswith("line 1") and unread.value.data["problems"][0]["line"] == 1
    with pytest.raises(IllegalChart) as odd:
        audited_chart(read_source("multiple: 4\nrow 1: k4\nrow 2: p3\n").chart)
    assert "row 2, stitch 3" in odd.value.pointer and odd.value.data["problems"][0]["row"] == 2

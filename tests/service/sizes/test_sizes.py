"""All sizes at once: one text read back size by size, the table against each size made alone, the page as it fills."""

from __future__ import annotations

import re

import pytest
from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.ends.cast_on import plan_cast_on
from cablux.service.errors import NotFound
from cablux.service.exchange import ProjectFile
from cablux.service.pattern import piece_outline
from cablux.service.shapes.shaped_projects import shape_cautions
from cablux.service.sizes.grading import GradedSize, grade_project, together
from cablux.service.sizes.size_texts import graded_pieces, merged
from cablux.service.sizes.sizes_page import sizes_view
from tests.service.shapes.test_worn import knit_parts, made
from tests.web.reading import Text
from tests.web.test_shape_pages import typed_form

SIZES = ["woman S", "woman M", "woman 2X"]


def read_in(line: str, at: int, of: int) -> str:
    """A graded sentence in one size, as a knitter reads it: the first number, or one of those in brackets."""
    number = r"\d+(?:\.\d+)?(?:st|nd|rd|th)?"
    many = rf"({number}) \(({number}(?:, {number}){{{of - 2}}})\)"
    return re.sub(many, lambda m: [m[1], *m[2].split(", ")][at], line)


@given(st.lists(st.lists(st.integers(0, 400), min_size=3, max_size=3), min_size=2, max_size=6))
def test_a_sentence_with_all_numbers_gives_back_each_one(numbers: list[list[int]]) -> None:
    lines = [f"Work {a} rows, then {b} stitches ({'x'}) to {c}." for a, b, c in numbers]
    text = merged(lines)
    assert text is not None
    assert [read_in(text, at, len(lines)) for at in range(len(lines))] == lines


def test_sentences_that_differ_by_more_than_numbers_are_kept_apart() -> None:
    assert merged(["Cast on 92.", "Pick up 92."]) is None
    assert merged(["every 6th row once", "every 4th row 3 times"]) == "every 6th (4th) row 1 (3) times"
    assert merged(["every 6th row once", "every 4th row once"]) == "every 6th (4th) row once"
    assert together([5, 5, 5]) == "5" and together([92, 100, 108]) == "92 (100, 108)"


@pytest.fixture(scope="module")
def graded() -> tuple[GradedSize, ...]:
    return grade_project(made("raglan", gauge="19x26", panels="braid-9,rope-2-2-left").text(), SIZES)


def counted(lines: list[str]) -> list[str]:
    """Once and twice as numbers, as a knitter hears “2 (5) times”."""
    return [line.replace(" twice", " 2 times").replace(" once", " 1 times") for line in lines]


def heard_alone(told: dict[str, tuple[str, ...]], sizes: list[str], graded: tuple[GradedSize, ...]) -> None:
    """Every piece of every size, read out of the text for all: its own sentences, in their own order."""
    names = "|".join(sizes)
    for each in graded:
        assert each.file is not None
        for own in each.file.pieces:
            mine = []
            lines = told.get(own.name) or next(v for k, v in told.items() if k.startswith(f"{own.name} ("))
            having = [g.size for g in graded if g.file and own.name in [p.name for p in g.file.pieces]]
            for line in lines:
                who = re.match(rf"((?:{names})(?:(?:, | and )(?:{names}))*): ", line)
                of = re.split(", | and ", who[1]) if who else having
                if each.size in of:
                    mine.append(read_in(line[who.end() if who else 0 :], of.index(each.size), len(of)))
            alone = [line for block in piece_outline(each.file.opened_at(own.number)) for line in block.lines]
            assert counted(mine) == counted(alone), (each.size, own.name)


def test_one_text_says_in_each_size_what_that_size_says_alone(graded: tuple[GradedSize, ...]) -> None:
    heard_alone(dict(graded_pieces(graded)), SIZES, graded)


def test_sizes_that_are_made_otherwise_keep_their_own_order() -> None:
    """A dropped back has other places than one that is set in; each is read out as it is worked."""
    ways = {"woman S": "drop", "woman M": "set-in", "woman L": "modified-drop"}
    made_so = {size: made("pullover", f"construction={way}", gauge="18x25") for size, way in ways.items()}
    graded = tuple(GradedSize(size, file) for size, file in made_so.items())
    heard_alone(dict(graded_pieces(graded)), list(ways), graded)


def test_every_size_is_knitted_and_its_table_is_what_is_knitted(graded: tuple[GradedSize, ...]) -> None:
    for each in graded:
        assert each.file is not None
        knit = knit_parts(each.file)
        for row in each.pieces:
            assert row.rows == len(knit[row.name])
            assert row.bind_off == len(knit[row.name][-1].loops)
    under = [each.pieces[1].stations["Underarms"] for each in graded]
    assert under == sorted(under) and len(set(under)) == 3, "a wider body has more stitches"


def test_the_rows_of_one_layout_are_asked_for_the_same_panels(graded: tuple[GradedSize, ...]) -> None:
    for each in graded:
        assert each.file is not None
        names = {s.name for s in each.file.all_pieces()[1].bands[0].own if s.is_panel}
        assert {"Braid of 9", "Rope 2/2 left", "Rope 2/2 right"} <= names


def test_a_shape_without_a_table_of_sizes_says_so(client: TestClient) -> None:
    made_at = client.post("/projects/new/mitts", data=typed_form(client.get("/projects/new/mitts").text))
    base = str(made_at.url).removesuffix("/bench")
    page = client.get(f"{base}/sizes")
    assert page.status_code == 404 and "not made by a table of sizes" in page.text
    assert "Other sizes" not in client.get(f"{base}/pieces").text


def test_the_page_fills_size_by_size_and_makes_the_project_in_one(client: TestClient) -> None:
    typed = typed_form(client.get("/projects/new/vest").text)
    made_at = client.post("/projects/new/vest", data=typed)
    base = str(made_at.url).removesuffix("/bench")
    assert "Other sizes" in client.get(f"{base}/pieces").text and "Other sizes" in client.get(f"{base}/size").text
    query = "size=woman+S&size=woman+L&size=baby+3m"
    begun = client.get(f"{base}/sizes?{query}").text
    assert "0 of 3 sizes solved; now woman S" in str(Text(begun)) and "done=1" in begun
    one = client.get(f"{base}/sizes/table?{query}&done=1").text
    assert "1 of 3 sizes solved; now woman L" in str(Text(one)) and "done=2" in one
    whole = client.get(f"{base}/sizes?{query}&all=true").text
    words = str(Text(whole))
    assert "sizes solved" not in words and "All sizes in one text" in words
    text = client.get(f"{base}/sizes/words.txt?{query}").text
    assert text.startswith("Sizes: woman S (woman L")
    before = client.get(f"{base}/project.json").json()
    taken = client.post(f"{base}/sizes", data={"size": "woman L"}, follow_redirects=False)
    assert taken.status_code == 303 and taken.headers["location"].endswith("/pieces")
    after = client.get(f"{base}/project.json").json()
    assert after["shape"]["asked"]["for"] == "woman L" and after["name"] == before["name"]
    assert after["shape"]["asked"]["chest"] > before["shape"]["asked"]["chest"]
    client.post(f"{base}/bench/undo", data={})
    assert client.get(f"{base}/project.json").json()["shape"] == before["shape"], "one step that can be undone"
    refused = client.post(f"{base}/sizes", data={"size": "woman Z"})
    assert "There is no size “woman Z”" in refused.text


def test_what_is_awkward_is_told_with_its_reason(client: TestClient) -> None:
    file = made("pullover", "for=woman M", "neck_width=14", gauge="12x17", panels="braid-9,rope-3-3-left")

    class Project:
        unit = "cm"

    project = Project()
    project.file = file  # type: ignore[attr-defined]
    found = sizes_view(project, ("woman M", "baby 3m", "child 2"))  # type: ignore[arg-type]
    told = dict(found.awkward)
    alone = dict(sizes_view(project, ("child 2",)).awkward)  # type: ignore[arg-type]
    assert alone.get("child 2") == told.get("child 2"), "the project's own size is the measure, shown or not"
    assert "baby 3m" in told or "child 2" in told, "a braid of nine in thick yarn is too much for a baby"
    for size, reason in found.awkward:
        assert size in found.wanted and reason.endswith(".")
    for row in found.rows:
        assert len(row.values) == len(found.made)
    back = next(row for row in found.rows if (row.piece, row.label) == ("Back", "Cast on"))
    assert back.values[0] == str(plan_cast_on(file.all_pieces()[0]).cast_on)


def test_a_project_without_measures_has_no_sizes() -> None:
    class Project:
        unit = "cm"

    project = Project()
    project.file = made("tube", gauge="20x28")  # type: ignore[attr-defined]
    with pytest.raises(NotFound):
        sizes_view(project)  # type: ignore[arg-type]


def test_a_panel_without_room_in_a_size_is_told_and_comes_back_in_one_that_has_it() -> None:
    """Which panels stay in which size, looked for in what each knits; none is lost on the way through a small one."""
    wide = made("pullover", "for=man 2X", gauge="12x17", panels="braid-12,rope-6-6-left,rope-3-3-left")
    by_size = {each.size: each for each in grade_project(wide.text(), ["man 2X", "man S"])}
    small = by_size["man S"].file
    assert small is not None
    again = grade_project(small.text(), ["man 2X"])[0].file
    assert again is not None

    def crossed(file: ProjectFile) -> set[str]:
        return set(re.findall(r"\d/\d [LR]C", "".join(row.text for row in knit_parts(file)["Back"])))

    assert crossed(wide) == crossed(again) and {"3/3 LC", "6/6 LC"} <= crossed(wide)
    lost = crossed(wide) - crossed(small)
    told = " ".join(shape_cautions(small))
    assert lost and "There is no room for Rope" in told and "no room" not in " ".join(shape_cautions(wide))

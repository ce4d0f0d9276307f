"""“Why 118?”: every number says where it came from, and a pocket calculator finds the same."""

from __future__ import annotations

import re

import pytest

from cablux.core.library import LIBRARY
from cablux.core.piece.widths import body_um
from cablux.service.bench import order_edits as order
from cablux.service.bench import piece_edits as choices
from cablux.service.bench import segment_edits as edits
from cablux.service.bench.offers import bench_offers
from cablux.service.caston import cast_on_answer
from cablux.service.caston.edge_preview import edge_preview
from cablux.service.derivations import Derivation, explain_number
from cablux.service.errors import NotFound
from cablux.service.projects.project import Project, Projects
from tests.examples import each

UNITS = {"mm": 0.1, "cm": 1.0, "in": 2.54}
SHOWN = 0.13  # cm: half of the last digit that is shown of a length, in inches


@pytest.fixture
def projects(demo_database):
    return Projects(demo_database)


def amount(text: str) -> float:
    """A value as it is shown, lengths in cm."""
    number, _, unit = text.strip("± ").partition(" ")
    return float(number) * UNITS.get(unit, 1.0)


def product(text: str) -> float:
    """What a line asks to be multiplied, lengths in cm."""
    found = 1.0
    for number, unit in re.findall(r"([\d.]+)(?: (cm|mm|in))?(?= ×|$)", text):
        found *= float(number) * UNITS.get(unit, 1.0)
    return found


def reckoned(told: Derivation) -> None:
    """Each product that is written out gives the value beside it, as nearly as the digits shown allow."""
    for line in told.lines:
        shown = re.search(r"[\d.]+(?: (?:cm|mm|in))?(?: × [\d.]+(?: (?:cm|mm|in))?)+$", line.text)
        if shown:
            rounding = 0.06 * UNITS[line.value.split()[-1]]  # of the factor that is shown to one digit, and the result
            assert product(shown[0]) == pytest.approx(amount(line.value), rel=0.005, abs=2 * rounding), line


def told_everywhere(project: Project) -> dict[str, Derivation]:
    """Every derivation that the pages of a project open, and those that these open in turn."""
    names = ["cast-on", "bind-off", "increase", "rows"]
    borders = (project.piece.bottom, project.piece.top)
    names += [f"flare-at-{end}-{style}" for end in (0, 1) if borders[end].rows for style in (0, 1)]
    for at, view in enumerate(project.piece.band_views):
        names += [f"{name}-at-{at}" for name in ("body", "width", "sure", "chance", "plain", "row")]
        names += [f"answer-at-{at}-{i}" for i in range(len(bench_offers(view).offers))]
        names += [f"segment-at-{at}-{i}" for i in range(len(view.segments))]
    names += [f"share-at-0-{i}" for i in range(len(project.piece.band_views[0].segments))]
    out: dict[str, Derivation] = {}
    while names:
        name = names.pop()
        if name not in out:
            out[name] = explain_number(project, name)
            names += [line.why for line in out[name].lines if line.why]
    return out


@pytest.mark.breadth
def test_every_number_says_where_it_came_from(projects):
    for project in each(projects.all(), 3):
        n = project.numbers
        told = told_everywhere(project)
        for found in told.values():
            assert found.lines and found.question.endswith("?")
            assert all(line.text and line.value and line.source for line in found.lines)
            reckoned(found)
        answers = {"cast-on": n.cast_on.cast_on, "bind-off": n.cast_on.top.count}
        answers |= {"body": project.piece.band_views[0].stitches}
        answers |= {"increase": n.cast_on.difference, "rows": n.rows.total}
        for name, answer in answers.items():
            assert told[name if name != "body" else "body-at-0"].answer == str(answer)
        assert amount(told["width-at-0"].answer) == pytest.approx(n.width_um / 1e4, abs=SHOWN)
        assert amount(told["sure-at-0"].answer) == pytest.approx(n.eighty_um / 1e4, abs=SHOWN)
        assert told["chance-at-0"].answer == f"{100 * n.chance:.0f} in 100"
        for at, offer in enumerate(bench_offers(project.piece.band_views[0], project.unit).offers):
            lines = told[f"answer-at-0-{at}"].lines
            assert amount(lines[1].value) == pytest.approx(offer.layout.width_um / 1e4, abs=SHOWN)
            assert lines[-2].value == "yes"
            told_gaps = [line.value for line in lines if "backgrounds" in line.text]
            assert told_gaps == [", ".join(map(str, offer.layout.gaps))] * bool(offer.layout.gaps)
            assert sum("Goal" in line.text for line in lines) >= 3
        parts = [told[f"segment-at-0-{i}"] for i in range(len(project.piece.band_views[0].segments))]
        whole = n.width_um
        if n.bands[0].stitches != project.piece.band_views[0].stitches:  # only a part of its layout is on the needle
            whole = body_um(project.piece.band_views[0], project.piece.outlook)
            assert "are on the needle here" in told["width-at-0"].lines[-2].text
        assert sum(amount(p.answer) for p in parts) == pytest.approx(whole / 1e4, abs=SHOWN * len(parts))
        story = cast_on_answer(project.file)
        assert [told[f"share-at-0-{i}"].answer for i in range(len(parts))] == [
            str(x.below) for x in story.bands[0].segments
        ]
        if not project.piece.bottom.rows:
            continue
        assert amount(told["flare-at-0-1"].answer) == pytest.approx(
            edge_preview(project, "bottom", "straight").flare_um / 1e4, abs=SHOWN
        )


def test_what_another_repeat_would_do_is_what_it_does(projects):
    # where the piece itself was measured, that reading is of other stitches once they are changed
    project = next(p for p in projects.all() if not p.file.own.measured and p.piece.bands[0].symmetric)
    at = next(i for i, s in enumerate(project.piece.band_views[0].segments) if s.role == "background")
    line = next(x for x in explain_number(project, f"segment-at-0-{at}").lines if "one repeat more" in x.text)
    assert "its partner" in line.text
    after = projects.change_piece(project.id, "more", edits.step_repeats(0, (at,), 1))
    assert amount(line.value) == pytest.approx(after.numbers.width_um / 1e4, abs=SHOWN)


def test_a_method_is_told_beside_what_we_expect_and_what_is_not_there_is_said(projects):
    project = projects.all()[0]
    told = explain_number(
        projects.change(project.id, "method", lambda f: f.model_copy(update={"method": "straight"})), "segment-at-0-2"
    )
    said = next(line for line in told.lines if "method that you cast on by" in line.text)
    assert amount(said.value) > amount(told.answer), "straight forgets the draw-in"
    bare = projects.change_piece(project.id, "bare", choices.set_border("bottom", rows=0))
    assert "own stitches" in explain_number(bare, "cast-on").lines[0].text
    grown = projects.change_piece(project.id, "add", order.insert_pattern(0, LIBRARY["braid-9"], 1))
    for nothing in (
        "magic",
        "segment-at-0-99",
        "width-at-7",
        "share-at-0-99",
        "answer-at-0-9",
        "flare-at-2-0",
        "flare-at-0-0",
    ):
        with pytest.raises(NotFound):
            explain_number(grown, nothing)

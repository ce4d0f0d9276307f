"""Small tools and the list of projects: needle numbers by wire gauge, counts by brute force, copies and their order."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import InvalidText
from cablux.core.library import LIBRARY
from cablux.core.making.needles import SIZES, needle_mm, needle_text
from cablux.service.chair import Chair
from cablux.service.errors import InvalidForm
from cablux.service.project_list import list_projects
from cablux.service.projects import Projects
from cablux.service.small_tools.counts import both_units, count_for_width, suiting_counts
from tests.service.projects.test_projects import small

# Imperial Standard Wire Gauge (Order in Council of 1883), thousandths of an inch; from memory
WIRE = {"000": 372, "00": 348, "0": 324, "1": 300, "2": 276, "3": 252, "4": 232, "5": 212, "6": 192, "7": 176, "8": 160}
WIRE |= {"9": 144, "10": 128, "11": 116, "12": 104, "13": 92, "14": 80, "15": 72, "16": 64, "17": 56, "18": 48}


def test_old_british_needles_are_the_sizes_of_the_wire_gauge():
    """As near as the sizes that are sold come: a quarter of a millimetre, half at the two thickest."""
    uk = {label: mm for mm, _, label in SIZES if label}
    assert set(uk) >= set(map(str, range(1, 16))) - {"16", "17"}
    for label, mm in uk.items():
        wire = WIRE[label] * 0.0254
        assert abs(mm - wire) < (0.6 if label == "000" else 0.26), (label, wire)
        assert needle_mm(f"UK {label}") == needle_mm(f"old uk no {label}") == mm


def test_a_needles_numbers_run_one_way_and_every_size_is_read_as_it_is_written():
    sizes = [mm for mm, _, _ in SIZES]
    assert sizes == sorted(set(sizes))
    halves = {"½": 0.5, "¾": 0.75}

    def american(label: str) -> float:
        if set(label) == {"0"}:
            return 1.0 - len(label)
        return float(label.rstrip("½¾")) + halves.get(label[-1], 0.0)

    us = [american(label) for _, label, _ in SIZES if label]
    assert us == sorted(set(us)), "an American number stands for one size"
    for mm, label, uk in SIZES:
        assert needle_mm(f"{mm:g}") == needle_mm(f"{mm:g} mm".replace(".", ",")) == mm
        assert needle_text(mm).startswith(f"{mm:g} mm")
        if label:
            assert needle_mm(f"US {label}") == mm and f"US {label}" in needle_text(mm)
        if uk:
            assert f"UK {uk}" in needle_text(mm)


@pytest.mark.parametrize("text", ["", "8 US", "US 99", "UK 19", "UK 0.5", "0.2", "40", "five", "US", "-3"])
def test_a_needle_that_is_not_sold_is_refused_with_what_to_type(text):
    with pytest.raises(InvalidText, match="Type the needle in millimetres, or as US 8 or UK 6"):
        needle_mm(text)


@given(st.integers(1, 600), st.integers(1, 40), st.integers(0, 39))
def test_the_counts_that_suit_a_multiple_are_the_nearest_there_are(near, each, more):
    found = suiting_counts(str(near), str(each), str(more))
    suiting = [n for n in range(1, 900) if (n - more) % each == 0 and n >= more]
    nearest = sorted(suiting, key=lambda n: (abs(n - near), n))[: len(found.counts)]
    assert len(found.counts) >= 3 and list(found.counts) == sorted(found.counts)
    assert sorted(abs(n - near) for n in found.counts)[:3] == sorted(abs(n - near) for n in nearest)[:3]
    assert set(found.counts) <= set(suiting)
    for pattern in (p for p in LIBRARY.values() if "background" in p.uses and p.chart.multiple > 1):
        fits = near >= pattern.chart.width(1) and (near - pattern.chart.balance) % pattern.chart.multiple == 0
        assert (pattern in found.patterns) == fits, pattern.id


def test_a_width_takes_stitches_by_the_gauge_and_lengths_are_told_in_both_units():
    """22 stitches to 10 cm over 50 cm are 110; an inch is 2.54 cm."""
    assert count_for_width("50", "22", "cm").stitches == 110
    assert count_for_width("20", "22", "in").stitches == 110 and count_for_width("20", "22", "in").width == 20.0
    odd = count_for_width("51", "22", "cm")
    assert (odd.exact, odd.stitches, odd.width) == (pytest.approx(112.2), 112, pytest.approx(50.909, abs=0.001))
    assert both_units("10", "in").cm == 25.4 and both_units("2,54", "cm").inches == pytest.approx(1.0)


@pytest.mark.parametrize(
    ("tried", "fields"),
    [
        (lambda: count_for_width("x", "", "cm"), {"wide", "per"}),
        (lambda: both_units("-2", "cm"), {"length"}),
        (lambda: suiting_counts("0", "1.5", "2"), {"count", "multiple"}),
    ],
)
def test_what_cannot_be_read_is_told_at_its_field(tried, fields):
    with pytest.raises(InvalidForm) as refused:
        tried()
    assert set(refused.value.fields) == fields


def test_a_copy_is_a_project_of_its_own_and_the_last_touched_stands_first(database):
    projects, chair = Projects(database), Chair(database)
    first, second = projects.create(small()), projects.create(small())
    chair.row_done(projects.open(first), 1)
    assert [entry.project.id for entry in list_projects(projects, chair)] == [first, second], "a row is a touch"
    copied = projects.copy(first)
    one, other = projects.open(first), projects.open(copied)
    assert other.file.name == "S (copy)" and other.file.model_copy(update={"name": "S"}) == one.file
    assert chair.state(projects.open(copied)).done == 0 and chair.state(projects.open(first)).done == 1
    assert list_projects(projects, chair)[0].project.id == copied
    long = projects.create(small().model_copy(update={"name": "A" * 80}))
    assert len(projects.open(projects.copy(long)).file.name) == 80, "a name that is full is cut for the copy"

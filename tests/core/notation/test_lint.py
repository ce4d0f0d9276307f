"""The lint: each named warning is found where it is, explained, and can be waved through; the library has none."""

from __future__ import annotations

from dataclasses import replace

import pytest

from cablux.core.library import LIBRARY
from cablux.core.notation import lint_chart, parse_chart
from cablux.core.notation.lint import NAMES, RULES

EXAMPLES = {
    "tight start": ("rows 1, 3, 4: p2, k4, p2\nrow 2: p2, 2/2 LC, p2", 2, 3),
    "crowded": ("rows 1, 2, 4, 6, 7, 8: p2, k4, p2\nrows 3, 5: p2, 2/2 LC, p2", 5, 3),
    "too quick": ("rows 1, 2, 4, 6: k12\nrows 3, 5: 6/6 LC", 5, 1),
    "purl on top": ("rows 1, 2, 4: p2, k2, p1, k2, p2\nrow 3: p2, k1, 2/1 LC, k1, p2", 3, 5),
    "same lean": ("rows 1, 2, 4, 5, 6: p1, k4, p1, k4, p1\nrow 3: p1, 2/2 LC, p1, 2/2 LC, p1", 3, 2),
    "wrong-side crossing": ("rows 1, 2, 3, 5, 6: p2, k4, p2\nrow 4: p2, 2/2 LC, p2", 4, 3),
    "wide crossing": ("rows 1, 2, 4, 5, 6: k14\nrow 3: 7/7 LC", 3, 1),
    "lopsided": ("multiple: 4\nrows 1, 2: *k2, p2; rep from *", 0, 0),
    "does not meet": ("set-up row 1: p2, k2, p3\nrow 1: p2, 2/1 LPC, p2\nrow 2: p3, k2, p2", 2, 3),
}


def test_every_rule_has_an_example():
    assert set(EXAMPLES) == set(NAMES)
    assert all(rule.looks_for for rule in RULES)


@pytest.mark.parametrize("name", sorted(EXAMPLES))
def test_a_warning_is_found_explained_and_waved_through(name):
    text, row, stitch = EXAMPLES[name]
    chart = parse_chart(text)
    found = [w for w in lint_chart(chart) if w.name == name]
    assert found and (found[0].row, found[0].stitch) == (row, stitch)
    assert found[0].message.endswith(".") and found[0].mend
    waved = replace(chart, allow=(name,))
    assert name not in {w.name for w in lint_chart(waved)}
    assert name in {w.name for w in lint_chart(waved, allowed=True)}


def test_in_the_round_there_is_no_wrong_side_row_and_no_edge():
    for name in ("wrong-side crossing", "lopsided"):
        chart = parse_chart(EXAMPLES[name][0])
        assert name not in {w.name for w in lint_chart(chart, flat=False)}


def test_a_mixed_up_lean_comes_with_the_one_that_was_meant():
    (warning,) = [w for w in lint_chart(parse_chart(EXAMPLES["purl on top"][0])) if w.name == "purl on top"]
    assert "Did you mean 2/1 RC?" in warning.mend


@pytest.mark.parametrize("pattern_id", sorted(LIBRARY))
def test_the_library_passes_the_lint_and_waves_through_only_what_there_is(pattern_id):
    chart = LIBRARY[pattern_id].chart
    assert lint_chart(chart) == ()
    assert set(chart.allow) <= {w.name for w in lint_chart(chart, allowed=True)}

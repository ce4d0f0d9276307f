"""A journey with each kind of form: from New project to a ticked row, and the numbers agree on the way."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.examples import over

from .test_journey import cast_on, follow

CARDS = {
    "Throw, scarf or cloth": {"Width": "30", "Height": "40"},
    "Strip worn sideways": {"It goes round": "52", "Width of the strip": "20"},
    "Cloth from corner to corner": {"Side": "22"},
    "Hat": {"Head": "57"},
    "Sock": {"Foot": "23", "Length of the foot": "26"},
    "Shawl": {"Depth along the spine": "45"},
}


@over("card", CARDS, of=2)
def test_a_shape_is_chosen_measured_laid_out_and_begun(page: Page, card: str) -> None:
    page.goto("/projects/new")
    follow(page.get_by_role("link", name=re.compile(f"^{card}")))
    shown = page.get_by_role("region", name="What it will be")
    first = int(shown.locator(".hero").inner_text())
    for label, value in CARDS[card].items():
        page.get_by_label(re.compile(f"^{label} \\(")).fill(value)
    page.keyboard.press("Tab")
    drawn = shown.locator("svg.schematic")
    expect(drawn).to_be_visible()
    page.get_by_label("Rows to 10 cm").fill("many")
    page.keyboard.press("Tab")
    expect(shown).to_contain_text("must be a number")
    page.get_by_label("Rows to 10 cm").fill("26")
    page.keyboard.press("Tab")
    expect(shown.locator(".hero")).to_be_visible()
    assert first > 0
    follow(page.get_by_role("button", name="Go to the bench"))
    number = cast_on(page)
    assert page.locator("[data-segment]").count() >= 1
    follow(page.get_by_role("navigation", name="Steps of the project").get_by_role("link", name="Pattern"))
    expect(page.get_by_role("region", name="In words")).to_contain_text(f"Cast on {number} stitches")
    follow(page.get_by_role("navigation", name="Steps of the project").get_by_role("link", name="Chairside"))
    page.get_by_role("button", name=re.compile("^(Row|Round) 1 done")).click()
    expect(page.get_by_role("button", name=re.compile("^(Row|Round) 2 done"))).to_be_visible()
    follow(page.locator("a.masthead-name"))
    expect(page.get_by_role("main")).to_contain_text(re.compile(r"\b1\s+of\s+\d+\s+(row|round)s\s+done"))


def test_shaping_is_edited_by_hand_and_undone_with_a_key(page: Page) -> None:
    page.goto("/projects/8/bench")
    shaping = page.get_by_role("region", name="Shaping")
    wanted = shaping.get_by_label("Widest: width, cm")
    before = wanted.input_value()
    wanted.fill("30")
    wanted.press("Enter")
    expect(page.get_by_role("button", name="Undo: shaping")).to_be_visible()
    page.get_by_role("heading", name="Shaping").click()
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="Redo: shaping")).to_be_visible()
    expect(page.get_by_role("region", name="Shaping").get_by_label("Widest: width, cm")).to_have_value(before)

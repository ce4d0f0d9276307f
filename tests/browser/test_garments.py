"""Garments in the browser: a raglan from nothing to its first rounds, a pullover's pieces, a vest in other sizes."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from .conftest import follow

STEPS = "Steps of the project"


def number(text: str) -> int:
    found = re.search(r"\d+", text)
    assert found
    return int(found[0])


def test_a_raglan_from_new_project_to_the_yoke_that_goes_on_from_its_neck(page: Page, complaints: list[str]) -> None:
    page.goto("/")
    follow(page.get_by_role("link", name="New project"))
    follow(page.get_by_role("link", name=re.compile("^Raglan")))
    page.get_by_label("Size", exact=True).select_option("child 8")
    follow(page.get_by_role("button", name="Fill in its measures"))
    shown = page.get_by_role("region", name="What it will be")
    neck = int(shown.locator(".hero").inner_text())
    page.get_by_label("Neck split").select_option("40/40/10/10")
    expect(shown).to_contain_text("by thirds")
    page.get_by_label("Name", exact=True).fill("Knot raglan")
    follow(page.get_by_role("button", name="Go to the bench"))
    follow(page.get_by_role("link", name="Knot raglan"))
    cards = page.get_by_role("article")
    expect(cards).to_have_count(5)
    yoke = page.get_by_role("article", name="Yoke and body")
    begun = number(yoke.get_by_text(re.compile("held stitches of the neck")).inner_text())
    assert abs(begun - neck) <= 8, "another split moves it by a stitch or two a part"
    follow(yoke.get_by_role("link", name="Bench"))
    shaping = page.get_by_role("region", name="Shaping")
    expect(shaping).to_contain_text("at each end of the back and the front")
    expect(shaping.get_by_role("columnheader", name="The back and the front")).to_be_visible()
    expect(page.get_by_text("at its widest; band 2 is as wide as the piece")).to_be_visible()
    steps = page.get_by_role("navigation", name=STEPS)
    follow(steps.get_by_role("link", name="Pattern"))
    expect(page.get_by_role("region", name="In words")).to_contain_text(re.compile(r"hold \d+, cast on \d+"))
    follow(page.get_by_role("navigation", name=STEPS).get_by_role("link", name="Chairside"))
    page.get_by_role("button", name=re.compile("^Round 1 done")).click()
    expect(page.get_by_role("button", name=re.compile("^Round 2 done"))).to_be_visible()
    assert not complaints


def test_the_pieces_of_a_pullover_are_switched_changed_and_finished_in_turn(page: Page) -> None:
    page.goto("/projects/14/pieces")
    expect(page.get_by_role("article")).to_have_count(6)
    back = page.get_by_role("article", name="Back", exact=True)
    expect(back.get_by_role("link", name="See the last row")).to_be_visible()
    front = page.get_by_role("article", name="Front", exact=True)
    expect(front.get_by_role("link", name=re.compile(r"Knit row \d+"))).to_be_visible()
    expect(page.get_by_role("heading", name="Making up")).to_be_visible()
    page.get_by_role("link", name="Lay it out as its loops relax").click()
    expect(page.get_by_role("region", name="All pieces as their loops relax")).to_be_visible(timeout=60_000)
    expect(page.get_by_text("does not meet")).to_have_count(0)
    follow(front.get_by_role("link", name="Bench"))
    page.locator("details.piece-switch summary").click()
    follow(page.get_by_role("link", name=re.compile("^Sleeve")))
    expect(page).to_have_url(re.compile("/projects/14-5/bench"))
    expect(page.get_by_role("region", name="Shaping")).to_contain_text("Upper arm")


def test_a_vest_is_solved_in_other_sizes_and_made_in_one_of_them(page: Page, complaints: list[str]) -> None:
    page.goto("/projects/new/vest")
    page.get_by_label("Name", exact=True).fill("Graded vest")
    follow(page.get_by_role("button", name="Go to the bench"))
    follow(page.get_by_role("link", name="Graded vest"))
    cast_on = page.get_by_role("article", name="Back", exact=True).locator("dd.big").inner_text()
    follow(page.get_by_role("link", name="Other sizes"))
    for box in page.get_by_role("checkbox").all():
        box.set_checked(False)
    for size in ("woman S", "woman M", "woman 1X"):
        page.get_by_label(size, exact=True).check()
    follow(page.get_by_role("button", name="Solve these sizes"))
    expect(page.get_by_role("heading", name="All sizes in one text")).to_be_visible()
    table = page.get_by_role("region", name="Numbers by size")
    row = table.get_by_role("row", name=re.compile("^Cast on")).first
    small, own, wide = (int(cell) for cell in row.get_by_role("cell").all_inner_texts())
    assert small < own < wide and str(own) == cast_on
    expect(page.get_by_role("main")).to_contain_text(f"Cast on {small} ({own}, {wide}) stitches.")
    follow(page.get_by_role("button", name="Change to woman 1X"))
    back = page.get_by_role("article", name="Back", exact=True)
    expect(back.locator("dd.big")).to_have_text(str(wide))
    follow(back.get_by_role("link", name="Knit row 1"))
    page.get_by_text("Size: woman 1X").click()
    page.get_by_label("woman S", exact=True).check()
    follow(page.get_by_role("button", name="Knit this size"))
    expect(page.locator("#chair")).to_contain_text(f"{small} stitches")
    assert not complaints

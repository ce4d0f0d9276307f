"""The composer in the browser: a panel laid with the mouse, another with the keyboard alone, and both used."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from .conftest import follow


def begin(page: Page, name: str, foundation: str, rows: int) -> None:
    page.goto("/drawer")
    follow(page.get_by_role("link", name="Compose a panel"))
    page.get_by_label("Name").first.fill(name)
    page.get_by_label("Starting row, from right to left").fill(foundation)
    page.get_by_label("Rows to start with").fill(str(rows))
    follow(page.get_by_role("button", name="Start composing"))
    expect(page.get_by_role("heading", name=name)).to_be_visible()


def at(page: Page, row: int, cell: int) -> tuple[float, float]:
    """The middle of a cell on the screen."""
    return page.evaluate(
        """([row, cell]) => {
          const svg = document.querySelector("#sheet svg"), d = svg.dataset, box = svg.getBoundingClientRect();
          const k = box.width / svg.viewBox.baseVal.width, size = Number(d.cell);
          return [box.left + k * (Number(d.margin) + (Number(d.count) - cell + 0.5) * size),
                  box.top + k * (Number(d.head) + (Number(d.rows) - 1 - row + 0.5) * size)];
        }""",
        [row, cell],
    )


def drag(page: Page, start: tuple[int, int], end: tuple[int, int]) -> None:
    """From one cell to another, each a row and a stitch."""
    page.mouse.move(*at(page, *start))
    page.mouse.down()
    page.mouse.move(*at(page, *end), steps=4)
    page.mouse.up()


def text(page: Page, row: int) -> str:
    return page.locator(f"#row-{row}").input_value()


def step(page: Page, name: str) -> None:
    """Waits until the last step is the one named."""
    expect(page.get_by_role("button", name=re.compile(f"^Undo: {name}"))).to_be_visible()


def test_a_rope_with_a_travelling_pair_is_composed_with_the_mouse_and_laid_on_the_bench(page: Page):
    begin(page, "Rope and wanderers", "p6, k4, p6", 16)
    page.mouse.click(*at(page, 3, 7))
    page.get_by_role("button", name="Lean right").click()
    step(page, "cross")
    assert text(page, 3) == "p6, 2/2 RC, p6"
    # the two strands part: each is dragged over the background, one step on every right-side row
    drag(page, (5, 7), (9, 4))
    expect(page.locator("#row-5")).to_have_value("p5, 2/1 RPC, k2, p6")
    drag(page, (5, 10), (9, 13))
    # knit stays knit, and the background is purled beneath it
    expect(page.locator("#row-5")).to_have_value("p5, 2/1 RPC, 2/1 LPC, p5")
    assert text(page, 10) == "k3, p2, k6, p2, k3"
    expect(page.get_by_text("will not continue this one")).to_be_visible()
    drag(page, (11, 4), (15, 7))
    expect(page.locator("#row-15")).to_have_value("p5, 2/1 LPC, p3, k2, p3")
    drag(page, (11, 13), (15, 10))
    expect(page.locator("#row-15")).to_have_value("p5, 2/1 LPC, 2/1 RPC, p5")
    expect(page.get_by_text("will not continue this one")).to_have_count(0)
    expect(page.get_by_role("img", name="The panel in relief")).to_be_visible()
    # it is in the drawer, and from there on the bench
    follow(page.get_by_role("link", name="View in drawer"))
    page.get_by_label("Add to").select_option(label="Skerry throw")
    follow(page.get_by_role("button", name="Add to this project"))
    chosen = page.locator(".segment[aria-current]")
    expect(chosen).to_contain_text("Rope and wanderers")
    expect(chosen.locator(".count")).to_have_text("16")
    follow(page.get_by_role("link", name="Pattern", exact=True))
    expect(page.get_by_role("heading", name="In words")).to_be_visible()


def test_a_panel_is_composed_undone_and_mended_with_the_keyboard_alone(page: Page, complaints: list[str]):
    begin(page, "Keyed cord", "p2, k4, p2", 4)
    sheet = page.locator("#sheet")
    sheet.focus()
    for key in ("ArrowUp", "ArrowUp", "ArrowLeft", "ArrowLeft"):
        sheet.press(key)
    expect(page.locator("#where")).to_contain_text("Row 3 (right side), stitch 3 of 8: knit")
    sheet.press("l")
    step(page, "cross")
    assert text(page, 3) == "p2, 2/2 LC, p2"
    expect(sheet).to_be_focused()
    sheet.press("+")
    step(page, "add rows")
    expect(page.locator("#row-6")).to_have_value("k2, p4, k2")
    sheet.press("Control+z")
    expect(page.locator("#row-6")).to_have_count(0)
    # a row that does not add up is told at its place; the panel leaves the drawer until it is mended
    row = page.locator("#row-3")
    row.fill("p2, 2/2 LC, p3")
    row.press("Enter")
    expect(page.get_by_text("Row 3 works 9 stitches, but row 2 leaves 8: 1 too many")).to_be_visible()
    expect(page.get_by_text("Not in the drawer yet: the counts disagree")).to_be_visible()
    row.fill("p2, C5F, p2")
    row.press("Enter")
    expect(page.locator(".field-problem")).to_contain_text("2/3 LC or 3/2 LC")
    expect(row).to_have_value("p2, C5F, p2")  # what was typed is still there to be mended
    row.fill("p2, C4B, p2")
    row.press("Enter")
    expect(page.locator("#row-3")).to_have_value("p2, 2/2 RC, p2")
    expect(page.get_by_role("link", name="View in drawer")).to_be_visible()
    assert [c for c in complaints if "422" in c], "the browser says that the ambiguous row was refused"
    complaints.clear()


@pytest.mark.parametrize("size", [(1280, 800), (390, 844)])
def test_pasted_prose_becomes_a_panel_and_what_is_not_understood_is_shown(page: Page, size, complaints: list[str]):
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.goto("/composer/new")
    page.get_by_label("Rows", exact=True).fill(
        "Row 1 (RS): P2, C4F, zorp, P2\nRow 2: knit the knits and purl the purls"
    )
    page.get_by_role("button", name="Read the rows").click()
    expect(page.get_by_role("alert").filter(has_text="zorp")).to_contain_text("line 1, column 22")
    complaints.clear()
    page.get_by_label("Rows", exact=True).fill("Row 1 (RS): P2, C4F, P2\nRow 2: knit the knits and purl the purls")
    page.get_by_role("button", name="Read the rows").click()
    expect(page.get_by_role("region", name="What was read")).to_contain_text("A multiple of 8, 2 rows")
    assert len(page.get_by_role("img", name="Its cloth, right side").screenshot()) > 1_000
    page.get_by_label("Name in the drawer").fill("Rope from a paper")
    follow(page.get_by_role("button", name="Save to the drawer"))
    expect(page.locator("#row-1")).to_have_value("p2, 2/2 LC, p2")
    expect(page.get_by_text("such a crossing is tight")).to_be_visible()
    page.get_by_role("button", name="It is intended").first.click()
    expect(page.get_by_text("Intended: ")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= size[0]


def test_the_drawer_is_searched_as_one_types(page: Page):
    page.goto("/drawer")
    expect(page.locator(".drawer-tile").first).to_be_visible()
    page.get_by_role("searchbox").fill("braid five")
    expect(page.locator(".drawer-tile")).to_have_count(1)
    page.locator(".drawer-tile").click()
    expect(page.get_by_role("heading", name="Braid of 10, five strands")).to_be_visible()
    page.get_by_role("link", name="until … remain").click()
    expect(page.get_by_role("link", name="until … remain")).to_have_attribute("aria-current", "true")

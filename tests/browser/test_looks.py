"""Every page in both themes: no violation found by axe, nothing wider than the screen at 390 px or at 200 % zoom."""

from __future__ import annotations

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page

from tests.examples import wandering

ADDRESSES = """
/ /projects/new /no-such-page /enter /tools /components
/projects/new/plain /projects/new/strip?choice=mitts /projects/new/raglan
/projects/3/size /projects/3/bench /projects/3/gauge /projects/3/pattern /projects/3/chairside /projects/3/journal
/projects/3/booklet /projects/3/history?one=0&other=1 /projects/3/why/cast-on /projects/3/pattern/chart?fold=0.1
/projects/3/chairside/lost?panel=11&bars=3&length=57
/projects/3/chairside/mistake?what=wrong-lean&row=19&section=3&seen=30
/projects/2/cast-on /projects/2/squares /projects/2/cloth /projects/7/pieces
/projects/8/bench /projects/8/bench?whole=1 /projects/8/pattern?manner=pattern
/projects/12/size/measures /projects/12-3/bench?band=0 /projects/14-3/bench
/projects/15/sizes?size=woman+M&size=woman+4X&all=true
/projects/18/pieces /projects/18/bench?band=1 /projects/18-5/chairside /projects/18-9/cast-on
/projects/19/bench
/swatches /swatches/1 /swatches/new /drawer /drawer/rib-lattice /drawer/diamond-lace?hand=left
/composer/new /composer/1
"""
ALIKE = """
/projects/new/hat /projects/10/bench?band=1 /projects/13/bench /projects/17-7/bench /projects/9/pieces
/projects/12/pieces /projects/16/pieces /projects/10/pattern?manner=pattern /projects/10/pattern/chart
/projects/9/chairside?which=2 /projects/8/cast-on /projects/19/cloth
"""
"""Pages of other projects on which nothing stands that one of the others has not."""
PAGES = ADDRESSES.split() + (ALIKE.split() if wandering() else [])


FAULTS = {"resultTypes": ["violations"]}
LOADED = Axe("0")  # it is in the page already
OF_COLOURS = ["color-contrast", "link-in-text-block"]
FORMS = FAULTS | {"rules": {rule: {"enabled": False} for rule in OF_COLOURS}}
COLOURS = FAULTS | {"runOnly": {"type": "rule", "values": OF_COLOURS}}
# The tiles of a drawer and the rows of a table have the same colours: of siblings whose markup differs in words and
# addresses alone, all but four are set aside while colours are looked at, which is the slowest of all rules.
SET_TWINS_ASIDE = """() => {
  const words = />[^<]*</g;
  const addresses = / (id|for|href|src|alt|title|name|value|aria-label|hx-[a-z]+|data-[a-z-]+)="[^"]*"/g;
  for (const parent of document.querySelectorAll("body, body *:not(svg *)")) {
    if (parent.children.length < 5) continue;
    const alike = new Map();
    for (const child of parent.children) {
      const markup = child.outerHTML.replace(words, "><").replace(addresses, "");
      alike.set(markup, (alike.get(markup) || 0) + 1);
      if (alike.get(markup) > 4) child.style.setProperty("display", "none", "important");
    }
  }
}"""


@pytest.mark.breadth
@pytest.mark.parametrize("address", PAGES)
def test_pages_are_accessible_in_both_themes_and_fit_phones_and_zoomed_screens(
    page: Page, complaints, base_url, address
):
    page.context.add_cookies([{"name": "theme", "value": "lamp", "url": base_url}])
    page.goto(address)
    if address.endswith("bench"):
        page.get_by_role("heading", name="Layouts that fit").wait_for()
    if address.endswith("gauge"):
        page.get_by_role("article", name="Straight").wait_for()
    lamp = page.evaluate("getComputedStyle(document.body).backgroundColor")
    found = [Axe().run(page, options=FORMS)]
    page.evaluate(SET_TWINS_ASIDE)
    found.append(LOADED.run(page, options=COLOURS))
    page.evaluate("document.documentElement.dataset.theme = 'day'")
    assert page.evaluate("getComputedStyle(document.body).backgroundColor") != lamp
    found.append(LOADED.run(page, options=COLOURS))  # nothing else depends on the theme
    assert not any(each.violations_count for each in found), [each.generate_report() for each in found]
    for wide, high in ((640, 400), (390, 844)):
        page.set_viewport_size({"width": wide, "height": high})
        assert page.evaluate("document.documentElement.scrollWidth") <= wide
    if address == "/no-such-page":
        complaints.remove(next(c for c in complaints if "404" in c))


def test_every_control_can_be_reached_and_seen_with_the_keyboard(page: Page):
    page.goto("/projects/2/cast-on")
    page.evaluate("for (const fold of document.querySelectorAll('main details')) fold.open = true")
    reached = set()
    for _ in range(60):
        page.keyboard.press("Tab")
        name = "document.activeElement.id || document.activeElement.textContent.trim().slice(0, 20)"
        reached.add(page.evaluate(name))
        outline = page.evaluate("getComputedStyle(document.activeElement).outlineStyle")
        assert outline != "none" or page.evaluate("document.activeElement === document.body")
    wanted = {"bottom-pattern", "bottom-rows", "bottom-factor", "bottom-spread", "top-rows", "Lamplight"}
    assert wanted | {"Skip to the main par"} <= reached


def test_another_unit_converts_lengths_and_counts_and_comes_back_unchanged(page: Page):
    """4 in are 10.16 cm: 18 stitches to 10 cm are 18.29 to 4 in."""
    page.goto("/projects/new/plain")
    width, stitches = page.locator("#width"), page.locator("#stitches")
    assert (width.input_value(), stitches.input_value()) == ("110", "18")
    page.get_by_label("inches").check()
    assert (width.input_value(), stitches.input_value()) == ("43.31", "18.29")
    page.get_by_label("centimetres").check()
    assert (width.input_value(), stitches.input_value()) == ("110", "18")


def test_what_was_read_from_a_book_is_accessible_and_fits_a_phone(page: Page):
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto("/composer/new")
    text = "X4: sl 2 to cn, hold in front, k2, k2 from cn\nRow 1: p2, X4, p2\nRow 2: k2, p4, k2"
    page.get_by_label("Rows", exact=True).fill(text)
    page.get_by_role("button", name="Read the rows").click()
    page.get_by_role("button", name="Remember these abbreviations").click()
    page.get_by_role("button", name="Forget X4").wait_for()
    results = Axe().run(page)
    assert results.violations_count == 0, results.generate_report()
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    page.get_by_role("button", name="Forget X4").click()
    page.get_by_role("button", name="Forget X4").wait_for(state="detached")


def test_a_name_of_eighty_letters_breaks_no_page_of_a_phone(page: Page):
    """One word without a space, in the project's name and its yarn's."""
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto("/projects/new/plain")
    page.get_by_label("Name").fill("W" * 80)
    page.get_by_label("Yarn").fill("M" * 80)
    page.get_by_role("button", name="Go to the bench").click()
    page.wait_for_url("**/projects/*/bench")
    address = page.url.removesuffix("/bench")
    for at in (
        "/bench",
        "/bench?whole=1",
        "/size",
        "/cast-on",
        "/gauge",
        "/pattern",
        "/chairside",
        "/history",
        "/squares",
        "/pieces",
    ):
        page.goto(address + at)
        assert page.evaluate("document.documentElement.scrollWidth") <= 390, at
    page.goto("/")
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    mine = page.get_by_role("listitem").filter(has=page.get_by_role("heading", name="W" * 80))
    mine.get_by_text("Remove", exact=True).click()
    mine.get_by_label("for good").check()
    mine.get_by_role("button", name="Remove").click()
    page.get_by_role("heading", name="W" * 80).wait_for(state="detached")

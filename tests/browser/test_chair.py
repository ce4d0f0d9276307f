"""At the chair with a phone: knit, lose the connection and the place, make a mistake, choose, go on."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, Route, expect
from pypdf import PdfReader

from .conftest import until

PHONE = {"width": 390, "height": 844}
COWL = 4


def number(page: Page) -> int:
    return int(re.sub(r"\D", " ", page.locator(".row-number").inner_text()).split()[0])


def go_to(page: Page, base_url: str, project: int, row: int) -> None:
    """The chair with so many rows done, whatever other tests have knitted."""
    page.request.post(f"{base_url}/projects/{project}/chairside/jump", form={"row": str(row)})
    page.goto(f"{base_url}/projects/{project}/chairside")


def tap_done(page: Page) -> None:
    before = number(page)
    page.locator("[data-done]").click()
    expect(page.locator("#chair")).to_have_attribute("data-rows", str(before))


def test_taps_wait_for_the_connection_and_are_counted_once(page: Page, base_url: str, complaints: list[str]) -> None:
    page.set_viewport_size(PHONE)
    page.goto(f"{base_url}/projects/{COWL}/chairside")
    expect(page.locator("#ahead template").first).to_be_attached()
    page.evaluate(
        "window.told = []; new MutationObserver(() => told.push(document.querySelector('[data-waiting]')?.textContent))"
        ".observe(document.body, { childList: true, subtree: true, characterData: true })"
    )
    tap_done(page)
    expect(page.locator("#ahead template").first).to_be_attached()
    assert not any(page.evaluate("told")), "while there is a connection no tap is said to wait"
    start = number(page)
    context = page.context
    context.set_offline(True)
    for _ in range(4):
        tap_done(page)
    page.locator("[data-undo]").click()
    expect(page.locator("#chair")).to_have_attribute("data-rows", str(start + 2))
    expect(page.locator("[data-waiting]")).to_contain_text("5 taps kept")
    page.set_viewport_size(PHONE | {"height": 480})
    page.evaluate("scrollTo(0, 0)")
    expect(page.locator("[data-waiting]")).to_be_in_viewport(ratio=1)  # beside the button, however long the row
    context.set_offline(False)
    expect(page.locator("[data-waiting]")).to_have_text("")
    complaints[:] = [c for c in complaints if "ERR_INTERNET_DISCONNECTED" not in c and "/chairside" not in c]
    page.reload()
    assert number(page) == start + 3
    again = context.new_page()  # what had been answered is not sent again
    again.goto(f"{base_url}/projects/{COWL}/chairside")
    assert number(again) == start + 3


def test_knit_lose_the_place_find_it_make_a_mistake_choose_and_go_on(
    page: Page, base_url: str, complaints: list[str]
) -> None:
    page.set_viewport_size(PHONE)
    go_to(page, base_url, 3, 46)
    start = number(page)
    for _ in range(3):
        tap_done(page)
    page.get_by_text("Lost your place?").click()
    page.get_by_label(re.compile("^Length so far")).fill("19")
    page.get_by_label("What you look at").select_option(label="Rope 3/3 right")
    page.get_by_label("Bars or rows above it").fill("6")
    page.get_by_role("button", name="Find the rows that fit").click()
    found = page.get_by_role("button", name=f"Go on after row {start + 2}")
    expect(found).to_be_visible()
    found.click()
    expect(page.locator("#chair")).to_have_attribute("data-rows", str(start + 2))

    page.get_by_role("link", name="Something went wrong").click()
    page.get_by_label("What happened").select_option("wrong-lean")
    page.get_by_label("In row").fill("43")
    page.get_by_label("Section, from the right").select_option(value="3")
    page.get_by_role("button", name="What can be done?").click()
    answers = page.get_by_role("list", name="What can be done")
    expect(answers.get_by_role("heading")).to_have_count(5)
    expect(answers).to_contain_text(re.compile(r"\d+ loops"))
    until(page, "document.documentElement.scrollWidth <= innerWidth")  # nothing sticks out of a phone
    page.get_by_role("button", name="Leave it and go on").click()
    expect(page.get_by_text("1 mistake left in")).to_be_visible()
    tap_done(page)

    page.get_by_role("link", name=re.compile("^Journal")).click()
    expect(page.get_by_text("A crossing leans the wrong way")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Undo: Left in")).click()
    expect(page.get_by_text("A crossing leans the wrong way")).to_have_count(0)
    page.get_by_role("link", name="Back to the row").click()
    expect(page.get_by_text("left in")).to_have_count(0)
    go_to(page, base_url, 3, 46)
    assert not complaints


def test_the_way_of_a_cable_is_one_tap_away_and_the_voice_says_the_words(page: Page, base_url: str) -> None:
    go_to(page, base_url, 3, 46)
    page.locator(".how summary").first.click()
    expect(page.locator(".how-line").first).to_contain_text("cable needle")
    said = page.locator("[data-part]").first.get_attribute("data-say")
    assert said and re.search(r"knit \d+|purl \d+", said) and not re.search(r"\b[kp]\d", said)
    page.evaluate("window.spoken = []; speechSynthesis.speak = (words) => spoken.push(words.text); 0")
    page.get_by_role("button", name="Read aloud").click()
    page.locator("[data-part]").first.click()
    assert len(page.evaluate("spoken")) == 2
    page.locator("[data-part]").first.click()
    strip = page.locator("[data-strip]")
    assert strip.evaluate("box => box.scrollLeft + box.clientWidth >= box.scrollWidth - 2"), "it begins at the right"


def test_hands_are_told_to_rest(page: Page, base_url: str) -> None:
    page.goto(f"{base_url}/projects/{COWL}/chairside")
    since = "JSON.stringify({since: Date.now() - 31 * 60e3, last: Date.now()})"
    page.evaluate(f"localStorage.setItem('cablux at the needles', {since})")
    tap_done(page)
    expect(page.get_by_text("You have knitted for 30 minutes")).to_be_visible()
    page.get_by_role("button", name="Rested").click()
    expect(page.get_by_text("You have knitted for 30 minutes")).to_be_hidden()
    page.locator("[data-undo]").click()


def test_the_booklet_is_shown_as_it_will_be_printed(drawn: Page, base_url: str) -> None:
    page = drawn
    page.goto(f"{base_url}/projects/3/pattern")
    page.get_by_role("link", name="Print a booklet").click()
    pages = page.locator(".booklet-pages img")
    expect(pages.first).to_be_visible()
    many = pages.count()
    page.locator("#choose-charts").select_option("none")
    page.get_by_role("checkbox", name="Gauge").uncheck()
    page.get_by_role("button", name="Show these pages").click()
    expect(pages.first).to_be_visible()
    assert pages.count() < many
    assert pages.first.evaluate("image => image.complete || image.decode().then(() => true)")
    page.get_by_role("checkbox", name="Cover").uncheck()
    page.locator("#choose-paper").select_option("letter")  # what is saved is what is chosen, shown or not
    with page.expect_download() as saved:
        page.get_by_role("button", name="Save as PDF").click()
    assert saved.value.suggested_filename == "skerry-throw.pdf"
    first = PdfReader(saved.value.path()).pages[0]
    assert round(first.mediabox.width) == 612 and first.extract_text().startswith("Skerry throw\nWhat you need")


def test_a_tap_that_gets_no_answer_is_sent_again(page: Page) -> None:
    """A network that swallows what is sent neither answers nor fails: a tap does not wait for it for ever."""
    page.goto("/projects/5/chairside")
    expect(page.locator("#ahead template").first).to_be_attached()
    page.evaluate("const real = AbortSignal.timeout; AbortSignal.timeout = () => real.call(AbortSignal, 200)")
    swallowed: list[Route] = []
    page.route("**/chairside/done", lambda route: route.fallback() if swallowed else swallowed.append(route))
    start = number(page)
    tap_done(page)
    expect(page.locator("[data-waiting]")).to_contain_text("1 tap kept")
    expect(page.locator("[data-waiting]")).to_have_text("")
    page.reload()
    assert number(page) == start + 1


@pytest.mark.parametrize("part", ["chairside", "chairside/lost?ridges=3"])
def test_a_page_that_was_read_while_a_tap_was_being_counted_catches_up(page: Page, base_url: str, part: str) -> None:
    """Its server wrote the page before it counted the tap, and the browser heard of the tap before it had the page."""
    address = f"{base_url}/projects/5/{part}"
    page.goto(address)
    tap_done(page)
    until(page, "(localStorage.getItem('cablux taps waiting') || '[]') === '[]'")
    start, older = number(page), page.request.get(address).text()
    with page.expect_response("**/chairside/done"):
        tap_done(page)
    until(page, "(localStorage.getItem('cablux taps waiting') || '[]') === '[]'")
    page.route(
        address,
        lambda route: (
            route.fallback()
            if route.request.headers.get("hx-request")
            else route.fulfill(body=older, content_type="text/html")
        ),
    )
    page.reload()
    expect(page.locator("#chair")).to_have_attribute("data-rows", str(start))
    last = page.evaluate(
        "JSON.parse(Object.entries(localStorage).find(([key]) => key.startsWith('cablux last tap'))[1])"
    )
    expect(page.locator("#chair")).to_have_attribute("data-last-tap", last)


def test_a_tap_beside_a_lost_place_shows_its_row_though_no_row_to_come_is_kept(page: Page) -> None:
    page.route("**/chairside/ahead", lambda route: route.fulfill(body="", content_type="text/html"))
    page.goto("/projects/5/chairside/lost?ridges=3")
    tap_done(page)
    tap_done(page)

"""Swatches, the gauge page and the canvas, as a knitter uses them."""

from __future__ import annotations

import io
import re
from importlib import resources

from PIL import Image
from playwright.sync_api import Page, Route, expect

from .conftest import follow


def number(page: Page, selector: str) -> float:
    return float(re.search(r"[\d.]+", page.locator(selector).first.inner_text())[0])


def test_a_swatch_is_put_in_the_book_measured_and_gone_by(page: Page, complaints):
    page.goto("/projects/2/gauge")
    before = number(page, ".hero-width")
    give = page.get_by_text("give or take")
    sure = give.first.inner_text()
    follow(page.get_by_role("link", name="Plan this swatch").first)
    page.get_by_label("Name").fill("Horseshoe, tight")
    page.get_by_label("Pattern 1", exact=True).select_option("horseshoe-12")
    page.get_by_label("Stitches of pattern 1").fill("16")
    follow(page.get_by_role("button", name="Save swatch"))
    expect(page.get_by_role("heading", name="Horseshoe, tight")).to_be_visible()

    page.get_by_label("What you measured").select_option("across")
    expect(page.get_by_label("Counted to a")).to_be_hidden()
    page.get_by_label("Length measured").fill("seven")
    page.get_by_role("button", name="Save measurement").click()
    expect(page.locator(".field-problem")).to_contain_text("must be a number")
    complaints.remove(next(c for c in complaints if "422" in c))
    assert page.get_by_label("Length measured").input_value() == "seven", "what was typed is kept"
    page.get_by_label("Length measured").fill("7.4 7.5 7.4")
    page.get_by_role("button", name="Save measurement").click()
    article = page.get_by_role("article", name="Horseshoe of 12, washed")
    expect(article).to_contain_text(re.compile("A millimetre of 7.4 cm is .* over the [0-9]+ cm of"))
    expect(page.get_by_role("alert")).to_be_empty()

    picture = io.BytesIO()
    Image.new("RGB", (60, 40), "teal").save(picture, "PNG")
    page.get_by_label("Add a photo").set_input_files(
        {"name": "s.png", "mimeType": "image/png", "buffer": picture.getvalue()}
    )
    page.get_by_role("button", name="Save photo").click()
    expect(page.get_by_role("img", name="Photo of Horseshoe, tight")).to_be_visible()

    page.goto("/projects/2/gauge")
    page.get_by_label("From the swatch book").select_option(
        label="Horseshoe, tight (6 mm (US 10, UK 4), 1 measurement)"
    )
    page.get_by_role("button", name="Use this swatch", exact=True).first.click()
    expect(page.get_by_role("button", name="Stop using Horseshoe, tight")).to_be_visible()
    assert number(page, ".hero-width") < before, "a tighter hand makes it narrower"
    assert give.first.inner_text() != sure
    expect(page.get_by_role("img", name=re.compile("Horseshoe of 12.*your swatches 0.[67]"))).to_be_visible()

    straight = page.get_by_role("article", name="Straight")
    expect(straight).to_contain_text("too narrow")
    straight.get_by_role("button", name="Use this method").click()
    expect(page.get_by_text("The cast-on is sized straight")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Undo: sized straight")).click()
    expect(page.get_by_text("The cast-on is sized straight")).to_be_hidden()


def test_the_piece_is_measured_and_says_whether_to_go_on(page: Page, base_url):
    text = (resources.files("cablux.demo") / "skerry-throw.json").read_text("utf-8")
    file = {"name": "throw.json", "mimeType": "application/json", "buffer": text.encode()}
    made = page.request.post("/projects/import", multipart={"file": file}, headers={"origin": base_url})
    page.goto(made.url.replace("/bench", "/gauge"))
    page.get_by_role("textbox", name="After row").fill("60")
    page.get_by_label("Length (cm)").fill("99 99.5")
    page.get_by_label("still on the needle").uncheck()
    page.get_by_role("button", name="Save measurement").click()
    expect(page.get_by_text(re.compile("^It will come to .* narrower than wanted"))).to_be_visible()
    page.get_by_role("button", name="Remove the measurement after row 60").click()
    page.get_by_role("textbox", name="After row").fill("60")
    page.get_by_label("Length (cm)").fill("108 109")
    page.get_by_role("button", name="Save measurement").click()
    expect(page.get_by_text(re.compile("^Go on: it will come to"))).to_be_visible()


def test_the_whole_piece_can_be_moved_turned_and_asked(page: Page):
    page.goto("/projects/2/cloth")
    cloth = page.locator("[data-cloth]")
    expect(cloth).to_have_attribute("data-ready", re.compile(r"\d{4,}"))
    canvas = page.locator("canvas")
    box = canvas.bounding_box()
    page.wait_for_function("() => clothOf(document.querySelector('[data-cloth]')).complete")
    ink = "c => c.getContext('2d').getImageData(c.width / 2 | 0, c.height / 2 | 0, 1, 1).data[3]"
    assert canvas.evaluate(ink) > 0, "there is cloth in the middle"
    page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    says = page.locator("[data-cloth-says]")
    expect(says).to_contain_text(re.compile(r"Row \d+\s+\((right|wrong) side\),\s+stitch \d+ of \d+ from the right"))

    where = "() => { const c = clothOf(document.querySelector('[data-cloth]')); return [c.zoom, ...c.at]; }"
    start = page.evaluate(where)
    canvas.focus()
    page.keyboard.press("+")
    page.keyboard.press("ArrowRight")
    zoom, x, y = page.evaluate(where)
    assert zoom > start[0] and x > start[1] and y == start[2]
    page.mouse.move(box["x"] + 300, box["y"] + 200)
    page.mouse.down()
    page.mouse.move(box["x"] + 360, box["y"] + 260, steps=4)
    page.mouse.up()
    assert page.evaluate(where)[1] < x
    page.get_by_role("button", name="Show all").click()
    assert page.evaluate(where) == start
    page.get_by_role("button", name="Turn the piece over").click()
    expect(page.get_by_role("button", name="Turn the piece over")).to_have_text("Wrong side")


def test_the_whole_piece_can_be_resized_while_its_words_are_on_their_way(page: Page):
    held: list[Route] = []
    page.route("**/cloth/behaviour", lambda route: held.append(route))
    with page.expect_request("**/cloth/behaviour"):
        page.goto("/projects/2/cloth")
    page.set_viewport_size({"width": 640, "height": 400})
    page.wait_for_function("() => clothOf(document.querySelector('[data-cloth]')).complete")
    held[0].continue_()
    expect(page.locator("[data-cloth-behaviour]")).not_to_be_empty()


def test_without_a_connection_the_piece_says_so_and_comes_when_it_is_back(page: Page, complaints):
    page.route("**/cloth/geometry*", lambda route: route.abort())
    page.goto("/projects/2/cloth")
    lost, says = page.locator("[data-cloth-lost]"), page.locator("[data-cloth-says]")
    expect(lost).to_have_text("No connection. The piece will be drawn when the connection is back.")
    expect(says).to_have_text("Tap a stitch to see what it is.")
    page.unroute_all()
    expect(page.locator("[data-cloth]")).to_have_attribute("data-ready", re.compile(r"\d{4,}"))
    expect(lost).to_be_hidden()
    page.wait_for_function("() => clothOf(document.querySelector('[data-cloth]')).complete")
    page.route("**/cloth/at*", lambda route: route.abort())
    page.locator("[data-cloth] canvas").click()
    expect(says).to_have_text("No connection. Tap the stitch again when the connection is back.")
    complaints[:] = [said for said in complaints if "/cloth/" not in said and "ERR_FAILED" not in said]


def test_at_the_chair_the_cloth_grows_with_the_rows(page: Page):
    page.goto("/projects/2/chairside")
    page.get_by_role("button", name=re.compile("^Row 1 done")).click()
    expect(page.get_by_role("button", name=re.compile("^Row 2 done"))).to_be_visible()
    page.get_by_text("The cloth so far").click()
    expect(page.locator("[data-cloth]")).to_have_attribute("data-ready", re.compile(r"\d{4,}"))
    shown = "() => { const c = clothOf(document.querySelector('[data-cloth]')); return [c.upto, c.row]; }"
    assert page.evaluate(shown) == [1, 1]
    page.get_by_role("button", name=re.compile("^Row 2 done")).click()
    expect(page.get_by_role("button", name=re.compile("^Row 3 done"))).to_be_visible()
    page.wait_for_function(f"() => ({shown})()[0] === 2")


def test_the_bench_lays_the_piece_out_anew_when_it_changes(page: Page):
    page.goto("/projects/1/bench")
    page.get_by_text("The whole piece, loop by loop").click()
    cloth = page.locator("[data-cloth]")
    expect(cloth).to_have_attribute("data-ready", re.compile(r"\d{4,}"))
    before = cloth.get_attribute("data-ready")
    page.get_by_role("button", name="One repeat more").click()
    expect(cloth).not_to_have_attribute("data-ready", before)
    page.get_by_role("button", name=re.compile("^Undo")).click()
    expect(cloth).to_have_attribute("data-ready", before)

"""The way through, in a real browser: a throw is made, laid out, sized, read and knitted, and survives a kill."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect

from .conftest import Server


def cast_on(page: Page) -> int:
    return int(page.locator("#cast-on-number").inner_text())


def settle(page: Page) -> None:
    """Waits until a change is on the page and its answers have come."""
    expect(page.get_by_role("heading", name="Good answers")).to_be_visible()


def test_a_throw_from_nothing_to_its_fourth_row_and_over_a_kill(page: Page, server: Server):
    page.goto("/")
    page.get_by_role("link", name="New throw").click()
    page.get_by_label("Name").fill("Journey throw")
    page.get_by_label("Width (cm)").fill("80")
    page.get_by_label("Height (cm)").fill("60")
    page.get_by_label("The width may be off by (cm)").fill("2")
    page.get_by_role("button", name="To the bench").click()
    settle(page)
    plain = cast_on(page)
    seen = [plain]

    drawer = page.get_by_role("region", name="Panel drawer")
    for panel, segments in (("honeycomb", 5), ("rope-3-3-right", 7), ("rope-3-3-left", 9)):
        drawer.locator(f"[data-pattern='{panel}']").click()
        expect(page.locator("[data-segment]")).to_have_count(segments)
        settle(page)
        seen.append(cast_on(page))
        page.locator("[data-segment='1']").click()
        expect(page.locator("[data-segment='1']")).to_have_attribute("aria-current", "true")
    assert seen[-1] < plain, "the cables draw in, so a border as wide as the body needs fewer stitches"
    before = cast_on(page)
    page.get_by_role("button", name=re.compile("^Closest")).click()
    expect(page.get_by_role("button", name=re.compile("^Closest, as it is"))).to_be_visible()
    number = cast_on(page)
    assert number > before, "filled up to the width again, it needs more"
    body = page.locator("#bench").get_attribute("data-count")
    assert body == "9"

    page.get_by_role("link", name=f"Why {number}?").click()
    expect(page.get_by_role("heading", name=f"How {number} came about")).to_be_visible()
    assert cast_on(page) == number
    stitches = int(page.locator("tfoot td").nth(1).inner_text())

    page.get_by_role("link", name="Pattern").click()
    expect(page.get_by_text(f"Cast on {number} stitches.")).to_be_visible()
    expect(page.get_by_role("img", name=re.compile(f"Chart of rows .* {stitches} stitches"))).to_be_visible()

    page.get_by_role("link", name="Chairside").click()
    expect(page.get_by_text(f"{number} stitches").first).to_be_visible()
    page.get_by_role("button", name="Row 1 done").click()
    expect(page.get_by_role("button", name="Row 2 done")).to_be_visible()
    page.locator("body").press("Space")
    expect(page.get_by_role("button", name="Row 3 done")).to_be_visible()
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Row 4 done")).to_be_visible()
    page.keyboard.press("Backspace")
    expect(page.get_by_role("button", name="Row 3 done")).to_be_visible()
    page.get_by_role("button", name="Row 3 done").click()
    page.get_by_role("button", name="Row 4 done").click()
    expect(page.get_by_role("button", name="Row 5 done")).to_be_visible()

    server.kill()
    server.start()
    page.reload()
    expect(page.get_by_role("button", name="Row 5 done")).to_be_visible()
    page.get_by_role("link", name="Bench").click()
    settle(page)
    assert cast_on(page) == number


def test_the_bench_by_keyboard_alone(page: Page):
    page.goto("/projects/2/bench")
    settle(page)
    segment = page.locator("#segment-4")
    segment.focus()
    start = cast_on(page)
    page.keyboard.press("Enter")
    expect(segment).to_have_attribute("aria-current", "true")
    page.keyboard.press("+")
    expect(segment.locator(".count")).to_have_text("37")
    expect(segment).to_be_focused()
    assert cast_on(page) > start
    page.keyboard.press("Shift+ArrowLeft")
    expect(page.locator("#segment-5 .count")).to_have_text("37")
    expect(page.locator("#segment-5")).to_be_focused()
    page.keyboard.press("l")
    expect(page.locator("#segment-5")).to_contain_text("locked")
    page.keyboard.press("m")
    expect(page.locator("#segment-5")).to_contain_text("mirrored")
    page.keyboard.press("Delete")
    expect(page.locator("[data-segment]")).to_have_count(8)
    for _ in range(5):  # as quickly as they come: none is lost
        page.keyboard.press("Control+z")
    expect(page.locator("#segment-4 .count")).to_have_text("25")
    expect(page.locator("#cast-on-number")).to_have_text(str(start))
    page.keyboard.press("Control+y")
    expect(page.locator("#segment-4 .count")).to_have_text("37")
    page.keyboard.press("Control+z")
    expect(page.locator("#segment-4 .count")).to_have_text("25")
    page.locator("#segment-4").focus()
    for _ in range(3):
        page.keyboard.press("+")
    expect(page.locator("#segment-4 .count")).to_have_text("61")
    for _ in range(3):
        page.keyboard.press("-")
    expect(page.locator("#segment-4 .count")).to_have_text("25")


def drag(page: Page, what: Locator, where: Locator) -> None:
    """Press, move until the browser has begun to drag, cross the target, let go."""
    page.wait_for_load_state("networkidle")
    what.hover()
    page.mouse.down()
    box = what.bounding_box()
    for step in range(100):
        page.mouse.move(box["x"] + box["width"] / 2 + 10 + step % 10, box["y"] + 20)
        page.wait_for_timeout(50)
        if page.locator("[data-dragging]").count():
            break
    where.hover()
    where.hover()
    expect(page.locator(".drop-here")).to_have_count(1)
    page.mouse.up()


def test_the_bench_by_mouse(page: Page, complaints: list[str]):
    page.set_viewport_size({"width": 1280, "height": 1000})  # drawer and needle both in sight
    page.goto("/projects/1/bench")
    settle(page)
    count = page.locator("[data-segment]").count()
    page.get_by_label("Look for").fill("braid nine")  # nothing is like that, and all tiles go
    expect(page.locator(".tile:visible")).to_have_count(0)
    page.get_by_label("Look for").fill("braid of 9")
    tile = page.get_by_role("button", name="Braid of 9")
    drag(page, tile, page.locator("#segment-3"))
    expect(page.locator("[data-segment]")).to_have_count(count + 2)
    drag(page, page.locator("#segment-2"), page.locator("#segment-6"))
    expect(page.locator("#segment-6")).to_contain_text("Rope 4/4 right")
    page.get_by_label("Stitches", exact=True).fill("13")
    page.get_by_label("Stitches", exact=True).press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("12 or 24 would")
    assert len(complaints) == 1 and "422" in complaints.pop(), "the browser notes the refusal, once"
    page.get_by_role("button", name="One repeat more").click()
    expect(page.locator("#segment-6 .count")).to_have_text("24")
    expect(page.get_by_role("alert")).to_be_empty()


def test_a_swipe_ticks_a_row_and_a_scroll_does_not(browser, base_url: str):
    context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True, is_mobile=True)
    page = context.new_page()
    page.goto(f"{base_url}/projects/3/chairside")
    done = page.locator("[data-done]")
    first = int(re.search(r"\d+", done.inner_text())[0])

    def swipe(dx: int, dy: int) -> None:
        page.evaluate(
            """([dx, dy]) => {
                const at = (x, y) => [new Touch({identifier: 1, target: document.body, clientX: x, clientY: y})];
                const box = document.querySelector("#chair");
                const fire = (type, touches) =>
                    box.dispatchEvent(new TouchEvent(type, {bubbles: true, changedTouches: touches}));
                fire("touchstart", at(200, 300));
                fire("touchend", at(200 + dx, 300 + dy));
            }""",
            [dx, dy],
        )

    swipe(-120, 10)
    expect(done).to_have_text(f"Row {first + 1} done")
    swipe(-70, 200)
    swipe(20, 0)
    page.wait_for_timeout(300)
    expect(done).to_have_text(f"Row {first + 1} done")
    swipe(130, -5)
    expect(done).to_have_text(f"Row {first} done")
    context.close()


def test_changing_the_unit_converts_the_lengths(page: Page):
    page.goto("/projects/new")
    page.get_by_label("inches").check()
    expect(page.get_by_label("Width (in)")).to_have_value("43.31")
    expect(page.get_by_label("Stitches to 4 in")).to_be_visible()
    page.get_by_label("centimetres").check()
    expect(page.get_by_label("Width (cm)")).to_have_value("110.01")

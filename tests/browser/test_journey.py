"""The way through, in a real browser: a throw is made, laid out, sized, read and knitted, and survives a kill."""

from __future__ import annotations

import json
import re
import subprocess
from pathlib import Path

from playwright.sync_api import Locator, Page, Route, expect

from .conftest import CABLUX, Server, follow


def cast_on(page: Page) -> int:
    return int(page.locator("#cast-on-number").inner_text())


def settle(page: Page) -> None:
    """Waits until a change is on the page and its answers have come."""
    expect(page.get_by_role("heading", name="Layouts that fit")).to_be_visible()


def test_a_throw_from_nothing_to_its_fourth_row_and_over_a_kill(drawn: Page, server: Server, complaints: list[str]):
    page = drawn  # no request stands still in the test while the server is away
    page.goto("/")
    follow(page.get_by_role("link", name="New project"))
    follow(page.get_by_role("link", name="Begin with an empty bench"))
    page.get_by_label("Name").fill("Journey throw")
    page.get_by_label("Width (cm)").fill("80")
    page.get_by_label("Height (cm)").fill("60")
    page.get_by_label("Width may differ by (cm)").fill("2")
    follow(page.get_by_role("button", name="Go to the bench"))
    settle(page)
    plain = cast_on(page)
    seen = [plain]

    drawer = page.get_by_role("region", name="Panel drawer")
    for panel, segments in (("honeycomb", 5), ("rope-3-3-right", 9)):
        drawer.locator(f"[data-pattern='{panel}']").click()
        expect(page.locator("[data-segment]")).to_have_count(segments)
        settle(page)
        seen.append(cast_on(page))
        page.locator("[data-segment='1']").click()
        expect(page.locator("[data-segment='1']")).to_have_attribute("aria-current", "true")
    assert seen[-1] < plain, "the cables draw in, so a border as wide as the body needs fewer stitches"
    before = cast_on(page)
    page.get_by_role("button", name=re.compile("^Closest")).click()
    expect(page.get_by_role("button", name=re.compile("^Closest · in use"))).to_be_visible()
    number = cast_on(page)
    assert number > before, "filled up to the width again, it needs more"
    body = page.locator("#bench").get_attribute("data-count")
    assert body == "9"

    page.get_by_role("link", name=f"Why {number}?").click()
    expect(page.get_by_role("dialog").get_by_role("heading", name=f"Why cast on {number}?")).to_be_visible()
    expect(page.get_by_role("dialog")).to_contain_text("needs a multiple of")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    follow(page.get_by_role("link", name="Cast-on", exact=True))
    expect(page.get_by_role("heading", name=f"The cast-on edge: {number} stitches")).to_be_visible()
    assert cast_on(page) == number
    page.locator("#story > summary").click()
    stitches = int(page.locator("tfoot td").nth(1).inner_text())

    follow(page.get_by_role("link", name="Pattern"))
    expect(page.get_by_text(f"Cast on {number} stitches.")).to_be_visible()
    expect(page.get_by_role("img", name=re.compile(f"Chart of rows .* {stitches} stitches"))).to_be_visible()

    follow(page.get_by_role("link", name="Chairside"))
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
    # taps that the server did not hear are sent again, and the browser says that it could not reach it
    complaints[:] = [said for said in complaints if "/chairside/" not in said and "ERR_" not in said]
    follow(page.get_by_role("link", name="Bench"))
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
    expect(page.locator("#segment-5")).not_to_contain_text("mirrored")  # it left the middle; its partner is mirrored
    expect(page.locator("#segment-3")).to_contain_text("mirrored")
    page.keyboard.press("l")
    expect(page.locator("#segment-5")).to_contain_text("keeps its count")
    page.keyboard.press("m")
    expect(page.locator("#segment-5")).to_contain_text("mirrored")
    expect(page.locator("#segment-3")).not_to_contain_text("mirrored")
    page.keyboard.press("Delete")
    expect(page.locator("[data-segment]")).to_have_count(7)
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


def next_frame(page: Page) -> None:
    """Until the browser has drawn twice: what was done before the first frame is seen after the second."""
    page.evaluate("() => new Promise((seen) => requestAnimationFrame(() => requestAnimationFrame(seen)))")


def drag(page: Page, what: Locator, where: Locator) -> None:
    """Press, move until the browser has begun to drag, cross the target, let go."""
    page.wait_for_load_state("networkidle")
    for _ in range(3):  # what an earlier change still moves may slip away from under the pointer; then press again
        what.hover()
        page.mouse.down()
        box = what.bounding_box()
        for step in range(100):
            page.mouse.move(box["x"] + box["width"] / 2 + 10 + step % 10, box["y"] + 20)
            next_frame(page)
            if page.locator("[data-dragging]").count():
                break
        else:
            page.mouse.move(2, 2)  # let go elsewhere, or it would be a click
            page.mouse.up()
            continue
        break
    expect(page.locator("[data-dragging]")).to_have_count(1)
    where.hover()
    box = where.bounding_box()
    for step in range(100):  # the browser tells the page of a drag only while the pointer moves
        page.mouse.move(box["x"] + box["width"] / 2 + step % 5, box["y"] + box["height"] / 2)
        next_frame(page)
        if page.locator(".drop-here").count():
            break
    expect(page.locator(".drop-here")).to_have_count(1)
    page.mouse.up()


def test_the_bench_by_mouse(drawn: Page, complaints: list[str]):
    page = drawn
    page.set_viewport_size({"width": 1280, "height": 1000})  # drawer and needle both in sight
    page.goto("/projects/1/bench")
    settle(page)
    count = page.locator("[data-segment]").count()
    page.get_by_label("Search the drawer").fill("braid nine")  # nothing is like that, and all tiles go
    expect(page.locator(".tile:visible")).to_have_count(0)
    page.get_by_label("Search the drawer").fill("braid of 9")
    tile = page.get_by_role("button", name="Braid of 9")
    drag(page, tile, page.locator("#segment-3"))
    expect(page.locator("[data-segment]")).to_have_count(count + 4)  # and its mirrored partner
    drag(page, page.locator("#segment-2"), page.locator("#segment-6"))
    expect(page.locator("#segment-6")).to_contain_text("Rope 4/4 right")
    page.get_by_label("Stitches", exact=True).fill("13")
    page.get_by_label("Stitches", exact=True).press("Enter")
    expect(page.locator(".field-problem")).to_contain_text("try 12 or 24")
    expect(page.get_by_label("Stitches", exact=True)).to_have_value("13")  # what was typed stays
    assert len(complaints) == 1 and "422" in complaints.pop(), "the browser notes the refusal, once"
    page.get_by_role("button", name="One repeat more").click()
    expect(page.locator("#segment-6 .count")).to_have_text("24")
    expect(page.get_by_label("Stitches", exact=True)).to_have_value("24")  # not what was refused
    expect(page.get_by_role("alert")).to_be_empty()


def start_throw(page: Page, name: str) -> None:
    page.goto("/projects/new/plain")
    page.get_by_label("Name").fill(name)
    page.get_by_label("Width (cm)").fill("90")
    page.get_by_label("Width may differ by (cm)").fill("3")
    follow(page.get_by_role("button", name="Go to the bench"))
    settle(page)


def same_as_the_command_line(page: Page, base_url: str, file: Path) -> None:
    address = page.url.split("/bench")[0]
    file.write_text(page.request.get(f"{address}/project.json").text())
    said = json.loads(subprocess.run([CABLUX, "size", file, "--json"], capture_output=True, check=True).stdout)
    assert cast_on(page) == said["cast_on"] and len(said["segments"]) == 9
    counts = [int(text) for text in page.locator("[data-segment] .count").all_inner_texts()]
    assert counts[::-1] == [s["stitches"] for s in said["segments"]]
    expect(page.locator("#bench")).to_contain_text(f"{round(said['chance'] * 100)} in 100")
    expect(page.locator("#bench")).to_contain_text(f"{said['rows']} rows")


def test_nine_segments_from_nothing_with_the_mouse(page: Page, base_url: str, tmp_path: Path):
    page.set_viewport_size({"width": 1280, "height": 1000})
    start_throw(page, "By mouse")
    for words, pattern, onto, segments in (
        ("honeycomb", "honeycomb", "#segment-1", 5),
        ("rope 3/3 right", "rope-3-3-right", "#segment-3", 9),
    ):
        page.get_by_label("Search the drawer").fill(words)
        drag(page, page.locator(f"[data-pattern='{pattern}']"), page.locator(onto))
        expect(page.locator("[data-segment]")).to_have_count(segments)
        settle(page)
    laid = page.locator("[data-role='panel'] .name")
    expect(laid).to_have_text(["Rope 3/3 right", "Honeycomb", "Rope 3/3 left"])
    wide = int(page.locator("#segment-4 .count").inner_text())
    grip = page.locator("[data-grip='4']").bounding_box()
    page.mouse.move(grip["x"] + 4, grip["y"] + 20)
    page.mouse.down()
    page.mouse.move(grip["x"] - 60, grip["y"] + 20, steps=5)
    expect(page.locator("#fan-drag")).to_contain_text("st")
    promised = int(page.locator("#fan-drag").text_content().split()[0])
    page.mouse.up()
    expect(page.locator("#segment-4 .count")).to_have_text(str(promised))
    assert promised > wide and (promised - wide) % 8 == 0, "in whole multiples"
    page.locator("#segment-1").click()
    expect(page.locator("#segment-1")).to_have_attribute("aria-current", "true")
    page.locator("#segment-3").click(modifiers=["Control"])
    expect(page.get_by_role("heading", name="2 segments")).to_be_visible()
    page.get_by_label("Stitches", exact=True).fill("11")
    page.get_by_label("Stitches", exact=True).press("Enter")
    for at in (1, 3, 5, 7):
        expect(page.locator(f"#segment-{at} .count")).to_have_text("11")
    settle(page)
    page.get_by_role("button", name=re.compile("^Closest")).click()
    expect(page.get_by_role("button", name=re.compile("^Closest · in use"))).to_be_visible()
    same_as_the_command_line(page, base_url, tmp_path / "mouse.json")


def test_nine_segments_from_nothing_with_the_keyboard_alone(page: Page):
    start_throw(page, "By keyboard")
    page.locator("#segment-1").focus()
    for words, segments in (("honeycomb", 5), ("rope 3/3 right", 9)):
        page.keyboard.press("/")
        expect(page.get_by_label("Search the drawer")).to_be_focused()
        page.keyboard.press("Control+a")
        page.keyboard.type(words)
        page.keyboard.press("Enter")
        page.keyboard.press("Enter")
        expect(page.locator("[data-segment]")).to_have_count(segments)
        settle(page)
        page.keyboard.press("Escape")
        expect(page.locator("[data-segment][aria-current]")).to_be_focused()
        if segments == 5:
            page.keyboard.press("ArrowRight")
            expect(page.locator("#segment-1")).to_have_attribute("aria-current", "true")
    middle = page.locator("#segment-4")
    wide = middle.locator(".count").inner_text()
    middle.focus()
    expect(middle).to_be_focused()
    page.keyboard.press("+")
    expect(middle.locator(".count")).not_to_have_text(wide)
    page.locator("#segment-1").focus()
    page.keyboard.press("Enter")
    expect(page.locator("#segment-1")).to_have_attribute("aria-current", "true")
    page.keyboard.type("11")
    page.keyboard.press("Enter")
    for at in (1, 7):
        expect(page.locator(f"#segment-{at} .count")).to_have_text("11")
    settle(page)
    answer = page.get_by_role("button", name=re.compile("^Closest"))
    answer.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name=re.compile("^Closest · in use"))).to_be_visible()


def test_a_bare_bench_offers_arrangements_of_the_panels_that_one_names(page: Page, complaints: list[str]):
    start_throw(page, "Arranged")
    expect(page.get_by_text("No cables yet")).to_be_visible()
    for at, name in enumerate(("Braid of 9", "Horseshoe of 12", "Honeycomb"), start=1):
        page.get_by_label(f"Panel {at}").select_option(label=name)
        settle(page)
    expect(page.get_by_role("button", name=re.compile("^Wide middle"))).to_contain_text(
        "Honeycomb between pairs of Braid of 9 and Horseshoe of 12"
    )
    page.get_by_label("Gaps of").fill("6")
    page.get_by_label("Gaps of").press("Tab")
    expect(page.get_by_role("button", name=re.compile("^In their order"))).to_contain_text("panels fit")
    page.get_by_label("Gaps of").fill("300")
    page.get_by_label("Gaps of").press("Tab")
    expect(page.locator(".field-problem")).to_contain_text("from 1 to 200")
    assert len(complaints) == 1 and "422" in complaints.pop()
    expect(page.get_by_role("button", name=re.compile("^In their order"))).to_be_visible()
    page.get_by_label("Gaps of").fill("")
    page.get_by_label("Gaps of").press("Tab")
    expect(page.get_by_role("button", name=re.compile("^In their order"))).to_contain_text("suit the width")
    page.get_by_role("button", name=re.compile("^In their order")).click()
    expect(page.locator("[data-role='panel'] .name")).to_have_text(
        ["Braid of 9", "Horseshoe of 12", re.compile("^Honeycomb"), "Horseshoe of 12", "Braid of 9"]
    )
    expect(page.get_by_role("button", name=re.compile("^Closest · in use"))).to_be_visible()
    expect(page.get_by_text("No cables yet")).to_be_hidden()


def test_what_is_pressed_while_an_answer_is_on_its_way_comes_after_it(page: Page):
    start_throw(page, "In haste")
    ways = page.get_by_role("button", name=re.compile("^Wide middle"))
    expect(ways).to_be_visible()
    held: list[Route] = []
    page.route("**/bench/arrange", lambda route: held.append(route))
    with page.expect_request("**/bench/arrange"):
        ways.click()
    page.get_by_role("link", name="Whole piece").click()
    held.pop().continue_()
    page.unroute("**/bench/arrange")
    expect(page.get_by_role("link", name="Whole piece")).to_have_attribute("aria-current", "true")
    expect(page.get_by_role("button", name="Undo: wide middle, pairs beside it")).to_be_visible()
    settle(page)
    expect(page.get_by_role("link", name="Whole piece")).to_have_attribute("aria-current", "true")


def test_two_versions_lie_side_by_side_and_one_can_go_back(page: Page):
    start_throw(page, "Two ways")
    page.locator("[data-pattern='braid-9']").click()
    expect(page.locator("[data-segment]")).to_have_count(5)
    follow(page.get_by_role("link", name="History"))
    page.get_by_role("button", name="Compare the two chosen").click()
    expect(page.get_by_role("img", name=re.compile("^The fan"))).to_have_count(2)
    expect(page.get_by_role("row", name=re.compile("Body: panels none Braid of 9"))).to_be_visible()
    page.get_by_role("button", name="Go back to this").last.click()
    expect(page.locator("[data-segment]")).to_have_count(3)


def test_on_a_phone_the_bench_is_for_looking_and_complete(phone: Page):
    phone.goto("/projects/3/bench")
    expect(phone.locator("#cast-on-number")).to_be_visible()
    expect(phone.get_by_role("table", name="The segments from right to left")).to_be_visible()
    expect(phone.get_by_label("Stitches", exact=True)).to_be_hidden()
    expect(phone.get_by_role("heading", name="Layouts that fit")).to_be_visible()
    closest = phone.get_by_role("button", name=re.compile("^Closest"))
    expect(closest).to_be_disabled()
    phone.set_viewport_size({"width": 844, "height": 390})
    expect(closest).to_be_enabled()


def test_a_swipe_ticks_a_row_and_a_scroll_does_not(phone: Page):
    phone.goto("/projects/3/chairside")
    done = phone.locator("[data-done]")
    first = int(re.search(r"\d+", done.inner_text())[0])

    def swipe(dx: int, dy: int) -> None:
        phone.evaluate(
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
    swipe(-70, 200)  # neither of these is one: changes are made in turn, so either would be seen before the next is
    swipe(20, 0)
    swipe(130, -5)
    expect(done).to_have_text(f"Row {first} done")


def test_changing_the_unit_converts_the_lengths(page: Page):
    page.goto("/projects/new/plain")
    page.get_by_label("inches").check()
    expect(page.get_by_label("Width (in)")).to_have_value("43.31")
    expect(page.get_by_label("Stitches to 4 in")).to_be_visible()
    page.get_by_label("centimetres").check()
    expect(page.get_by_label("Width (cm)")).to_have_value("110")


def test_what_is_refused_is_said_beside_its_field_where_what_was_typed_stays(page: Page, complaints: list[str]):
    start_throw(page, "Refused")
    follow(page.get_by_role("link", name="Cast-on"))
    page.locator("#border-top > summary").click()
    rows, said = page.locator("#top-rows"), page.locator(".field-problem")
    for much in ("70", "90"):
        rows.fill(much)
        rows.press("Tab")
        expect(said).to_contain_text(f"up to 60 rows, not {much}")
        expect(said).to_be_in_viewport(ratio=1)
        expect(rows).to_have_value(much)
        expect(rows).to_have_attribute("aria-invalid", "true")
        expect(rows).to_be_focused()
        assert len(complaints) == 1 and "422" in complaints.pop()
    rows.fill("8")
    rows.press("Tab")
    expect(said).to_have_count(0)
    expect(rows).to_have_value("8")
    expect(rows).not_to_have_attribute("aria-invalid", "true")


def test_what_comes_late_does_not_push_away_the_field_that_is_being_typed_in(drawn: Page):
    """How the edges lie is laid out after the page has come; who has a border to choose meanwhile goes on with it."""
    page = drawn
    start_throw(page, "Late")
    late: list[Route] = []
    page.route(re.compile("/look/"), lambda route: late.append(route))
    follow(page.get_by_role("link", name="Cast-on"))
    page.locator("#border-top > summary").click()
    rows = page.locator("#top-rows")
    rows.fill("9")
    expect(page.get_by_text("Laying out this edge")).to_have_count(4)
    before, tall = rows.bounding_box()["y"], page.evaluate("document.documentElement.scrollHeight")
    for request in late:
        request.continue_()
    expect(page.get_by_text("Laying out this edge")).to_have_count(0)
    pictures = page.locator(".edge-picture")
    expect(pictures).to_have_count(4)
    pictures.evaluate_all("all => Promise.all(all.map(one => one.decode()))")
    assert page.evaluate("document.documentElement.scrollHeight") > tall + 100
    expect(rows).to_be_focused()
    assert abs(rows.bounding_box()["y"] - before) < 2


def test_a_phone_keeps_the_place_in_a_long_row(phone: Page):
    phone.goto("/projects/3/chairside")
    header, first = phone.locator(".masthead").bounding_box(), phone.locator("[data-part='0']").bounding_box()
    assert header["height"] < 60 and first["y"] + first["height"] < 420, "one line, and the first section in sight"
    phone.locator("[data-part='0']").tap()
    expect(phone.locator("[data-part='0']")).to_have_attribute("aria-pressed", "true")
    expect(phone.locator("[data-part='1']")).to_have_class(re.compile("part-next"))
    phone.reload()
    expect(phone.locator("[data-part='0']")).to_have_attribute("aria-pressed", "true")
    phone.locator("[data-done]").tap()
    expect(phone.locator("[data-part='0']")).to_have_attribute("aria-pressed", "false")
    phone.locator("[data-undo]").tap()
    expect(phone.locator("[data-part='0']")).to_have_attribute("aria-pressed", "true")


def test_a_place_is_lost_and_found_on_a_phone(page: Page, base_url: str, complaints: list[str]) -> None:
    """Two looks at the throw, the second one at the cable that was proposed; then on from the row that is left."""
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{base_url}/projects/3/chairside")
    page.get_by_text("Lost your place?").click()
    page.get_by_label("What you look at").select_option(label="Braid of 9")
    bars, row = page.get_by_label("Bars or rows above it"), page.locator(".row-number").inner_text()
    bars.press_sequentially("34")
    bars.press("Backspace")
    expect(bars).to_have_value("3")
    expect(page.locator(".row-number")).to_have_text(row)
    page.get_by_label("That crossing leans").select_option(label="to the left")
    page.get_by_label(re.compile("^Length so far")).fill("57")
    page.get_by_role("button", name="Find the rows that fit").click()
    place = page.locator("#lost-place")
    expect(place).to_contain_text("2 rows fit.")
    expect(page.get_by_role("button", name="Go on after row 156")).to_be_visible()
    page.get_by_label("Bars or rows above it").fill("4")
    page.get_by_role("button", name="Find the rows that fit").click()
    expect(place).to_contain_text(re.compile("You have worked row 1(48|56)|No row of this piece looks so"))
    page.get_by_role("link", name="Begin again").click()
    expect(page.get_by_label("Bars or rows above it")).to_have_value("")
    expect(place).not_to_contain_text("rows fit")
    assert not complaints

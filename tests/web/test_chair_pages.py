"""At the chair over the wire: taps lost, doubled and out of order, notes, mistakes, and a plan of days."""

from __future__ import annotations

import io
import random
import re
from datetime import date, timedelta

import pytest
from fastapi.testclient import TestClient
from icalendar import Calendar
from PIL import Image

from cablux.core.pattern import compile_piece
from cablux.core.pattern.words import row_words
from cablux.demo.loader import DEMO
from cablux.service.chair import Chair
from cablux.service.projects import Projects
from tests.web.reading import Text

THROW, MITTS = 3, [name for name, _ in DEMO].index("curlew-mitts.json") + 1


def chair_of(client: TestClient, project: int) -> tuple[Chair, object]:
    state = client.app.state  # type: ignore[attr-defined]
    return state.chair, state.projects.open(project)


@pytest.fixture
def throw() -> str:
    return f"/projects/{THROW}"


def done(client: TestClient, project: int = THROW, copy: int = 1) -> int:
    chair, opened = chair_of(client, project)
    return chair.state(opened, copy).done


def test_taps_that_come_late_twice_or_out_of_order_are_counted_once_each(client: TestClient, throw: str) -> None:
    """A phone names its taps and sends each until it is answered; the network does what it likes with them."""
    chance, start = random.Random(5), done(client)
    taps, last, row = [], "", start
    for n in range(14):
        back = row > start and chance.random() < 0.3
        kind, about = ("undo", row) if back else ("done", row + 1)
        row += -1 if back else 1
        taps.append((kind, {"row": str(about), "tap": f"t{n}", "after": last}))
        last = f"t{n}"
    waiting, sent = list(taps), list[int]()
    while waiting:
        at = chance.choice([0, 0, 0, min(1, len(waiting) - 1)])  # now and then the second goes out first
        kind, fields = waiting[at]
        answer = client.post(f"{throw}/chairside/{kind}", data=fields, headers={"hx-request": "true"})
        sent.append(answer.status_code)
        if answer.status_code == 409:
            continue
        assert answer.status_code == 200
        if chance.random() < 0.7:  # otherwise the answer was lost, and it is sent again
            waiting.pop(at)
    assert done(client) == row and len(sent) > len(taps)


def test_her_own_way_is_kept_on_her_device(client: TestClient, throw: str) -> None:
    plain = Text(client.get(f"{throw}/chairside").text)
    chosen = {"way": "back", "hand": "left", "letters": "huge", "markers": "yes", "rest": "20"}
    client.post(f"{throw}/chairside/look", data=chosen)
    page = client.get(f"{throw}/chairside").text
    assert "slip the 2 back to the left needle" in page and "slip the 2 back" not in str(plain)
    assert 'class="chair-huge"' in page and "slip the marker" in page and 'data-rest="20"' in page
    texts = re.findall(r'class="text block">([^<]*)<', page)
    pattern = compile_piece(chair_of(client, THROW)[1].piece)  # type: ignore[attr-defined]
    row = pattern.row(done(client) + 1)
    assert texts[0] == "k6" and len(texts) == len(row.parts)
    client.cookies.set("chair", "way=nonsense&rest=many")
    assert client.get(f"{throw}/chairside").status_code == 200
    client.cookies.clear()


def test_rows_to_come_are_what_will_be_shown(client: TestClient, throw: str) -> None:
    ahead = client.get(f"{throw}/chairside/ahead").text
    start = done(client)
    kept = {int(n): body for n, body in re.findall(r'<template data-ahead="(\d+)">(.*?)</template>', ahead, re.S)}
    assert set(kept) >= {start, start + 1, start + 12}
    shown = client.post(f"{throw}/chairside/done", data={"row": str(start + 1)}, headers={"hx-request": "true"}).text
    assert str(Text(kept[start + 1])) == str(Text(shown))
    client.post(f"{throw}/chairside/undo", data={"row": str(start + 1)})


def test_both_mitts_at_once(client: TestClient) -> None:
    base = f"/projects/{MITTS}"
    chair, opened = chair_of(client, MITTS)
    assert opened.file.own.copies == 2  # type: ignore[attr-defined]
    chair.jump(opened, 20, 1)
    chair.jump(opened, 20, 2)
    client.post(f"{base}/chairside/look", data={"together": "yes"})
    client.post(f"{base}/chairside/done", data={"row": "21", "which": "1"})
    assert done(client, MITTS, 1) == done(client, MITTS, 2) == 21
    client.post(f"{base}/chairside/undo", data={"row": "21", "which": "2"})
    assert done(client, MITTS, 1) == done(client, MITTS, 2) == 20
    client.cookies.clear()
    client.post(f"{base}/chairside/done", data={"row": "21", "which": "1"})
    assert (done(client, MITTS, 1), done(client, MITTS, 2)) == (21, 20)


def test_the_journal_keeps_what_is_told_and_takes_it_back(client: TestClient, throw: str) -> None:
    photo = io.BytesIO()
    Image.new("RGB", (40, 30), "grey").save(photo, "PNG")
    journal = f"{throw}/journal"
    for data in ({"kind": "lifeline"}, {"kind": "weighed", "value": "412"}, {"kind": "measured", "value": "18,5"}):
        assert client.post(journal, data=data).status_code == 200
    files = {"photo": ("cloth.png", photo.getvalue(), "image/png")}
    client.post(journal, data={"kind": "note", "text": "Needle changed."}, files=files)
    page = client.get(journal).text
    for said in ("Lifeline", "412 g left", "18.5 cm long", "Needle changed.", "/photos/"):
        assert said in page, said
    assert client.get(re.findall(r'src="(/[^"]*photos/[^"]*)"', page)[0]).status_code == 200
    assert f"Lifeline after row {done(client)}" in client.get(f"{throw}/chairside").text
    for bad, sentence in (({"kind": "weighed", "value": "0"}, "than 0"), ({"kind": "note"}, "Type what to keep")):
        refused = client.post(journal, data=bad)
        assert refused.status_code == 422 and sentence in refused.text
    broken = {"photo": ("cloth.png", b"no picture", "image/png")}
    assert client.post(journal, data={"kind": "note", "text": "x"}, files=broken).status_code == 422
    assert client.get(journal).text.count("Undo:") == page.count("Undo:"), "nothing is half kept"
    for entry in re.findall(r'journal/back".*?name="entry" value="(\d+)"', page, re.S):
        assert client.post(f"{journal}/back", data={"entry": entry}).status_code == 200
    assert "Undo:" not in client.get(journal).text
    assert client.post(f"{journal}/back", data={"entry": "1"}).status_code == 404


def test_a_mistake_that_is_left_is_in_the_rows_to_come(client: TestClient, throw: str) -> None:
    chair, opened = chair_of(client, THROW)
    pattern = compile_piece(opened.piece)  # type: ignore[attr-defined]
    at, base = done(client), f"{throw}/chairside/mistake"
    lost = {"what": "stitch-lost", "row": str(at - 3), "section": "2", "stitch": "3", "seen": str(at)}
    page = client.get(base, params=lost).text
    assert "Leave it" in page and "Not possible here." in page and "loops" in page
    client.post(base, data=lost | {"way": "leave"})
    cloth = chair.cloth(opened)
    mended, planned = cloth.row(at + 1), pattern.row(at + 1)
    assert (mended.before, mended.after) == (planned.before - 1, planned.after)
    shown = client.get(f"{throw}/chairside").text
    assert "1 mistake left in" in shown and "M1" in row_words(cloth.row(at + 1))
    entry = re.findall(r'journal/back".*?name="entry" value="(\d+)"', client.get(f"{throw}/journal").text, re.S)[0]
    client.post(f"{throw}/journal/back", data={"entry": entry})
    assert chair.cloth(opened).row(at + 1) == pattern.row(at + 1)
    ripped = client.get(base, params=lost).text
    assert f"go on after row {at - 4}" in ripped
    client.post(base, data=lost | {"way": "rip", "to_row": str(at - 4)})
    assert done(client) == at - 4
    client.post(f"{throw}/chairside/jump", data={"row": str(at)})


def test_a_place_is_found_by_the_cloth_as_it_is_with_a_crossing_missed(client: TestClient, throw: str) -> None:
    """The rope crosses in every eighth row; where row 43 is left plain, eleven bars stand above row 35 after row 46."""
    look = {"panel": "3", "bars": "11", "length": "17.5"}
    assert "No row of this piece looks so" in client.get(f"{throw}/chairside/lost", params=look).text
    missed = {"what": "crossing-missed", "row": "43", "section": "3", "seen": "46"}
    assert client.post(f"{throw}/chairside/mistake", data=missed | {"way": "leave"}).status_code == 200
    found = client.get(f"{throw}/chairside/lost", params=look).text
    assert "You have worked row 46." in str(Text(found))
    entry = re.findall(r'journal/back".*?name="entry" value="(\d+)"', client.get(f"{throw}/journal").text, re.S)[0]
    client.post(f"{throw}/journal/back", data={"entry": entry})
    assert "No row of this piece looks so" in client.get(f"{throw}/chairside/lost", params=look).text


def test_a_tap_on_the_relief_says_where_the_mistake_lies(client: TestClient, throw: str) -> None:
    facts = client.get(f"{throw}/cloth/at", params={"row": 19, "place": 22}).text
    link = re.findall(r'href="([^"]*mistake[^"]*)"', facts)[0].replace("&amp;", "&")
    page = client.get(link + "&what=wrong-lean").text
    assert re.search(r'<option value="3" selected>3 Rope 3/3 right \(crosses\)', page)
    for left in ("true", "false"):
        query = f"what=wrong-lean&row=19&section=3&stitch=5&seen=30&left={left}"
        picture = client.get(f"{throw}/chairside/mistake/relief.svg?{query}")
        assert picture.status_code == 200 and picture.text.startswith("<svg")
    straight = client.get(f"{throw}/chairside/mistake?row=48&section=3&what=wrong-lean&seen=50").text
    assert "has no crossing in row 48" in straight


def test_a_plan_of_days_holds_every_row_that_is_left(client: TestClient, throw: str) -> None:
    """Read with a library for iCalendar (RFC 5545)."""
    found = client.get(f"{throw}/journal/plan.ics", params={"minutes": "90", "start": "2026-12-01"})
    assert found.headers["content-type"].startswith("text/calendar")
    events = list(Calendar.from_ical(found.content).walk("VEVENT"))
    spans = [re.search(r"rows? (\d+)(?:–(\d+))?$", str(e["summary"])) for e in events]
    firsts, lasts = [int(s[1]) for s in spans if s], [int(s[2] or s[1]) for s in spans if s]
    total = len(compile_piece(chair_of(client, THROW)[1].piece).rows)  # type: ignore[attr-defined]
    assert firsts[0] == done(client) + 1 and lasts[-1] == total
    assert firsts[1:] == [last + 1 for last in lasts[:-1]]
    days = [e["dtstart"].dt for e in events]
    assert days == [date(2026, 12, 1) + timedelta(days=n) for n in range(len(days))]
    assert len({str(e["uid"]) for e in events}) == len(events)
    assert client.get(f"{throw}/journal/plan.ics", params={"minutes": "0"}).status_code == 422


def test_every_row_is_in_the_whole_chart_and_sections_fold_away(client: TestClient, throw: str) -> None:
    page = client.get(f"{throw}/pattern/chart").text
    plan = Projects(client.app.state.projects.database).open(THROW).numbers.rows  # type: ignore[attr-defined]
    numbers = {int(n) for n in re.findall(r'class="chart-number">(\d+)</text>', page)}
    assert numbers >= set(range(plan.bottom + 1, plan.total - plan.top + 1)) and 'class="chart-now"' in page
    folded = client.get(f"{throw}/pattern/chart", params={"fold": ["0.1", "0.3", "9.9", "x"]}).text
    assert "Unfold Reverse stockinette, section 2" in folded and len(folded) < len(page)


def test_a_booklet_of_nothing_says_what_to_choose_where_its_pages_would_be(client: TestClient, throw: str) -> None:
    part = {"hx-request": "true"}
    nothing = client.get(f"{throw}/booklet", params={"chosen": "yes"}, headers=part)
    assert nothing.status_code == 200 and "choose at least one part" in nothing.text and "<img" not in nothing.text
    gone = client.get(f"{throw}/booklet", params={"piece": "Sleeve"}, headers=part)
    assert "There is no piece “Sleeve”" in gone.text
    assert client.get(f"{throw}/booklet/file.pdf", params={"chosen": "yes"}).status_code == 422
    words = client.get(f"{throw}/booklet/file.txt", params={"chosen": "yes", "part": "words"}).text
    assert "\nRow by row\n" in words and "Gauge" not in words


def test_what_was_typed_into_the_journal_stays_when_it_is_refused(client: TestClient, throw: str) -> None:
    """The message is for its field alone: the form is left as it is, and nothing is kept."""
    data = {"kind": "weighed", "value": "lots", "text": "One ball."}
    refused = client.post(f"{throw}/journal", data=data, headers={"hx-request": "true"})
    assert refused.status_code == 422 and refused.headers["hx-retarget"] == "#messages"
    assert "Grams left must be a number" in refused.text
    kept = client.post(f"{throw}/journal", data=data | {"value": "412"}, headers={"hx-request": "true"})
    assert kept.text.lstrip().startswith('<div id="journal">') and "412 g left. One ball." in kept.text

"""The scripts' own logic, each module by itself: the queue of taps, acts in turn, the loop under a finger."""

from __future__ import annotations

import json
import math
import random
import struct
from typing import Any

import pytest
from playwright.sync_api import Page

# A store that forgets nothing, a connection that answers as it is told, and a page that writes down what it hears.
QUEUE = """async (answers) => {
  const { Taps } = await import("/static/taps.js");
  const kept = {}, sent = [], heard = [];
  const store = { read: (name, otherwise) => (name in kept ? JSON.parse(kept[name]) : otherwise),
                  keep: (name, value) => { kept[name] = JSON.stringify(value); } };
  const post = async (tap) => {
    sent.push(tap.fields);
    const status = answers.length ? answers.shift() : 200;
    if (!status) throw new TypeError("no connection");
    const text = async () => {
      if (status === 299) throw new TypeError("broken off");
      return "row " + tap.fields.row;
    };
    return { status, ok: status < 400, text };
  };
  const taps = new Taps(store, post, { lost: () => heard.push("lost"), shut: () => heard.push("shut"),
    answered: (tap, answer, text) => heard.push([answer.status, text]) });
  for (const row of ["1", "2", "3"]) taps.keep("/done", "7 1", { row });
  taps.keep("/done", "8 1", { row: "9" });
  const both = [taps.send(), taps.send()];
  await Promise.all(both);
  return { sent, heard, left: taps.waiting.map((tap) => tap.fields) };
}"""


def queue(page: Page, *answers: int) -> dict[str, Any]:
    page.goto("/tools")
    return page.evaluate(QUEUE, list(answers))


def test_taps_are_sent_in_their_order_once_and_each_says_which_it_comes_after(page: Page) -> None:
    found = queue(page)
    assert [tap["row"] for tap in found["sent"]] == ["1", "2", "3", "9"] and not found["left"]
    names = [tap["tap"] for tap in found["sent"]]
    assert len(set(names)) == 4 and all(len(name) == 32 for name in names)
    assert [tap["after"] for tap in found["sent"]] == ["", names[0], names[1], ""], "each project has its own order"
    assert found["heard"] == [[200, f"row {row}"] for row in "1239"]


@pytest.mark.parametrize(("status", "said"), [(0, "lost"), (299, "lost"), (500, "lost"), (503, "lost"), (401, "shut")])
def test_what_could_not_arrive_is_kept_and_nothing_passes_it(page: Page, status: int, said: str) -> None:
    found = queue(page, 200, status)
    assert found["heard"] == [[200, "row 1"], said]
    assert [tap["row"] for tap in found["left"]] == ["2", "3", "9"]
    assert found["left"][0] == found["sent"][1], "it goes as it was, by the same name, when it is tried again"


def test_a_tap_whose_forerunner_is_not_known_stands_by_itself_and_one_that_is_refused_holds_up_no_other(
    page: Page,
) -> None:
    found = queue(page, 200, 409, 200, 422, 409)
    assert [(tap["row"], tap["after"] == "") for tap in found["sent"]] == [
        ("1", True),
        ("2", False),
        ("2", True),
        ("3", False),
        ("9", True),
    ]
    assert found["heard"] == [[200, "row 1"], [200, "row 2"], [422, "row 3"], [409, "row 9"]] and not found["left"]


def test_acts_wait_for_each_other_whether_they_go_well_or_not(page: Page) -> None:
    page.goto("/tools")
    told = page.evaluate("""async () => {
      const { Turns } = await import("/static/turns.js");
      const turns = new Turns(), told = [];
      const act = (name, ms, fails) => async () => {
        told.push("begins " + name);
        await new Promise((resolve) => setTimeout(resolve, ms));
        told.push("ends " + name);
        if (fails) throw new Error(name);
        return name;
      };
      const given = [turns.take(act("a", 30)), turns.take(act("b", 20, true)), turns.take(act("c", 0))];
      told.push("asked");
      return [told, (await Promise.allSettled(given)).map((each) => each.value || each.status)];
    }""")
    assert told[1] == ["a", "rejected", "c"]
    assert told[0] == ["asked", *(f"{when} {name}" for name in "abc" for when in ("begins", "ends"))]


def geometry(rows: list[list[tuple[float, float, int]]], high: float) -> list[int]:
    """A piece as the server writes it: places in 1/16, heights above the row's level in 1/256 of a stitch."""
    loops = [loop for row in rows for loop in row]
    n = len(loops)
    data = struct.pack("<4sIIf", b"loop", len(rows), n, high)
    data += struct.pack(f"<{len(rows)}I", *map(len, rows))
    data += struct.pack(f"<{len(rows)}f", *(r * high for r in range(len(rows))))
    data += struct.pack(f"<{n}h", *(round(16 * x) for x, _, _ in loops))
    data += struct.pack(f"<{n}h", *(round(256 * y) for _, y, _ in loops))
    data += struct.pack(f"<{n}b", *(0 for _ in loops)) + struct.pack(f"<{n}b", *(out for *_, out in loops))
    return list(data + bytes(3 * n))


def test_the_loop_under_a_finger_is_the_nearest_of_all_that_are_shown(page: Page) -> None:
    """Against every loop of a wavy piece, one by one; what stands out by 100 is a quarter of a stitch nearer."""
    chance, high = random.Random(7), 0.7
    rows = [
        [(x + chance.uniform(-0.2, 0.2), chance.uniform(-0.4, 0.4), chance.choice([0, 0, 60, -60])) for x in range(14)]
        for _ in range(20)
    ]
    points = [(chance.uniform(-4, 17), chance.uniform(-4, 17), chance.choice([19, 8])) for _ in range(300)]
    page.goto("/tools")
    found = page.evaluate(
        """async ([data, points]) => {
      const { Loops } = await import("/static/loops.js");
      const loops = new Loops(new Uint8Array(data).buffer);
      return points.map(([x, y, upto]) => loops.nearest(x, y, upto));
    }""",
        [geometry(rows, high), points],
    )
    wrong, hits = [], 0
    for (x, y, upto), hit in zip(points, found, strict=True):
        away = [
            (math.hypot(round(16 * lx) / 16 - x, round(256 * ly) / 256 + r * high - y) - out / 400, r, place)
            for r, row in enumerate(rows[: upto + 1])
            for place, (lx, ly, out) in enumerate(row)
        ]
        near, r, place = min(away)
        hits += near < 1.2
        mine = (hit["row"], hit["place"], hit["loop"]) if hit else None
        if mine != ((r, place, 14 * r + place) if near < 1.2 else None):
            wrong.append((x, y, upto, hit, near))
    assert not wrong, json.dumps(wrong[:3])
    assert 100 < hits < 280

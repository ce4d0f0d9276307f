"""Shapes, pieces and shaping over HTTP: from the drawn cards to a ticked row, and what bad input gets."""

from __future__ import annotations

import re
from html import unescape
from itertools import chain

import pytest
from starlette.testclient import TestClient

from cablux.core.shapes import SHAPES, Shape
from tests.examples import turn_of

from .reading import PART, Text


def typed_form(page: str) -> dict[str, str]:
    """The fields of the form on a page, as they stand."""
    form = page[page.index('id="shape-form"') :]
    fields = {unescape(n): unescape(v) for n, v in re.findall(r'name="([a-z_]+)" value="([^"]*)"', form)}
    for name, options in re.findall(
        r'<select class="input" id="[^"]*" name="([a-z0-9_-]+)"[^>]*>(.*?)</select>', form, re.S
    ):
        found = re.search(r'<option(?: value="([^"]*)")?[^>]*selected>([^<]*)', options) or re.search(
            r'<option(?: value="([^"]*)")?>([^<]*)', options
        )
        assert found
        fields[name] = unescape(found[2] if found[1] is None else found[1])
    return fields


@pytest.mark.parametrize("shape", sorted(SHAPES))
def test_each_shape_goes_from_its_card_to_a_ticked_row(client: TestClient, shape: str) -> None:
    cards = client.get("/projects/new").text
    assert f'href="/projects/new/{shape}"' in cards and cards.count('class="schematic"') >= len(SHAPES)
    page = client.get(f"/projects/new/{shape}").text
    fields = typed_form(page)
    seen = client.post(f"/projects/new/{shape}/preview", data=fields, headers=PART).text
    counted = re.search(r'class="hero">(\d+)<', seen)
    assert counted and "<svg" in seen
    made = client.post(f"/projects/new/{shape}", data=fields, follow_redirects=False)
    assert made.status_code == 303
    base = made.headers["location"].removesuffix("/bench")
    assert f'id="cast-on-number">{counted[1]}<' in client.get(f"{base}/bench").text, "the numbers agree"
    for view in ("cast-on", "pattern", "gauge", "size", "history", "pieces", "cloth"):
        assert client.get(f"{base}/{view}").status_code == 200, view
    assert f"Cast on {counted[1]} " in client.get(f"{base}/pattern.txt").text
    ticked = client.post(f"{base}/chairside/done", data={"row": "1"}, headers=PART)
    assert "Row 2 done" in str(Text(ticked.text)) or "Round 2 done" in str(Text(ticked.text))


def test_a_strip_is_asked_for_by_what_it_is_worn_as(client: TestClient) -> None:
    mitts = typed_form(client.get("/projects/new/strip?choice=mitts&size=Man").text)
    assert (mitts["worn"], mitts["around"], mitts["opening_from"]) == ("mitts", "21.5", "8")
    inches = typed_form(client.get("/projects/new/strip?choice=mitts&unit=in").text)
    assert inches["around"] == "7.48"
    bad = client.post("/projects/new/strip", data=mitts | {"around": "wide", "rows": "", "name": "Gale mitts"})
    said = str(Text(bad.text))
    assert bad.status_code == 422 and "not “wide”" in said and "2 fields need another look" in said
    assert typed_form(bad.text)["name"] == "Gale mitts", "what was typed stays"
    seam = client.post("/projects/new/strip", data=mitts | {"opening_to": "40"})
    assert seam.status_code == 422 and "let it end lower" in str(Text(seam.text))
    assert 'id="opening_to-problem"' in seam.text, "told beside its field"
    assert "let it end lower" in client.post("/projects/new/strip/preview", data=mitts | {"opening_to": "40"}).text
    made = client.post("/projects/new/strip", data=mitts | {"name": "Gale mitts"}, follow_redirects=False)
    base = made.headers["location"].removesuffix("/bench")
    client.post(f"{base}/chairside/done", data={"row": "1", "which": "2"})
    overview = str(Text(client.get(f"{base}/pieces").text))
    assert "1 of 2: 0 of" in overview and "2 of 2: 1 of" in overview and "for the thumb" in overview
    assert client.post(f"{base}/chairside/done", data={"row": "1", "which": "3"}).status_code == 404
    assert client.get("/projects/new/wagon").status_code == 404


def test_shaping_is_begun_changed_undone_and_ended_on_the_bench(client: TestClient) -> None:
    fields = typed_form(client.get("/projects/new/rectangle").text) | {"width": "40", "height": "50"}
    address = client.post("/projects/new/rectangle", data=fields, follow_redirects=False).headers["location"]
    base = address.removesuffix("/bench")
    for end in ("bottom", "top"):
        client.post(f"{base}/cast-on", data={"end": end, "rows": "0"})
    begun = client.post(f"{address}/shaping", data={"do": "begin"}, headers=PART)
    assert begun.status_code == 200 and "Make it straight again" in begun.text
    before = client.get(f"{base}/project.json").json()
    narrow = client.post(
        f"{address}/shaping", data={"width-1": "30", "manner": "mixed", "lean": "against"}, headers=PART
    )
    assert "Undo: shaping" in str(Text(narrow.text)).replace("Undo: Undo", "Undo")
    (piece,) = client.get(f"{base}/project.json").json()["pieces"]
    assert piece["bands"][0]["shaping"]["stations"][1]["width"] == 30
    for bad, said in (
        ({"width-1": "thin"}, "must be a number"),
        ({"rates-0": "6 rows"}, "type rows and times"),
        ({"width-1": "5", "at-1": "1"}, "too few rows"),
        ({"edges": "all"}, "must be one of"),
    ):
        refused = client.post(f"{address}/shaping", data=bad, headers=PART)
        assert refused.status_code == 422 and said in str(Text(refused.text)), bad
    client.post(f"{address}/undo")
    assert client.get(f"{base}/project.json").json() == before
    client.post(f"{address}/shaping", data={"do": "end"})
    assert client.get(f"{base}/project.json").json()["pieces"][0]["bands"][0]["shaping"] is None


def test_one_switch_leads_to_the_same_page_of_another_piece(client: TestClient) -> None:
    client.post("/projects/2/squares/add", data={"pattern": "braid-9", "arrangement": "pairs facing in"})
    page = client.get("/projects/2/cast-on").text
    assert 'href="/projects/2-2/cast-on"' in page and ">Braid of 9<" in page
    other = client.get("/projects/2-2/cast-on").text
    assert 'href="/projects/2/cast-on"' in other
    assert client.get("/projects/2-9/bench").status_code == 404
    client.post("/projects/2-2/bench/target", data={"width": "50"})
    pieces = client.get("/projects/2/project.json").json()["pieces"]
    assert pieces[1]["size"]["width"] == 50 != pieces[0]["size"]["width"]


def test_a_piece_is_named_copied_worked_more_often_and_removed(client: TestClient) -> None:
    named = client.post("/projects/2/pieces", data={"name": "Foot end", "copies": "2"})
    assert "Foot end" in named.text and "2 of 2: 0 of" in str(Text(named.text))
    copied = client.post("/projects/2/pieces/copy", follow_redirects=False)
    assert copied.headers["location"] == "/projects/2-2/pieces"
    taken = client.post("/projects/2-2/pieces", data={"name": "foot END", "copies": "1"})
    assert taken.status_code == 422 and "two pieces are called “Foot end”" in str(Text(taken.text))
    assert client.post("/projects/2/pieces", data={"name": "x", "copies": "0"}).status_code == 422
    client.post("/projects/2-2/chairside/done", data={"row": "1"})
    assert client.post("/projects/2-2/pieces/remove").status_code == 200
    assert client.post("/projects/2/pieces/remove").status_code == 422, "a project keeps one piece"
    again = client.post("/projects/2/pieces/copy", follow_redirects=False)
    assert again.headers["location"] == "/projects/2-3/pieces", "a removed piece's tally is never another's"
    assert "0 of" in str(Text(client.get("/projects/2-3/pieces").text))


def test_ends_that_are_grafted_are_neither_cast_on_for_good_nor_bound_off(client: TestClient) -> None:
    page = str(Text(client.get("/projects/5/pattern").text))
    assert "stitches provisionally" in page and "on the needle, to be grafted" in page and "Bind off" not in page
    assert "At the end you graft" in str(Text(client.get("/projects/5/cast-on").text))
    assert "Bind off" in str(Text(client.get("/projects/3/pattern").text))


def test_short_rows_on_the_bench_have_no_fields_that_would_do_nothing(client: TestClient) -> None:
    made = client.post("/projects/new/raglan", data=typed_form(client.get("/projects/new/raglan").text))
    page = client.get(str(made.url)).text
    shaping = page.partition('aria-label="Shaping"')[2].partition("</section>")[0]
    told = re.search(r"(\d+) short rows over (\d+) stitches: the first works (\d+)", " ".join(shaping.split()))
    assert told and int(told[3]) < int(told[2]) and "<input class" not in shaping and "<select" not in shaping


def test_a_heel_on_the_bench_has_no_fields_that_would_do_nothing(client: TestClient) -> None:
    fields = typed_form(client.get("/projects/new/sock").text)
    address = client.post("/projects/new/sock", data=fields, follow_redirects=False).headers["location"]
    page = client.get(f"{address.removesuffix('/bench')}-2/bench?band=1").text
    shaping = page[page.index('aria-label="Shaping"') :]
    shaping = shaping[: shaping.index("</section>")]
    told = re.search(r"from (\d+) stitches to (\d+)", shaping)
    assert told and int(told[1]) > int(told[2]), "what is left is the heel's own count"
    assert not re.findall(r'name="(?:at|width|count|rates)-\d+"|name="(?:edges|sewn)"', shaping)
    assert "Make it straight again" in shaping


@pytest.mark.parametrize("shape", sorted(set(SHAPES) - {"rectangle"}))
def test_a_project_is_made_anew_from_its_own_measures_as_it_was(client: TestClient, shape: str) -> None:
    made = client.post(f"/projects/new/{shape}", data=typed_form(client.get(f"/projects/new/{shape}").text))
    base = str(made.url).removesuffix("/bench")
    before = client.get(f"{base}/project.json").json()
    assert "/size/measures" in client.get(f"{base}/size").text
    fields = typed_form(client.get(f"{base}/size/measures").text)
    again = client.post(f"{base}/size/measures", data=fields, follow_redirects=False)
    assert again.status_code == 303, str(Text(again.text))[:600]
    after = client.get(f"{base}/project.json").json()
    assert after["pieces"] == before["pieces"] and after["joins"] == before["joins"]


def test_a_sock_for_a_longer_foot_is_made_anew_and_can_be_had_back(client: TestClient) -> None:
    fields = typed_form(client.get("/projects/new/sock").text) | {"stitches": "28", "rows": "38", "panel": "twist-pair"}
    base = str(client.post("/projects/new/sock", data=fields).url).removesuffix("/bench")
    client.post(f"{base}/chairside/done", data={"row": "1"}, headers=PART)
    page = client.get(f"{base}/size/measures").text
    assert "You have ticked rows of Leg (1 of" in str(Text(page))
    asked = typed_form(page)
    assert asked["foot_length"] == "25.5" and asked["panel"] == ""
    leg = _part(client, base, 0)
    rounds = [_rounds(client, base, 2)]
    longer = asked | {"foot_length": "27.5", "yarn": "fingering, two balls"}
    seen = client.post(f"{base}/size/measures/preview", data=longer, headers=PART).text
    assert "<svg" in seen and "Pair of twisted cords" in str(Text(seen)), "its own panel stays"
    client.post(f"{base}/size/measures", data=longer)
    rounds.append(_rounds(client, base, 2))
    assert rounds[1] - rounds[0] == pytest.approx(2.0 * 0.95 * 3.8, abs=2.5), "rounds of 95 % of what it grew by"
    assert _part(client, base, 0).replace("Yarn: fingering, two balls\n", "") == leg, "the leg is as it was"
    assert client.get(f"{base}/project.json").json()["yarn"] == "fingering, two balls"
    client.post(f"{base}/size/measures", data=asked | {"panel": "rope-2-2-left"})
    assert "2/2 LC" in client.get(f"{base}/pattern.txt").text
    client.post(f"{base}/bench/undo")
    client.post(f"{base}/bench/undo")
    assert _rounds(client, base, 2) == rounds[0]


def _part(client: TestClient, base: str, piece: int) -> str:
    """The words of one of the pieces."""
    return re.split(r"\n\n\n(?=\S)", client.get(f"{base}/pattern.txt").text)[piece]


def _rounds(client: TestClient, base: str, piece: int) -> int:
    """The last round that is printed of a piece."""
    printed = re.findall(r"^Rounds? ([\d–, ]+):", _part(client, base, piece), re.M)
    return max(int(number) for each in printed for number in re.findall(r"\d+", each))


def test_measures_that_cannot_be_had_change_nothing_and_are_told_beside_their_fields(client: TestClient) -> None:
    base = str(client.post("/projects/new/hat", data=typed_form(client.get("/projects/new/hat").text)).url)
    base = base.removesuffix("/bench")
    fields, before = typed_form(client.get(f"{base}/size/measures").text), client.get(f"{base}/project.json").text
    bad = client.post(f"{base}/size/measures", data=fields | {"head": "big", "name": "Fulmar hat"})
    assert bad.status_code == 422 and 'id="head-problem"' in bad.text and typed_form(bad.text)["name"] == "Fulmar hat"
    low = client.post(f"{base}/size/measures", data=fields | {"height": "9.5"})
    assert low.status_code == 422 and "make the hat higher" in str(Text(low.text))
    seen = client.post(f"{base}/size/measures/preview", data=fields | {"height": "9.5"}, headers=PART)
    assert seen.status_code == 200 and "make the hat higher" in str(Text(seen.text))
    assert client.get(f"{base}/project.json").text == before
    plain = str(client.post("/projects/new/rectangle", data=typed_form(client.get("/projects/new/rectangle").text)).url)
    plain = plain.removesuffix("/bench")
    assert "/size/measures" not in client.get(f"{plain}/size").text
    assert client.get(f"{plain}/size/measures").status_code == 404


def test_a_part_says_what_it_begins_with_and_how_it_ends_in_place_of_its_edges(client: TestClient) -> None:
    base = str(client.post("/projects/new/sock", data=typed_form(client.get("/projects/new/sock").text)).url)
    base = base.removesuffix("/bench")
    leg, foot = (str(Text(client.get(f"{base}{piece}/cast-on").text)) for piece in ("", "-3"))
    assert "How to cast on" in leg and "How it ends" in leg and re.search(r"At the end you put on holders \d+", leg)
    assert "How to cast on" not in foot and "held stitches of the instep (Leg) on the needle" in foot
    assert re.search(r"At the end you graft together \d+", foot) and "How to bind off" not in foot


def test_what_is_bound_off_in_steps_is_typed_on_the_bench(client: TestClient) -> None:
    fields = typed_form(client.get("/projects/new/pullover").text) | {"construction": "modified-drop"}
    base = str(client.post("/projects/new/pullover", data=fields).url).removesuffix("/bench")
    page = client.get(f"{base}/bench?band=1").text
    labels = re.findall(r'<label for="step-\d">([^<]*)</label><input[^>]*value="([\d, ]+)"', unescape(page))
    assert [label for label, _ in labels] == [
        "Bound off after “Armholes”, at both edges",
        "Bound off after “Shoulders”, at both edges",
    ]
    hidden = {"band": "1", "at": "0"}
    under = int(labels[0][1])
    changed = client.post(f"{base}/bench/shaping", data=hidden | {"step-0": f"{under - 2}, 2"}, headers=PART)
    assert changed.status_code == 200, str(Text(changed.text))[:300]
    words = client.get(f"{base}/pattern.txt").text
    back = words[: words.index("Front\n")]
    assert re.findall(r"bind off (\d+),", back)[:4] == [str(under - 2)] * 2 + ["2", "2"]
    bad = client.post(f"{base}/bench/shaping", data=hidden | {"step-0": "many"}, headers=PART)
    assert bad.status_code == 422 and "Bound off must be a whole number" in str(Text(bad.text))
    whole = client.post(f"{base}/bench/shaping", data=hidden | {"step-0": "900"}, headers=PART)
    assert whole.status_code == 422 and client.get(f"{base}/pattern.txt").text == words, "nothing is half applied"


def _choices(shape: Shape) -> list[dict[str, str]]:
    """Few sets of choices in which every choice of every ask occurs that is not its default.

    One ask is gone through from its first choice, the next from its last: what does not go together seldom meets.
    """
    others = {ask.name: [c for c in ask.choices if c != ask.default] for ask in shape.asks[1:] if ask.choices}
    most = max(map(len, others.values()), default=0)
    turns = [(at, most - 1 - at) for at in range(most)]
    return [
        {name: left[turn[n % 2]] for n, (name, left) in enumerate(others.items()) if turn[n % 2] < len(left)}
        for turn in turns
    ]


CHOSEN = [(name, together) for name, shape in sorted(SHAPES.items()) for together in _choices(shape)]


PAGES = (("bench", "bench?whole=1"), ("cast-on", "chairside"), ("pattern?manner=pattern",))


@pytest.mark.breadth
@pytest.mark.parametrize(("shape", "together"), CHOSEN, ids=lambda value: str(value)[:60])
def test_whatever_is_chosen_every_page_of_every_piece_opens(
    client: TestClient, shape: str, together: dict[str, str]
) -> None:
    """All choices of a set at once; one by one where they do not go together, of which a reason is given."""
    asked = typed_form(client.get(f"/projects/new/{shape}").text)
    apart = [{name: choice} for name, choice in together.items()] if len(together) > 1 else []
    for at, chosen in enumerate([together, *apart]):
        made = client.post(f"/projects/new/{shape}", data=asked | chosen)
        if made.status_code == 422:
            assert re.search("[Mm]ake|[Cc]hoose|choose", str(Text(made.text))), "a reason, with what would mend it"
            continue
        base = str(made.url).removesuffix("/bench")
        assert client.get(f"{base}/pieces").status_code == 200
        for number in range(1, len(client.get(f"{base}/project.json").json()["pieces"]) + 1):
            for page in chain(*turn_of(CHOSEN.index((shape, together)) + number, PAGES)):
                found = client.get(f"{base}-{number}/{page}" if number > 1 else f"{base}/{page}")
                assert found.status_code == 200, (number, page)
        if at == 0:
            return


def test_a_project_is_listed_with_the_size_of_the_piece_that_shows_it_best(client: TestClient) -> None:
    made = client.post("/projects/new/raglan", data=typed_form(client.get("/projects/new/raglan").text))
    base = str(made.url).removesuffix("/bench")
    cards = client.get(f"{base}/pieces").text
    body = cards.partition('aria-label="Yoke and body"')[2]
    size = re.search(r"[\d.]+ cm × [\d.]+ cm", str(Text(body)))
    listed = str(Text(client.get("/").text.partition("New project")[2]))
    assert size and size[0] in listed


def test_a_size_is_picked_at_the_chair_and_all_its_numbers_are_that_sizes(client: TestClient) -> None:
    made = client.post("/projects/new/vest", data=typed_form(client.get("/projects/new/vest").text))
    base = str(made.url).removesuffix("/bench")
    front = client.get(f"{base}-2/chairside").text
    offered = re.findall(r'name="size" value="([^"]+)"', front)
    assert "woman S" in offered and not any(size == "man L" for size in offered), "sizes for the same body"
    begins = int(re.search(r"<b>(\d+) stitches", front)[1])
    taken = client.post(f"{base}-2/sizes", data={"size": "woman S", "back": "chairside"})
    assert str(taken.url).endswith("-2/chairside") and "Size: woman S" in taken.text
    smaller = int(re.search(r"<b>(\d+) stitches", taken.text)[1])
    graded = client.get(f"{base}/sizes/words.txt?size=woman S").text
    assert smaller < begins and f"Cast on {smaller} stitches" in graded.partition("Front\n")[2]
    assert 'name="size"' not in client.get("/projects/3/chairside").text, "a throw has no table"


def test_three_cables_are_chosen_at_once_and_laid_out_from_the_middle(client: TestClient) -> None:
    fields = typed_form(client.get("/projects/new/pullover").text)
    chosen = {"panel": "braid-9", "panel-2": "rope-2-2-left", "panel-3": "twist-pair"}
    assert set(chosen) <= set(fields)
    seen = str(Text(client.post("/projects/new/pullover/preview", data=fields | chosen).text))
    made = client.post("/projects/new/pullover", data=fields | chosen)
    base = str(made.url).removesuffix("/bench")
    words = str(Text(client.get(f"{base}/pattern").text))
    for text in (seen, words):
        assert text.count("Braid of 9") >= 1 and "Rope 2/2 left" in text and "Rope 2/2 right" in text
    form = client.get(f"{base}/size/measures").text
    assert [h for h in ("Body", "Armholes and shoulders", "Neck", "Sleeves") if f">{h}</legend>" in form] == [
        "Body",
        "Armholes and shoulders",
        "Neck",
        "Sleeves",
    ]


def test_all_pieces_follow_the_layout_of_the_back_at_the_press_of_a_button(client: TestClient) -> None:
    made = client.post("/projects/new/vest", data=typed_form(client.get("/projects/new/vest").text))
    base = str(made.url).removesuffix("/bench")
    before = client.get(f"{base}/pieces").text
    assert "Make all pieces after its layout" in before
    wider = client.post(f"{base}/bench/step", data={"at": 1, "by": 6}, headers=PART)
    assert wider.status_code == 200, wider.text
    counts = [re.findall(r'<dd class="big">(\d+)</dd>', text) for text in (before, client.get(f"{base}/pieces").text)]
    assert counts[0][0] != counts[1][0] and counts[0][1] == counts[1][1], "the back alone is wider"
    after = client.post(f"{base}/pieces/layout")
    now = re.findall(r'<dd class="big">(\d+)</dd>', after.text)
    assert now[:2] == [counts[1][0]] * 2, "then the front too"
    assert "all pieces after the layout of Back" in client.get(f"{base}/history").text
    assert "its layout" not in client.get("/projects/3/pieces").text, "a throw has one piece"


def test_a_garment_is_laid_out_as_its_loops_relax_piece_by_piece(client: TestClient) -> None:
    form = typed_form(client.get("/projects/new/vest").text) | {"stitches": "14", "rows": "20"}
    base = str(client.post("/projects/new/vest", data=form).url).removesuffix("/bench")
    assert "Lay it out as its loops relax" in client.get(f"{base}/pieces").text
    first = client.get(f"{base}/pieces/relaxed", headers=PART).text
    pieces = int(re.search(r"0 of (\d+) pieces relaxed; now Back", str(Text(first)))[1])
    assert "done=1" in first
    last = client.get(f"{base}/pieces/relaxed?done={pieces}", headers=PART).text
    assert last.count('class="schematic-body"') == pieces and "does not meet" not in last
    numbers = re.findall(r"<li><b>(\d+)</b> ?([\d.]+) cm", last)
    assert [int(n) for n, _ in numbers] == list(range(1, len(numbers) + 1)) and len(numbers) >= 4
    assert last.strip() in client.get(f"{base}/pieces?relaxed=true").text, "without scripts all at once"

"""Row texts as people write them (own composition, in the manner of printed patterns), and what they mean."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cablux.core.errors import AmbiguousText, InvalidText
from cablux.core.notation import audit_chart, parse_chart, parse_ops
from cablux.core.notation.grid import read_any
from cablux.core.notation.prose import read_prose
from tests.examples import examples


def meaning(text: str) -> tuple[str, tuple[tuple, ...]]:
    """`8 + 4; p2 | 2/2 RC, 2/2 LC | p2; …`: multiple and balance, then each row as seen from the right side."""
    size, *rows = [part.strip() for part in text.split(";")]
    out = []
    for row in rows:
        parts = [parse_ops(p) for p in row.split("|")] if "|" in row else [(), parse_ops(row), ()]
        out.append(tuple(parts))
    return size, tuple(out)


# Each: what is pasted, and its meaning.
CORPUS = [
    ("Row 1 (RS): K2, *P4, C4F; repeat from * to last 6 sts, P4, k2\nRow 2: Purl.",
     "8 + 8; k2 | p4, 2/2 LC | p4, k2; k16"),
    ("Row 1 (RS): *K2, P2; rep from * across.\nRow 2: *K2, P2; rep from * across.", "4; k2, p2; k2, p2"),
    ("Row 1 (RS): (K2, P2) to last 2 sts, K2.\nRow 2: (P2, K2) to last 2 sts, P2.",
     "4 + 2; | k2, p2 | k2; k2 | p2, k2 |"),
    ("1st row (RS): K4.\n2nd row: P4.", "4; k4; k4"),
    ("Rnd 1: Knit.\nRnd 2: Purl.", "1; k1; p1"),
    ("Row 1 (RS): P2, K6, P2.\nRow 2 (WS): Knit the knits and purl the purls.", "10; p2, k6, p2; p2, k6, p2"),
    ("Row 1 (RS): P2, K6, P2\nRow 2: K the k sts and p the p sts.", "10; p2, k6, p2; p2, k6, p2"),
    ("Row 1 (RS): K1, P1\nRow 2: Knit the purls and purl the knits.", "2; k1, p1; p1, k1"),
    ("Row 1 (RS): P2, k4, p2\nRow 2: Work all sts as they appear.", "8; p2, k4, p2; p2, k4, p2"),
    ("Row 1 (RS): p2, k4, p2. Row 2: k2, p4, k2. Row 3: p2, C4B, p2. Row 4: As Row 2.",
     "8; p2, k4, p2; p2, k4, p2; p2, 2/2 RC, p2; p2, k4, p2"),
    ("Row 1 (RS) : P2, K4, P2\nRow 2 and all WS rows: K2, P4, K2\nRow 3: P2, C4F, P2",
     "8; p2, k4, p2; p2, k4, p2; p2, 2/2 LC, p2; p2, k4, p2"),
    ("Row 1 (RS): K6\nRow 2 and every alternate row: Purl\nRow 3: C6F\nRow 5: K6", "6; k6; k6; 3/3 LC; k6; k6; k6"),
    ("Rows 1 and 3 (RS): K4\nRow 5 (RS): 2/2 RC\nAll WS rows: Purl.", "4; k4; k4; k4; k4; 2/2 RC; k4"),
    ("Row 1 (RS): k4\nRows 2–6 even: p4\nRows 3, 5: k4", "4; k4; k4; k4; k4; k4; k4"),
    ("Rows 1 - 2: k2, p2\nRows 3-4: as rows 1-2", "4; k2, p2; k2, p2; k2, p2; k2, p2"),
    ("Row 1: [k1, p1] 3 times, k1\nRow 2: [k1, p1] x 3, k1",
     "7; k1, p1, k1, p1, k1, p1, k1; k1, p1, k1, p1, k1, p1, k1"),
    ("Row 1: *p1, k3; rep from * twice, p1", "9; p1, k3, p1, k3, p1"),
    ("Row 1: *p1, k3; rep from * once more, p1", "9; p1, k3, p1, k3, p1"),
    ("Row 1: *p1, k3; repeat from * two more times; p1", "13; p1, k3, p1, k3, p1, k3, p1"),
    ("Row 1: * p1, k3 * 2 times, p1", "9; p1, k3, p1, k3, p1"),
    ("Row 1: *p1, k3*; repeat from * to * until 1 stitch remains, p1", "4 + 1; | p1, k3 | p1"),
    ("Row 1: k3, p to last 3 sts, k3\nRow 2: k12", "12; k3, p6, k3; k12"),
    ("Cast on 14 sts.\nRow 1: K2, p to last 2, k2.\nRow 2: Knit to end.", "14; k2, p10, k2; k14"),
    ("Multiple of 6 sts plus 2.\nRow 1 (RS): P2, *K4, P2; rep from * to end.\nRow 2: *K2, P4; rep from *, end k2.",
     "6 + 2; p2 | k4, p2 |; p2 | k4, p2 |"),
    ("(multiple of 4 sts + 2)\nRow 1: *k2, p2; rep from *, k2", "4 + 2; | k2, p2 | k2"),
    ("Panel of 6 sts.\nRow 1: C6F.\nRow 2: knit all sts", "6; 3/3 LC; k6"),
    ("Braid of six\n\nRow 1 (RS): C4F, k2\nRow 2: p6\nRow 3: k2, C4B\nRow 4: p6\n\nRepeat rows 1-4 for pattern.",
     "6; 2/2 LC, k2; k6; k2, 2/2 RC; k6"),
    ("Row 1: K4, then work C4F over next 4 sts, and P2 sts\nRow 2: K10 (10 sts)", "10; k4, 2/2 LC, p2; k10"),
    ("Row 1: sl 1, k1, psso, yo, k2tog, yo", "4; ssk, yo, k2tog, yo"),
    ("Row 1: sl1, k2tog, psso, yo twice", "3; sk2p, yo2"),
    ("Row 1: sl 2 kwise, k1, p2sso, yfwd, yrn", "3; S2KP, yo, yo"),
    ("Row 1: (k1, yo, k1) in next st, p2tog tbl", "3; k1-yo-k1, p2tog tbl"),
    ("Row 1: kfb, K2 TOG, k1 tbl, purl 2 together", "6; kfb, k2tog, k1 tbl, p2tog"),
    ("Row 1: slip 1 purlwise wyif, k3, sl 1 with yarn in back", "5; sl1 wyif, k3, sl1 wyib"),
    ("Row 1: knit 3, purl 2, 2 over 2 left cross", "9; k3, p2, 2/2 LC"),
    ("Row 1: Cable 6 front, sm, T3B, pm, Tw2L", "11; 3/3 LC, 2/1 RPC, 1/1 LT"),
    ("Row 1: 6-st RC, Cr2L, RT", "10; 3/3 RC, 1/1 LPC, 1/1 RT"),
    ("Row 1: k2, MB, k2, make bobble", "6; k2, MB5, k2, MB5"),
    ("Row 1: k2, p across", "1 + 2; k2 | p1 |"),
    ("Row 1 (RS): K5, w&t, leave 6\nRow 2 (WS): leave 7, p5", "12; k5, w&t, leave 6; k5, leave 7"),
    ("Row 1 (RS): *k2, p2; rep from\n  * to last 2 sts,\n  k2\nRow 2: Purl", "4 + 2; | k2, p2 | k2; k6"),
    ("Row 1 (RS): p1, *k2, p1; rep from * to end\nRow 2: *k1, p2; rep from * to last st, k1",
     "3 + 1; p1 | k2, p1 |; p1 | k2, p1 |"),
    ("Rnd 1: (k1, p1) around.\nRnd 2: (k2, p2) around.", "4; k1, p1, k1, p1; k2, p2"),
    ("Row 1 RS: K2, *P4, C4F; rep from * to last 5 sts, P5.\nRow 2 WS: K5, *P4, K4; rep from * to last 2 sts, P2.",
     "8 + 7; k2 | p4, 2/2 LC | p5; k2 | p4, k4 | p5"),
    ("Row 1 (right side): K3, [P2, K4] twice, P2, K3.\n2nd and every alt row: K the knit sts and P the purl sts.\n"
     "Row 3. k3, p2, C4B, p2, C4F, p2, k3", "20; k3, p2, k4, p2, k4, p2, k3; k3, p2, k4, p2, k4, p2, k3; "
     "k3, p2, 2/2 RC, p2, 2/2 LC, p2, k3; k3, p2, k4, p2, k4, p2, k3"),
    ("R1: k4, p2\nR2: k4, p2\nNext row: 2/2 LC, p2", "6; k4, p2; k4, p2; 2/2 LC, p2"),
    ("Foundation row: p2, k4, p2\nRow 1: p2, 2/2 LC, p2\nRow 2: p2, k4, p2", "8; p2, 2/2 LC, p2; p2, k4, p2"),
    ("Rows 2, 4, 6 & 8 (WS): Purl.\nRows 1, 5: k8\nRow 3: C8F\nRow 7: k 8", "8; k8; k8; 4/4 LC; k8; k8; k8; k8; k8"),
    ("Set-up row 1: p2, k4, p2\nRow 1 (RS): knit the knits and purl the purls\nRow 2: work sts as they appear",
     "8; p2, k4, p2; p2, k4, p2"),
    ("Row 1 (RS): p2, k2\nRow 2: sl 2 wyif, sl 2 wyif\nRow 3: knit the knits and purl the purls",
     "4; p2, k2; sl4 wyib; p2, k2"),
]  # fmt: skip


@pytest.mark.parametrize(("text", "wanted"), CORPUS, ids=range(len(CORPUS)))
def test_what_people_write_is_read_as_it_is_meant(text, wanted):
    chart = parse_chart(text)
    size, rows = meaning(wanted)
    assert chart.size_text == size
    for row, (before, box, after) in zip(chart.rows, rows, strict=True):
        # where a repeat was cut does not matter to the cloth; a row given whole is one repeat wide
        assert row.ops(1) == before + box + after
        assert "|" not in wanted or row.ops(3) == before + box * 3 + after or not (before or after)


def printed() -> list[tuple[str, str, str]]:
    """(text, meaning, how it is read) of every text in the corpus of printed manners."""
    out = []
    lines = (Path(__file__).parent / "prose_corpus.txt").read_text("utf-8").split("\n")
    for block in "\n".join(line for line in lines if not line.startswith("#")).split("\n== ")[1:]:
        head, texts = block.split("\n", 1)
        found = re.fullmatch(r"(.*?)(?: ; (round|marked|size \d))?", head)
        out += [(text.strip("\n"), found[1], found[2] or "") for text in texts.split("\n--\n")]
    return out


PRINTED = printed()


@pytest.mark.parametrize(("text", "wanted", "how"), PRINTED, ids=range(len(PRINTED)))
def test_rows_are_read_as_books_print_them(text, wanted, how):
    size = int(how[5:]) if how.startswith("size") else 0
    chart = read_prose(text, work="round" if how == "round" else None, size=size).chart
    head, *_ = wanted.split("; ") if ";" in wanted else ("", wanted)
    rows = re.split(r" / ", wanted.split("; ", 1)[-1])
    assert not head or chart.size_text == head
    assert chart.height == len(rows)
    for row, said in zip(chart.rows, rows, strict=True):
        parts = [parse_ops(p) for p in said.split("|")] if "|" in said else [(), parse_ops(said), ()]
        assert row.ops(1) == parts[0] + parts[1] + parts[2]
        assert "|" not in said or row.ops(3) == parts[0] + parts[1] * 3 + parts[2]


@pytest.mark.parametrize(
    ("text", "places", "says"),
    [
        ("Row 1: k2, zorp, p3, blip", [(1, 12), (1, 22)], "“zorp” is not an operation"),
        ("Row 1: K2, make a wee cable, p2", [(1, 12), (1, 17), (1, 19), (1, 23)], "make"),
        ("Row 1 (RS): p2\nRow 2: *p4, C4F; rep from * to last 5 sts, p4", [(2, 8)], "leave 5 stitches, but 4"),
        ("Row 1: k10 (12 sts)", [(1, 13)], "says 12 stitches, but it leaves 10"),
        ("Row 1: k4, C4F over next 6 sts", [(1, 16)], "takes 4"),
        ("Row 1: knit the knits and purl the purls", [(1, 8)], "first row"),
        ("Row 1: k4\nRow 2: as row 3", [(2, 8)], "no row 3"),
        ("Row 1: k2, (p2, k2), p2", [(1, 19)], "how often"),
        ("allow: nonsense\nRow 1: k2", [(1, 8)], "There is no warning"),
        ("Row 1: 8/2f LC", [(1, 8)], "where a centre lies"),
        ("Row 1: 3/3 LC rib", [(1, 8)], "whole ribs"),
        ("Row 1: 4/4 LC dec", [(1, 8)], "2/2 or 3/3"),
        ("Set-up rows 1-3: k2\nRow 1: k2", [(1, 1)], "at most two"),
    ],
)
def test_what_is_not_understood_is_pointed_at_word_by_word(text, places, says):
    with pytest.raises(InvalidText) as caught:
        parse_chart(text)
    assert [(p.line, p.column) for p in caught.value.problems] == places
    assert says in caught.value.problems[0].message


def test_an_ambiguous_cable_in_prose_is_refused_with_its_choices_and_its_place():
    with pytest.raises(AmbiguousText) as caught:
        parse_chart("Row 1 (RS): K2, *P4, C5F; repeat from * to last 6 sts, P4, k2")
    (problem,) = caught.value.problems
    assert (problem.line, problem.column) == (1, 22)
    assert "2/3 LC or 3/2 LC" in problem.message


def test_the_reader_can_be_told_whether_unmarked_rows_are_flat_or_rounds():
    text = "Row 1: k2, p1\nRow 2: p1, k2"
    assert parse_chart(text).ops(2) == parse_ops("p1, k2")
    assert parse_chart(text, work="flat").ops(2) == parse_ops("p2, k1")
    assert parse_chart(text.replace("Row 1", "Row 1 (RS)")).ops(2) == parse_ops("p2, k1")
    assert parse_chart(text.replace("Row 1", "Row 1 (RS)"), work="round").ops(2) == parse_ops("p1, k2")
    assert audit_chart(parse_chart(text)) == ()


WORDS = "row 1 2 3 (RS) (WS): ; , . * k p k2 p3 C4F 2/2 LC rep from * to last sts ( ) [ ] times twice knit the knits"
WORDS += " and purl across set-up rows all WS even multiple of 8 plus 4 name: allow: (24 sts) until 5 remain 3/ x – \n"
WORDS += " # as row 1"


@examples(80)
@given(st.lists(st.sampled_from(WORDS.split(" ")), max_size=40).map(" ".join))
def test_no_heap_of_words_does_anything_but_be_read_or_refused_where_it_stands(text):
    try:
        chart = read_any(text)
    except (InvalidText, AmbiguousText) as error:
        assert all(p.message and p.line >= 1 and p.column >= 1 for p in error.problems)
        assert max(p.line for p in error.problems) <= text.count("\n") + 1
    else:
        audit_chart(chart)

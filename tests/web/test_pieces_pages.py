"""The page of pieces beside the chair's own page of each piece and copy: they are asked apart and must agree."""

from __future__ import annotations

import re

import pytest
from starlette.testclient import TestClient

from cablux.demo.loader import DEMO

from .reading import Text


def chair(client: TestClient, base: str, copy: int) -> tuple[int, int]:
    """Rows done and rows in all, as the chair counts them."""
    page = client.get(f"{base}/chairside?which={copy}").text
    done, total = (re.search(rf'data-{name}="(\d+)"', page) for name in ("rows", "total"))
    assert done and total
    return int(done[1]), int(total[1])


@pytest.mark.parametrize("number", range(1, len(DEMO) + 1))
def test_each_card_tells_how_far_its_copies_are_and_leads_to_the_one_to_go_on_with(
    client: TestClient, number: int
) -> None:
    cards = client.get(f"/projects/{number}/pieces").text.split("<article ")[1:]
    places = []
    for card in cards:
        link = re.search(r'href="(/projects/[\d-]+)/chairside(?:\?which=(\d+))?"[^>]*>\s*([^<]+?)\s*<', card)
        assert link
        base, copy, label = link[1], int(link[2] or 1), link[3]
        places.append(base)
        told = re.findall(r"(?:(\d+) of \d+: )?(\d+) of\s+(\d+)\s+(?:row|round)s done", str(Text(card)))
        copies = [chair(client, base, at) for at in range(1, len(told) + 1)]
        assert [(int(done), int(total)) for _, done, total in told] == copies
        assert [int(which) for which, _, _ in told if which] == ([*range(1, len(told) + 1)] if len(told) > 1 else [])
        begun = [at for at, (done, total) in enumerate(copies, start=1) if 0 < done < total]
        left = [at for at, (done, total) in enumerate(copies, start=1) if done < total]
        assert copy == (begun or left or [len(copies)])[0]
        done = copies[copy - 1][0]
        assert label in (
            [f"Knit row {done + 1}", f"Knit round {done + 1}"] if left else ["See the last row", "See the last round"]
        )
    assert len({*places}) == len(cards) >= 1


def test_a_copy_that_is_begun_is_gone_on_with_before_one_that_is_not(client: TestClient) -> None:
    """Of two leg warmers the second is begun first, then the first."""
    number = [name for name, _ in DEMO].index("fulmar-leg-warmers.json") + 1
    base = f"/projects/{number}"
    before = chair(client, base, 1)[0]
    for row in range(before, 0, -1):
        client.post(f"{base}/chairside/undo", data={"row": str(row)})
    client.post(f"{base}/chairside/jump", data={"row": "2", "which": "2"})
    assert f'href="{base}/chairside?which=2"' in client.get(f"{base}/pieces").text
    client.post(f"{base}/chairside/jump", data={"row": "1"})
    assert f'href="{base}/chairside"' in client.get(f"{base}/pieces").text.partition("<article")[2]

"""Refreshes docs/screenshots from the demo data: one picture of each main view.

Run: make shots
"""

from __future__ import annotations

import re
import subprocess
import sys
import tempfile
from pathlib import Path

from playwright.sync_api import sync_playwright

ROOT = Path(__file__).parents[1]
OUT = ROOT / "docs" / "screenshots"
DESK, PHONE = (1280, 800), (390, 844)
VIEWS = [
    ("projects", "/", DESK, "day"),
    ("new-project", "/projects/new", DESK, "day"),
    ("shape", "/projects/new/cardigan", DESK, "day"),
    ("pieces", "/projects/16/pieces", DESK, "day"),
    ("sizes", "/projects/16/sizes?size=woman+S&size=woman+M&size=woman+L&size=woman+1X&all=true", DESK, "day"),
    ("gauge", "/projects/3/gauge", DESK, "day"),
    ("swatches", "/swatches", DESK, "day"),
    ("piece", "/projects/3/cloth", DESK, "day"),
    ("bench", "/projects/3/bench?selected=8", DESK, "day"),
    ("cast-on", "/projects/3/cast-on", DESK, "day"),
    ("squares", "/projects/7/squares", DESK, "day"),
    ("pattern", "/projects/3/pattern", DESK, "day"),
    ("booklet", "/projects/3/booklet", DESK, "day"),
    ("mistake", "/projects/3/chairside/mistake?what=wrong-lean&row=43&section=3&seen=46", DESK, "day"),
    ("drawer", "/drawer?use=panel&widest=20", DESK, "day"),
    ("panel", "/drawer/diamond-lace", DESK, "day"),
    ("composer", "/composer/1?row=9&cell=8", DESK, "day"),
    ("reading", "/composer/new", DESK, "day"),
    ("chairside", "/projects/3/chairside", PHONE, "day"),
]


PRINTED = """Cr5R: slip 3 to cn and hold in back, k2, slip the purl st
back to left needle and purl it, k2 from cn.
Multiple of 9 sts.
Row 1 (RS): P2, Cr5R, P2
Row 2: K the knits and P the purls
Rows 3, 5, 7: p2, k2, p1, k2, p2
Rows 4, 6, 8: as row 2"""


def main() -> None:
    """Starts the demo on a folder of its own, takes the pictures, stops it."""
    OUT.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as data, sync_playwright() as playwright:
        env = {"PATH": "/usr/bin:/bin", "CABLUX_DATA": data}
        command = [Path(sys.executable).parent / "cablux", "demo", "--port", "0"]
        server = subprocess.Popen(command, stdout=subprocess.PIPE, text=True, env=env)
        assert server.stdout
        url = re.search(r"http://[\d.:]+", server.stdout.readline())
        assert url
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu", "--force-color-profile=srgb"]
        )
        for name, address, (width, height), theme in VIEWS:
            context = browser.new_context(viewport={"width": width, "height": height})
            context.add_cookies([{"name": "theme", "value": theme, "url": url[0]}])
            page = context.new_page()
            page.goto(url[0] + address)
            page.wait_for_load_state("networkidle")
            if name == "reading":
                page.get_by_label("Rows", exact=True).fill(PRINTED)
                page.get_by_role("button", name="Read the rows").click()
                page.get_by_role("button", name="Save to the drawer").wait_for()
            if name == "piece":
                painted = "() => clothOf(document.querySelector('[data-cloth]'))?.complete"
                page.wait_for_function(painted, timeout=60_000)
                for _ in range(4):
                    page.get_by_role("button", name="Zoom in").click()
                page.wait_for_function(painted)
            if name == "booklet":
                page.locator(".booklet-pages img").first.wait_for(timeout=60_000)
                page.wait_for_function(
                    "() => [...document.querySelectorAll('.booklet-pages img')].slice(0, 3).every((i) => i.complete)"
                )
            if name == "mistake":
                page.wait_for_function("() => document.querySelector('.relief-near').naturalWidth > 0", timeout=60_000)
            page.screenshot(path=OUT / f"{name}.png")
            context.close()
        browser.close()
        server.terminate()
        server.wait()
        server.stdout.close()


if __name__ == "__main__":
    main()

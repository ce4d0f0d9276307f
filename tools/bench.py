"""Measures the budgets of the design and prints them; nothing here fails, since times belong to a machine.

Run: make bench, or with --short everything once, which tells nothing of times but that it runs; --demo FILE: with the
demo's database as it is there
"""

from __future__ import annotations

import gzip
import resource
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import replace
from importlib import resources
from pathlib import Path
from urllib.request import urlopen

import numpy as np
from starlette.testclient import TestClient

from cablux.core.counts.solver import solve_layout
from cablux.core.ends.cast_on import plan_cast_on
from cablux.core.fabric.constants import FITTED
from cablux.core.fabric.draw_in import compute_draw_in
from cablux.core.fabric.multilevel import TwoLevel
from cablux.core.fabric.network import Network, build_piece, build_tile
from cablux.core.fabric.relax import relax_tile
from cablux.core.fabric.springs import spring_system
from cablux.core.gauge import Evidence, Gauge
from cablux.core.library import LIBRARY
from cablux.core.needle.stations import Station
from cablux.core.notation import audit_chart, format_flat, parse_chart
from cablux.core.pattern import compile_piece
from cablux.core.pattern.cloth import relax_pattern
from cablux.core.pattern.words import pattern_words
from cablux.core.piece.border import Border
from cablux.core.piece.piece import Band, Piece, count_stations, station_plan
from cablux.core.piece.segment import Segment, library_segment
from cablux.core.piece.widths import body_um
from cablux.core.rows.heights import plan_rows
from cablux.core.rows.shaped_band import shape_band
from cablux.core.shaping import EdgeShaped
from cablux.demo.loader import prepare_demo
from cablux.render.booklet import write_pages, write_pdf
from cablux.service.bench import offers as bench
from cablux.service.booklet import build_booklet
from cablux.service.exchange.project_file import fresh_project, read_project
from cablux.service.projects import with_added
from cablux.settings import Settings
from cablux.web.app import PREPARE_AFTER, create_app
from cablux.web.server import keep_for_good

SHORT = "--short" in sys.argv
DEMO_DATA = next((Path(sys.argv[at + 1]) for at, word in enumerate(sys.argv) if word == "--demo"), None)
"""A database of the demo that is there already; without it one is made."""
TALL = 1150.0 if SHORT else 2350.0
"""Millimetres that 600 rows are high."""
PAGE = (
    "cablux.css",
    "cablux.js",
    "turns.js",
    "bench.js",
    "cloth.js",
    "loops.js",
    "vendor/htmx.min.js",
    "vendor/alpine-csp.min.js",
)


def milliseconds(action: Callable[[], object], times: int) -> list[float]:
    """Sorted wall times of an action."""
    out = []
    for _ in range(1 if SHORT else times):
        begin = time.perf_counter()
        action()
        out.append((time.perf_counter() - begin) * 1e3)
    return sorted(out)


def show(what: str, times: list[float], budget: str) -> None:
    """One line: median, 95th percentile, worst, budget."""
    p95 = times[min(len(times) - 1, int(0.95 * len(times)))]
    print(
        f"{what:<58} p50 {statistics.median(times):7.1f}  p95 {p95:7.1f}  worst {times[-1]:7.1f} ms   budget {budget}"
    )


def big_throw() -> Piece:
    """Twelve segments, 300 stitches, about 400 rows: the bench's own yardstick."""
    panels = ["rope-3-3-right", "braid-9", "honeycomb", "braid-9", "rope-3-3-left"]
    inner: list[Segment] = []
    for i, name in enumerate(panels):
        inner += [
            library_segment("background", "reverse-stockinette", 30),
            library_segment("panel", name, 4 if i == 2 else 1),
        ]
    edge = library_segment("edge", "garter", 6)
    used = sum(s.stitches for s in inner) + 2 * edge.stitches
    inner[0] = library_segment("background", "reverse-stockinette", 30 + 300 - used)
    return Piece(
        name="big",
        width_mm=1500,
        height_mm=1550,
        evidence=Evidence(gauge=Gauge(18, 25)),
        bands=(Band(own=(edge, *inner, edge)),),
        tolerance_mm=20,
    )


def tiles() -> None:
    """Draw-in of one panel tile, cold and cached."""
    relax_tile(build_tile(LIBRARY["braid-6"].chart, 1), 1.4)
    charts = [(p.chart, 1 if "panel" in p.uses else 0) for p in list(LIBRARY.values())[:: 8 if SHORT else 1]]
    cold = sorted(
        t for chart, n in charts for t in [min(milliseconds(lambda c=chart, n=n: relax_tile(build_tile(c, n), 1.4), 3))]
    )
    show(f"draw-in of one tile, cold ({len(charts)} library patterns)", cold, "50")
    compute_draw_in(charts[0][0], 1.4, 1)
    show("draw-in of one tile, cached", milliseconds(lambda: compute_draw_in(charts[0][0], 1.4, 1), 200), "1")


def one_solve(net: Network) -> Callable[[], object]:
    """One direct sparse solution of the same size and pattern as a Newton step of this network, as a measure."""
    from scipy import sparse
    from scipy.sparse.linalg import spsolve

    s = spring_system(net, 25 / 18, FITTED)
    forms = TwoLevel(s, net).forms.astype(float)
    weights = np.random.default_rng(1).uniform(0.1, 1.0, forms.shape[0])
    matrix = (forms.T @ sparse.diags_array(weights) @ forms + 1e-3 * sparse.eye_array(s.size)).tocsc()
    return lambda: spsolve(matrix, np.ones(s.size))


def pieces() -> None:
    """Whole pieces relaxed, nothing cached, beside one direct sparse solution of the same size."""
    tile = build_piece([[row.ops()] for row in LIBRARY["diamond-moss"].chart.rows])
    show(f"one sparse solution the size of a tile ({tile.loops} loops)", milliseconds(one_solve(tile), 5), "-")
    for height, budget in ((100.0, "-"),) if SHORT else ((600.0, "1000"), (1250.0, "-")):
        pattern = compile_piece(replace(big_throw(), height_mm=height))
        net = build_piece([[part.ops for part in row.parts] for row in pattern.rows])
        laid = milliseconds(lambda p=pattern: relax_pattern(p), 3)
        show(f"a piece of {net.loops} loops relaxed, converged", laid, budget)
        show("one sparse solution of the same size", milliseconds(one_solve(net), 1), "-")


def prepare(folder: Path) -> None:
    """Puts the demo's data into a folder, where there is any already."""
    if DEMO_DATA is not None:
        folder.mkdir(parents=True, exist_ok=True)
        shutil.copy(DEMO_DATA, folder / "cablux.db")


@contextmanager
def served(folder: Path) -> Iterator[str]:
    """The address of `cablux demo` on a folder, once its first page has come."""
    env = {"PATH": "/usr/bin:/bin", "CABLUX_DATA": str(folder)}
    command = [Path(sys.executable).parent / "cablux", "demo", "--port", "0"]
    with subprocess.Popen(command, stdout=subprocess.PIPE, text=True, env=env) as server:
        try:
            url = server.stdout.readline().split()[1] if server.stdout else ""
            with urlopen(url) as page:
                assert page.status == 200
            yield url
        finally:
            server.terminate()


def start(folder: Path) -> None:
    """From the command to the first page, the data already there; and what is drawn in a browser."""
    prepare(folder)
    runs = []
    for last in (True,) if SHORT else (False, False, False, True):
        begin = time.perf_counter()
        with served(folder) as url:
            runs.append((time.perf_counter() - begin) * 1e3)
            if last:
                frames(url)
    show("start to first page", sorted(runs[1:] or runs), "2000")


def frames(url: str) -> None:
    """Panning over a whole piece on the canvas, in a browser without a graphics card."""
    from playwright.sync_api import sync_playwright

    with sync_playwright() as playwright:
        chromium = "/usr/bin/chromium"
        browser = playwright.chromium.launch(executable_path=chromium, args=["--no-sandbox", "--disable-gpu"])
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{url}projects/{8 if SHORT else 3}/cloth")
        page.locator("[data-ready]").wait_for(timeout=120_000)
        loops = page.locator("[data-cloth]").get_attribute("data-ready")
        for closer in (4,) if SHORT else (0, 4, 8):
            page.get_by_role("button", name="Show all").click()
            for _ in range(closer):
                page.get_by_role("button", name="Zoom in").click()
            page.wait_for_timeout(100 if SHORT else 1500)
            times = page.evaluate(_PAN.replace("FRAMES", "8" if SHORT else "120"))
            show(f"a frame while panning over {loops} loops, closer × {closer}", sorted(times), "16.7")
        browser.close()


_PAN = """async () => {
  const cloth = clothOf(document.querySelector('[data-cloth]'));
  const times = [];
  for (let i = 0; i < FRAMES; i++) {
    cloth.at = [cloth.at[0] + 0.3 * Math.sin(i / 9), cloth.at[1] + 0.3 * Math.cos(i / 9)];
    cloth.draw();
    await new Promise((resolve) => requestAnimationFrame(resolve));
    times.push(cloth.spent);
  }
  return times;
}"""


def bench_changes(folder: Path) -> None:
    """A change on the bench over HTTP, answered with the new fan, needle and numbers; the answers apart."""
    with TestClient(create_app(Settings(data=folder))) as client:
        file = fresh_project(
            name="big", unit="cm", yarn="", width=150, height=155, tolerance=2, stitches=18, rows=25
        ).with_piece(big_throw())
        pid = client.app.state.projects.create(file)
        base, part = f"/projects/{pid}/bench", {"hx-request": "true"}
        client.get(base)
        time.sleep(0.0 if SHORT else PREPARE_AFTER + 3.0)  # the warming after the start is no part of a change
        count = iter(range(20, 1000))

        def change() -> None:
            client.post(f"{base}/stitches", data={"at": 3, "stitches": 20 + next(count) % 25}, headers=part)

        piece = client.app.state.projects.open(pid).piece
        view = piece.band_views[0]
        print(f"  the throw: {len(view.segments)} segments, {view.stitches} stitches")
        show("a change on the bench, over HTTP", milliseconds(change, 60), "p95 under 100")
        for name in ("closest", "most even", "least change", "panels wider", "repeats that fit"):
            proven = solve_layout(piece.band_views[0], name)
            times = milliseconds(
                lambda name=name: (solve_layout.cache_clear(), solve_layout(piece.band_views[0], name)), 10
            )
            show(f"{name}: {'proven' if proven and proven.optimal else 'not proven'}", times, "200")
        all_of_them = milliseconds(lambda: (solve_layout.cache_clear(), bench.bench_offers(piece.band_views[0])), 20)
        show("all five of them, fetched after the change", all_of_them, "-")
        client.get(f"/projects/{pid}/chairside")
        rows = iter(range(1, 1000))
        done = milliseconds(
            lambda: client.post(f"/projects/{pid}/chairside/done", data={"row": next(rows)}, headers=part), 40
        )
        show("tap “row done” to stored and shown", done, "50")
        page = client.get(base)
        own = len(gzip.compress(page.content)) + sum(
            len(gzip.compress(client.get(f"/static/{name}").content)) for name in PAGE
        )
        print(f"{'the bench page, styles and scripts, compressed':<58} {own / 1000:.0f} kB   budget 250 kB")


def patterns() -> None:
    """Compile, audit and words of 300 stitches by 600 rows, nothing cached."""
    piece = replace(big_throw(), name="tall", height_mm=TALL)

    def all_of_it() -> int:
        compile_piece.cache_clear()
        pattern = compile_piece(piece)
        pattern_words(pattern)
        return len(pattern.rows)

    times = milliseconds(all_of_it, 10)
    rows = len(compile_piece(piece).rows)
    show(f"compile + audit + words of {piece.band_views[0].stitches} × {rows}", times, "300")
    shaped = tapered(replace(big_throw(), name="tapered", bottom=Border(rows=0), top=Border(rows=0)), TALL)

    def shaped_rows() -> None:
        for cached in (compile_piece, shape_band, station_plan, count_stations, plan_cast_on, plan_rows):
            cached.cache_clear()
        compile_piece(shaped)

    times = milliseconds(shaped_rows, 10)
    counts = [row.after for row in compile_piece(shaped).rows]
    show(f"compile + audit, shaped, of {max(counts)} × {len(counts)}", times, "400")


def tapered(piece: Piece, height: float) -> Piece:
    """The piece shaped from two thirds of its width to all of it, and back a little."""
    wide = piece.width_mm
    stations = (
        Station(name="below", width_mm=0.66 * wide),
        Station(name="widest", width_mm=wide, at_mm=0.8 * height),
        Station(name="above", width_mm=0.9 * wide, at_mm=height),
    )
    return replace(piece, height_mm=height, bands=(replace(piece.bands[0], shaping=EdgeShaped(stations=stations)),))


def shaped_changes(folder: Path) -> None:
    """A change on the bench of one of four shaped pieces of 200 stitches by 300 rows, over HTTP."""
    with TestClient(create_app(Settings(data=folder))) as client:
        projects = client.app.state.projects
        whole = big_throw()
        own = tuple(s if s.is_panel else replace(s, repeats=max(2, s.repeats // 2)) for s in whole.bands[0].own)
        small = replace(whole, bands=(Band(own=own),), bottom=Border(rows=0), top=Border(rows=0))
        small = tapered(replace(small, width_mm=body_um(small.band_views[0]) / 1000.0), 1150.0)
        file = fresh_project(name="four", unit="cm", yarn="", width=90, height=90, tolerance=2, stitches=18, rows=25)
        place = projects.create(file.with_piece(small))
        for name in ("two", "three", "four more"):
            projects.change(place, name, lambda file, name=name: with_added(file, name, small))
        base, part = f"/projects/{place}-3/bench", {"hx-request": "true"}
        client.get(base)
        count = iter(range(10_000))

        def change() -> None:
            data = {"width-2": f"{0.8 * small.width_mm / 10.0 + next(count) % 20:.1f}"}
            assert client.post(f"{base}/shaping", data=data, headers=part).status_code == 200

        counts = [row.after for row in compile_piece(projects.open(place).piece).rows]
        show(
            f"a change of one of 4 shaped pieces of {max(counts)} × {len(counts)}",
            milliseconds(change, 40),
            "p95 under 100",
        )


def charts() -> None:
    """A chart of 300 × 600 read from text and audited: every row written out, none like another by name."""
    pattern = compile_piece(replace(big_throw(), name="tall", height_mm=TALL))
    rows = [row for row in pattern.rows if row.section == "body"]
    rows = (rows * 2)[:600]
    lines = [f"row {n} ({row.side}): {format_flat(row.worked)}" for n, row in enumerate(rows, start=1)]
    text = f"multiple: {rows[0].before}\n" + "\n".join(lines)
    assert not audit_chart(parse_chart(text))
    times = milliseconds(lambda: audit_chart(parse_chart(text)), 10)
    show(f"a chart of {rows[0].before} × {len(rows)} read and audited ({len(text) // 1000} kB)", times, "300")


def composing(folder: Path) -> None:
    """A move in the composer over HTTP, a panel of 40 stitches by 60 rows, and the relief that follows it."""
    with TestClient(create_app(Settings(data=folder))) as client:
        number = client.app.state.panels.new("big", "p4, (k4, p4) 4 times, k4", 60)
        part, odd = {"hx-request": "true"}, iter(range(10_000))

        def move() -> None:
            row = 2 * (next(odd) % 29) + 3
            data = {"action": "cross-left", "row": row, "cell": 5}
            client.post(f"/composer/{number}/do", data=data, headers=part)

        show("a move in the composer, over HTTP (40 × 60)", milliseconds(move, 30), "(150)")

        def relief() -> None:
            pattern = client.app.state.panels.open(number).pattern
            client.get(f"/relief/{pattern.id}.svg?repeats=1")

        def both() -> None:
            move()
            relief()

        show("the same with its relief", milliseconds(both, 10), "(500)")


def booklets() -> None:
    """The demo throw's booklet: its content, its pages, all of it."""
    text = (resources.files("cablux.demo") / "skerry-throw.json").read_text("utf-8")
    book = build_booklet(read_project(text))
    show("booklet of the demo throw, content", milliseconds(lambda: build_booklet(read_project(text)), 5), "")
    pages = len(write_pages(book))
    show(
        f"booklet of the demo throw, PDF of {pages} pages with charts", milliseconds(lambda: write_pdf(book), 5), "1 s"
    )


def at_the_chair(folder: Path) -> None:
    """What a mistake costs, and the rows that are kept for a lost connection."""
    settings = Settings(data=folder)
    prepare_demo(settings)
    with TestClient(create_app(settings)) as client:
        base = "/projects/3/chairside"
        query = "what=wrong-lean&row=43&section=3&seen=80"
        show("ways out of a mistake", milliseconds(lambda: client.get(f"{base}/mistake?{query}"), 5), "")
        show("the next 20 rows, kept for a lost connection", milliseconds(lambda: client.get(f"{base}/ahead"), 5), "")


def main() -> None:
    """Everything, one line each."""
    keep_for_good()  # as the program does before it listens
    with tempfile.TemporaryDirectory() as folder:
        tiles()
        pieces()
        patterns()
        charts()
        composing(Path(folder) / "c")
        booklets()
        at_the_chair(Path(folder) / "e")
        bench_changes(Path(folder) / "a")
        shaped_changes(Path(folder) / "d")
        start(Path(folder) / "b")
    memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1000
    print(f"{'memory of this process at its most':<58} {memory:.0f} MB   budget of the server 300 MB")


if __name__ == "__main__":
    main()

"""The panel drawer: the library and the knitter's own panels, searched by what knitters look for."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ...core.fabric.draw_in import compute_draw_in
from ...core.library import LIBRARY, StitchPattern
from ...core.notation import Chart
from ...core.pattern.chartwords import ChartWords, Work, chart_words, laid_for_work
from ...core.pattern.facts import ATTENTION, Facts, pattern_facts
from ...core.pattern.wording import PLAIN_WORDS, Wording
from ...core.practice import ROWS_TO_STITCHES
from ...render.chartfile import panel_svg
from ...store import repository
from ...store.database import Database
from ..errors import NotFound
from ..exchange import OWN, PatternFile
from .chart_key import KeyEntry, key_of
from .own_panels import Panels


@dataclass(frozen=True)
class DrawerEntry:
    """A pattern in the drawer; `panel` is the number of the knitter's own panel that it is, or 0."""

    pattern: StitchPattern
    panel: int = 0

    @property
    def facts(self) -> Facts:
        """What it is like."""
        return pattern_facts(self.pattern)

    @property
    def use(self) -> Literal["panel", "background", "edge"]:
        """What it is mostly for."""
        uses = self.pattern.uses
        return "panel" if "panel" in uses else "background" if "background" in uses else "edge"

    @property
    def other_lean(self) -> StitchPattern | None:
        """The pattern of the library that is this one in a mirror, if it is one of a left and right pair."""
        for lean, other in (("-left", "-right"), ("-right", "-left")):
            if self.pattern.id.endswith(lean):
                return LIBRARY.get(self.pattern.id.removesuffix(lean) + other)
        return None

    @property
    def repeats(self) -> int:
        """How often its box is worked in a thumbnail: ten stitches of cloth or more, so that all are of one scale."""
        if self.use != "panel":
            return max(1, 14 // self.pattern.chart.multiple)
        return max(1, int(10.0 / (self.facts.stitches * self.facts.draw_in)))

    @property
    def tall(self) -> int:
        """How tall its thumbnail is, in tenths of a stitch: a little taller than wide."""
        across = 10.0 * self.pattern.chart.width(self.repeats) * self.facts.draw_in
        return int(max(110.0, 1.1 * across))


@dataclass(frozen=True, kw_only=True)
class Search:
    """What a knitter looks for; what is empty or 0 does not matter. `every`: rows from crossing to crossing."""

    q: str = ""
    use: Literal["", "panel", "background", "edge"] = ""
    widest: int = 0
    tallest: int = 0
    draws: Literal["", "hardly", "some", "much"] = ""
    attention: Literal["", "from memory", "a glance now and then"] = ""
    reversible: bool = False
    no_needle: bool = False
    own: bool = False
    every: int = 0

    def fits(self, entry: DrawerEntry) -> bool:
        """Whether a pattern is what is looked for."""
        if (self.use and self.use not in entry.pattern.uses) or (self.own and not entry.panel):
            return False
        if not all(word in search_words(entry) for word in self.q.lower().split()):
            return False
        known = entry.facts
        wanted = ATTENTION.index(self.attention) if self.attention else len(ATTENTION)
        return (
            (not self.widest or known.stitches <= self.widest)
            and (not self.tallest or known.rows <= self.tallest)
            and (not self.draws or known.draws == self.draws)
            and ATTENTION.index(known.attention) <= wanted
            and (not self.reversible or known.reversible)
            and (not self.no_needle or known.needles == 0)
            and (not self.every or crossing_every(entry.pattern.chart) == self.every)
        )


def crossing_every(chart: Chart) -> int:
    """The fewest rows from one crossing row to the next, round the repeat; 0 where nothing crosses."""
    rows = chart.crossing_rows
    if not rows:
        return 0
    return min((b - a - 1) % chart.height + 1 for a, b in zip(rows, (*rows[1:], rows[0]), strict=True))


def search_words(entry: DrawerEntry) -> str:
    """All the words under which a pattern is found."""
    p = entry.pattern
    return " ".join((p.name, p.family, p.note, *p.tags, *p.uses, "my own" if entry.panel else "")).lower()


class Drawer:
    """The drawer of one database."""

    def __init__(self, database: Database, panels: Panels) -> None:
        self.database, self.panels = database, panels

    def entries(self) -> list[DrawerEntry]:
        """Own panels first, the last changed before the others; then the library, panels before backgrounds."""
        own = [DrawerEntry(p.pattern, p.id) for p in self.panels.all() if p.pattern]
        order = ("panel", "background", "edge")
        library = sorted((DrawerEntry(p) for p in LIBRARY.values()), key=lambda e: (order.index(e.use), _place(e)))
        return own + library

    def search(self, search: Search) -> list[DrawerEntry]:
        """What fits; of a left and right pair the left one, which leads to the other."""
        found = [entry for entry in self.entries() if search.fits(entry)]
        ids = {entry.pattern.id for entry in found}
        return [e for e in found if not (e.pattern.id.endswith("-right") and e.other_lean and e.other_lean.id in ids)]

    def find(self, pattern_id: str) -> DrawerEntry:
        """A pattern by id: of the library, of a panel as it is now, or as it was placed once. Raises NotFound."""
        if pattern_id in LIBRARY:
            return DrawerEntry(LIBRARY[pattern_id])
        if pattern_id.startswith(OWN):
            for panel in self.panels.all():
                if panel.pattern and panel.pattern.id == pattern_id:
                    return DrawerEntry(panel.pattern, panel.id)
            with self.database.reading() as session:
                kept = repository.kept_pattern(session, pattern_id)
            if kept:
                return DrawerEntry(PatternFile.model_validate_json(kept).pattern())
        raise NotFound("The drawer has no such pattern.")

    def pattern(self, pattern_id: str) -> StitchPattern:
        """The pattern of an entry by id. Raises NotFound."""
        return self.find(pattern_id).pattern


_FAMILIES = ("rope", "braid", "wave", "honeycomb", "diamond", "lattice", "twist", "lace", "figure", "texture", "ground")


def _place(entry: DrawerEntry) -> tuple[int, int, str]:
    family = entry.pattern.family
    return _FAMILIES.index(family) if family in _FAMILIES else 99, entry.pattern.least, entry.pattern.name


@dataclass(frozen=True, kw_only=True)
class PatternPage:
    """A pattern's own page."""

    entry: DrawerEntry
    svg: str
    words: tuple[ChartWords, ...]
    over: str
    key: tuple[KeyEntry, ...]
    converged: bool


def pattern_page(entry: DrawerEntry, wording: Wording = PLAIN_WORDS, work: Work = "flat") -> PatternPage:
    """All that a pattern's page shows."""
    pattern = entry.pattern
    tile = compute_draw_in(pattern.chart, ROWS_TO_STITCHES, 1 if entry.use == "panel" else 0)
    return PatternPage(
        entry=entry,
        svg=panel_svg(pattern.chart, pattern.family),
        words=chart_words(laid_for_work(pattern.chart, work), wording, work),
        over=laid_for_work(pattern.chart, work).size_text,
        key=key_of(op for row in (*pattern.chart.setup, *pattern.chart.rows) for op in row.ops()),
        converged=tile.converged,
    )

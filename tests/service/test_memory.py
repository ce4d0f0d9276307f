"""The memory of draw-ins between runs: kept, never trusted blindly."""

from __future__ import annotations

from cablux.core.fabric import tile
from cablux.core.library import LIBRARY
from cablux.service.memory import FILE, recall, store


def test_what_was_computed_is_taken_back_and_a_damaged_file_is_ignored(tmp_path, monkeypatch):
    chart = LIBRARY["braid-6"].chart
    computed = tile.draw(chart, 1.41, 1)
    store(tmp_path)
    monkeypatch.setattr(tile, "_remembered", {})
    tile.draw.cache_clear()
    recall(tmp_path)
    monkeypatch.setattr(tile, "relaxed_tile", None)  # must not be needed
    assert tile.draw(chart, 1.41, 1) == computed
    for damage in ("{", "[]", '{"x": {"y": 1}}'):
        (tmp_path / FILE).write_text(damage)
        recall(tmp_path)
    tile.draw.cache_clear()


def test_what_is_being_kept_does_not_change_while_others_compute(monkeypatch):
    chart = LIBRARY["braid-6"].chart
    monkeypatch.setattr(tile, "_remembered", {"one": tile.draw(chart, 1.41, 1)})
    for key in tile.remembered():
        tile.remember({f"{key} more": tile.draw(chart, 1.41, 1)})  # as the warming thread does
    assert len(tile.remembered()) == 2

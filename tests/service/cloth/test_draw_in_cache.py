"""The memory of draw-ins between runs: kept, never trusted blindly."""

from __future__ import annotations

from cablux.core.fabric import draw_in as tile
from cablux.core.library import LIBRARY
from cablux.service.cloth.draw_in_cache import FILE, load_draw_ins, save_draw_ins


def test_what_was_computed_is_taken_back_and_a_damaged_file_is_ignored(tmp_path, monkeypatch):
    chart = LIBRARY["braid-6"].chart
    computed = tile.compute_draw_in(chart, 1.41, 1)
    save_draw_ins(tmp_path)
    monkeypatch.setattr(tile, "_remembered", {})
    tile.compute_draw_in.cache_clear()
    load_draw_ins(tmp_path)
    monkeypatch.setattr(tile, "relaxed_tile", None)  # must not be needed
    assert tile.compute_draw_in(chart, 1.41, 1) == computed
    for damage in ("{", "[]", '{"x": {"y": 1}}'):
        (tmp_path / FILE).write_text(damage)
        load_draw_ins(tmp_path)
    tile.compute_draw_in.cache_clear()


def test_what_is_being_kept_does_not_change_while_others_compute(monkeypatch):
    chart = LIBRARY["braid-6"].chart
    monkeypatch.setattr(tile, "_remembered", {"one": tile.compute_draw_in(chart, 1.41, 1)})
    for key in tile.known_draw_ins():
        tile.restore_draw_ins({f"{key} more": tile.compute_draw_in(chart, 1.41, 1)})  # as the warming thread does
    assert len(tile.known_draw_ins()) == 2

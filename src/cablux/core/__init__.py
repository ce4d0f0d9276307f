"""The rules and the computation of cabled knitting: no interface, no database, no clock.

The names listed in the stub beside this file are its public face; each is fetched when it is first asked for, since the
command line wants few of them, and at once. A scarf of 30 cm with one rope, its backgrounds as a suggestion has them,
and how many stitches to cast on for it:

>>> from cablux.core import Band, Evidence, Gauge, Piece, library_segment, plan_cast_on, solve_layouts
>>> edge = library_segment("edge", "garter", 5)
>>> background = library_segment("background", "reverse-stockinette", 20)
>>> rope = library_segment("panel", "rope-3-3-left", 1)
>>> band = Band(own=(edge, background, rope, background, edge))
>>> known = Evidence(gauge=Gauge(stitches=18, rows=25))
>>> wish = Piece(name="Scarf", width_mm=300.0, height_mm=1500.0, evidence=known, bands=(band,))
>>> suggested = solve_layouts(wish.band_views[0])
>>> [(answer.name, answer.stitches) for answer in suggested]
[('closest', 55), ('most even', 56), ('least change', 58)]
>>> scarf = wish.band_views[0].with_segments(suggested[0].segments).piece
>>> plan_cast_on(scarf).cast_on, plan_cast_on(scarf).body, round(suggested[0].width_um / 1000)
(52, 55, 298)
"""

from __future__ import annotations

import lazy_loader

__getattr__, __dir__, __all__ = lazy_loader.attach_stub(__name__, __file__)

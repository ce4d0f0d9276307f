"""Styles that pictures for paper and for files carry with them, in colour and for black ink."""

from __future__ import annotations

FILE_STYLE = """
.chart-ground,.chart-cell{fill:#fffdf8}.chart-purl{fill:#ebe5d8}.chart-ink{fill:#1e2a31}
.chart-grid{stroke:#d9d2c4;stroke-width:.6;fill:none}.chart-cell{stroke:#d9d2c4;stroke-width:.6}
.chart-section{stroke:#1e2a31;stroke-width:1.6;fill:none}
.chart-line{stroke:#1e2a31;stroke-width:1.8;fill:none;stroke-linecap:round}.chart-none{fill:#b9b2a4}
.chart-number,.chart-name{font-size:10.5px;fill:#1e2a31;font-family:sans-serif}
.chart-under{fill:#e5dfd2;stroke:#1e2a31;stroke-width:.9}.chart-over{stroke:#1e2a31;stroke-width:1.3}
.lean-l .chart-over{fill:#8fc1c3}.lean-r .chart-over{fill:#e3b0a0}
"""
_INK = """
.chart-ground,.chart-cell{fill:#fff}.chart-purl{fill:#fff}.chart-under{fill:#d4d4d4}
.lean-l .chart-over,.lean-r .chart-over{fill:#fff}.chart-grid,.chart-cell{stroke:#8a8a8a}.family{fill:#777}
"""
_COLOUR = """
.family-ground,.family-edge{fill:#cfc6b6}.family-texture{fill:#b9bfa4}.family-rope{fill:#2c6770}
.family-braid{fill:#7a618e}.family-wave{fill:#597438}.family-honeycomb{fill:#ac4a34}.family-diamond{fill:#85640f}
.family-lattice{fill:#5f6b24}.family-twist{fill:#3d5f8f}.family-lace{fill:#9a4a72}.family-figure{fill:#80563f}
"""
_SHEET = """
.chart-number,.chart-name{font-family:"Atkinson Hyperlegible Next",sans-serif}.begins{font-weight:bold}
.chart-tick{fill:none;stroke:#1e2a31;stroke-width:.7}.chart-again{fill:#1e2a31;fill-opacity:.12}
.chart-box{fill:none;stroke:#ac4a34;stroke-width:2.6}.ink .chart-box{stroke:#000;stroke-dasharray:5 2.5}
"""
_SCHEMATIC = """
text{font-family:"Atkinson Hyperlegible Next",sans-serif;font-size:12px;fill:#1e2a31}
.schematic-middle{text-anchor:middle;font-weight:bold;font-size:13px}
.schematic-body{fill:#f1ede4;stroke:#1e2a31;stroke-width:1.5;stroke-linejoin:round}
.schematic-border{fill:#dad3c5;stroke:#1e2a31;stroke-width:1.5}.schematic-panel{opacity:.75}
.schematic-seam{fill:none;stroke:#ac4a34;stroke-width:4;stroke-dasharray:5 3}
.schematic-measure,.schematic-tick{fill:none;stroke:#6b665c;stroke-width:1}
"""
_SCHEMATIC_INK = """
.schematic-body{fill:#fff}.schematic-border{fill:#e4e4e4}.schematic-seam{stroke:#000}
.schematic-panel{fill:#b4b4b4}
"""


def chart_style(*, colour: bool) -> str:
    """The style of a printed chart."""
    return FILE_STYLE + _SHEET + (_COLOUR if colour else _INK)


def styled_symbol(svg: str, *, colour: bool) -> str:
    """A chart's symbol with its own style."""
    return _styled(svg, chart_style(colour=colour))


def styled_schematic(svg: str, *, colour: bool) -> str:
    """A schematic with its own style."""
    return _styled(svg, _SCHEMATIC + (_COLOUR if colour else _SCHEMATIC_INK))


def _styled(svg: str, style: str) -> str:
    at = svg.index(">") + 1
    return f"{svg[:at]}<style>{style}</style>{svg[at:]}"

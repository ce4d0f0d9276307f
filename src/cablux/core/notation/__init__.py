"""Operations, crossings and charts; reading and writing row text in both dialects."""

from .audit import audit_chart
from .charts import Chart, ChartRow
from .charttext import format_chart, parse_chart
from .crossings import CrossedDecrease, Crossing, HalfCrossing, crossing
from .lint import lint_chart
from .operations import (
    Face,
    Lean,
    MadeLoop,
    Op,
    Side,
    faces,
    made_loops,
    makes,
    mirrored_row,
    side_of,
    takes,
    wrong_side_row,
)
from .repeats import shortest_text, until_remain
from .rowparser import parse_ops
from .rowtext import format_flat
from .shaping import K2TOG, SSK, Decrease, Increase, Into
from .stitches import (
    YO,
    BindOff,
    Bobble,
    CastOnLoop,
    DoubleStitch,
    Hold,
    K,
    Leave,
    NoStitch,
    P,
    Slip,
    Stitch,
    Turn,
    WrapTurn,
    YarnOver,
)
from .tokens import parse_op

__all__ = [
    "K2TOG",
    "SSK",
    "YO",
    "BindOff",
    "Bobble",
    "CastOnLoop",
    "Chart",
    "ChartRow",
    "CrossedDecrease",
    "Crossing",
    "Decrease",
    "DoubleStitch",
    "Face",
    "HalfCrossing",
    "Hold",
    "Increase",
    "Into",
    "K",
    "Lean",
    "Leave",
    "MadeLoop",
    "NoStitch",
    "Op",
    "P",
    "Side",
    "Slip",
    "Stitch",
    "Turn",
    "WrapTurn",
    "YarnOver",
    "audit_chart",
    "crossing",
    "faces",
    "format_chart",
    "format_flat",
    "lint_chart",
    "made_loops",
    "makes",
    "mirrored_row",
    "parse_chart",
    "parse_op",
    "parse_ops",
    "shortest_text",
    "side_of",
    "takes",
    "until_remain",
    "wrong_side_row",
]

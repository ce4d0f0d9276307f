"""Operations, crossings and charts; reading and writing row text in both dialects."""

from .charts import Chart, ChartRow, audit
from .charttext import format_chart, parse_chart
from .crossings import Crossing, crossing
from .operations import (
    K2TOG,
    SSK,
    YO,
    Decrease,
    Face,
    Increase,
    K,
    Lean,
    MadeLoop,
    Op,
    P,
    Side,
    Stitch,
    YarnOver,
    faces,
    made_loops,
    makes,
    mirrored_row,
    takes,
    wrong_side_row,
)
from .repeats import shortest
from .rowtext import format_flat, parse_ops
from .tokens import parse_op

__all__ = [
    "K2TOG",
    "SSK",
    "YO",
    "Chart",
    "ChartRow",
    "Crossing",
    "Decrease",
    "Face",
    "Increase",
    "K",
    "Lean",
    "MadeLoop",
    "Op",
    "P",
    "Side",
    "Stitch",
    "YarnOver",
    "audit",
    "crossing",
    "faces",
    "format_chart",
    "format_flat",
    "made_loops",
    "makes",
    "mirrored_row",
    "parse_chart",
    "parse_op",
    "parse_ops",
    "shortest",
    "takes",
    "wrong_side_row",
]

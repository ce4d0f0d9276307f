"""Answers: what is told of a project, a chart, a place or a mistake, as records that have no way back to the core."""

from .answer import Answer, answers_schema
from .chair import MendingWay, MendingWays, PanelPlace, RowsFound
from .chart import ChartCheck, ChartDoubt, ChartDrawIn, ChartMeasures, ChartProblem
from .shapes import AskedFor, ShapeAsked
from .size import (
    BandLayout,
    EdgeNamed,
    GradedPiece,
    JoinLength,
    LayoutOffer,
    Measured,
    OpeningAlong,
    PieceSize,
    ProjectSize,
    RowsInOne,
    SegmentCount,
    SizeNumbers,
    StationWidth,
)
from .spread import EvenSpread, SpreadRow
from .totals import ProjectTotals

__all__ = [
    "Answer",
    "AskedFor",
    "BandLayout",
    "ChartCheck",
    "ChartDoubt",
    "ChartDrawIn",
    "ChartMeasures",
    "ChartProblem",
    "EdgeNamed",
    "EvenSpread",
    "GradedPiece",
    "JoinLength",
    "LayoutOffer",
    "Measured",
    "MendingWay",
    "MendingWays",
    "OpeningAlong",
    "PanelPlace",
    "PieceSize",
    "ProjectSize",
    "ProjectTotals",
    "RowsFound",
    "RowsInOne",
    "SegmentCount",
    "ShapeAsked",
    "SizeNumbers",
    "SpreadRow",
    "StationWidth",
    "answers_schema",
]

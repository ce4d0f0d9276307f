"""Answers: what is told of a project, a chart, a place or a mistake, as records that have no way back to the core."""

from .answer import Answer, answers_schema
from .chair import MendingWay, MendingWays, PanelPlace, RowsFound
from .chart import ChartCheck, ChartDoubt, ChartDrawIn, ChartMeasures, ChartProblem
from .gauge import (
    EightInTen,
    MeasuredOnPiece,
    MethodVerdict,
    PatternWidth,
    ProjectGauge,
    ReadingWorth,
    StockinetteGauge,
    SwatchAdvice,
    SwatchInBook,
    SwatchInUse,
)
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
    "EightInTen",
    "EvenSpread",
    "GradedPiece",
    "JoinLength",
    "LayoutOffer",
    "Measured",
    "MeasuredOnPiece",
    "MendingWay",
    "MendingWays",
    "MethodVerdict",
    "OpeningAlong",
    "PanelPlace",
    "PatternWidth",
    "PieceSize",
    "ProjectGauge",
    "ProjectSize",
    "ProjectTotals",
    "ReadingWorth",
    "RowsFound",
    "RowsInOne",
    "SegmentCount",
    "ShapeAsked",
    "SizeNumbers",
    "SpreadRow",
    "StationWidth",
    "StockinetteGauge",
    "SwatchAdvice",
    "SwatchInBook",
    "SwatchInUse",
    "answers_schema",
]

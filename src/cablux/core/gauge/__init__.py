"""Gauge: what was measured, what is believed, and the estimate that joins them with the fabric model."""

from .estimate import EIGHTY, Basis, Estimate, UnitWidth, estimate
from .evidence import Evidence
from .gauge import Gauge
from .methods import METHODS, Measure, Method, MethodMeasure
from .priors import FIBRES, STATES, Along, Fibre, State
from .reading import Part, Reading, reading_worth

__all__ = [
    "EIGHTY",
    "FIBRES",
    "METHODS",
    "STATES",
    "Along",
    "Basis",
    "Estimate",
    "Evidence",
    "Fibre",
    "Gauge",
    "Measure",
    "Method",
    "MethodMeasure",
    "Part",
    "Reading",
    "State",
    "UnitWidth",
    "estimate",
    "reading_worth",
]

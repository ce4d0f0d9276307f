"""Gauge: what was measured, what is believed, and the estimate that joins them with the fabric model."""

from .estimate import EIGHTY, Basis, Estimate, UnitWidth, estimate
from .evidence import Evidence
from .gauge import Gauge
from .priors import FIBRES, STATES, Along, Fibre, State
from .reading import Part, Reading, reading_worth
from .schools import SCHOOLS, Measure, School, SchoolMeasure

__all__ = [
    "EIGHTY",
    "FIBRES",
    "SCHOOLS",
    "STATES",
    "Along",
    "Basis",
    "Estimate",
    "Evidence",
    "Fibre",
    "Gauge",
    "Measure",
    "Part",
    "Reading",
    "School",
    "SchoolMeasure",
    "State",
    "UnitWidth",
    "estimate",
    "reading_worth",
]

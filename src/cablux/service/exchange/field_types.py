"""Types of fields that the files share: names, ids, numbers; and lengths that stay as they were written."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, StringConstraints

from ...core.units import MM_PER, Unit, to_mm
from ..forms import PLAIN

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80, pattern=PLAIN)]
NoName = Annotated[str, StringConstraints(strip_whitespace=True, max_length=80, pattern=PLAIN)]
Id = Annotated[str, StringConstraints(pattern=r"^[a-z0-9-]{1,60}$")]
Finite = Annotated[float, Field(allow_inf_nan=False)]


def scaled_length(written: float, by: float) -> float:
    """A length that is so many times what was written, to a hundredth of a millimetre or what an inch's ruler shows."""
    return round(written * by, 3)


def kept_length(written: float, mm: float, unit: Unit) -> float:
    """A length as it was written if it is still the same, else what it has become, to a tenth of a millimetre."""
    return written if abs(to_mm(written, unit) - mm) < 1e-9 else round(mm / MM_PER[unit], 3)

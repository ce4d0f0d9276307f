"""What a project knows of its knitter and yarn, the same for all of its pieces."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from ..declared import Choosing
from .estimate import Basis, Estimate, estimate
from .gauge import Gauge
from .methods import Measure, Method, MethodMeasure
from .priors import Fibre, State
from .reading import Reading


@dataclass(frozen=True, kw_only=True)
class Evidence(Choosing):
    """The gauge given, in the state in which the pieces will be finished; the readings of swatches; and how one sizes.

    `fibre` says what washing is likely to do, `method` by what the layout is sized: the estimate, or a rule.
    """

    gauge: Gauge
    readings: tuple[Reading, ...] = ()
    finish: State = "washed"
    fibre: Fibre = "other"
    method: Method = "estimate"

    @cached_property
    def estimate(self) -> Estimate:
        """What is known of the cloth's size from the gauge given and every reading."""
        return self.outlook(())

    def outlook(self, progress: tuple[Reading, ...]) -> Estimate:
        """The estimate with what was measured on a piece itself too."""
        return estimate(
            Basis(gauge=self.gauge, readings=(*self.readings, *progress), finish=self.finish, fibre=self.fibre)
        )

    @cached_property
    def measure(self) -> Measure:
        """What a layout is sized by: the estimate, or the method that was chosen."""
        return self.estimate if self.method == "estimate" else MethodMeasure(self.method, self.estimate)

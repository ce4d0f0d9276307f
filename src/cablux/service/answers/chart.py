"""What is said of a chart: whether it adds up, and how far it draws in."""

from __future__ import annotations

from .answer import Answer


class ChartMeasures(Answer):
    """A chart's measures."""

    name: str
    multiple: int
    balance: int
    rows: int
    crossing_rows: tuple[int, ...]


class ChartProblem(Answer):
    """What is wrong, and where: 0 where a line, column, row or stitch does not apply."""

    message: str
    line: int
    column: int
    row: int
    stitch: int


class ChartDoubt(Answer):
    """What a skilled knitter would look at again, and what would mend it."""

    name: str
    message: str
    mend: str
    row: int
    stitch: int


class ChartCheck(Answer):
    """Whether a chart can be trusted: what is wrong with it, what to look at again, and its measures if it was read."""

    ok: bool
    problems: tuple[ChartProblem, ...]
    warnings: tuple[ChartDoubt, ...]
    chart: ChartMeasures | None


class ChartDrawIn(Answer):
    """A chart's draw-in and draw-up at a gauge, one multiple wide with its balance."""

    name: str
    stitches: int
    rows: int
    draw_in: float
    draw_up: float
    width_mm: float
    height_mm: float
    converged: bool
    iterations: int
    residual: float

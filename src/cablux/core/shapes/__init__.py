"""Shapes: the things people make, each in a file of its own, and the one place that lists them."""

from ..errors import IllegalPiece
from .asks import Answer, Answers, Ask, StandardSize, in_unit, read_answers
from .raglan.raglan import RAGLAN
from .shape import Made, MadePiece, Shape, Wanted
from .sweater.cardigan import CARDIGAN
from .sweater.pullover import PULLOVER
from .sweater.vest import VEST
from .things.bent_band import BENT_BAND
from .things.corner import CORNER
from .things.framed_square import FRAMED_SQUARE
from .things.hat import HAT
from .things.mitts import MITTS
from .things.rectangle import RECTANGLE
from .things.shawl import SHAWL
from .things.sock import SOCK
from .things.strip import STRIP
from .things.tube import TUBE

_ALL = (
    RECTANGLE,
    STRIP,
    TUBE,
    CORNER,
    FRAMED_SQUARE,
    HAT,
    MITTS,
    SOCK,
    BENT_BAND,
    SHAWL,
    PULLOVER,
    VEST,
    CARDIGAN,
    RAGLAN,
)
SHAPES: dict[str, Shape] = {shape.id: shape for shape in _ALL}


def find_shape(name: str) -> Shape:
    """A shape by its id. Raises IllegalPiece, naming those there are."""
    if name not in SHAPES:
        raise IllegalPiece(f"There is no shape “{name}”; these are there: {', '.join(sorted(SHAPES))}.")
    return SHAPES[name]


__all__ = [
    "SHAPES",
    "Answer",
    "Answers",
    "Ask",
    "Made",
    "MadePiece",
    "Shape",
    "StandardSize",
    "Wanted",
    "find_shape",
    "in_unit",
    "read_answers",
]

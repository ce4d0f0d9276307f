"""Shapes: the things people make, each in a file of its own, and the one place that lists them."""

from ..errors import IllegalPiece
from .asks import Answer, Answers, Ask, StandardSize, in_unit, read_answers
from .bent_band import BENT_BAND
from .cardigan import CARDIGAN
from .corner import CORNER
from .framed_square import FRAMED_SQUARE
from .hat import HAT
from .mitts import MITTS
from .pullover import PULLOVER
from .raglan import RAGLAN
from .rectangle import RECTANGLE
from .shape import Made, MadePiece, Shape, Wanted
from .sock import SOCK
from .strip import STRIP
from .tube import TUBE
from .vest import VEST

_ALL = (RECTANGLE, STRIP, TUBE, CORNER, FRAMED_SQUARE, HAT, MITTS, SOCK, BENT_BAND, PULLOVER, VEST, CARDIGAN, RAGLAN)
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

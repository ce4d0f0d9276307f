"""What the neck of a pullover or a vest is finished with: ribbing round it, or a hood from the middle of the front."""

from __future__ import annotations

from ...piece.piece import Piece
from ..bodies.garment_sizes import head_mm
from ..shape import Wanted
from .hood import hood
from .picked_bands import hood_sources, neckband
from .sweater_answers import SweaterAnswers
from .sweater_asks import COLLARS
from .sweater_body import SweaterBody


def neck_piece(wanted: Wanted[SweaterAnswers], body: SweaterBody) -> Piece:
    """The last piece of a body that goes over the head."""
    if wanted.answers.collar == COLLARS[1]:
        return hood(wanted, body, hood_sources(body), head_mm=head_mm(wanted.answers.for_))
    return neckband(body, wanted.answers.neckband_mm)

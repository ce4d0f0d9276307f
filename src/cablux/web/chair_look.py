"""How a knitter likes to be told at the chair, kept in a cookie of her device."""

from __future__ import annotations

from typing import Annotated, Any
from urllib.parse import parse_qsl, urlencode

from fastapi import Depends, Request
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from ..service.chair import CableWay, ChairLook, TextSize

COOKIE = "chair"
YEAR = 31_536_000


class LookForm(BaseModel):
    """The choices as a form or a cookie has them."""

    model_config = ConfigDict(extra="ignore")

    way: CableWay = "needle"
    hand: Annotated[str, Field(pattern="^(left|right)$")] = "right"
    letters: TextSize = "normal"
    markers: bool = False
    awake: bool = False
    together: bool = False
    rest: Annotated[int, Field(ge=0, le=180)] = 30

    @property
    def look(self) -> ChairLook:
        """What they say."""
        return ChairLook(
            way=self.way,
            left_handed=self.hand == "left",
            size=self.letters,
            markers=self.markers,
            awake=self.awake,
            rest=self.rest,
        )

    @property
    def cookie(self) -> str:
        """As they are kept."""
        return urlencode(self.model_dump())


def _kept(request: Request) -> LookForm:
    """The choices of this device; what cannot be read is as if nothing had been chosen."""
    kept: dict[str, Any] = dict(parse_qsl(request.cookies.get(COOKIE, "")))
    try:
        return LookForm.model_validate(kept)
    except ValidationError:
        return LookForm()


LookDep = Annotated[LookForm, Depends(_kept)]

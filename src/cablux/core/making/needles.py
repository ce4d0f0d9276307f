"""Needle sizes: millimetres, and the American and old British numbers that stand for them.

Millimetres are the size; the numbers are labels. American and old British numbers run in opposite directions (US 0 is
2 mm, old UK 0 is 8 mm), so a number is never taken, nor shown, without the system it belongs to.
"""

from __future__ import annotations

import re

from ..errors import InvalidText, Problem

LEAST_MM, MOST_MM = 0.5, 30.0

SIZES: tuple[tuple[float, str, str], ...] = (
    *((1.25, "0000", "18"), (1.5, "000", ""), (1.75, "00", "15"), (2.0, "0", "14"), (2.25, "1", "13")),
    *((2.5, "1½", ""), (2.75, "2", "12"), (3.0, "2½", "11"), (3.25, "3", "10"), (3.5, "4", ""), (3.75, "5", "9")),
    *((4.0, "6", "8"), (4.5, "7", "7"), (5.0, "8", "6"), (5.5, "9", "5"), (6.0, "10", "4"), (6.5, "10½", "3")),
    *((7.0, "10¾", "2"), (7.5, "", "1"), (8.0, "11", "0"), (9.0, "13", "00"), (10.0, "15", "000"), (12.0, "", "")),
    *((12.75, "17", ""), (15.0, "19", ""), (19.0, "35", ""), (20.0, "36", ""), (25.0, "50", "")),
)
"""(mm, US, old UK) of the sizes that are sold (common practice); the old UK numbers are those of the Imperial Standard
Wire Gauge, at the size sold that is nearest or next to it. US 17 is 12.75 mm; what is sold as 17 may be 12 mm."""

_TEXT = re.compile(
    r"\s*(?:(?P<system>us|uk|old\s+uk|no\.?\s+uk)\s*(?:no\.?|size)?\s*(?P<label>\d+(?:\s*½|\s*¾|\.\d+)?(?:\s*/\s*2)?)"
    r"|(?P<mm>\d+(?:[.,]\d+)?)\s*(?:mm)?)\s*",
    re.IGNORECASE,
)
_HALVES = {".5": "½", ".75": "¾"}
HOW = "Type the needle in millimetres, or as US 8 or UK 6."


def needle_mm(text: str) -> float:
    """The size in millimetres of a needle as people write it: `5`, `5 mm`, `US 8`, `UK 6`. Raises InvalidText.

    >>> needle_mm("US 8"), needle_mm("uk 6"), needle_mm("4,5 mm"), needle_mm("US 10.5")
    (5.0, 5.0, 4.5, 6.5)
    """
    found = _TEXT.fullmatch(text)
    if found is None:
        raise InvalidText((Problem(message=HOW),))
    if found["mm"]:
        mm = float(found["mm"].replace(",", "."))
        if not LEAST_MM <= mm <= MOST_MM:
            raise InvalidText((Problem(message=f"A needle is {LEAST_MM:g} to {MOST_MM:g} mm thick. {HOW}"),))
        return mm
    american = found["system"].lower() == "us"
    label = re.sub(r"\s", "", found["label"])
    label = re.sub(r"\.\d+$", lambda part: _HALVES.get(part[0], part[0]), label)
    for mm, us, uk in SIZES:
        if label == (us if american else uk):
            return mm
    raise InvalidText((Problem(message=f"There is no needle {'US' if american else 'UK'} {label}. {HOW}"),))


def needle_text(mm: float) -> str:
    """A needle's size with every label it has: `5 mm (US 8, UK 6)`.

    >>> needle_text(5.0), needle_text(5.2)
    ('5 mm (US 8, UK 6)', '5.2 mm')
    """
    for size, us, uk in SIZES:
        if abs(size - mm) < 0.01:
            labels = ", ".join(f"{system} {label}" for system, label in (("US", us), ("UK", uk)) if label)
            return f"{mm:g} mm ({labels})"
    return f"{mm:g} mm"

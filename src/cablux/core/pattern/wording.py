"""How a pattern is worded: the names of crossings, how repeats are counted, and the trade's terms on either side."""

from __future__ import annotations

import re
from dataclasses import dataclass

from ..notation import Op, mirrored_row, shortest_text, until_remain


@dataclass(frozen=True, kw_only=True)
class Wording:
    """A knitter's choices.

    `hold`: names like C6F instead of 3/3 LC. `until`: the longest repeat of a row counted down to what remains.
    `counts`: the stitch count after each row. `markers`: `sm` between sections, `pm` where one is placed.
    `british`: cast off, moss, tension.
    `left_handed`: rows from their other end, as a left-handed knitter works them.
    """

    hold: bool = False
    until: bool = False
    counts: bool = True
    markers: bool = False
    british: bool = False
    left_handed: bool = False

    def row(self, parts: tuple[tuple[Op, ...], ...], marks: tuple[str, ...] = ()) -> str:
        """One row, its sections in working order and form; `marks` says what is done with each marker between them."""
        if self.left_handed:
            parts, marks = tuple(mirrored_row(part) for part in reversed(parts)), marks[::-1]
        if self.markers:
            # what remains is counted to the row's end, so between markers repeats are counted up
            said = [shortest_text(part, hold=self.hold) for part in parts]
            between = marks or ("sm",) * (len(parts) - 1)
            return ", ".join(word for pair in zip(said, (*between, ""), strict=True) for word in pair if word)
        write = until_remain if self.until else shortest_text
        return write(tuple(op for part in parts for op in part), hold=self.hold)

    def terms(self, text: str) -> str:
        """The text in the terms of the side of the ocean that was chosen; we write the American ones."""
        return _WORD.sub(_british, text) if self.british else text


AMERICAN_TO_BRITISH = {  # common practice
    "bind off": "cast off",
    "seed": "moss",
    "stockinette": "stocking stitch",
    "gauge": "tension",
}
_WORD = re.compile(rf"\b({'|'.join(AMERICAN_TO_BRITISH)})\b", re.I)


def _british(found: re.Match[str]) -> str:
    word = AMERICAN_TO_BRITISH[found[0].lower()]
    return word.capitalize() if found[0][0].isupper() else word


PLAIN_WORDS = Wording()

"""What to say of a word that is no operation: the word, and what it may have been meant for."""

from __future__ import annotations

import re
from difflib import get_close_matches
from functools import lru_cache

from .definitions import Names
from .names import NAMED

_CROSSED = [f"{kind}{n}{hold}" for kind in "CT" for n in range(2, 13) for hold in "FB"]
_PLAIN = {
    "x": "Is it a repeat? Write “(…) 3 times”.",
    "cont": "Only rows are read here: what is to be done beside them is left out.",
    "patt": "Write the row out, or “knit the knits and purl the purls”.",
    "pattern": "Write the row out, or “knit the knits and purl the purls”.",
    "established": "Write the row out, or “knit the knits and purl the purls”.",
    "cn": "Write the crossing with its name, or as “sl 2 to cn and hold in front, k2, k2 from cn”.",
}


@lru_cache(maxsize=1)
def _known() -> dict[str, str]:
    """Every name as it is compared, and as it is written."""
    listed = [*NAMED, *_CROSSED, *(f"{n}/{n} {lean}C" for n in range(1, 7) for lean in "LR"), "knit", "purl"]
    return {_bare(name): name for name in listed}


def _bare(word: str) -> str:
    return re.sub(r"[^a-z0-9]", "", word.lower())


def unknown_word(word: str, names: Names, *, propose: bool = True) -> str:
    """The sentence for a word that cannot be read, with a proposal if it is asked for: looking for one takes time."""
    said = f"“{word[:40]}” is not an operation we know"
    if not propose:
        return f"{said}."
    bare = _bare(word)
    if bare in _PLAIN:
        return f"{said}. {_PLAIN[bare]}"
    known = _known() | {_bare(name): name for name in names.words}
    near = get_close_matches(bare, known, n=2, cutoff=0.7) if 2 <= len(bare) <= 20 else []
    if near:
        return f"{said}; did you mean {' or '.join(known[n] for n in near)}?"
    if re.fullmatch(r"[a-z]{1,3}\d{1,2}[a-z]{0,2}", bare):
        return f"{said}. If your book explains it, put its line above the rows: “{word[:20]}: sl 2 to cn …”."
    return f"{said}."

"""One text for several sizes: sentences that differ by their numbers alone are printed once, with all the numbers."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence

from ..pattern import OutlineBlock, piece_outline
from .grading import GradedSize, together

_NUMBER = re.compile(r"\d+(?:\.\d+)?(?:st|nd|rd|th)?")
_OFTEN = {"once": "1 times", "twice": "2 times"}
"""So that “once” in one size and “3 times” in another are the same sentence."""


def merged(lines: Sequence[str]) -> str | None:
    """One sentence of the same one in several sizes; None where more than numbers differs.

    >>> merged(["Cast on 92 stitches.", "Cast on 100 stitches."])
    'Cast on 92 (100) stitches.'
    """
    lines = [_counted(line) for line in lines]
    texts = [_NUMBER.split(line) for line in lines]
    if any(text != texts[0] for text in texts):
        return None
    numbers = zip(*(_NUMBER.findall(line) for line in lines), strict=True)
    parts = [texts[0][0]]
    for each, after in zip(numbers, texts[0][1:], strict=True):
        parts += [together(each), after]
    text = "".join(parts)
    for word, counted in _OFTEN.items():
        text = re.sub(rf"(?<=[a-z] ){counted}", word, text)
    return text


def _counted(line: str) -> str:
    for word, counted in _OFTEN.items():
        line = re.sub(rf"\b{word}\b", counted, line)
    return line


def graded_words(sizes: Sequence[GradedSize]) -> list[str]:
    """The pattern of a project in all of its sizes, line by line; what only some sizes do names them."""
    made = [each.size for each in sizes if each.file is not None]
    out = [f"Sizes: {together(made)}"] if made else []
    for name, lines in graded_pieces(sizes):
        out += ["", name, *lines]
    return out + [f"{each.size} cannot be had: {each.refusal}" for each in sizes if each.refusal]


def graded_pieces(sizes: Sequence[GradedSize]) -> list[tuple[str, tuple[str, ...]]]:
    """The pieces of a project by their names, each with its sentences for all sizes."""
    outlines: dict[str, Mapping[str, tuple[OutlineBlock, ...]]] = {
        each.size: {p.name or each.file.name: piece_outline(each.file.opened_at(p.number)) for p in each.file.pieces}
        for each in sizes
        if each.file is not None
    }
    out = []
    for name in dict.fromkeys(name for outline in outlines.values() for name in outline):
        here = {size: outline[name] for size, outline in outlines.items() if name in outline}
        only = "" if len(here) == len(outlines) else f" ({_listed(list(here))} only)"
        out.append((name + only, tuple(_piece(here))))
    return out


def _piece(outlines: Mapping[str, Sequence[OutlineBlock]]) -> Iterator[str]:
    """A piece's sentences in the order of the first size that has each."""
    blocks = {size: {block.key: block.lines for block in each} for size, each in outlines.items()}
    for key in _in_order([[block.key for block in each] for each in outlines.values()]):
        yield from _block({size: each[key] for size, each in blocks.items() if key in each}, len(blocks))


def _in_order(lists: Sequence[Sequence[str]]) -> list[str]:
    """All keys, each after those that stand before it in its own size."""
    out: list[str] = []
    for keys in lists:
        at = 0
        for key in keys:
            if key in out:
                at = out.index(key) + 1
            else:
                out.insert(at, key)
                at += 1
    return out


def _block(lines: Mapping[str, tuple[str, ...]], of: int) -> Iterator[str]:
    """One place of a piece: the sizes that say the same thing there say it together."""
    alike: dict[tuple[tuple[str, ...], ...], list[str]] = {}
    for size, own in lines.items():
        alike.setdefault(tuple(tuple(_NUMBER.split(_counted(line))) for line in own), []).append(size)
    for sizes in alike.values():
        told = [merged([lines[size][n] for size in sizes]) or "" for n in range(len(lines[sizes[0]]))]
        if len(sizes) < of:
            told[0] = f"{_listed(sizes)}: {told[0]}"
        yield from told


def _listed(names: Sequence[str]) -> str:
    return f"{', '.join(names[:-1])} and {names[-1]}" if len(names) > 1 else names[0]

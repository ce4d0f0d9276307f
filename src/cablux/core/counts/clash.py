"""Where no layout keeps all wishes: the smallest set of them that clashes, and what would free it."""

from __future__ import annotations

import time
from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from ..piece.piece import BandView, Piece
from ..units import Unit, length_text
from .integer import solve_counts
from .program import Program, Wish, grows_sideways, wishes_of

_TIME_LIMIT = 2.0  # seconds, our choice: somebody waits for the sentence
_FURTHEST = 6  # our choice: a panel with more repeats more or fewer is another design


@dataclass(frozen=True)
class Cure:
    """One change after which there are layouts again: its words, and the piece with it made."""

    text: str
    piece: Piece


@dataclass(frozen=True)
class WishClash:
    """Wishes that cannot hold together, fewer of which could, in words; and the cures."""

    wishes: tuple[str, ...]
    cures: tuple[Cure, ...]

    @property
    def opening(self) -> str:
        """What the wishes are told after."""
        return "These cannot all be met:" if len(self.wishes) > 1 else "These segments cannot give"

    @property
    def sentence(self) -> str:
        """All of it."""
        what = "; ".join(self.wishes)
        said = f"{self.opening} {what}."
        if not self.cures:
            return f"{said} Add or remove a panel, or change the width or its tolerance."
        return f"{said} It works if you {', or '.join(c.text for c in self.cures)}."


def explain_clash(view: BandView, unit: Unit = "cm") -> WishClash | None:
    """Why a band has no layout; None where it has one. Lengths are told in `unit`."""
    every = wishes_of(view)
    if _feasible(view, every):
        return None
    core = smallest_clash(view, every)
    return WishClash(tuple(_words(view, w, unit) for w in core), tuple(_cures(view, every, core, unit=unit)))


def smallest_clash(view: BandView, every: tuple[Wish, ...]) -> tuple[Wish, ...]:
    """The fewest wishes that cannot hold together; after `_TIME_LIMIT` a set from which none can be spared.

    By implicit hitting sets: the smallest set that meets every known correction (wishes to drop so that the rest can
    hold) is tried; if it can hold, it is grown as far as it can, and what is left over is one more correction. Wishes
    that free everything by themselves are corrections of one, and are looked for first.
    """
    ends = time.monotonic() + _TIME_LIMIT
    corrections = [frozenset((w,)) for w in every if _feasible(view, tuple(v for v in every if v != w))]
    while time.monotonic() < ends:
        trial = _hitting(every, corrections)
        if not _feasible(view, trial):
            return trial
        kept = list(trial)
        for wish in every:
            if wish not in kept and _feasible(view, (*kept, wish)):
                kept.append(wish)
        corrections.append(frozenset(every) - frozenset(kept))
    return _spared(view, every)


def _spared(view: BandView, every: tuple[Wish, ...]) -> tuple[Wish, ...]:
    """What is left when each wish in turn is dropped where the rest clash without it."""
    core = list(every)
    for wish in every:
        rest = tuple(w for w in core if w != wish)
        if not _feasible(view, rest):
            core = list(rest)
    return tuple(core)


def _hitting(every: tuple[Wish, ...], corrections: list[frozenset[Wish]]) -> tuple[Wish, ...]:
    """The fewest wishes of which every correction has one: a small set cover, solved by HiGHS."""
    from scipy.optimize import LinearConstraint, milp

    if not corrections:
        return ()
    meets = np.array([[float(w in c) for w in every] for c in corrections])
    found = milp(
        np.ones(len(every)), integrality=np.ones(len(every), np.int64), constraints=LinearConstraint(meets, 1.0, np.inf)
    )
    assert found.x is not None, "all wishes together meet every correction"
    return tuple(w for w, chosen in zip(every, found.x, strict=True) if chosen > 0.5)


def _feasible(view: BandView, active: tuple[Wish, ...]) -> bool:
    return solve_counts(Program(view, frozenset(active)), ()) is not None


def _words(view: BandView, wish: Wish, unit: Unit) -> str:
    s = view.segments[max(0, wish.at)]
    where = f"{s.name} (segment {wish.at + 1})"
    multiple, plus = view.piece.total
    return {
        "width": f"a width of {length_text(view.piece.width_mm, unit)} ± {length_text(view.piece.tolerance_mm, unit)}",
        "locked": f"the count of {s.stitches} kept in {where}",
        "least": f"backgrounds of at least {view.piece.least_background} stitches",
        "bounds": f"{s.least or 1} to {s.most or 'any number of'} stitches in {where}",
        "by": f"{where} in multiples of {s.by} repeats",
        "total": f"a body count that is a multiple of {multiple}" + (f" + {plus}" if plus else ""),
        "halves": "both halves alike",
        "outside": "wider gaps at the outside",
    }[wish.kind]


def _cures(view: BandView, every: tuple[Wish, ...], core: tuple[Wish, ...], *, unit: Unit) -> Iterator[Cure]:
    for wish in core:
        if wish.kind == "width":
            yield from _other_width(view, tuple(w for w in every if w != wish), unit)
            continue
        cure = Cure(*_without(view, wish))
        without = BandView(cure.piece, view.at)
        if _feasible(without, wishes_of(without)):  # what was unlocked may have bounds of its own
            yield cure
    yield from _other_repeats(view, every)


def _other_width(view: BandView, rest: tuple[Wish, ...], unit: Unit) -> Iterator[Cure]:
    """The nearest width that can be had, in whole millimetres."""
    program = Program(view, frozenset(rest))
    found = solve_counts(program, ("error",))
    if found is None:
        return
    um = program.width(found.repeats)
    mm = round(um / 1000.0)
    off = mm - view.piece.width_mm
    how = "wider" if off > 0 else "narrower"
    yield Cure(
        f"make it {length_text(abs(off), unit)} {how} ({length_text(mm, unit)}, the nearest this layout can be)",
        replace(view.piece, width_mm=float(mm)),
    )


def _without(view: BandView, wish: Wish) -> tuple[str, Piece]:
    """Words for giving a wish up, and the piece without it."""
    piece, band, at = view.piece, view.band, max(0, wish.at)
    s = band.own[at]

    def put(**changes: object) -> Piece:
        return piece.with_band(replace(band, own=(*band.own[:at], replace(s, **changes), *band.own[at + 1 :])), view.at)  # type: ignore[arg-type]

    where = f"{s.name} (segment {wish.at + 1})"
    if wish.kind == "locked":
        return f"let the count of {where} change", put(locked=False)
    if wish.kind == "bounds":
        return f"drop the limits of {where}", put(least=0, most=0)
    if wish.kind == "by":
        return f"allow any number of repeats of {where}", put(by=1)
    if wish.kind == "least":
        return "allow narrower backgrounds", replace(piece, least_background=1)
    if wish.kind == "total":
        return "allow any body count", replace(piece, total=(1, 0))
    if wish.kind == "halves":
        return "let the halves differ", piece.with_band(band.unfolded(), view.at)
    return "let the gaps be equal", replace(piece, gaps="equal")


def _other_repeats(view: BandView, every: tuple[Wish, ...]) -> Iterator[Cure]:
    """The fewest repeats fewer or more of an all-over panel that will do."""
    band = view.band
    for at, s in enumerate(band.own):
        if not s.is_panel or not grows_sideways(s) or s.locked:
            continue
        for by in (sign * n for n in range(1, _FURTHEST + 1) for sign in (-1, 1)):
            if s.repeats + by < 1:
                continue
            own = (*band.own[:at], replace(s, repeats=s.repeats + by), *band.own[at + 1 :])
            other = view.with_band(replace(band, own=own))
            if _feasible(other, every):
                many = "one repeat" if abs(by) == 1 else f"{abs(by)} repeats"
                yield Cure(f"work {many} {'fewer' if by < 0 else 'more'} of {s.name}", other.piece)
                break

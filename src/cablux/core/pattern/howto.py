"""How each operation is worked, in plain words (common practice), in every way in which it can be."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

from ..notation import (
    Bobble,
    CrossedDecrease,
    Crossing,
    Decrease,
    HalfCrossing,
    Increase,
    Into,
    Lean,
    Op,
    Slip,
    Stitch,
    shortest_text,
)
from ..notation.crossings import Group

WITHOUT = 2  # common practice: groups wider than this are not safe on no needle at all


@dataclass(frozen=True)
class Way:
    """One way of working an operation; `needles` is how many cable needles it wants."""

    name: str
    text: str
    needles: int = 0


def how_to(op: Op) -> str:
    """The first way in which a right-side operation is worked."""
    return ways_to_work(op)[0].text


def ways_to_work(op: Op) -> tuple[Way, ...]:
    """Every way of working an operation on the side that faces, the common one first."""
    if isinstance(op, Crossing):
        return _twists(op) if op.twist else _crossings(op)
    if isinstance(op, CrossedDecrease):
        return (_crossed_decrease(op),)
    if isinstance(op, HalfCrossing):
        return _moves(op)
    write = _WRITE.get(type(op))
    return (Way("as it stands", write(op) if write else _FIXED[op.token]),)


def _moves(op: HalfCrossing) -> tuple[Way, ...]:
    """The beginning of the round moved on, and moved back once the crossing that lies across it is worked."""
    many = "the first stitch" if op.moved == 1 else f"the first {op.moved} stitches"
    if op.begins:
        return (
            Way("as it stands", f"Slip {many} to the right needle, unworked: the round begins and ends after them."),
        )
    back = "the last stitch" if op.moved == 1 else f"the last {op.moved} stitches"
    then = f" Then slip {back} back to the left needle: the next round begins with {'it' if op.moved == 1 else 'them'}."
    return tuple(replace(way, text=way.text + then) for way in ways_to_work(op.whole))


def _stitch(op: Stitch) -> str:
    work = "Knit" if op.face == "k" else "Purl"
    return f"{work} through the back loop, so that the stitch is twisted." if op.tbl else f"{work}."


def _slip(op: Slip) -> str:
    return f"Slip as if to purl, with the yarn {'in front' if op.yarn == 'front' else 'behind'}."


def _increase(op: Increase) -> str:
    lift, leg = ("front to back", "back") if op.lean is Lean.LEFT else ("back to front", "front")
    return f"Lift the bar from {lift} and {'knit' if op.face == 'k' else 'purl'} it through the {leg} loop."


_FRONT_BACK = {
    "kfb": "Knit into the front and then the back of the stitch",
    "kbf": "Knit into the back and then the front of the stitch",
    "pfb": "Purl into the front and then the back of the stitch",
    "pbf": "Purl into the back and then the front of the stitch",
}


def _into(op: Into) -> str:
    parts = ", ".join(_part(p) for p in op.parts)
    text = _FRONT_BACK.get(op.token, f"Into one stitch work: {parts}")
    return f"{text}, then let the old loop go: {len(op.parts)} from 1."


def _part(stitch: Stitch | None) -> str:
    if stitch is None:
        return "yarn over"
    return ("knit" if stitch.face == "k" else "purl") + (" through the back" if stitch.tbl else "")


_DECREASES = {
    "k2tog": "Knit two together; leans right.",
    "ssk": "Slip two as if to knit, one by one; knit them together through the back; leans left.",
    "p2tog": "Purl two together.",
    "ssp": "Slip two as if to knit, one by one, put them back, purl them together through the back.",
    "k2tog tbl": "Knit two together through the back loops; leans left, twisted.",
    "p2tog tbl": "Purl two together through the back loops: the needle goes in from behind, left to right.",
    "k2tog twisted": "Turn each of the two stitches round on the needle, then knit them together; leans right.",
    "p2tog twisted": "Turn each of the two stitches round on the needle, then purl them together.",
    "k3tog": "Knit three together; leans right.",
    "sssk": "Slip three as if to knit, one by one; knit them together through the back; leans left.",
    "p3tog": "Purl three together.",
    "sssp": "Slip three as if to knit, one by one, put them back, purl them together through the back.",
    "sk2p": "Slip one as if to knit, knit two together, pass the slipped stitch over; leans left.",
    "sp2p": "Purl two together, put the stitch back, pass the next stitch over it, slip it to the right needle.",
    "sskp": "Slip, slip, knit (ssk), put the stitch back, pass the next stitch over it, slip it again; leans right.",
    "sspp": "Slip one, then ssp; pass the slipped stitch over.",
    "S2KP": "Slip two together as if to knit, knit one, pass both over: the middle stitch lies on top.",
    "S2PP": "Slip two as if to knit, one by one, and put them back; slip them together through the back loops, the "
    "second first, so that they change places; purl one; pass both over.",
}


def _bobble(op: Bobble) -> str:
    """Its knit face shows on the side on which it stands: one that stands behind is purled from here."""
    near, far = ("p", "k") if op.behind else ("k", "p")
    into = ", ".join(f"{near}1" if i % 2 == 0 else "yo" for i in range(op.size))
    turns = f"turn, {far}{op.size}; turn, {near}{op.size}; "
    close = f"pass the last {op.size - 1} loops over the first, one by one"
    behind = " Push it through to the other side, where its knit face shows." if op.behind else ""
    return f"Into one stitch work {into} ({op.size} loops); {turns}{close}.{behind}"


_WRITE: dict[type[Op], Callable[[Any], str]] = {
    Stitch: _stitch,
    Slip: _slip,
    Increase: _increase,
    Into: _into,
    Decrease: lambda op: _DECREASES[op.token],
    Bobble: _bobble,
}
_FIXED = {
    "yo": "Yarn over: lay the yarn over the needle; it makes a stitch and a hole.",
    "yo2": "Lay the yarn over the needle twice; on the next row knit into the first loop and purl into the second.",
    "w&t": "Bring the yarn to the other side, slip the next stitch as if to purl, take the yarn back round it, put the "
    "stitch back, and turn. Later lift the wrap and work it together with its stitch.",
    "turn": "Turn the work here; the stitches that are left wait on the needle.",
    "ds": "With the yarn in front slip the stitch, then pull the yarn up and over to the back until both its legs "
    "lie on the needle. Later work both legs together as one stitch.",
    "leave 1": "Not worked in this row: the stitch waits on the needle.",
    "hold 1": "Slip the stitch onto a holder or a length of yarn; another part goes on from it.",
    "bind off 1": "Work two, pass the first over the second; then work one and pass the one before over it, and so on.",
    "cast on 1": "Lay the yarn round the thumb in a loop and put the loop on the right needle.",
    "no-st": "An empty place in the chart: work nothing.",
}


def _text(group: Group) -> str:
    return shortest_text(tuple(group)) if group else ""


def _crossings(op: Crossing) -> tuple[Way, ...]:
    """Off the cable needle, slipped back first, and without one where the groups are narrow."""
    first, centre, last = op.groups_taken
    held, freed = _text(first), _text(last)
    o, c = len(first), len(op.centre)
    where = "in front" if op.lean is Lean.LEFT else "behind"
    if c:
        return _centred(op, held, _text(centre), freed=freed, where=where)
    off = f"Slip {o} to a cable needle and hold {where}; {freed}; then {held} from the cable needle."
    back = f"Slip {o} to a cable needle and hold {where}; {freed}; slip the {o} back to the left needle; {held}."
    out = [Way("off the cable needle", off, 1), Way("slipped back first", back, 1)]
    if max(len(first), len(last)) <= WITHOUT:
        out.append(Way("without a cable needle", _without(op)))
    return tuple(out)


def _without(op: Crossing) -> str:
    held, freed = len(op.groups_taken[0]), len(op.groups_taken[2])
    side, away = ("behind", "in front") if op.lean is Lean.LEFT else ("in front", "behind")
    return (
        f"From {side} put the right needle into the last {freed} of the {held + freed}; let all of them off the left "
        f"needle, catch the free {held} {away} with the left needle, and put the {freed} back: they have changed "
        f"places. Then {_text(op.groups_taken[2])}, {_text(op.groups_taken[0])}. Not for slippery yarn."
    )


def _centred(op: Crossing, held: str, centre: str, *, freed: str, where: str) -> tuple[Way, ...]:
    """With a centre group: where its needle is held decides whether it lies in front, between or behind."""
    first, c = len(op.groups_taken[0]), len(op.centre)
    between = "in front too, behind the first" if op.lean is Lean.LEFT else "behind too, in front of the first"
    spot = {"between": between, "front": "in front of everything", "behind": "behind everything"}[op.centre_at]
    two = (
        f"Slip {first} to a cable needle and hold {where}; slip {c} to a second one and hold it {spot}; {freed}; "
        f"{centre} from the second; {held} from the first."
    )
    if op.centre_at != "between":
        return (Way("two cable needles", two, 2),)
    one = (
        f"Slip {first + c} to a cable needle and hold {where}; {freed}; put the last {c} of them back on the left "
        f"needle, the cable needle staying {where} of them; {centre}; then {held} from the cable needle."
    )
    return Way("one cable needle", one.replace("behind of", "behind"), 1), Way("two cable needles", two, 2)


def _twists(op: Crossing) -> tuple[Way, ...]:
    """The ways of a 1/1 twist, none of which needs a cable needle."""
    first, second = _text(op.groups_taken[0]), _text(op.groups_taken[2])
    if op.lean is Lean.LEFT:
        back = f"Behind the first stitch {_verb(second)} the second, through its back; then {_verb(first)} the first"
        seat = "Let both off and put them back with the second first, the first in front of it"
        return (
            Way("second stitch first, through the back", f"{back} in front; drop both."),
            Way("changed places first", f"{seat}; {second}, {first}."),
        )
    front = f"In front of the first stitch {_verb(second)} the second; then {_verb(first)} the first; drop both."
    ways_ = [Way("second stitch first, in front", front)]
    if first == second == "k1":
        again = "Knit two together but leave them on the needle; knit the first again; drop both."
        ways_.append(Way("two together, then the first again", again))
    seat = "Let both off and put them back with the second first, in front"
    return (*ways_, Way("changed places first", f"{seat}; {second}, {first}."))


def _verb(text: str) -> str:
    return ("knit" if text.startswith("k") else "purl") + (" through the back" if text.endswith("tbl") else "")


def _crossed_decrease(op: CrossedDecrease) -> Way:
    n = op.count
    where = "in front of" if op.lean is Lean.LEFT else "behind"
    work = "knit" if op.face == "k" else "purl"
    text = (
        f"Slip {n} to a cable needle and hold it {where} the next {n}, side by side; {n} times {work} one from the "
        f"cable needle together with one from the left needle: {n} from {2 * n}."
    )
    return Way("needles side by side", text, 1)

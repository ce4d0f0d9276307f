"""How each operation is worked, in plain words."""

from __future__ import annotations

from ..notation import Crossing, Lean, Op, shortest


def how_to(op: Op) -> str:
    """How a right-side operation is worked, in plain words (common practice)."""
    if isinstance(op, Crossing):
        return _crossing_words(op)
    texts = {
        "k1": "Knit.",
        "p1": "Purl.",
        "yo": "Yarn over: lay the yarn over the needle; it makes a stitch and a hole.",
        "k2tog": "Knit two together; leans right.",
        "ssk": "Slip two as if to knit, one by one; knit them together through the back; leans left.",
        "p2tog": "Purl two together.",
        "ssp": "Slip two as if to knit, one by one, put them back, purl them together through the back.",
        "M1L": "Lift the bar from front to back and knit it through the back loop.",
        "M1R": "Lift the bar from back to front and knit it through the front loop.",
        "M1PL": "Lift the bar from front to back and purl it through the back loop.",
        "M1PR": "Lift the bar from back to front and purl it through the front loop.",
    }
    return texts.get(op.token, "Work through the back loop.")


def _crossing_words(op: Crossing) -> str:
    over, centre, under = (shortest(tuple(g)) if g else "" for g in (op.over, op.centre, op.under))
    o, c, u = len(op.over), len(op.centre), len(op.under)
    if op.twist:
        where = "behind the first, through the back" if op.lean is Lean.LEFT else "in front of the first"
        return f"Twist without a cable needle: work the second stitch {where}, then the first; drop both."
    if op.lean is Lean.LEFT:
        if c:
            return (
                f"Slip {o} to a cable needle in front and {c} to a second one behind; {under}; "
                f"{centre} from the one behind; {over} from the one in front."
            )
        return f"Slip {o} to a cable needle and hold in front; {under}; then {over} from the cable needle."
    if c:
        return (
            f"Slip {u + c} to a cable needle and hold behind; {over}; put the last {c} of them back on the left "
            f"needle; {centre}; then {under} from the cable needle."
        )
    return f"Slip {u} to a cable needle and hold behind; {over}; then {under} from the cable needle."

"""The fixed names of operations, with the synonyms that people write for them."""

from __future__ import annotations

from .crossings import Crossing
from .operations import Face, Lean, Op
from .shaping import DECREASES, FRONT_BACK, K2TOG, SSK, Increase
from .stitches import YO, Bobble, DoubleStitch, K, NoStitch, P, Turn, WrapTurn, YarnOver

_LEFT, _RIGHT = Increase(Lean.LEFT), Increase(Lean.RIGHT)
_PURL_LEFT, _PURL_RIGHT = Increase(Lean.LEFT, Face.PURL), Increase(Lean.RIGHT, Face.PURL)
_SK2P, _S2KP = DECREASES["sk2p"], DECREASES["S2KP"]
_YO2 = YarnOver(2)

_SYNONYMS: dict[Op, tuple[str, ...]] = {
    # British names for a yarn over say between which stitches it lies; the loop is the same
    YO: ("yo", "yon", "yrn", "yfwd", "yfrn", "yarn over"),
    _YO2: ("yo2", "yo twice", "double yo", "double yarn over", "yo x2"),
    _LEFT: ("m1l", "m1", "m1f", "make 1", "make one"),
    _RIGHT: ("m1r", "m1b"),
    _PURL_LEFT: ("m1pl", "m1p", "m1 purlwise", "make 1 purlwise"),
    _PURL_RIGHT: ("m1pr",),
    K2TOG: ("k2 tog", "knit 2 together", "knit two together"),
    SSK: ("skp", "skpo", "sl1 k1 psso", "sl 1 k1 psso", "sl 1 k 1 psso", "slip slip knit"),
    DECREASES["p2tog"]: ("p2 tog", "purl 2 together", "purl two together"),
    DECREASES["k3tog"]: ("k3 tog", "knit 3 together"),
    DECREASES["p3tog"]: ("p3 tog", "purl 3 together"),
    DECREASES["k2tog tbl"]: ("k2togtbl", "k2togb"),
    DECREASES["p2tog tbl"]: ("p2togtbl", "p2togb"),
    _SK2P: ("sl1 k2tog psso", "sl 1 k2tog psso", "s1k2p", "sk2po"),
    _S2KP: ("cdd", "s2kp2", "s2k", "sl2 k1 p2sso", "sl 2 k1 p2sso", "sl 2 kwise k1 p2sso", "sl 2 tog kwise k1 p2sso"),
    DECREASES["S2PP"]: ("cddp",),
    FRONT_BACK["kfb"]: ("k1fb", "k1f&b", "kf&b", "inc1 kfb"),
    FRONT_BACK["pfb"]: ("p1fb", "p1f&b", "pf&b"),
    WrapTurn(): ("w&t", "wrap & turn", "wrap and turn"),
    DoubleStitch(): ("ds", "double stitch"),
    Turn(): ("turn",),
    NoStitch(): ("no st", "no stitch"),
    # a twist by name alone; the front stitch is knitted plainly
    Crossing(over=(K,), under=(K,), lean=Lean.LEFT, twist=True): ("lt", "tw2l", "left twist"),
    Crossing(over=(K,), under=(K,), lean=Lean.RIGHT, twist=True): ("rt", "tw2r", "right twist"),
    Crossing(over=(K,), under=(P,), lean=Lean.LEFT, twist=True): ("lpt",),
    Crossing(over=(K,), under=(P,), lean=Lean.RIGHT, twist=True): ("rpt",),
    Bobble(5): ("mb", "make bobble", "bobble"),
}


def _all() -> dict[str, Op]:
    out: dict[str, Op] = {name: op for op, names in _SYNONYMS.items() for name in names}
    own: list[Op] = [*DECREASES.values(), *FRONT_BACK.values()]
    own += [Bobble(size, behind) for size in (3, 5, 7) for behind in (False, True)]
    for op in own:
        out[" ".join(op.token.lower().split())] = op
    return out


NAMED: dict[str, Op] = _all()

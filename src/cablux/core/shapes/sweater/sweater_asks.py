"""What every sweater is asked: bodies by a published table, lengths, armholes, neck, sleeves and edges."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from ..asks import Ask
from ..bodies.garment_sizes import BODIES, SOURCE, by_size
from .ease import ease_asks

_NECKS = ("crew", "V", "boat")
COLLARS = ("neckband", "hood")
CUTS = ("where it cannot be helped", "never", "at the armholes")
SLEEVES = ("from the cuff", "from the armhole", "from the armhole, inside out")
SHOULDERS = ("bound off in steps", "short rows and three needles", "crossed and decreased behind")
_PRACTICE = "common practice"


GROUPS = {
    "Body": "for construction from fit chest ease front_wider length back_longer hem",
    "Armholes and shoulders": "cross_back armhole_depth shoulders cuts yoke_depth underarm lines sides",
    "Neck": "neck split neck_width neckline neck_depth collar neckband",
    "Bands and buttons": "bands buttons buttonholes",
    "Sleeves": "sleeves reach arm upper_arm wrist cuff",
}


def in_groups(asks: Iterable[Ask]) -> tuple[Ask, ...]:
    """What a sweater is asked, each ask under its heading, in the order of the headings."""
    listed = tuple(asks)
    groups = {name: heading for heading, names in GROUPS.items() for name in names.split()}
    found = [replace(ask, group=groups[ask.name]) for ask in listed]
    return tuple(sorted(found, key=lambda ask: list(GROUPS).index(ask.group)))


def _length(name: str) -> float:
    """Our choice: from the shoulder to the hem; men's backs are measured to the hips, others' to the waist."""
    body = BODIES[name]
    more = {"woman": 5.5, "man": 0.0}.get(name.split()[0], 0.25 * body.back_length_in)
    return float(round((body.back_length_in + more) * 25.4))


def _sized(name: str, label: str, measure: str, *, source: str, **more: object) -> Ask:
    """A length that is a measure of the body's, with so much `added` to it, or so many `times` it."""
    by = by_size(measure, float(str(more.pop("added", 0.0))), float(str(more.pop("times", 1.0))))
    return Ask(name=name, label=label, default=by[SOME], source=source, by=by, **more)  # type: ignore[arg-type]


SOME = "woman M"
_EDGES = {name: {"baby": 30.0, "child": 45.0}.get(name.split()[0], 60.0) for name in BODIES}
_WIDER = f"{SOURCE}, and 2.5 to 10 cm more ({_PRACTICE})"


def _neck(of_back: float, of_head: float) -> dict[str, float | str]:
    """Such a part of the cross back, and no less than such a part of the head (our choice)."""
    sizes = BODIES.items()
    return {name: float(round(max(of_back * b.mm("cross_back"), of_head * b.mm("head")))) for name, b in sizes}


def body_asks() -> tuple[Ask, ...]:
    """What every sweater is asked: for whom, its chest and ease, lengths, armholes, neck and edges."""
    long = {name: _length(name) for name in BODIES}
    wide, deep = (_neck(*parts) for parts in ((0.4, 0.26), (0.2, 0.12)))
    return (
        Ask(name="for", label="Size", default=SOME, source=SOURCE, kind="choice", choices=tuple(BODIES)),
        _sized("chest", "Chest", "chest", source=SOURCE, least=300.0, most=2000.0),
        *ease_asks(),
        Ask(
            name="front_wider",
            label="Front wider than the back",
            default=0.0,
            source="our choice: as wide",
            least=0.0,
            most=200.0,
            hint="For a full bust; the armholes take it away.",
        ),
        Ask(
            name="length",
            label="Length to the shoulder",
            default=long[SOME],
            source=f"{SOURCE}; the hem is our choice",
            by=long,
            least=150.0,
        ),
        Ask(
            name="back_longer",
            label="Back longer than the front",
            default=0.0,
            source="our choice: as long",
            least=0.0,
            most=300.0,
            hint="It hangs free below the side seams.",
        ),
        _sized(
            "cross_back",
            "Cross back",
            "cross_back",
            source=SOURCE,
            least=120.0,
            most=700.0,
            hint="Set-in sleeves: between them.",
        ),
        _sized(
            "armhole_depth",
            "Depth of the armhole",
            "armhole",
            source=f"{SOURCE}, and 2.5 to 7.5 cm more ({_PRACTICE})",
            times=1.2,
            least=80.0,
            most=450.0,
        ),
        Ask(
            name="neck_width",
            label="Width of the neck",
            default=wide[SOME],
            source=f"{_PRACTICE}: a third of the cross back, to 20 cm; a head must pass it",
            by=wide,
            least=60.0,
            most=320.0,
        ),
        Ask(name="neckline", label="Neck", default=_NECKS[0], source="our choice", kind="choice", choices=_NECKS),
        Ask(
            name="neck_depth",
            label="Depth of the front neck",
            default=deep[SOME],
            source=f"{_PRACTICE}: crew necks 7 to 9 cm",
            by=deep,
            least=10.0,
            most=400.0,
            hint="Of a crew neck; a V is twice as deep, a boat neck 0.4 times.",
        ),
        Ask(
            name="shoulders",
            label="Shoulders",
            default=SHOULDERS[0],
            source="our choice",
            kind="choice",
            choices=SHOULDERS,
            hint="Crossed and decreased: the back alone slopes, and the front is bound off straight.",
        ),
        collar_ask(),
        neckband_ask(),
        Ask(
            name="cuts",
            label="Panels may be cut",
            default=CUTS[0],
            source="our choice",
            kind="choice",
            choices=CUTS,
            hint="By the neck or the armholes.",
        ),
        Ask(name="hem", label="Height of the hem", default=60.0, source="our choice", least=5.0, most=200.0, by=_EDGES),
    )


def collar_ask() -> Ask:
    """What the neck is finished with."""
    return Ask(
        name="collar",
        label="Neck finished with",
        default=COLLARS[0],
        source="our choice",
        kind="choice",
        choices=COLLARS,
    )


def neckband_ask() -> Ask:
    """How high the ribbing round the neck is."""
    return Ask(
        name="neckband",
        label="Height of the neckband",
        default=25.0,
        source="our choice",
        least=10.0,
        most=300.0,
        hint="Without a hood. A collar that is turned down: 18 to 24 cm.",
    )


def sleeve_asks() -> tuple[Ask, ...]:
    """What a sleeve is asked."""
    return (
        _sized(
            "reach",
            "Middle of the back to the wrist",
            "wrist",
            source=SOURCE,
            least=200.0,
            most=1100.0,
            hint="Over the shoulder; dropped shoulders.",
        ),
        _sized("arm", "Arm to the underarm", "arm", source=SOURCE, least=100.0, most=700.0, hint="Set-in sleeves."),
        _sized(
            "upper_arm",
            "Round the upper arm",
            "upper_arm",
            source=_WIDER,
            added=70.0,
            least=130.0,
            most=700.0,
            hint="Set-in sleeves.",
        ),
        _sized(
            "wrist",
            "Round the wrist",
            "upper_arm",
            source="our choice: five eighths of the upper arm, and 2.5 cm",
            times=0.62,
            added=25.0,
            least=90.0,
            most=400.0,
        ),
        Ask(
            name="sleeves",
            label="Sleeves worked",
            default=SLEEVES[0],
            source="our choice",
            kind="choice",
            choices=SLEEVES,
            hint="Inside out: dropped ones.",
        ),
        Ask(
            name="cuff", label="Height of the cuff", default=60.0, source="our choice", least=5.0, most=200.0, by=_EDGES
        ),
    )

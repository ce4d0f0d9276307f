"""Symmetry: whether segments read the same from both edges, and the first pair that does not."""

from __future__ import annotations

from .segment import Segment


def is_symmetric(segments: tuple[Segment, ...], *, counts: bool = True) -> bool:
    """Whether the segments read the same from both edges, with or without their counts.

    A lone middle panel may lean one way: nothing can be its partner, so it does not spoil the symmetry.
    """
    return not describe_asymmetry(segments, counts=counts)


def describe_asymmetry(segments: tuple[Segment, ...], *, counts: bool = True) -> str:
    """The first pair that is not a mirror image, as a sentence; empty where all are."""
    for i in range(len(segments) // 2):
        a, b = segments[i], segments[-1 - i]
        if not a.mirror_of(b):
            return f"{a.name} (segment {i + 1}) does not mirror {b.name} (segment {len(segments) - i})."
        if counts and a.repeats != b.repeats:
            return f"{a.name} has {a.stitches} stitches on one side and {b.stitches} on the other."
    return ""

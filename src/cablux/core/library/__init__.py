"""The patterns that ship with Cablux, each a checked chart with its uses and a note."""

from .loader import LIBRARY, FamilyName, StitchPattern, Use, find_pattern, load_pattern

__all__ = ["LIBRARY", "FamilyName", "StitchPattern", "Use", "find_pattern", "load_pattern"]

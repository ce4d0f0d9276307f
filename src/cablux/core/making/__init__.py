"""What a piece is made with: needles by their sizes."""

from .needles import needle_mm, needle_text

__all__ = ["needle_mm", "needle_text"]

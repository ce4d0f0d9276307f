"""Gauge: stitches and rows of plain stockinette, and what is known of its error."""

from .gauge import Gauge

__all__ = ["Gauge"]

"""Spreading increases and decreases over a row."""

"""Piece, band, segment; the solver for counts, the cast-on, and rows from a height."""

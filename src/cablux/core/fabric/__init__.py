"""Loops to springs to relaxed fabric: draw-in, draw-up, and where each loop lies."""

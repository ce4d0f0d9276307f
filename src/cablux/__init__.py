"""Cablux lays out cabled knitting, computes how far the cables draw in, and sizes the cast-on."""

__version__ = "0.1.0"

"""Shapes that are no garments of several parts: flat things, strips, tubes, hats, mitts, socks."""

"""Tests of core/garment."""

"""Tests of render."""

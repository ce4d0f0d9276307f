"""Tests of the whole."""

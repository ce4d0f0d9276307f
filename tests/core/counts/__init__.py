"""Tests of core/counts."""

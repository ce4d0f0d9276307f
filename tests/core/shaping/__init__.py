"""Tests of core/shaping."""

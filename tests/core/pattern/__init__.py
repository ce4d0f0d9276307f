"""Tests of core/pattern."""

"""Tests of core/ends."""

"""Tests of core/tracking."""

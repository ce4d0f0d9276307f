"""Tests of core/needle."""

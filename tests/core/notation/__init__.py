"""Tests of core/notation."""

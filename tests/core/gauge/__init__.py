"""Tests of core/gauge."""

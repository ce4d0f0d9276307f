"""Tests of core/piece."""

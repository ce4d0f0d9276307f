"""Tests of core/mistakes."""

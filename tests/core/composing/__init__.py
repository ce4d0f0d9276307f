"""Tests of core/composing."""

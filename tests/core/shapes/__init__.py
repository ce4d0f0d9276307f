"""Tests of the shapes."""

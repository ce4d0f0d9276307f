"""Tests of core/mending."""

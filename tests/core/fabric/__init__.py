"""Tests of core/fabric."""

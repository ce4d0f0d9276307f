"""Tests of service/derivations."""

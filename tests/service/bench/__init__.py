"""Tests of service/bench."""

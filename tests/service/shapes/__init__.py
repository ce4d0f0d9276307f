"""Tests of service/shapes."""

"""Tests of service/answers."""

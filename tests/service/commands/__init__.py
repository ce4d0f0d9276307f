"""Tests of service/commands."""

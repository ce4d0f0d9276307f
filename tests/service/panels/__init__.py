"""Tests of service/panels."""

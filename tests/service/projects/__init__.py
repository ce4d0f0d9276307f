"""Tests of service/projects."""

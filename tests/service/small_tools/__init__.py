"""Tests of service/small_tools."""

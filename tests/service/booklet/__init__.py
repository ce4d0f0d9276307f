"""Tests of service/booklet."""

"""Tests of service/sizes."""

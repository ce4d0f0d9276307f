"""Tests of service/swatches."""

"""Tests of service/cloth."""

"""Tests of service/exchange."""

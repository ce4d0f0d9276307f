"""Tests of service."""

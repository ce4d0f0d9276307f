"""Tests of service/chair."""

"""Pullovers, vests and cardigans: bodies, sleeves, necks and bands."""

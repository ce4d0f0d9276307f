"""Raglans: yoke, body and sleeves on four lines."""

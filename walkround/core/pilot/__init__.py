"""Limits, methods on which good pilots differ, regions."""

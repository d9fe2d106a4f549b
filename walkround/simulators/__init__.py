"""Simulated devices and services, behind the same small interfaces as real ones."""

"""Satellites, positioning sentences, devices."""

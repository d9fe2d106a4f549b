"""Airspace: zones from notices and files, and what they say for a flight here. It never replaces the authority."""

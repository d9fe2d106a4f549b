"""Traits, parts, propellers, controls, outlines, the bag."""

"""Measuring: every page beside a bare one of like size, taps, start, memory, growth, and the core. Benchmarks, never tests."""

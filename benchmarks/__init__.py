"""Ratios, not timed tests: see `benchmarks/run`."""

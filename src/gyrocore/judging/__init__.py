"""Measuring and judging."""

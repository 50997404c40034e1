"""Bringing the work to the axis."""

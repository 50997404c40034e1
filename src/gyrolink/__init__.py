"""Readings of a gauge on their way to Gyrometra: the bridge at the machine, and a simulated indicator to try it with.

Runs where the gauge is plugged in; it knows the open protocol of `docs/gauge-link.md` and nothing of the product's
database.
"""

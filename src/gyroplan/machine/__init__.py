"""The machine itself: what is checked of it, what the figures mean for a bore, how they run on over the years."""

from gyroplan.machine.effects import Effect, effects_of
from gyroplan.machine.history import Checked, Health, health_of
from gyroplan.machine.kinds import KINDS, Asked, Kind, kinds_of, limited_mm, spindle_of

__all__ = [
    "KINDS", "Asked", "Checked", "Effect", "Health", "Kind", "effects_of", "health_of", "kinds_of", "limited_mm",
    "spindle_of",
]  # fmt: skip

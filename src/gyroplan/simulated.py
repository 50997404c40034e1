"""Work that is made up: where its axis lies, how it leans, its oval; what an indicator reads on it, what a move does.

The simulated indicator and the practice bench read it, and tests true it by the product's own advice.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import cos, hypot, radians, sin

#: Which way work goes that is moved toward a jaw, from above: jaw -> direction.
JAWS = {"1": (1.0, 0.0), "2": (0.0, 1.0), "3": (-1.0, 0.0), "4": (0.0, -1.0)}


@dataclass(frozen=True, slots=True, kw_only=True)
class SimulatedWork:
    """A round surface in its holding.

    Its axis at depth 0 [mm], how it leans and how its wall grows with depth [mm/mm], its oval (half of the difference
    of its two diameters, on radius) and the direction of the long one [deg], and places that cannot be read [deg].
    """

    off_mm: tuple[float, float] = (0.0, 0.0)
    lean: tuple[float, float] = (0.0, 0.0)
    oval_mm: float = 0.0
    oval_deg: float = 0.0
    grows: float = 0.0
    inside: bool = True
    blocked_deg: tuple[float, ...] = ()

    def axis_at(self, z_mm: float) -> tuple[float, float]:
        """Where its axis lies at a depth [mm]."""
        return self.off_mm[0] + self.lean[0] * z_mm, self.off_mm[1] + self.lean[1] * z_mm

    def eccentricity_at(self, z_mm: float) -> float:
        """How far its axis is off the axis of rotation at a depth [mm]."""
        return hypot(*self.axis_at(z_mm))

    def reading_mm(self, angle_deg: float, z_mm: float = 0.0) -> float | None:
        """What an indicator reads at a place of the work, plunger in as plus; None where it falls into a port [mm].

        Inside, work that lies toward the place leaves the plunger out; a wall that grows does so too. References:
        derived here to first order in the offset, as `gyrocore.sweep` reads it back.
        """
        if any(abs((angle_deg - one + 180) % 360 - 180) < 10 for one in self.blocked_deg):
            return None
        x, y = self.axis_at(z_mm)
        t = radians(angle_deg)
        out = x * cos(t) + y * sin(t) + self.oval_mm * cos(2 * (t - radians(self.oval_deg))) + self.grows * z_mm
        return -out if self.inside else out

    def shifted(self, x_mm: float, y_mm: float) -> SimulatedWork:
        """Moved whole, as jaws or a table do it."""
        return replace(self, off_mm=(self.off_mm[0] + x_mm, self.off_mm[1] + y_mm))

    def toward(self, jaw: str, by_mm: float) -> SimulatedWork:
        """Moved toward a jaw: that one slackened, the one across from it tightened."""
        x, y = JAWS[jaw]
        return self.shifted(x * by_mm, y * by_mm)

    def tapped(self, x_mm: float, y_mm: float, *, at_mm: float, about_mm: float) -> SimulatedWork:
        """Tapped at one depth while it is held at another, the depths apart."""
        turn = (x_mm / (at_mm - about_mm), y_mm / (at_mm - about_mm))
        return replace(
            self, lean=(self.lean[0] + turn[0], self.lean[1] + turn[1]),
            off_mm=(self.off_mm[0] - turn[0] * about_mm, self.off_mm[1] - turn[1] * about_mm),
        )  # fmt: skip

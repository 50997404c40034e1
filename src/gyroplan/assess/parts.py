"""A swept round taken apart: what moving the work changes, what its oval is, and the rest."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, radians, sin

from numpy import interp

from gyroplan.assess.truing import RoundStanding

#: Places a turn from which on offset, oval and a rest can be told apart: five are fitted, one at least is left.
_LEAST_PLACES = 6


@dataclass(frozen=True, slots=True, kw_only=True)
class Parts:
    """How far the surface stands out from its mean [mm] at the places that were read, and what that consists of.

    `oval_mm` is the half swing of the second harmonic, which stands out most toward `wide_deg` and half a turn on.
    """

    angles_deg: Sequence[float]
    outward_mm: Sequence[float]
    offset_mm: tuple[float, float]
    oval_mm: float
    wide_deg: float
    rest_mm: Sequence[float]

    @property
    def oval_swing_mm(self) -> float:
        """What the indicator swings by for the oval alone [mm]."""
        return 2 * self.oval_mm

    @property
    def rest_swing_mm(self) -> float:
        """What it swings by for all else: lobes, marks, noise [mm]."""
        return max(self.rest_mm) - min(self.rest_mm)

    def centred_mm(self, angle_deg: float) -> float:
        """How far a round surface off centre by the offset stands out at an angle [mm]."""
        turned = radians(angle_deg)
        return self.offset_mm[0] * cos(turned) + self.offset_mm[1] * sin(turned)

    def oval_at_mm(self, angle_deg: float) -> float:
        """How far the oval alone stands out at an angle [mm]."""
        return self.oval_mm * cos(2 * radians(angle_deg - self.wide_deg))

    def rest_at_mm(self, angle_deg: float) -> float:
        """How far the rest stands out at an angle [mm]: between two places along the straight line of both."""
        at = [angle + turn for turn in (-360, 0, 360) for angle in self.angles_deg]
        return float(interp(angle_deg % 360, at, [*self.rest_mm] * 3))

    def outward_at_mm(self, angle_deg: float) -> float:
        """How far it stands out at an angle, all parts together [mm]."""
        return self.centred_mm(angle_deg) + self.oval_at_mm(angle_deg) + self.rest_at_mm(angle_deg)


def parts_of(view: RoundStanding | None) -> Parts | None:
    """Return what a swept round consists of; None where it is no such round, or has too few places.

    Notes
    -----
    What stands out is plunger in on an outside, plunger out in a bore. Offset and oval are the first two harmonics of
    the fit; the rest is what they leave at each place, about its own mean.

    References
    ----------
    `gyrocore.sweep`; derived here as its sum read backwards.
    """
    if view is None or view.sweep is None or view.round.method != "sweep" or view.round.surface == "face":
        return None
    sign = -1.0 if view.round.surface == "inside" else 1.0
    read = [(a, sign * v) for a, v in zip(view.round.angles_deg, view.counted_mm, strict=True) if v is not None]
    if len(read) < _LEAST_PLACES:
        return None
    oval = next((one for one in view.sweep.form if one.order == 2), None)
    turned = 0.0 if sign > 0 else 90.0
    found = Parts(
        angles_deg=[a for a, _ in read], outward_mm=(), rest_mm=(),
        offset_mm=(view.sweep.offset_x_mm, view.sweep.offset_y_mm),
        oval_mm=oval.amplitude_mm if oval else 0.0, wide_deg=(oval.angle_deg + turned) % 180 if oval else 0.0,
    )  # fmt: skip
    rest = [v - found.centred_mm(a) - found.oval_at_mm(a) for a, v in read]
    middle = sum(rest) / len(rest)
    return Parts(
        angles_deg=found.angles_deg, outward_mm=[v - middle for _, v in read], offset_mm=found.offset_mm,
        oval_mm=found.oval_mm, wide_deg=found.wide_deg, rest_mm=[v - middle for v in rest],
    )  # fmt: skip

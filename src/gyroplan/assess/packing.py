"""What lies under work that is clamped to a table or a saddle, and what must: its axis is to lie at the spindle's."""

from __future__ import annotations

from dataclasses import dataclass

from gyroplan.assess.at import AtBore
from gyroplan.record import FixtureRecord


@dataclass(frozen=True, slots=True, kw_only=True)
class Packing:
    """Heights over the table or the saddle [mm]."""

    axis_mm: float
    under: tuple[FixtureRecord, ...]
    under_mm: float
    #: What must lie under the work in all, where the height of its own axis over its foot is known.
    needed_mm: float | None

    @property
    def foot_mm(self) -> float:
        """How high its own axis must lie over its foot on what is under it now."""
        return self.axis_mm - self.under_mm

    @property
    def lacking_mm(self) -> float | None:
        """What is still to be put under it; negative is too much."""
        return None if self.needed_mm is None else self.needed_mm - self.under_mm


def packing_of(at: AtBore) -> Packing | None:
    """Return the packing under the work; None where the work turns, or the axis' height is not known.

    Work in a chuck or on a faceplate is trued at its jaws: nothing lies under it.
    """
    axis, foot = at.machine.axis_height_mm, at.plan.foot_mm
    if axis is None or at.setup.way.turns == "work":
        return None
    under = tuple(one for one in at.setup.fixtures if one.height_mm is not None)
    if not under and foot is None:
        return None
    return Packing(
        axis_mm=axis, under=under, under_mm=sum(one.height_mm or 0.0 for one in under),
        needed_mm=None if foot is None else axis - foot,
    )  # fmt: skip

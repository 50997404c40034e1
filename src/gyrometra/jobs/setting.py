"""How a bore's cutter is set, as the loop of passes takes it: dial, advance, over the bar, step gauge, micrometer."""

from __future__ import annotations

from dataclasses import dataclass
from math import trunc
from typing import Protocol

from gyrocore import Dial
from gyrometra.crib.models import Bar, Machine
from gyrometra.jobs.models import Plan
from gyroplan.loop import AdvanceWay, DialWay, MicrometerWay, OverBarWay, StepWay, Told, Way


@dataclass(frozen=True, slots=True, kw_only=True)
class Setting:
    """One pass's setting: from which size to which, what is turned or read, and what then shows [mm]."""

    from_mm: float
    to_mm: float
    way: Way
    told: Told | None
    stands_at: float | None
    #: The machine's dial is not known: the radial move is told instead.
    no_dial: bool = False

    @property
    def change_mm(self) -> float:
        """The change on diameter."""
        return self.to_mm - self.from_mm

    @property
    def radial_mm(self) -> float:
        """The change on radius."""
        return self.change_mm / 2


@dataclass(frozen=True, slots=True)
class Turns:
    """Divisions as whole turns and what is left of one, both with the sign of the move."""

    turns: int
    odd: float

    @classmethod
    def of(cls, divisions: float, per_turn: float) -> Turns:
        """Split a move; a rest that shows as a whole turn is one."""
        turns = trunc(divisions / per_turn + (1e-9 if divisions >= 0 else -1e-9))
        return cls(turns, divisions - turns * per_turn)


class HasDial(Protocol):
    """A machine's slide or a boring head."""

    dial_numbers: str

    @property
    def dial(self) -> Dial | None:
        """Its dial for the core."""


def way_of(set_by: str, plan: Plan, machine: Machine, bar: Bar | None) -> tuple[Way, bool]:
    """What sets the cutter, and whether its dial is missing: then the radial move is told, as an advance."""
    if set_by == "over-bar" and bar is not None:
        return _way_of_bar(plan, bar), False
    if set_by == "micrometer":
        # a bar known to cut large is set so much smaller
        return MicrometerWay(scale_zero_mm=-float(machine.cuts_large_mm or 0)), False
    owner: HasDial | None = plan.head if set_by == "head" else machine if set_by == "dial" else None
    dial = owner.dial if owner is not None else None
    if owner is None or dial is None:
        return AdvanceWay(), True
    return _dial_way(dial, owner.dial_numbers), False


def _dial_way(dial: Dial, numbers: str) -> DialWay:
    return DialWay(
        division_mm=dial.division_mm,
        divisions_per_turn=dial.divisions_per_turn,
        reads="diameter" if dial.reads == "diameter" else "radius",
        numbers="fall" if numbers == "fall" else "rise",
    )


def _way_of_bar(plan: Plan, bar: Bar) -> Way:
    diameter = float(bar.diameter_mm)
    if plan.set_with == Plan.SetWith.INDICATOR:
        return AdvanceWay(bit_tilt_deg=float(bar.tilt_deg))
    if plan.set_with == Plan.SetWith.PROTRUSION:
        return StepWay(bar_diameter_mm=diameter)
    if plan.set_with == Plan.SetWith.JIG:
        return StepWay(bar_diameter_mm=diameter, scale_zero_mm=float(plan.jig_zero_mm or 0))
    return OverBarWay(bar_diameter_mm=diameter)

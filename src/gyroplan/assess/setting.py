"""How a bore's cutter is set, as the loop of passes takes it: dial, advance, over the bar, step gauge, micrometer."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import Dial, InvalidInput
from gyroplan.assess.at import AtBore
from gyroplan.loop import AdvanceWay, DialWay, MicrometerWay, OverBarWay, StepWay, Told, Way
from gyroplan.record import BarRecord, PlanRecord


@dataclass(frozen=True, slots=True, kw_only=True)
class SetBy:
    """What sets the cutter. Where its dial is not known the radial move is told instead, as an advance."""

    way: Way
    no_dial: bool = False
    refused: InvalidInput | None = None


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


def set_by(at: AtBore) -> SetBy:
    """Return what sets the cutter of a bore."""
    by, plan, start = at.setup.way.set_by, at.plan, at.start_mm
    if by == "over-bar" and at.bar is not None:
        way = _way_of_bar(plan, at.bar)
        if isinstance(way, OverBarWay | StepWay) and start and way.bar_diameter_mm >= start:
            over = InvalidInput("bar_diameter_mm", "not_under", given=way.bar_diameter_mm, allowed=start)
            return SetBy(way=AdvanceWay(), no_dial=True, refused=over)
        return SetBy(way=way)
    if by == "micrometer":
        # a bar known to cut large is set so much smaller
        return SetBy(way=MicrometerWay(scale_zero_mm=-(at.machine.cuts_large_mm or 0.0)))
    owner = plan.head if by == "head" else at.machine if by == "dial" else None
    dial = owner.dial if owner is not None else None
    if owner is None or dial is None:
        return SetBy(way=AdvanceWay(), no_dial=True)
    return SetBy(way=_dial_way(dial, owner.dial_numbers))


def _dial_way(dial: Dial, numbers: str) -> DialWay:
    return DialWay(
        division_mm=dial.division_mm,
        divisions_per_turn=dial.divisions_per_turn,
        reads="diameter" if dial.reads == "diameter" else "radius",
        numbers="fall" if numbers == "fall" else "rise",
    )


def _way_of_bar(plan: PlanRecord, bar: BarRecord) -> Way:
    if plan.set_with == "indicator":
        return AdvanceWay(bit_tilt_deg=bar.tilt_deg)
    if plan.set_with == "protrusion":
        return StepWay(bar_diameter_mm=bar.diameter_mm)
    if plan.set_with == "jig":
        return StepWay(bar_diameter_mm=bar.diameter_mm, scale_zero_mm=plan.jig_zero_mm or 0.0)
    return OverBarWay(bar_diameter_mm=bar.diameter_mm)

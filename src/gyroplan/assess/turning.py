"""Work that turns unbalanced: its heavy side, the counterweights at the plate's holes, and how fast it may turn."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import Balance, Counterweights, Mass, balance, counterweights
from gyroplan.assess.at import AtBore


@dataclass(frozen=True, slots=True, kw_only=True)
class Turning:
    """The unbalance of the masses that were given, what counters it, and what is left."""

    heavy: Balance
    #: None while the circle of holes is not known: then nothing is countered.
    counter: Counterweights | None
    #: The greatest speed by the force that is left; None where no force was allowed.
    max_rpm: float | None

    @property
    def left_kg_mm(self) -> float:
        """What stays unbalanced."""
        return self.heavy.unbalance_kg_mm if self.counter is None else self.counter.left_kg_mm


def turns_heavy(at: AtBore) -> bool:
    """Whether work turns that can be heavy on one side."""
    return at.setup.way.turns == "work" and at.setup.way.unbalanced


def turning_of(at: AtBore) -> Turning | None:
    """Return the balance of what turns; None where nothing was given or the work stands."""
    plan = at.plan
    if not turns_heavy(at) or not plan.masses:
        return None
    heavy = balance(
        masses=[Mass(name=one.name, mass_kg=one.mass_kg, radius_mm=one.radius_mm, angle_deg=one.angle_deg)
                for one in plan.masses], force_limit_n=plan.force_limit_n,
    )  # fmt: skip
    counter = None
    if plan.plate_radius_mm is not None and heavy.angle_deg is not None:
        counter = counterweights(
            unbalance_kg_mm=heavy.unbalance_kg_mm, angle_deg=heavy.angle_deg, radius_mm=plan.plate_radius_mm,
            holes=plan.plate_holes, step_kg=plan.weight_step_kg, force_limit_n=plan.force_limit_n,
        )  # fmt: skip
    return Turning(heavy=heavy, counter=counter, max_rpm=heavy.max_rpm if counter is None else counter.max_rpm)

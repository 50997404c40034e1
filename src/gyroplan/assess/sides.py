"""Bored from two sides: how deep the bar comes from each before anything touches, and the step where they meet."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from gyrocore import TwoSided, two_sided
from gyroplan.assess.at import AtBore
from gyroplan.record import BarRecord


@dataclass(frozen=True, slots=True, kw_only=True)
class SideReach:
    """How deep a bar's point comes into a bore, and what ends it: its clamped length, or a part that is too thick."""

    depth_mm: float
    ends_by: Literal["clamp", "step"]
    #: The diameter that does not enter, where that ends it.
    thick_mm: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Sides:
    """The bore from both faces with one bar, and the step to expect in its middle."""

    bar: BarRecord
    reach: SideReach
    found: TwoSided
    overlap_mm: float
    #: How far the two truings may lie apart, on radius: each as it was trued, else at half the run-out limit.
    step_mm: float
    own_off_mm: float
    other_off_mm: float
    trued: tuple[bool, bool]
    limit_mm: float
    clear_mm: float

    @property
    def out_a_mm(self) -> float | None:
        """Bar overhang for the first side."""
        return None if self.found.depth_a_mm is None else self.found.depth_a_mm + self.clear_mm

    @property
    def out_b_mm(self) -> float | None:
        """Bar overhang for the second side."""
        return None if self.found.depth_b_mm is None else self.found.depth_b_mm + self.clear_mm


def reach_into(bar: BarRecord, *, entry_mm: float, clear_mm: float, chip_mm: float) -> SideReach:
    """Return how deep the point comes: what can stand out less the holder's clearance, or up to a part too thick."""
    depth = max(0.0, bar.reach_mm - clear_mm)
    at = 0.0
    for length, diameter in [*bar.steps_mm, (bar.length_mm, bar.diameter_mm)]:
        if at >= depth:
            break
        if diameter > entry_mm - 2 * chip_mm + 1e-9 and at > 0:
            return SideReach(depth_mm=at, ends_by="step", thick_mm=diameter)
        at += length
    return SideReach(depth_mm=depth, ends_by="clamp")


def sides_of(at: AtBore, bar: BarRecord | None, own_off_mm: float | None) -> Sides | None:
    """Return the bore from two sides; None for a bore that is closed, a bar held at both ends, or none picked."""
    if bar is None or at.bore.ends != "through" or at.setup.way.bar_in in ("bearings", "centres"):
        return None
    entry = at.narrowest_mm
    if entry is None:
        return None
    reach = reach_into(bar, entry_mm=entry, clear_mm=at.plan.clear_mm, chip_mm=at.plan.chip_clearance_mm)
    # as deep as it was said, where the bar reaches so far; the other side the rest
    own_depth = min(reach.depth_mm, at.bored_mm) if at.is_one_side else reach.depth_mm
    rest = max(0.0, at.bore.length_mm - own_depth + at.plan.overlap_mm)
    other_depth = min(reach.depth_mm, rest) if at.is_one_side else reach.depth_mm
    found = two_sided(length_mm=at.bore.length_mm, reach_a_mm=own_depth, reach_b_mm=other_depth,
                      overlap_mm=at.plan.overlap_mm)  # fmt: skip
    half = at.bore.runout_limit_mm / 2
    # the set-up that this one went on from is closed, and its truing is just what the joint shows
    other = next((one.off_centre_mm for one in reversed(at.record.others) if one.off_centre_mm is not None), None)
    own, their = (half if off is None else off for off in (own_off_mm, other))
    return Sides(
        bar=bar, reach=reach, found=found, overlap_mm=at.plan.overlap_mm, step_mm=own + their, own_off_mm=own,
        other_off_mm=their, trued=(own_off_mm is not None, other is not None), limit_mm=at.bore.runout_limit_mm,
        clear_mm=at.plan.clear_mm,
    )  # fmt: skip

"""A bar in a boring head: which hole reaches every size of the plan."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import HeadRange, InvalidInput, head_range
from gyrometra.jobs.reckon import Reckoning


@dataclass(frozen=True, slots=True, kw_only=True)
class HoleFit:
    """One hole: what it reaches, and why it will not do here; `reason` is empty where it does."""

    hole: str
    smallest_mm: float | None
    largest_mm: float | None
    least_hole_mm: float | None
    reason: str

    @property
    def will_do(self) -> bool:
        """Whether every size of the plan can be cut from this hole."""
        return not self.reason


def range_of(reckoning: Reckoning) -> HeadRange | None:
    """What the picked bar reaches in the picked head, hole by hole."""
    bar, head = reckoning.bar, reckoning.plan.head
    if bar is None or head is None or bar.tip_mm is None:
        return None
    try:
        return head_range(bar=bar.head_bar, offsets_mm=head.offsets(), slide_travel_mm=float(head.slide_travel_mm))
    except InvalidInput as error:
        reckoning.problems["head"] = error
        return None


def holes_of(reckoning: Reckoning) -> list[HoleFit]:
    """Every hole against the first and the last size of the plan, and the hole that is there now."""
    found = range_of(reckoning)
    if found is None:
        return []
    sizes = [cut.diameter_mm for cut in reckoning.passes.passes] if reckoning.passes else []
    rows = []
    for row in found.ranges:
        reason = ""
        if row.smallest_mm is None or row.largest_mm is None or row.least_hole_mm is None:
            reason = "touches"
        elif sizes and max(sizes) > row.largest_mm + 1e-9:
            reason = "short"
        elif sizes and min(sizes) < row.smallest_mm - 1e-9:
            reason = "wide"
        elif reckoning.start_mm is not None and reckoning.start_mm < row.least_hole_mm - 1e-9:
            reason = "tight"
        rows.append(
            HoleFit(
                hole=str(row.hole), smallest_mm=row.smallest_mm, largest_mm=row.largest_mm,
                least_hole_mm=row.least_hole_mm, reason=reason,
            )
        )  # fmt: skip
    return rows


def picked_hole(rows: list[HoleFit]) -> HoleFit | None:
    """The hole to use: the one nearest the axis that does, for it swings least."""
    return next((row for row in rows if row.will_do), None)

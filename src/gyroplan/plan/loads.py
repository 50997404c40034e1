"""What each pass asks of a bar: its cut, and how far the bar may spring under it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from gyrocore import SPRING_SHARE, Cut, Pass

#: Kinds of pass that open the bore up; the rest finish it.
ROUGHING = ("rough", "test")
#: A roughing pass may spring this share of what the next pass takes off: that one must still meet the wall all round
#: (chosen here, editable by the plan's own figure).
NEXT_SHARE = 0.25
#: A finish pass after one alike that was measured may spring so much of the tolerance: what both spring alike was
#: seen in the first and is taken off in the second (chosen here).
ALIKE_SHARE = 0.6
_ALIKE_WITHIN = 0.25


@dataclass(frozen=True, slots=True, kw_only=True)
class PassLoad:
    """One pass as the bar feels it [mm]."""

    number: int
    kind: str
    cut: Cut
    budget_mm: float
    #: Why it may spring so much: `next`, `tolerance`, `alike`, `own`.
    budget_from: str


def loads_of(
    passes: Sequence[Pass], cut_of: Callable[[Pass], Cut], tolerance_mm: float, own_budget_mm: float | None = None
) -> tuple[PassLoad, ...]:
    """Return what every cutting pass asks of a bar.

    Parameters
    ----------
    passes : in order; spring passes are left out
    cut_of : a pass as the core cuts it
    tolerance_mm : of the bore, on diameter, over 0 [mm]
    own_budget_mm : the shop's own figure in place of the rule for finish passes, or None [mm]

    Returns
    -------
    one load a pass

    Notes
    -----
    On radius: a roughing pass a quarter of the depth of the next pass, and so a finish pass that is measured and has
    another after it, which takes its spring off; the last one a quarter of the tolerance, six tenths where the pass
    before it is alike (a finish pass, within a quarter as deep) and measured.

    References
    ----------
    Chosen here, because spring doubles on diameter and shares the tolerance with setting and measuring; editable.
    """
    cutting = [one for one in passes if one.depth_mm > 0 and one.kind != "spring"]
    found = []
    for place, one in enumerate(cutting):
        before = cutting[place - 1] if place else None
        after = cutting[place + 1] if place + 1 < len(cutting) else None
        budget, source = _budget(one, before, after, tolerance_mm, own_budget_mm)
        found.append(
            PassLoad(number=one.number, kind=one.kind, cut=cut_of(one), budget_mm=budget, budget_from=source)
        )  # fmt: skip
    return tuple(found)


def _budget(
    one: Pass, before: Pass | None, after: Pass | None, tolerance_mm: float, own_mm: float | None
) -> tuple[float, str]:
    if one.kind in ROUGHING and after is not None:
        return NEXT_SHARE * after.depth_mm, "next"
    if own_mm is not None:
        return own_mm, "own"
    if one.measure_after and after is not None and after.kind == "finish":
        return max(SPRING_SHARE * tolerance_mm, NEXT_SHARE * after.depth_mm), "next"
    if before is not None and _alike(one, before):
        return ALIKE_SHARE * tolerance_mm, "alike"
    return SPRING_SHARE * tolerance_mm, "tolerance"


def _alike(one: Pass, before: Pass) -> bool:
    near = abs(one.depth_mm - before.depth_mm) <= _ALIKE_WITHIN * before.depth_mm
    return one.kind == before.kind == "finish" and before.measure_after and near


def distinct(loads: Sequence[PassLoad]) -> list[PassLoad]:
    """The loads that differ: of passes alike the one that may spring least."""
    found: dict[tuple[float, float], PassLoad] = {}
    for load in loads:
        key = (round(load.cut.depth_mm, 9), load.cut.feed_mm_rev)
        if key not in found or load.budget_mm < found[key].budget_mm:
            found[key] = load
    return list(found.values())

"""What a plan begins with, by the size of the bore: small bores have no room for the clearances of large ones."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import InvalidInput

#: From this bore on the figures of common shop practice stand as they are [mm].
_FULL_MM = 40.0
#: Round steps: a default reads as a person would type it [mm].
_STEPS = {"mm": (0.5, 0.05, 0.01), "in": (0.005 * 25.4, 0.001 * 25.4, 0.0005 * 25.4)}


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanDefaults:
    """Clearances, depths and feeds that a new job begins with [mm]."""

    chip_clearance_mm: float
    clear_mm: float
    overrun_mm: float
    rough_depth_mm: float
    finish_depth_mm: float
    rough_feed_mm_rev: float
    finish_feed_mm_rev: float


def plan_defaults(bore_mm: float, unit: str = "mm") -> PlanDefaults:
    """Return the clearances, depths and feeds of a new plan.

    Parameters
    ----------
    bore_mm : finished size, over 0 [mm]
    unit : `mm` or `in`: the figures are round in it

    Returns
    -------
    PlanDefaults [mm]

    Raises
    ------
    InvalidInput
        At `bore_mm`, not over 0.

    Notes
    -----
    From 40 mm up: 5 beside the bar for chips, 20 clear of the face, 5 past the end, 0.5 and 0.2 deep, 0.2 and 0.08
    a turn. Under it each shrinks with the bore, to what a 6 mm bore has room for: 0.5 beside the bar, 0.2 and 0.1 deep.

    References
    ----------
    Chosen here after shop practice, so that bores of 6 to 12 mm plan untouched; every figure may be changed.
    """
    if not bore_mm > 0:
        raise InvalidInput("bore_mm", "not_positive", given=bore_mm, allowed=0)
    share = min(1.0, bore_mm / _FULL_MM)
    coarse, middle, fine = _STEPS[unit]

    def round_to(value: float, step: float) -> float:
        return max(step, round(value / step) * step)

    return PlanDefaults(
        chip_clearance_mm=round_to(min(5.0, max(0.5, 5 * share**1.3)), coarse),
        clear_mm=round_to(max(3.0, 20 * share), coarse),
        overrun_mm=round_to(max(1.0, 5 * share), coarse),
        rough_depth_mm=round_to(max(0.2, 0.5 * share), middle),
        finish_depth_mm=round_to(max(0.1, 0.2 * share), middle),
        rough_feed_mm_rev=round_to(max(0.08, 0.2 * share), fine),
        finish_feed_mm_rev=round_to(max(0.05, 0.08 * share), fine),
    )

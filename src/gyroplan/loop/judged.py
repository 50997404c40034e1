"""What a size says: believed value, verdict, a change that came out twice or half, the habit of a setting."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot

from gyrocore import verdict
from gyrocore.checks import TOLERANCE
from gyroplan.gauges import SizeTaken, believed_size
from gyroplan.loop.asked import BoreInWork
from gyroplan.loop.memory import CutMade, LastCuts
from gyroplan.loop.plan import BoreWork

#: A change this near to the commanded one is no slip: at least this, or three times the uncertainty (contract).
_LEAST_BAND_MM = 0.02
_UNCERTAINTIES = 3.0
#: How near to twice or half it must be, as a share of what was commanded.
_TWICE_SHARE, _HALF_SHARE = 1 / 5, 1 / 20
#: A shortfall past this is a slip the first time and a habit the second (contract).
_HABIT_BAND_MM = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class Judged:
    """The size believed of a row of sizes, and what it is against the limits [mm]."""

    value_mm: float
    expanded_mm: float
    agree: bool | None
    verdict: str


def judge_row(row: Sequence[SizeTaken], work: BoreWork, bore: BoreInWork) -> Judged:
    """Return what sizes in a row say of the bore; the worse gauge is believed where two contradict each other."""
    found = believed_size(row, work.gauges, work.expansions)
    value, expanded = found.value_mm, found.expanded_mm
    if found.agree is False:
        value, expanded = found.largest.value_mm, found.largest.expanded_mm
    word = verdict_on(bore, value, expanded, found.agree)
    return Judged(value_mm=value, expanded_mm=expanded, agree=found.agree, verdict=word)


def verdict_on(bore: BoreInWork, value_mm: float, expanded_mm: float, agree: bool | None) -> str:
    """Return the guarded verdict on the bored hole's limits; gauges that contradict each other prove nothing in."""
    called = verdict(
        value_mm=value_mm, expanded_mm=expanded_mm, lower_mm=bore.bored_lower_mm, upper_mm=bore.bored_upper_mm
    )  # fmt: skip
    if agree is False and called.verdict == "in":
        return "undecided-low" if called.room_low_mm <= called.room_high_mm else "undecided-high"
    return called.verdict


def suspect_of(judged: Judged, cuts: LastCuts | None) -> str | None:
    """Return `twice` or `half` where the bore changed by so much of what was commanded, else None.

    Notes
    -----
    c is the measured change since the size before the cuts, w the commanded one, t the larger of 0.02 mm and three
    times the root sum of squares of the two uncertainties. A change within t of w is no slip. Twice is looked for
    within a fifth of w, half within a twentieth: a cut that came half as deep also has harmless causes.

    References
    ----------
    Core contract, `bore_state`, suspect; a dial that reads diameter taken for radius gives exactly two.
    """
    if cuts is None or cuts.before_mm is None or cuts.set_mm is None or cuts.touched:
        return None
    change, wanted = judged.value_mm - cuts.before_mm, cuts.set_mm - cuts.before_mm
    band = max(_LEAST_BAND_MM, _UNCERTAINTIES * hypot(judged.expanded_mm, cuts.before_expanded_mm))
    if wanted <= TOLERANCE or abs(change - wanted) <= band + TOLERANCE:
        return None
    if abs(change - 2 * wanted) <= min(band, wanted * _TWICE_SHARE) + TOLERANCE:
        return "twice"
    if abs(change - wanted / 2) <= min(band, wanted * _HALF_SHARE) + TOLERANCE:
        return "half"
    return None


def habit_after(made: CutMade, came_mm: float, suspect: str | None) -> tuple[float, bool]:
    """Return the habit once a pass was measured [mm], and whether its shortfall was taken for a slip.

    Parameters
    ----------
    made : the pass, and the one measured before it
    came_mm : what it came out over its reading's diameter [mm]
    suspect : as `suspect_of` says

    References
    ----------
    Core contract, `bore_state`, habit: once is a slip, twice a habit.
    """
    if suspect == "half" or _is_slip(made, came_mm):
        return max(0.0, made.habit_before_mm), True
    return came_mm, False


def _is_slip(made: CutMade, came_mm: float) -> bool:
    if came_mm >= made.habit_before_mm - _HABIT_BAND_MM - TOLERANCE:
        return False
    if made.earlier_came_mm is None or made.earlier_kind != "finish" or made.touched_since_earlier:
        return True
    return abs(made.earlier_came_mm - came_mm) > _HABIT_BAND_MM + TOLERANCE

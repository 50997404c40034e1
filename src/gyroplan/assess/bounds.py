"""What was tried in a finished bore: plugs and the mating part go or do not, a set gauge feels tighter, same, looser.

A plug or the mating part passes the whole bore, so what it says holds at every place, or of the narrowest. A gauge set
to a size and compared by feel says something of the one spot where it was held: it is held against what was read, and
decides nothing.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from gyrocore import GaugeBounds, Seen, gauge_bounds
from gyrocore.checks import TOLERANCE
from gyroplan.gauges import doubt_of
from gyroplan.judge import CheckState, CheckWork, Place, with_places
from gyroplan.record import BoreRecord, PlugRecord


def bounds_of(bore: BoreRecord, tried: Sequence[PlugRecord]) -> GaugeBounds | None:
    """Between what the narrowest place lies, by plugs and the mating part; None where none was tried."""
    seen = [
        Seen(kind="go" if one.goes else "no-go", size_mm=one.size_mm, expanded_mm=one.gauge.error_limit_mm)
        for one in tried if not one.by_feel
    ]  # fmt: skip
    return gauge_bounds(seen=seen, lower_mm=bore.lower_mm, upper_mm=bore.upper_mm) if seen else None


def felt_of(tried: Sequence[PlugRecord]) -> GaugeBounds | None:
    """Between what the size lies where a set gauge was felt; None where none was.

    Tighter than a size s: at most s + U. Looser: at least s - U. The same: within s -+ (U + the least that is felt),
    U what the set gauge is known to.
    """
    seen = [_felt(one) for one in tried if one.by_feel]
    return gauge_bounds(seen=seen) if seen else None


def _felt(one: PlugRecord) -> Seen:
    doubt = doubt_of(one.gauge)
    if one.felt == "same":
        return Seen(kind="value", size_mm=one.size_mm, expanded_mm=doubt + one.gauge.resolution_mm)
    return Seen(kind="no-go" if one.felt == "tighter" else "go", size_mm=one.size_mm, expanded_mm=doubt)


def contradicts(places: Sequence[Place], bounds: GaugeBounds | None, felt: GaugeBounds | None) -> bool:
    """Whether what was tried and what was read cannot both be true.

    Every place is at least what goes, and the narrowest at most what does not. Where a set gauge was felt looser some
    place is as large; where tighter, some is as small.
    """
    if any(one is not None and not one.consistent for one in (bounds, felt)):
        return True
    if not places:
        return False
    smallest, largest = (pick(places, key=lambda one: one.value_mm) for pick in (min, max))
    least = [(bounds.at_least_mm, smallest)] if bounds else []
    least += [(felt.at_least_mm, largest)] if felt else []
    most = [one.at_most_mm for one in (bounds, felt) if one is not None]
    low, tol = smallest.value_mm - smallest.expanded_mm, TOLERANCE
    too_small = any(size is not None and at.value_mm + at.expanded_mm < size - tol for size, at in least)
    return too_small or any(size is not None and low > size + tol for size in most)


def narrowed(state: CheckState, work: CheckWork, bounds: GaugeBounds | None) -> CheckState:
    """Return the state with places that are proven by what was read and what was tried together.

    A place known from x - U to x + U lies above what goes, too, and the narrowest below what does not: where that
    leaves it inside the limits it is in. Gauges that disagree, and a reading that was not repeated, stay undecided.

    References: core contract, `gauge_bounds`; the guard of ISO 14253-1 stays.
    """
    if bounds is None or not bounds.consistent or not state.places:
        return state
    smallest = min(state.places, key=lambda one: one.value_mm)
    places = tuple(
        replace(one, verdict="in") if _is_in(one, work, bounds, narrowest=one is smallest) else one
        for one in state.places
    )
    return state if places == state.places else with_places(work, state, places)


def beyond_mate_mm(places: Sequence[Place], mate_mm: float, least_mm: float, most_mm: float | None) -> float | None:
    """Return how far a bore lies beyond what suits its mating part, more clearance being positive; None where it suits.

    The smallest place leaves at least the least clearance asked, the largest at most the most, each with its own
    uncertainty: only what cannot suit is told [mm].
    """
    if not places:
        return None
    small, large = (pick(places, key=lambda one: one.value_mm) for pick in (min, max))
    if small.value_mm + small.expanded_mm < mate_mm + least_mm - TOLERANCE:
        return small.value_mm - mate_mm - least_mm
    if most_mm is not None and large.value_mm - large.expanded_mm > mate_mm + most_mm + TOLERANCE:
        return large.value_mm - mate_mm - most_mm
    return None


def lies_within(
    low: float, high: float, bounds: GaugeBounds, limits_mm: tuple[float, float]
) -> bool:  # fmt: skip
    """Whether a size known from `low` to `high`, narrowed by what was tried, lies in its limits [mm]."""
    if bounds.at_least_mm is not None:
        low = max(low, bounds.at_least_mm)
    if bounds.at_most_mm is not None:
        high = min(high, bounds.at_most_mm)
    return limits_mm[0] - TOLERANCE <= low <= high + TOLERANCE and high <= limits_mm[1] + TOLERANCE


def _is_in(one: Place, work: CheckWork, bounds: GaugeBounds, *, narrowest: bool) -> bool:
    if one.verdict != "undecided" or one.agree is False or one.unrepeated:
        return False
    low, high = one.value_mm - one.expanded_mm, one.value_mm + one.expanded_mm
    # what does not go speaks of the narrowest place alone
    told = bounds if narrowest else replace(bounds, at_most_mm=None)
    return lies_within(low, high, told, (work.lower_mm, work.upper_mm))

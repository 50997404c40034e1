"""Each limit judged by itself, incomplete until what it needs was measured where it says something."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations
from math import hypot, sqrt

from gyrocore.checks import TOLERANCE
from gyroplan.judge.entries import Depth, Runout
from gyroplan.judge.places import Coverage, Place, depths_of, shoulder_of
from gyroplan.judge.plan import CheckWork


@dataclass(frozen=True, slots=True, kw_only=True)
class Figure:
    """What was found of one limit, and its verdict [mm]."""

    value_mm: float | None
    expanded_mm: float | None
    verdict: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Limits:
    """Every limit that is asked; None where it is not."""

    size: Figure
    taper: Figure | None
    roundness: Figure | None
    runout: Figure | None
    depth: Figure | None

    @property
    def form(self) -> tuple[Figure, ...]:
        """Taper, roundness and run-out, as far as they are asked."""
        return tuple(one for one in (self.taper, self.roundness, self.runout) if one is not None)

    @property
    def asked(self) -> tuple[Figure, ...]:
        """All that are asked."""
        return (self.size, *self.form, *([self.depth] if self.depth is not None else []))


_NOTHING_YET = Figure(value_mm=None, expanded_mm=None, verdict="incomplete")


def limits_of(
    work: CheckWork, places: Sequence[Place], coverage: Coverage, depths: Sequence[Depth], runout: Runout | None
) -> Limits:
    """Return every limit judged.

    Parameters
    ----------
    work : what is asked
    places, coverage : what was measured, and whether it says something of the whole bore
    depths : of the shoulder
    runout : the last one read

    References
    ----------
    Core contract, `check_state`.
    """
    return Limits(
        size=size_of(work, places, coverage),
        taper=None if work.taper_limit_mm is None else _taper(work, places, coverage, work.taper_limit_mm),
        roundness=None if work.roundness_limit_mm is None else _roundness(work, places, coverage),
        runout=None if work.runout_limit_mm is None else _runout(work, runout),
        depth=_depth(work, depths) if work.has_shoulder else None,
    )


def size_of(work: CheckWork, places: Sequence[Place], coverage: Coverage) -> Figure:
    """Size over all places: over or under where any is, else undecided or in once the bore is covered."""
    words = {place.verdict for place in places}
    if "over" in words or "under" in words:
        word = "over" if "over" in words else "under"
        worst = _farthest(work, [place for place in places if place.verdict == word], word)
        return Figure(value_mm=worst.value_mm, expanded_mm=worst.expanded_mm, verdict=word)
    if not places:
        return _NOTHING_YET
    of = "undecided" if "undecided" in words else "in"
    worst = _farthest(work, [place for place in places if place.verdict == of], of)
    word = of if coverage.is_complete else "incomplete"
    return Figure(value_mm=worst.value_mm, expanded_mm=worst.expanded_mm, verdict=word)


def _farthest(work: CheckWork, places: Sequence[Place], word: str) -> Place:
    """The place farthest out, or nearest a limit; the first of equals."""

    def room(place: Place) -> float:
        low, high = place.value_mm - work.lower_mm, work.upper_mm - place.value_mm
        return high if word == "over" else low if word == "under" else min(low, high)

    worst = places[0]
    for place in places[1:]:
        if room(place) < room(worst) - TOLERANCE:
            worst = place
    return worst


def _at_most(work: CheckWork, value_mm: float, expanded_mm: float, limit_mm: float) -> str:
    guard = expanded_mm if work.rule == "guarded" else 0.0
    if value_mm + guard <= limit_mm + TOLERANCE:
        return "in"
    return "over" if value_mm - guard > limit_mm + TOLERANCE else "undecided"


def _taper(work: CheckWork, places: Sequence[Place], coverage: Coverage, limit_mm: float) -> Figure:
    """Difference of the means at the first and the last depth that has its directions, over the whole length."""
    if len(coverage.full_depths) < 2:
        return _NOTHING_YET
    first, last = coverage.full_depths[0], coverage.full_depths[-1]
    (one, one_u), (other, other_u) = (_mean(places, z) for z in (first, last))
    stretch = work.length_mm / (last - first)
    value, expanded = abs(other - one) * stretch, hypot(one_u, other_u) * stretch
    word = _at_most(work, value, expanded, limit_mm) if coverage.is_complete else "incomplete"
    return Figure(value_mm=value, expanded_mm=expanded, verdict=word)


def _mean(places: Sequence[Place], z_mm: float) -> tuple[float, float]:
    at = [place for place in places if abs(place.z_mm - z_mm) <= TOLERANCE]
    mean = sum(place.value_mm for place in at) / len(at)
    return mean, sqrt(sum(place.expanded_mm**2 for place in at)) / len(at)


def _roundness(work: CheckWork, places: Sequence[Place], coverage: Coverage) -> Figure:
    """Half the greatest difference of two places at one depth."""
    worst: tuple[float, float] | None = None
    for z in depths_of(places):
        at = [place for place in places if abs(place.z_mm - z) <= TOLERANCE]
        for one, other in combinations(at, 2):
            half = abs(one.value_mm - other.value_mm) / 2
            if worst is None or half > worst[0] + TOLERANCE:
                worst = half, hypot(one.expanded_mm, other.expanded_mm) / 2
    if worst is None:
        return _NOTHING_YET
    word = _at_most(work, *worst, work.roundness_limit_mm or 0.0)
    if word != "over" and not coverage.is_complete:
        word = "incomplete"
    return Figure(value_mm=worst[0], expanded_mm=worst[1], verdict=word)


def _runout(work: CheckWork, runout: Runout | None) -> Figure:
    if runout is None:
        return _NOTHING_YET
    word = _at_most(work, runout.swing_mm, runout.expanded_mm, work.runout_limit_mm or 0.0)
    return Figure(value_mm=runout.swing_mm, expanded_mm=runout.expanded_mm, verdict=word)


def _depth(work: CheckWork, depths: Sequence[Depth]) -> Figure:
    found = shoulder_of(work, depths)
    if found is None:
        return _NOTHING_YET
    believed, word = found
    return Figure(value_mm=believed.value_mm, expanded_mm=believed.expanded_mm, verdict=word)

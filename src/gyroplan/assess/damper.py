"""Finding where the damper of a tuned bar must stand, by ear: from full in, out a turn at a time, then by halves."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from gyroplan.record import DamperTryRecord

#: The first step, and the last that is turned: a hand feels no less (chosen here) [turns].
_FIRST_TURN, _LAST_TURN = 1.0, 0.125
#: Farther out than this the damper is loose (chosen here; the bar's own book goes before it) [turns].
_MOST_TURNS = 8.0
_WORSE = {"quiet": 0, "hum": 1, "squeal": 2}


@dataclass(frozen=True, slots=True, kw_only=True)
class DamperSearch:
    """Where to turn it next, in which step, which way from where it stands; or where it stands best [turns out]."""

    #: None once nothing finer is left, or it runs quiet.
    next_turns: float | None
    step_turns: float
    best_turns: float | None
    best_sound: str

    @property
    def is_done(self) -> bool:
        """Whether it is found, as well as it can be."""
        return self.next_turns is None


def damper_search(tries: Sequence[DamperTryRecord]) -> DamperSearch:
    """Return where the damper is turned next.

    Parameters
    ----------
    tries : what was tried at this overhang, oldest first

    Returns
    -------
    DamperSearch

    Notes
    -----
    From full in it is turned out by whole turns while it gets no worse; then the widest stretch beside a place that is
    as good as any is halved, again and again, down to an eighth of a turn. The first quiet place ends it. Of one place
    the last trial counts. The owner's table is never filled in from this, nor guessed between its points.

    References
    ----------
    Search by halving the step (any textbook of numerical methods); what is tried at each place is shop practice.
    """
    heard: dict[float, str] = {round(one.turns, 4): one.sound for one in tries if one.sound}
    if not heard:
        return DamperSearch(next_turns=0.0, step_turns=_FIRST_TURN, best_turns=None, best_sound="")
    best = min(heard, key=lambda turns: (_WORSE[heard[turns]], turns))
    found = DamperSearch(next_turns=None, step_turns=_LAST_TURN, best_turns=best, best_sound=heard[best])
    if heard[best] == "quiet":
        return found
    farthest = max(heard)
    # still as good or better the farther out it stands: one turn more
    if _WORSE[heard[farthest]] <= _WORSE[heard[best]] and farthest + _FIRST_TURN <= _MOST_TURNS:
        return DamperSearch(next_turns=farthest + _FIRST_TURN, step_turns=_FIRST_TURN, best_turns=best,
                            best_sound=heard[best])  # fmt: skip
    gap = _widest_gap(sorted(heard), [turns for turns in heard if heard[turns] == heard[best]])
    if gap is None:
        return found
    return DamperSearch(next_turns=(gap[0] + gap[1]) / 2, step_turns=(gap[1] - gap[0]) / 2, best_turns=best,
                        best_sound=heard[best])  # fmt: skip


def _widest_gap(tried: Sequence[float], best: Sequence[float]) -> tuple[float, float] | None:
    """The widest stretch between two places that were tried, one of them or both as good as any; None once all are as
    narrow as a hand turns."""
    gaps = [
        (high - low, low in best and high in best, low, high) for low, high in pairwise(tried)
        if (low in best or high in best) and (high - low) / 2 >= _LAST_TURN - 1e-9
    ]  # fmt: skip
    if not gaps:
        return None
    # between two good places before beside one; of alike ones the nearest the middle of the good places
    middle = (min(best) + max(best)) / 2
    _, _, low, high = max(gaps, key=lambda gap: (gap[0], gap[1], -abs((gap[2] + gap[3]) / 2 - middle)))
    return low, high

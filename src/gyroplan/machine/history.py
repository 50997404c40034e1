"""How a figure of a machine runs on: the last one, its limit, when it was due, when it will reach the limit."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

#: A forecast takes three checks at least; one farther off than this is no forecast [days] (chosen here).
_FEWEST, _FARTHEST_DAYS = 3, 3650
#: So long before it is due it is said.
DUE_SOON_DAYS = 14


@dataclass(frozen=True, slots=True, kw_only=True)
class Checked:
    """One entry: the day and its figure [mm]; without a figure something of the machine was changed: knocked, set."""

    day: date
    value_mm: float | None
    changed: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Health:
    """What stands of one check.

    `state` is `none` (never checked), `changed` (something was changed since), `over`, `late`, `soon` or `in`.
    """

    state: str
    last: Checked | None
    due: date | None
    #: The first of the checks that count for the run on: what came before a change does not.
    since: date | None
    #: When it reaches the limit, where it rises.
    reaches: date | None
    points: tuple[Checked, ...]


def health_of(entries: Sequence[Checked], limit_mm: float | None, every_days: int, today: date) -> Health:
    """Put the entries of one check of one machine together, oldest first."""
    checks = [one for one in entries if one.value_mm is not None]
    changes = [place for place, one in enumerate(entries) if one.value_mm is None]
    last = checks[-1] if checks else None
    counted = [one for one in entries[changes[-1] + 1 if changes else 0 :] if one.value_mm is not None]
    due = last.day + timedelta(days=every_days) if last is not None else None
    return Health(
        state=_state(last, bool(changes) and not counted, limit_mm, due, today), last=last, due=due,
        since=counted[0].day if counted else None, reaches=_reaches(counted, limit_mm), points=tuple(entries),
    )  # fmt: skip


def _state(last: Checked | None, is_changed: bool, limit_mm: float | None, due: date | None, today: date) -> str:
    if last is None or due is None or last.value_mm is None:
        return "none"
    if is_changed:
        return "changed"
    if limit_mm is not None and last.value_mm > limit_mm:
        return "over"
    if today > due:
        return "late"
    return "soon" if today >= due - timedelta(days=DUE_SOON_DAYS) else "in"


def _reaches(points: Sequence[Checked], limit_mm: float | None) -> date | None:
    """The day on which the least-squares line through the points meets the limit; None where it does not rise.

    References: ordinary least squares of the figure over days.
    """
    if limit_mm is None or len(points) < _FEWEST:
        return None
    first = points[0].day
    days = [float((one.day - first).days) for one in points]
    values = [one.value_mm or 0.0 for one in points]
    middle, mean = sum(days) / len(days), sum(values) / len(values)
    spread = sum((one - middle) ** 2 for one in days)
    if spread <= 0:
        return None
    slope = sum((day - middle) * (value - mean) for day, value in zip(days, values, strict=True)) / spread
    if slope <= 0 or values[-1] >= limit_mm:
        return None
    at = middle + (limit_mm - mean) / slope
    if at - days[-1] > _FARTHEST_DAYS:
        return None
    return first + timedelta(days=max(at, days[-1]))

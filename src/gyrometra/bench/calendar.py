"""The calendar axis: what rests, which gauge and which check of a machine is due, from today on."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta

from gyrodraw import Due, Resting, Scene, calendar_axis
from gyrometra.crib.models import Gauge
from gyrometra.health.queries import CheckDue, checks_due_by
from gyrometra.jobs.models import Job
from gyrometra.steps.shared.scene import WIDTHS

#: Gauges due within so many days are shown, and within so many are marked.
SHOWN_DAYS, SOON_DAYS = 28, 7
#: The axis stays readable with so many of each; the rest are counted.
MOST = 6


@dataclass(frozen=True, kw_only=True)
class Calendar:
    """The axis at each width, and how many more there are than it shows."""

    scenes: list[tuple[str, Scene]]
    more: int


def calendar(today: date) -> Calendar | None:
    """Four queries; None where nothing rests and nothing is due."""
    resting = [_resting(*row, today=today) for row in Job.objects.resting_after(today)]
    gauges = Gauge.objects.due_by(today + timedelta(days=SHOWN_DAYS))
    due = [_due(gauge, today) for gauge in gauges]
    due += [_check_due(one, today) for one in checks_due_by(today + timedelta(days=SHOWN_DAYS))]
    due.sort(key=lambda one: one.days)
    if not resting and not due:
        return None
    monday = today + timedelta(days=(7 - today.weekday()) % 7)
    weeks = [((monday + timedelta(weeks=n) - today).days, f"{monday + timedelta(weeks=n):%d %b}") for n in range(5)]
    shown = resting[:MOST], due[:MOST]
    return Calendar(
        scenes=[(name, calendar_axis(*shown, weeks, width - 48)) for name, width in WIDTHS.items()],
        more=len(resting) + len(due) - len(shown[0]) - len(shown[1]),
    )


def _day_words(day: date, today: date) -> str:
    days = (day - today).days
    return f"{day:%a %d %b}, {days} day{'s' if days != 1 else ''}" if days > 0 else f"{day:%a %d %b}"


def _resting(number: str, part: str, until: date, *, today: date) -> Resting:
    return Resting(
        days=(until - today).days, name=f"{number} {part}"[:44], short=number, words=_day_words(until, today)
    )


def _check_due(one: CheckDue, today: date) -> Due:
    days = (one.day - today).days
    name = f"{one.machine}: {one.label.lower()}"[:44]
    if days < 0:
        return Due(days=days, name=name, words=f"was due {one.day:%a %d %b}. Check it", state="over")
    return Due(days=days, name=name, words=_day_words(one.day, today), state="soon" if days <= SOON_DAYS else "later")


def _due(gauge: Gauge, today: date) -> Due:
    day = gauge.due_on or today
    days = (day - today).days
    if days < 0:
        return Due(days=days, name=gauge.name, words=f"was due {day:%a %d %b}. Take it off the bench", state="over")
    state = "soon" if days <= SOON_DAYS else "later"
    return Due(days=days, name=gauge.name, words=_day_words(day, today), state=state)

"""How well each person repeats with a gauge, learned from places of finished bores that they read more than once."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime, timedelta
from typing import Any

from gyrometra.crib.models import Gauge
from gyrometra.inspection.models import SizeReading
from gyrometra.jobs.gauges import gauge_values
from gyrometra.jobs.models import SetUp
from gyroplan.gauges import Repeats, repeats_of

#: So many of the newest readings are looked at.
_LOOKED_AT = 400
#: Read again after longer than this, the bore may have been cut or have cooled in between (chosen here).
_TOGETHER = timedelta(minutes=20)


def learned(gauge: Gauge, username: str, setup: SetUp) -> Repeats | None:
    """What this person's own readings in other set-ups say of how they repeat with this gauge; one query.

    Those of this set-up are left out: its readings are all judged by the one figure, whenever they are logged.
    """
    rows = SizeReading.objects.standing().filter(gauge=gauge, by__username=username).exclude(setup=setup)
    rows = rows.order_by("-pk")
    found = rows.values_list("bore", "piece", "z_mm", "angle_deg", "part_temp_c", "value_mm", "at")[:_LOOKED_AT]
    places: dict[tuple[object, ...], list[tuple[datetime, float]]] = {}
    for *place, value, at in reversed(found):
        places.setdefault(tuple(place), []).append((at, float(value)))
    return repeats_of([run for readings in places.values() for run in _runs(readings)])


def learned_mm(gauge: Gauge, username: str, setup: SetUp) -> float | None:
    """The same as a standard deviation to a tenth of a micron, where it is known well enough to count."""
    found = learned(gauge, username, setup)
    return None if found is None else found.known_mm


def gauge_in_hand(gauge: Gauge, username: str, setup: SetUp) -> dict[str, Any]:
    """A gauge in this person's hands as it is when it measures, with what they are known to repeat to."""
    return gauge_values(gauge, username, learned_mm(gauge, username, setup))


def _runs(readings: list[tuple[datetime, float]]) -> Iterator[list[float]]:
    """Readings taken one after the other: a long break begins another run."""
    run: list[float] = []
    last: datetime | None = None
    for at, value in readings:
        if last is not None and at - last > _TOGETHER:
            yield run
            run = []
        run.append(value)
        last = at
    yield run

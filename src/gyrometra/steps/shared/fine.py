"""Whether a gauge is fine enough, said before it measures; with the finer one that the shop has."""

from __future__ import annotations

from collections.abc import Iterable

from gyrocore import cooling_minutes
from gyrometra.crib.models import Gauge
from gyrometra.crib.records import gauge_record
from gyrometra.inspection.repeats import learned
from gyrometra.steps.page import JobPage
from gyroplan.gauges import doubt_of, is_fine


def fine_words(page: JobPage, gauges: Iterable[Gauge], username: str, used: int | None = None) -> str:
    """Of the gauge that is offered first, or that was used last: what it is known to, against the tolerance."""
    size, tolerance, units = page.bore.aim_mm, page.bore.tolerance_mm, page.units
    fitting = [one for one in gauges if one.range_low_mm <= size <= one.range_high_mm]
    own = next((one for one in fitting if one.pk == used), fitting[0] if fitting else None)
    if own is None:
        return "No gauge of the crib measures this size."
    repeats = learned(own, username, page.job.setup)
    known = None if repeats is None else repeats.known_mm
    record = gauge_record(own, username, known)
    known_to = units.doubt(doubt_of(record))
    said = f"One reading of {own.name} is known to ± {known_to}, the limits are {units.planned(tolerance)} apart"
    if repeats is not None and known is not None:
        said = f"You repeat to {units.about(known)} with it ({repeats.count} repeats). {said}"
    if is_fine(record, tolerance):
        return f"{said}: fine enough."
    finer = next((one for one in fitting if one.pk != own.pk and is_fine(gauge_record(one, username), tolerance)), None)
    return f"{said}: too coarse. " + (f"{finer.name} is fine enough." if finer else "The crib has no finer one for it.")


#: A wall that nobody has given [mm]; how near to the shop a part is left to come [C] (chosen here).
_WALL_MM, _WITHIN_C = 15.0, 1.0


def waiting_words(page: JobPage, part_c: float, shop_c: float) -> str:
    """How long a warm part stands until its size can be read without a correction; empty where it is cool."""
    outside = min((size for _, size in page.bore.outside_mm), default=None)
    wall = _WALL_MM if outside is None or outside <= page.bore.aim_mm else (outside - page.bore.aim_mm) / 2
    minutes = cooling_minutes(part_c=part_c, shop_c=shop_c, within_c=_WITHIN_C, wall_mm=wall)
    if not minutes:
        return ""
    ready = f"{round(minutes / 10) * 10:.0f} min" if minutes < _HOURS else f"{minutes / 60:.1f} h"
    return (f"The part was at {part_c:g} °C, the gauge at {shop_c:g}: in about {ready} it is within {_WITHIN_C:g} °C, "
            "and temperature hardly counts.")  # fmt: skip


#: Longer than this is said in hours [min].
_HOURS = 100

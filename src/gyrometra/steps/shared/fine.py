"""Whether a gauge is fine enough, said before it measures; with the finer one that the shop has."""

from __future__ import annotations

from collections.abc import Iterable

from gyrometra.crib.models import Gauge
from gyrometra.crib.records import gauge_record
from gyrometra.steps.page import JobPage
from gyroplan.gauges import doubt_of, is_fine


def fine_words(page: JobPage, gauges: Iterable[Gauge], username: str, used: int | None = None) -> str:
    """Of the gauge that is offered first, or that was used last: what it is known to, against the tolerance."""
    size, tolerance, units = page.bore.aim_mm, page.bore.tolerance_mm, page.units
    fitting = [one for one in gauges if one.range_low_mm <= size <= one.range_high_mm]
    own = next((one for one in fitting if one.pk == used), fitting[0] if fitting else None)
    if own is None:
        return "No gauge of the crib measures this size."
    record = gauge_record(own, username)
    said = f"One reading is known to ± {units.doubt(doubt_of(record))}, the limits are {units.planned(tolerance)} apart"
    if is_fine(record, tolerance):
        return f"{said}: fine enough."
    finer = next((one for one in fitting if one.pk != own.pk and is_fine(gauge_record(one, username), tolerance)), None)
    return f"{said}: too coarse. " + (f"{finer.name} is fine enough." if finer else "The crib has no finer one for it.")

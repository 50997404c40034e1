"""What of the crib was changed since a job rested on it; a signed job keeps it as it was, and needs no word."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime

from django.utils.timezone import localtime

from gyrometra.crib.models import CribItem
from gyrometra.cutting.models import CutEntry
from gyrometra.steps.page import JobPage
from gyroplan.assess import SIZES_TOO


def changed_since(page: JobPage) -> list[str]:
    """A sentence for each gauge and indicator that read here, and each thing that was cut with, changed afterwards."""
    if page.is_signed:
        return []
    return list(dict.fromkeys([*_gauges(page), *_tools(page), *_disturbed(page)]))


_ANEW = "measure every size anew."


def _disturbed(page: JobPage) -> Iterator[str]:
    """After a weld, or heat, what was measured before it says nothing any more: said until it is measured anew."""
    measured = [row.at for row in page.rows.sizes.values() if row.piece == page.piece]
    for row in page.rows.rounds.values():
        for one in row.between_rows if row.piece == page.piece else ():  # type: ignore[attr-defined]
            at = datetime.fromisoformat(one["at"])
            if one["how"] in SIZES_TOO and measured and max(measured) < at:
                when = f"{localtime(at):%d %b %H:%M}"
                yield f"It was {one['how']} on {when}, after it was measured: let it cool, true it again, then " + _ANEW


def _gauges(page: JobPage) -> Iterator[str]:
    measured = [row for row in page.rows.cuts if row.kind == CutEntry.Kind.SIZE]
    read: list[tuple[CribItem, datetime]] = [(row.gauge, row.at) for row in measured if row.gauge is not None]
    read += [(row.gauge, row.at) for row in page.rows.sizes.values()]
    read += [(row.gauge, row.at) for row in page.rows.depths.values()]
    read += [(row.indicator, row.at) for row in page.rows.rounds.values() if row.indicator is not None]
    for thing, at in read:
        if _is_later(thing, at):
            yield f"{thing} was changed {_when(thing)}, after it read here: its readings stand as they were taken."


def _tools(page: JobPage) -> Iterator[str]:
    set_at = [row.at for row in page.rows.cuts if row.kind in (CutEntry.Kind.SET, CutEntry.Kind.CUT)]
    if not set_at:
        return
    plan, setup = page.job.setup.plan, page.job.setup
    things: list[CribItem | None] = [page.job.material, setup.machine, plan.bar, plan.opening_bar, plan.cutter]
    for thing in [*things, plan.head]:
        if thing is not None and _is_later(thing, min(set_at)):
            yield f"{thing} was changed {_when(thing)}, after the first pass: what is left is planned with it as it is."


def _is_later(thing: CribItem, at: datetime) -> bool:
    return thing.changed_at is not None and thing.changed_at > at


def _when(thing: CribItem) -> str:
    return f"{localtime(thing.changed_at):%d %b %H:%M}"

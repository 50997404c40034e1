"""The habit of a bar on the pages: what its passes said is kept after every change, and looked up for the next."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime

from django.utils.timezone import now

from gyrometra.crib.models import Gauge
from gyrometra.crib.records import gauge_record
from gyrometra.cutting.models import CutEntry
from gyrometra.cutting.seen import keep_seen, seen_elsewhere
from gyrometra.steps.page import JobPage
from gyroplan.assess import CutSeen, HabitStanding, cuts_seen, habit_of, touched_at


def keep_habits(page: JobPage, of: Iterable[tuple[int, int]]) -> None:
    """Keep what the measured passes say of their bars, of these bores, each by its place and its piece."""
    for place, piece in of:
        log = page.rows.cut_logs.get((place, piece))
        if log is None or not log.rows:
            continue
        boring = page.assessment.boring(piece, place)
        seen = [(one, _at(log.rows, one.log_at)) for one in cuts_seen(boring)]
        touched, bar = touched_at(boring), boring.passes.at.bar
        if touched >= 0 and bar is not None:
            mark = CutSeen(job="", piece=piece, bore="", number=0, bar=bar.key, material=boring.passes.at.material.key)
            seen.insert(0, (mark, _at(log.rows, touched)))
        keep_seen(page.rows.bore_at(place), piece, seen)


def _at(rows: tuple[CutEntry, ...], place: int) -> datetime:
    return rows[place].read_at if 0 <= place < len(rows) else now()


def habit(page: JobPage, gauges: list[Gauge], username: str) -> HabitStanding | None:
    """The habit of the bar in hand, with what other jobs say of it."""
    bar = page.at.bar
    if bar is None:
        return None
    size = page.bore.aim_mm
    fitting = [gauge_record(one, username) for one in gauges if one.range_low_mm <= size <= one.range_high_mm]
    return habit_of(page.boring, seen_elsewhere(bar.key, page.bore_row, page.piece), fitting)

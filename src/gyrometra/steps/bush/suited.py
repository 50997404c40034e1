"""What holds two jobs together by a fit: what was made to suit a seat, and the outside that a bore is made to suit."""

from __future__ import annotations

from typing import Any

from gyrocore import InvalidInput
from gyrometra.jobs import bushes, features
from gyrometra.jobs.models import Bush, Job
from gyrometra.steps.bush.form import plan_of, stored_work
from gyrometra.steps.page import JobPage
from gyroplan.assess import seat_of


def keep_links(page: JobPage) -> None:
    """After a change: what suits this job's bores is told their sizes, and who must suit its outsides theirs."""
    left_out = {one.piece for one in page.record.summaries}  # finished pieces whose logs were not read
    if getattr(page.job, "is_seat", True):
        for kept in bushes.made_for(page.job):
            if kept.seat.setup.place == page.record.setup.place and kept.piece not in left_out:
                bushes.keep_now(bush=kept, limits=_limits_now(page, kept))
    if 1 not in left_out and not page.is_signed and any(one.kind == "outside" for one in page.record.setup.features):
        features.keep_found(page.job.setup, _outsides(page))


def _limits_now(page: JobPage, kept: Bush) -> tuple[float, float] | None:
    try:
        plan = plan_of(page, seat_of(page.assessment, kept.piece, kept.seat.place), stored_work(kept))
    except InvalidInput:
        return None
    return plan.outside.lower_mm, plan.outside.upper_mm


def _outsides(page: JobPage) -> dict[int, float | None]:
    """Each outside of this set-up by its place: its size as measured on the first piece."""
    found: dict[int, float | None] = {}
    for one in page.assessment.features(1):
        if one.feature.kind == "outside":
            found[one.feature.place] = next((line.value for line in one.lines if line.what == "size"), None)
    return found


def suited_words(job: Job, page: JobPage) -> dict[str, Any] | None:
    """On the job of what was made to suit: its seat, its outside's limits, whether the seat was measured anew."""
    if not getattr(job, "is_bush", True):
        return None
    kept = Bush.objects.select_related("seat__setup__job").filter(job=job).first()
    if kept is None or kept.lower_mm is None or kept.upper_mm is None:
        return None
    units, seat = page.units, kept.seat
    query = f"?setup={seat.setup.place}&bore={seat.place}&piece={kept.piece}"
    return {"number": seat.setup.job.number, "query": query, "moved": kept.has_moved,
            "limits": f"{units.lowest(kept.lower_mm)} to {units.highest(kept.upper_mm)} {units.label}"}  # fmt: skip

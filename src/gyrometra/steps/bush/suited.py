"""What a bush's own job says of the seat that it suits."""

from __future__ import annotations

from typing import Any

from gyrocore import InvalidInput
from gyrometra.jobs.models import Bush, Job
from gyrometra.steps.bush.form import plan_of, stored_work
from gyrometra.steps.page import JobPage, open_page
from gyroplan.assess import BushPlan, seat_of


def has_moved(kept: Bush, plan: BushPlan) -> bool:
    """Whether the seat was measured anew since the bush's job took its limits over."""
    if kept.job_id is None or kept.lower_mm is None or kept.upper_mm is None:
        return False
    now = (plan.outside.lower_mm, plan.outside.upper_mm)
    then = (float(kept.lower_mm), float(kept.upper_mm))
    return any(abs(a - b) > 5e-7 for a, b in zip(now, then, strict=True))


def suited_words(job: Job, page: JobPage) -> dict[str, Any] | None:
    """On the bush's own job: what it suits, its outside's limits, and whether the seat was measured anew."""
    if not getattr(job, "is_bush", True):
        return None
    kept = Bush.objects.select_related("seat__setup__job", "material").filter(job=job).first()
    if kept is None or kept.lower_mm is None or kept.upper_mm is None:
        return None
    seat_page = open_page(kept.seat.setup.job.number, page.units, kept.seat.place, kept.piece,
                          setup=kept.seat.setup.place)  # fmt: skip
    moved = True
    try:
        plan = plan_of(seat_page, seat_of(seat_page.assessment, kept.piece, kept.seat.place), stored_work(kept))
        moved = has_moved(kept, plan)
    except InvalidInput:
        pass
    units = page.units
    return {"number": seat_page.job.number, "query": seat_page.query, "moved": moved,
            "limits": f"{units.lowest(kept.lower_mm)} to {units.highest(kept.upper_mm)} {units.label}"}  # fmt: skip

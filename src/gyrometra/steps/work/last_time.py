"""What held a part the last time: an earlier job of the same part, however long ago."""

from __future__ import annotations

from gyrometra.jobs.models import SetUp
from gyrometra.steps.page import JobPage


def last_time(page: JobPage) -> dict[str, str] | None:
    """Number, machine, holding and fixtures of the newest other job of this part; None where it is the first."""
    rows = SetUp.objects.filter(job__part__iexact=page.job.part, closed_reason="").exclude(job=page.job.pk)
    found = rows.select_related("job", "machine").prefetch_related("fixtures").order_by("-job__pk", "place").first()
    if found is None:
        return None
    held = [found.way.holding, *(one.name for one in found.fixtures.all())]
    return {"number": found.job.number, "words": f"{found.machine.name}, {', '.join(held)}"}

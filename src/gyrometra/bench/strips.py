"""Job strips: one row of the database each, worded in the reader's unit."""

from __future__ import annotations

from dataclasses import dataclass

from gyrodraw import Scene
from gyrometra.bridge.units import Units
from gyrometra.jobs.models import Job
from gyrometra.steps import progress
from gyrometra.steps.progress import NAMES
from gyrometra.steps.progress_words import next_words
from gyrometra.steps.shared.scene import strip_scene
from gyroplan.assess import STEPS


@dataclass(frozen=True, kw_only=True)
class Strip:
    """One job on the bench."""

    job: Job
    scene: Scene
    stops: list[dict[str, str | int]]
    next: dict[str, str]
    signed: bool


#: So many strips stand on one page of the bench; past so many they are drawn closer, and a search appears.
PAGE, MANY = 20, 7


@dataclass(frozen=True, kw_only=True)
class Bench:
    """One page of the bench: its strips, how many there are in all, and what was searched for."""

    strips: list[Strip]
    total: int
    all_jobs: int
    search: str
    page: int

    @property
    def is_dense(self) -> bool:
        """Whether strips are drawn closer."""
        return len(self.strips) > MANY

    @property
    def has_search(self) -> bool:
        """Whether there are enough jobs to look for one."""
        return self.all_jobs > MANY or bool(self.search)

    @property
    def earlier(self) -> int | None:
        """The page before this one."""
        return self.page - 1 if self.page > 1 else None

    @property
    def later(self) -> int | None:
        """The page after this one."""
        return self.page + 1 if self.page * PAGE < self.total else None


def bench_page(search: str, page: int, units: Units) -> Bench:
    """The strips of one page, unsigned first, newest change first; queries do not grow with the list."""
    jobs = Job.objects.newest_first()
    found = jobs.matching(search) if search else jobs
    all_jobs, total = jobs.count(), found.count()
    page = max(1, min(page, (total + PAGE - 1) // PAGE))
    shown = found.on_bench()[(page - 1) * PAGE : page * PAGE]
    return Bench(
        strips=[_strip(job, units) for job in shown if job.stations],
        total=total,
        all_jobs=all_jobs,
        search=search,
        page=page,
    )


def _strip(job: Job, units: Units) -> Strip:
    if progress.is_old(job):
        progress.refresh(job)
    states = {station["step"]: station["state"] for station in job.stations["steps"]}
    following = next_words(job.stations["next"], units)
    signed = hasattr(job, "signoff") or bool(job.closed_reason)
    stops: list[dict[str, str | int]] = [
        {
            "number": place + 1,
            "name": NAMES[step],
            "state": "now" if step == following["step"] and not signed else states[step],
        }
        for place, step in enumerate(STEPS)
    ]
    return Strip(job=job, scene=strip_scene(job), stops=stops, next=following, signed=signed)

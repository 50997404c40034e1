"""Job strips: one row of the database each, worded in the reader's unit."""

from __future__ import annotations

from dataclasses import dataclass

from django.utils import timezone

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
    #: How it stands beside its number: a mark, its tone and its words; empty where nothing is to be said.
    mark: str = ""
    says: str = ""


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


#: Due within so many days is said on the strip (chosen here: a working week).
DUE_SOON_DAYS = 5
_MARKS = {"sign": ("sign", "waiting for sign-off"), "settling": ("wait", "settling"), "over_stop": ("over", "over"),
          "way_over": ("over", "over"), "way_not-proven": ("near", "not proven")}  # fmt: skip


def _how_it_stands(job: Job, code: str, *, ended: bool) -> tuple[str, str]:
    """Its mark and words; a job that is late or due soon says so, unless something worse is to be said."""
    mark, words = ("", "") if ended else _MARKS.get(code, ("", ""))
    if ended or job.due_on is None or mark in ("over", "near"):
        return mark, words
    left = (job.due_on - timezone.localdate()).days
    if left < 0:
        return "advice", f"{-left} {'day' if left == -1 else 'days'} late"
    if left > DUE_SOON_DAYS:
        return mark, words
    due = {0: "due today", 1: "due tomorrow"}.get(left, f"due {job.due_on:%a %d %b}")
    return "advice", f"{words}, {due}" if words else due


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
    mark, says = _how_it_stands(job, job.stations["next"]["code"], ended=signed)
    return Strip(job=job, scene=strip_scene(job), stops=stops, next=following, signed=signed, mark=mark, says=says)

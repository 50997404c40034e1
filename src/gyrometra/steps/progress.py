"""Where the six steps of a job stand and what is next, kept on the job after every change for rail and bench."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.conf import settings
from django.utils import timezone

from gyrometra.bridge.units import Units
from gyrometra.crib.models import CribItem
from gyrometra.jobs.models import Job
from gyrometra.steps.bush.suited import keep_links
from gyrometra.steps.habits import keep_habits
from gyrometra.steps.page import JobPage, open_page
from gyrometra.steps.record import setup_values, summaries_values
from gyroplan.assess import in_hand, setup_summary, steps_of, summary_of

NAMES = {"work": "Work", "bar": "Bar", "cuts": "Cuts", "true": "True", "bore": "Bore", "check": "Check"}
#: How stations are written; those of an older make are worked out anew when the database is brought up to date.
MADE = 7


def made() -> str:
    """By which make, and by which rule of judging, stations are written."""
    return f"{MADE} {settings.JUDGE_RULE}"


def keep_those_of_an_older_make() -> None:
    """Work out the stations of every job that an older make of the product has written."""
    for job in list(Job.objects.only("pk", "number", "stations")):
        if job.stations.get("made") != made():
            refresh(job)


def keep(page: JobPage) -> None:
    """Write the stations, the next action, what each piece and the set-up came to, and which set-up is in hand."""
    work_out(page)
    job = page.job
    Job.objects.filter(pk=job.pk).update(
        stations=job.stations, piece_summaries=job.piece_summaries, setup_summaries=job.setup_summaries, stale=False,
        setup=_setup_in_hand(job),
    )  # fmt: skip
    keep_links(page)
    keep_habits(page, [(page.place, page.piece)])


def work_out(page: JobPage) -> None:
    """The same, on the job that is loaded only: who holds it stores it."""
    job, own, at = page.assessment, page.job, str(page.job.setup.pk)
    piece = in_hand(page.assessment)
    if any(one.piece == piece for one in job.record.summaries):
        # the piece in hand is another one, whose logs were left out
        job = open_page(own.number, page.units, piece=piece, setup=job.record.setup.place).assessment
    found = steps_of(job)
    stations = {
        "made": made(), "steps": [asdict(station) for station in found.steps], "next": asdict(found.following),
    }  # fmt: skip
    summary = setup_values(setup_summary(page.assessment))
    own.stale = False
    own.setup_summaries = {**own.setup_summaries, at: {"stations": stations, "summary": summary}}
    pieces = [summary_of(page.assessment, piece) for piece in page.assessment.begun] if own.quantity > 1 else []
    own.piece_summaries = {**own.piece_summaries, at: summaries_values(pieces)}
    own.stations = own.setup_summaries[str(_setup_in_hand(own))]["stations"]


def stations_at(job: Job) -> dict[str, Any]:
    """The stations of the set-up that is looked at."""
    own = job.setup_summaries.get(str(job.setup.pk))
    stations: dict[str, Any] = own["stations"] if own else job.stations
    return stations


def _setup_in_hand(job: Job) -> int:
    """The first set-up that is neither in limits nor given up; else the last that was not given up."""
    kept = sorted(job.setup_summaries.items(), key=lambda pair: int(pair[1]["summary"]["place"]))
    still = [(int(key), one["summary"]) for key, one in kept if not one["summary"]["closed_reason"]]
    undone = next((key for key, summary in still if summary["word"] != "in"), None)
    return undone or (still[-1][0] if still else int(kept[-1][0]))


def mark_all_using(item: CribItem) -> None:
    """Every open job that uses a thing of the crib is worked out again when it is next shown; one query."""
    using = Job.objects.open_using(item).values("pk")
    Job.objects.filter(pk__in=using).update(stale=True)


def is_old(job: Job) -> bool:
    """Whether what is kept of a job is to be worked out again: a thing of the crib was changed, or a gauge ran out."""
    today = timezone.localdate().isoformat()
    ends = [one["summary"]["good_until"] for one in job.setup_summaries.values()]
    return job.stale or any(end is not None and end < today for end in ends)


def refresh(job: Job) -> None:
    """Work out again what is kept of a job, of all its set-ups, on `job` itself too."""
    for place in list(job.setups.values_list("place", flat=True)):
        page = open_page(job.number, Units(), setup=place, whole=True)
        keep(page)
        keep_habits(page, page.rows.cut_logs)
    for name in ("stations", "piece_summaries", "setup_summaries", "stale"):
        setattr(job, name, getattr(page.job, name))

"""Where the six steps of a job stand and what is next, kept on the job after every change for rail and bench."""

from __future__ import annotations

from dataclasses import asdict

from gyrometra.bridge.units import Units
from gyrometra.crib.models import CribItem
from gyrometra.jobs.models import Job
from gyrometra.steps.page import JobPage, open_page
from gyrometra.steps.record import summaries_values
from gyroplan.assess import in_hand, steps_of, summary_of

NAMES = {"work": "Work", "bar": "Bar", "cuts": "Cuts", "true": "True", "bore": "Bore", "check": "Check"}
#: How stations are written; those of an older make are worked out anew when the database is brought up to date.
MADE = 3


def keep_those_of_an_older_make() -> None:
    """Work out the stations of every job that an older make of the product has written."""
    for number, kept in list(Job.objects.values_list("number", "stations")):
        if kept.get("made") != MADE:
            keep(open_page(number, Units(), whole=True))


def keep(page: JobPage) -> None:
    """Write the stations, the next action, and what each piece came to on the job."""
    work_out(page)
    Job.objects.filter(pk=page.job.pk).update(
        stations=page.job.stations, piece_summaries=page.job.piece_summaries, stale=False
    )  # fmt: skip


def work_out(page: JobPage) -> None:
    """The same, on the job that is in hand only: who holds it stores it."""
    job, piece = page.assessment, in_hand(page.assessment)
    if any(one.piece == piece for one in job.record.summaries):
        # the piece in hand is another one, whose logs were left out
        job = open_page(page.job.number, page.units, piece=piece).assessment
    found = steps_of(job)
    page.job.stale = False
    page.job.stations = {
        "made": MADE, "steps": [asdict(station) for station in found.steps], "next": asdict(found.following),
    }  # fmt: skip
    page.job.piece_summaries = (
        summaries_values([summary_of(page.assessment, piece) for piece in page.assessment.begun])
        if page.job.quantity > 1 else []
    )  # fmt: skip


def mark_all_using(item: CribItem) -> None:
    """Every open job that uses a thing of the crib is worked out again when it is next shown; one query."""
    using = Job.objects.open_using(item).values("pk")
    Job.objects.filter(pk__in=using).update(stale=True)


def refresh(job: Job) -> None:
    """Work out again what is kept of a job that was marked, on `job` itself too."""
    page = open_page(job.number, Units(), whole=True)
    keep(page)
    job.stations, job.piece_summaries, job.stale = page.job.stations, page.job.piece_summaries, False

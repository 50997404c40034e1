"""Who may do what to a job."""

from __future__ import annotations

from django.db import connection
from django.utils.timezone import localtime

from gyrometra.accounts.models import User
from gyrometra.jobs.models import Job, SignOff


class JobClosed(Exception):
    """The job is signed off, or was given up: nothing about it changes any more."""


def _signed(signoff: SignOff) -> JobClosed:
    return JobClosed(
        f"Signed off by {signoff.by.username} on {localtime(signoff.at):%d %b %Y %H:%M}: nothing here can be changed."
    )


def _given_up(job: Job) -> JobClosed:
    return JobClosed(f"Closed: {job.closed_reason}. Reopen it on Work before anything here is changed.")


class ChangedMeanwhile(Exception):
    """Someone else changed the job since this page was opened."""

    def __init__(self, job: Job) -> None:
        self.who = job.changed_by.username
        self.when = job.changed_at
        super().__init__(
            f"{self.who} changed this job at {self.when:%H:%M}, after you opened it. "
            "Yours is kept on this page and not saved."
        )


def require_open(job: Job) -> None:
    """Refuse a change to a job that is signed, or closed."""
    signoff = SignOff.objects.select_related("by").filter(job=job).first()
    if signoff is not None:
        raise _signed(signoff)
    if job.closed_reason:
        raise _given_up(job)


def can_sign_verdict(user: User) -> bool:
    """Only the lead signs."""
    return user.is_lead


def lock_open(job: Job) -> None:
    """Hold the job until the transaction ends, and refuse a signed one."""
    require_open(Job.objects.select_for_update(of=("self",)).get(pk=job.pk))


def require_held(job: Job) -> None:
    """Refuse, as a fault of the program, a change outside a transaction: `services.hold` gives a job that is held."""
    if not connection.in_atomic_block:
        raise RuntimeError(f"{job.number} is not held.")


def require_still_open(job: Job) -> None:
    """Refuse a change to a job that is signed or closed and was read whole: its signature was read with it."""
    signoff = getattr(job, "signoff", None)
    if signoff is not None:
        raise _signed(signoff)
    if job.closed_reason:
        raise _given_up(job)

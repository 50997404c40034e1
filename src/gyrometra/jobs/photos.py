"""Pictures of a job: kept, taken away, put back."""

from __future__ import annotations

from django.db import transaction

from gyrometra.accounts.models import User
from gyrometra.jobs.models import Job, JobPhoto
from gyrometra.jobs.permissions import lock_open

#: More pictures than that nobody looks through.
MOST_PHOTOS = 24


class TooMany(Exception):
    """The job has as many pictures as it may."""


@transaction.atomic
def keep_photo(*, user: User, job: Job, jpeg: bytes, words: str) -> JobPhoto:
    """One more picture of an open job."""
    lock_open(job)
    if job.photos.filter(dropped=False).count() >= MOST_PHOTOS:
        raise TooMany(f"A job has {MOST_PHOTOS} pictures at most: take one away first.")
    made: JobPhoto = JobPhoto.objects.create(job=job, picture=jpeg, words=words, by=user)
    return made


@transaction.atomic
def drop_photo(*, job: Job, pk: int, dropped: bool) -> None:
    """Take a picture of an open job away, or put it back."""
    lock_open(job)
    JobPhoto.objects.filter(job=job, pk=pk).update(dropped=dropped)


def photos_of(job: Job) -> list[JobPhoto]:
    """Its pictures without their bytes, oldest first; those taken away last."""
    return list(JobPhoto.objects.filter(job=job).defer("picture").select_related("by").order_by("dropped", "pk"))

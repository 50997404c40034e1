"""Pictures that stand with a job: how it came in, how it was held, what was found."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from gyrometra.jobs.models.job import Job


class JobPhoto(models.Model):
    """A picture of a job with its words; taken away it is kept, and can be put back."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="photos")
    #: A JPEG of at most 1600 px a side; in the database, so that one backup holds all.
    picture = models.BinaryField()
    words = models.CharField(max_length=200, blank=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    #: Whether it was taken away.
    dropped = models.BooleanField(default=False)

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"picture of {self.job.number}"

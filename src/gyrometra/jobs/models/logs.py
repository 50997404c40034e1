"""Append-only logs, answers kept with a job, and the lead's signature."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.conf import settings
from django.db import models

from gyrometra.jobs.models.job import Job


class LogQuerySet(models.QuerySet[Any]):
    """Log entries that stand: not superseded by a later one."""

    def standing(self) -> LogQuerySet:
        """Leave out what a later entry has replaced or withdrawn."""
        return self.filter(superseded_by__isnull=True, withdrawn=False)


class LogEntry(models.Model):
    """Append-only: who, when, how it came; a correction is a new entry that supersedes.

    The database refuses to change or delete a row (see `bridge.append_only`), and
    `client_id` stores an entry that was sent twice once.
    """

    class Source(models.TextChoices):
        KEYPAD = "keypad", "keypad"
        TYPED = "typed", "typed"
        CABLE = "cable", "cable"
        LINK = "link", "gauge link"
        PASTED = "pasted", "pasted, or from a file"

    client_id = models.UUIDField(unique=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    #: When it was stored.
    at = models.DateTimeField(auto_now_add=True)
    #: When it was typed, where the page says so: an entry may wait on a tablet until the server is back.
    typed_at = models.DateTimeField(null=True, blank=True)
    source = models.CharField(max_length=8, choices=Source.choices, default=Source.TYPED)
    text = models.CharField(max_length=60, blank=True)
    supersedes = models.OneToOneField(
        "self", null=True, blank=True, on_delete=models.PROTECT, related_name="superseded_by"
    )
    withdrawn = models.BooleanField(default=False)
    #: Of all that was sent with it: the same `client_id` with another digest is refused.
    digest = models.CharField(max_length=16, blank=True)

    objects = LogQuerySet.as_manager()

    class Meta:
        abstract = True
        ordering = ["pk"]

    @property
    def read_at(self) -> datetime:
        """When it was typed; when it was stored, where that is all that is known."""
        return self.typed_at or self.at


class KeptAnswer(LogEntry):
    """An answer of a bench line, kept with a job: which line, what was typed, what it said."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="kept_answers")
    line = models.CharField(max_length=20)
    title = models.CharField(max_length=40)
    typed = models.JSONField(default=dict)
    answer = models.CharField(max_length=400)

    def __str__(self) -> str:
        return f"{self.title}: {self.answer}"


class JobChange(models.Model):
    """What was changed of the work or its plan, from what to what: limits widened after measuring leave a trace."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="changes")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    #: The bore that it is about; empty for the set-up and its plan.
    of = models.CharField(max_length=40, blank=True)
    #: field -> [before, after], both as text; lengths in millimetres.
    changes = models.JSONField()

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"{self.of}: {', '.join(self.changes)}"


class SignOff(models.Model):
    """The lead's name under a verdict; after it the job is closed to change."""

    job = models.OneToOneField(Job, on_delete=models.PROTECT, related_name="signoff")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    verdict = models.JSONField()
    #: The job as it was judged, the things of the crib with it: a signed job is read from here. Empty in those of an
    #: older make.
    record = models.JSONField(null=True, blank=True)
    #: Of which make the calculations were (`gyrocore.CALCULATIONS`).
    calculations = models.CharField(max_length=16, blank=True)

    def __str__(self) -> str:
        return f"{self.job.number} signed by {self.by}"


class PastSignOff(models.Model):
    """A signature that was taken back, whole as it was, with who took it back and why; the database lets a signature
    go only once it stands here."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="past_signoffs")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()
    verdict = models.JSONField()
    record = models.JSONField(null=True, blank=True)
    calculations = models.CharField(max_length=16, blank=True)
    reopened_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    reopened_at = models.DateTimeField(auto_now_add=True)
    reason = models.CharField(max_length=300)

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"{self.job.number} signed by {self.by}, reopened by {self.reopened_by}"

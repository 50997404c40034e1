"""A learner's runs; exercises, not records of the shop."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from gyroplan.practice import LEVELS


class PracticeRun(models.Model):
    """One piece that somebody trues: its level and seed, what was done, and what came of it."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="practice_runs")
    level = models.CharField(max_length=8, choices=[(key, one.name) for key, one in LEVELS.items()])
    seed = models.PositiveIntegerField()
    acts = models.JSONField(default=list)
    started_at = models.DateTimeField(auto_now_add=True)
    finished_at = models.DateTimeField(null=True, blank=True)
    #: At the end: moves made, rounds read, what was truly left [mm], whether that is within the limit.
    moves = models.PositiveSmallIntegerField(null=True, blank=True)
    rounds = models.PositiveSmallIntegerField(null=True, blank=True)
    left_mm = models.FloatField(null=True, blank=True)
    is_true = models.BooleanField(null=True, blank=True)

    class Meta:
        ordering = ["-pk"]
        indexes = [models.Index(fields=["user", "level"], name="runs_of_somebody")]

    def __str__(self) -> str:
        return f"{self.level} {self.seed} of {self.user_id}"

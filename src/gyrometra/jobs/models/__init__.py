"""A job, its set-up (one axis of rotation), the bores on it, the plan, and what its logs have in common."""

from gyrometra.jobs.models.bore import Bore, FoundSize, Interruption, OnlyThere, OutsideStep
from gyrometra.jobs.models.bush import Bush
from gyrometra.jobs.models.feature import Feature
from gyrometra.jobs.models.job import Job, SetUp
from gyrometra.jobs.models.logs import JobChange, KeptAnswer, LogEntry, LogQuerySet, PastSignOff, SignOff
from gyrometra.jobs.models.photo import JobPhoto
from gyrometra.jobs.models.plan import Plan

__all__ = [
    "Bore", "Bush", "Feature", "FoundSize", "Interruption", "Job", "JobChange", "JobPhoto", "KeptAnswer", "LogEntry",
    "LogQuerySet", "OnlyThere", "OutsideStep", "PastSignOff", "Plan", "SetUp", "SignOff",
]  # fmt: skip

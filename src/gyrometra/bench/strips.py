"""Job strips: one row of the database each, worded in the reader's unit."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from gyrodraw import Scene
from gyrometra.bridge.units import Units
from gyrometra.jobs.models import Job
from gyrometra.steps.progress import NAMES, STEPS, next_words
from gyrometra.steps.scenes import strip_scene


@dataclass(frozen=True, kw_only=True)
class Strip:
    """One job on the bench."""

    job: Job
    scene: Scene
    stops: list[dict[str, str | int]]
    next: dict[str, str]
    signed: bool


def strips(jobs: Iterable[Job], units: Units) -> list[Strip]:
    """The strips, unsigned first, newest change first."""
    made = [_strip(job, units) for job in jobs if job.stations]
    return sorted(made, key=lambda strip: strip.signed)


def _strip(job: Job, units: Units) -> Strip:
    states = {station["step"]: station["state"] for station in job.stations["steps"]}
    following = next_words(job.stations["next"], units)
    signed = hasattr(job, "signoff")
    stops: list[dict[str, str | int]] = [
        {
            "number": place + 1,
            "name": NAMES[step],
            "state": "now" if step == following["step"] and not signed else states[step],
        }
        for place, step in enumerate(STEPS)
    ]
    return Strip(job=job, scene=strip_scene(job), stops=stops, next=following, signed=signed)

"""A dial plate and the step rail."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass
from typing import Any

from gyrodraw import Scene
from gyrometra.bridge.units import Units
from gyrometra.steps import progress, progress_words
from gyrometra.steps.page import JobPage
from gyroplan.assess import STEPS, stations_of
from gyroplan.plan import BarVerdict


@dataclass(frozen=True, kw_only=True)
class Because:
    """Formula, inputs and source behind a figure."""

    formula: str
    inputs: Sequence[tuple[str, str]]
    source: str


@dataclass(frozen=True, kw_only=True)
class Plate:
    """One dial plate. Without a number it shows a bar and says what is missing."""

    label: str
    number: str = ""
    unit: str = ""
    prefix: str = ""
    scene: Scene | None = None
    words: Sequence[str] = ()
    governs: str = ""
    reason: str = ""
    state: str = "plain"
    because: Because | None = None


LIMIT_WORDS = {"rule": "rule of thumb", "deflection": "deflection", "chatter": "chatter"}


def verdict_words(verdict: BarVerdict, units: Units) -> str:
    """A bar's verdict with the limit that says so: the same words wherever it is shown."""
    of_overhang = bool(verdict.limits) and verdict.at_mm is not None
    at = f" of {units.limit(verdict.at_mm or 0)}" if of_overhang else ""
    name = LIMIT_WORDS.get(verdict.by, "")
    if verdict.state == "stop":
        return f"Do not run: past the {name} limit{at}, pass {verdict.number}."
    if verdict.by == "chatter":
        return f"Past the chatter limit{at} it may chatter: listen, be ready to shorten, slow down or change the nose."
    return f"Past the {name}{at}: listen on the first pass." if verdict.state == "caution" else "OK."


@dataclass(frozen=True, kw_only=True)
class RailStop:
    """One station of the step rail."""

    step: str
    number: int
    name: str
    line: str
    state: str
    here: bool


def rail(page: JobPage, here: str) -> list[RailStop]:
    """The step rail of a job, as worked out after its last change."""
    return [
        RailStop(
            step=station["step"],
            number=place + 1,
            name=progress.NAMES[station["step"]],
            line=progress_words.line_words(station, page.units),
            state=station["state"],
            here=station["step"] == here,
        )
        for place, station in enumerate(_stations(page))
    ]


def _stations(page: JobPage) -> list[dict[str, Any]]:
    """As they were kept; of another piece of a batch than the one in hand that piece's own."""
    kept: list[dict[str, Any]] = progress.stations_at(page.job)["steps"]
    if page.job.quantity < 2 or all(one["values"].get("piece", page.piece) == page.piece for one in kept):
        return kept
    own = {one.step: asdict(one) for one in stations_of(page.assessment, page.piece)}
    return [own.get(one["step"], one) for one in kept]


def ghost_rail() -> list[RailStop]:
    """The rail of a job that is not made yet."""
    return [
        RailStop(step=step, number=n + 1, name=progress.NAMES[step], line="", state="ahead", here=n == 0)
        for n, step in enumerate(STEPS)
    ]

"""What a step is told of: a station, the next action, and one bore of the piece in hand."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Any

from gyroplan.assess.check import Checked
from gyroplan.assess.standing import Assessment, Boring
from gyroplan.assess.truing import Truing
from gyroplan.record import BoreRecord, JobRecord, SetUpRecord

STEPS = ("work", "bar", "cuts", "true", "bore", "check")
DONE, AHEAD, WARN, BAD = "done", "ahead", "warn", "bad"
#: The more urgent state first.
URGENT = (BAD, WARN, AHEAD, DONE)


@dataclass(frozen=True, slots=True)
class Station:
    """One step: its state, and the line under its name as a code with values."""

    step: str
    state: str
    code: str
    values: dict[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Next:
    """The next action: the step it is at, its words and its number."""

    step: str
    code: str
    values: dict[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Steps:
    """The six steps of the piece in hand, and the next action."""

    steps: tuple[Station, ...]
    following: Next


@dataclass(frozen=True, slots=True, kw_only=True)
class Here:
    """One bore of the piece in hand; what is asked of it is worked out when a step looks at it."""

    job: Assessment
    piece: int
    bore: BoreRecord

    @property
    def record(self) -> JobRecord:
        return self.job.record

    @property
    def setup(self) -> SetUpRecord:
        return self.job.record.setup

    @property
    def boring(self) -> Boring:
        return self.job.boring(self.piece, self.bore.place)

    @property
    def truing(self) -> Truing:
        return self.job.truing(self.piece, self.bore.place)

    @property
    def check(self) -> Checked:
        return self.job.check(self.piece, self.bore.place)

    @property
    def is_end(self) -> bool:
        """Whether it is the first or the last of the line: these two hold the axis."""
        return self.bore.place in (self.setup.bores[0].place, self.setup.bores[-1].place)

    @property
    def each(self) -> list[Here]:
        return [replace(self, bore=bore.of_piece(self.piece)) for bore in self.setup.bores]


Line = tuple[str, str, dict[str, Any]]

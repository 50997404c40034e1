"""What the truing is for: the surface, the limits, the jaws, the indicator."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from gyrocore import InvalidInput, closing_allowance_mm
from gyrocore.checks import require_positive
from gyrocore.truing.jaws import require_jaws
from gyroplan.rounds.entries import Entry, require_entry
from gyroplan.shape import STRICT


@dataclass(frozen=True, slots=True, kw_only=True)
class TrueWork:
    """A truing's plan and its log: the input of `true_state` [mm], [deg]."""

    __pydantic_config__ = STRICT

    surface: Literal["outside", "inside"]
    #: Run-out, total reading.
    limit_mm: float
    indicator_step_mm: float
    purpose: Literal["to-bore", "finished"] = "to-bore"
    centre_limit_mm: float | None = None
    jaws_deg: dict[str, float] | None = None
    closing_mm: float | None = None
    diameter_mm: float | None = None
    entries: list[Entry] = field(default_factory=list)

    @property
    def centre_allowed_mm(self) -> float:
        """How far the centre may lie off in work that is still to be bored."""
        return self.limit_mm / 2 if self.centre_limit_mm is None else self.centre_limit_mm

    @property
    def closing_allowed_mm(self) -> float:
        """How far "first again" may differ."""
        if self.closing_mm is not None:
            return self.closing_mm
        return closing_allowance_mm(indicator_step_mm=self.indicator_step_mm, limit_mm=self.limit_mm)


def require_work(work: TrueWork) -> None:
    """Refuse a plan, or an entry, that could never be; raises InvalidInput at its field."""
    require_positive(limit_mm=work.limit_mm)
    if work.centre_limit_mm is not None and work.purpose != "to-bore":
        raise InvalidInput("centre_limit_mm", "only_to_bore", given=work.centre_limit_mm)
    require_positive(centre_limit_mm=work.centre_limit_mm)
    require_jaws(work.jaws_deg)
    require_positive(
        indicator_step_mm=work.indicator_step_mm, closing_mm=work.closing_mm, diameter_mm=work.diameter_mm
    )  # fmt: skip
    for place, entry in enumerate(work.entries):
        require_entry(f"entries.{place}", entry)

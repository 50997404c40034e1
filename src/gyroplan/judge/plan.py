"""What is asked of the finished bore, and with what it is measured."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from gyrocore import InvalidInput
from gyrocore.checks import require_positive
from gyroplan.gauges import Expansions, Gauge, require_gauges
from gyroplan.judge.entries import Entry, require_entry
from gyroplan.shape import STRICT

#: Directions asked at each depth by the level of inspection (contract, `check_state`).
DIRECTIONS = {"reduced": 1, "normal": 2, "critical": 3}
#: A bore shorter than this has no ends and middle to tell apart.
_SHORT_MM = 10.0


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckWork:
    """A check's plan and its log: the input of `check_state` [mm]; limits that are None are not asked."""

    __pydantic_config__ = STRICT

    length_mm: float
    lower_mm: float
    upper_mm: float
    gauges: list[Gauge]
    inspection: Literal["reduced", "normal", "critical"] = "normal"
    rule: Literal["guarded", "simple"] = "guarded"
    taper_limit_mm: float | None = None
    roundness_limit_mm: float | None = None
    runout_limit_mm: float | None = None
    depth_lower_mm: float | None = None
    depth_upper_mm: float | None = None
    part_expansion_um_m_k: float = 11.5
    instrument_expansion_um_m_k: float = 11.5
    entries: list[Entry] = field(default_factory=list)

    @property
    def expansions(self) -> Expansions:
        """Of part and gauges."""
        return Expansions(part_um_m_k=self.part_expansion_um_m_k, instrument_um_m_k=self.instrument_expansion_um_m_k)

    @property
    def directions(self) -> int:
        """How many directions are asked at each depth."""
        least = 2 if self.roundness_limit_mm is not None else 1
        return max(least, DIRECTIONS[self.inspection])

    @property
    def is_short(self) -> bool:
        """Too short for two ends and a middle."""
        return self.length_mm < _SHORT_MM

    @property
    def has_shoulder(self) -> bool:
        """Whether the depth of a shoulder is asked."""
        return self.depth_lower_mm is not None


def require_work(work: CheckWork) -> None:
    """Refuse a plan, or an entry, that could never be; raises InvalidInput at its field."""
    require_positive(length_mm=work.length_mm, lower_mm=work.lower_mm, upper_mm=work.upper_mm)
    _require_limits("upper_mm", work.lower_mm, work.upper_mm)
    require_positive(
        taper_limit_mm=work.taper_limit_mm, roundness_limit_mm=work.roundness_limit_mm,
        runout_limit_mm=work.runout_limit_mm, depth_lower_mm=work.depth_lower_mm, depth_upper_mm=work.depth_upper_mm,
    )  # fmt: skip
    if (work.depth_lower_mm is None) != (work.depth_upper_mm is None):
        lower_missing = work.depth_lower_mm is None
        raise InvalidInput(
            "depth_lower_mm" if lower_missing else "depth_upper_mm", "both_or_neither",
            other="depth_upper_mm" if lower_missing else "depth_lower_mm",
        )  # fmt: skip
    if work.depth_lower_mm is not None and work.depth_upper_mm is not None:
        _require_limits("depth_upper_mm", work.depth_lower_mm, work.depth_upper_mm)
    require_gauges(work.gauges, work.expansions)
    for place, entry in enumerate(work.entries):
        require_entry(f"entries.{place}", entry)


def _require_limits(field_name: str, lower_mm: float, upper_mm: float) -> None:
    if upper_mm < lower_mm:
        raise InvalidInput(field_name, "limits_upside_down", given=upper_mm, allowed=lower_mm)

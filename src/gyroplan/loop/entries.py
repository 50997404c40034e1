"""What can stand in the log of a bore that is being cut."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from gyrocore.checks import require_finite, require_not_negative, require_whole
from gyroplan.gauges import SizeTaken, require_taken
from gyroplan.loop.asked import BoreInWork, Rules, require_asked
from gyroplan.loop.setting import Way
from gyroplan.shape import STRICT, Count, PassNumber


@dataclass(frozen=True, slots=True, kw_only=True)
class Set:
    """The cutter was set for a pass: as told, or to what was really set."""

    __pydantic_config__ = STRICT

    number: PassNumber
    #: Divisions moved outward, the advance, or the reading; None is as told.
    actual: float | None = None
    kind: Literal["set"] = "set"


@dataclass(frozen=True, slots=True, kw_only=True)
class Cut:
    """A pass was cut; with `through` all up to that one, each set as told."""

    __pydantic_config__ = STRICT

    number: PassNumber
    through: Count | None = None
    kind: Literal["cut"] = "cut"


@dataclass(frozen=True, slots=True, kw_only=True)
class Size:
    """The bore was measured."""

    __pydantic_config__ = STRICT

    gauge: str
    readings_mm: list[float]
    part_temp_c: float = 20.0
    instrument_temp_c: float = 20.0
    temp_u_c: float = 0.0
    kind: Literal["size"] = "size"

    @property
    def taken(self) -> SizeTaken:
        """The same without its kind."""
        return SizeTaken(
            gauge=self.gauge,
            readings_mm=self.readings_mm,
            part_temp_c=self.part_temp_c,
            instrument_temp_c=self.instrument_temp_c,
            temp_u_c=self.temp_u_c,
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class Touched:
    """The tip was reground, turned, changed or bumped."""

    __pydantic_config__ = STRICT

    kind: Literal["touched"] = "touched"


@dataclass(frozen=True, slots=True, kw_only=True)
class TouchOff:
    """The tip just touches the bore as it is; the dial then shows that number."""

    __pydantic_config__ = STRICT

    at_division: float | None = None
    kind: Literal["touch-off"] = "touch-off"


@dataclass(frozen=True, slots=True, kw_only=True)
class Zero:
    """The dial was turned to a number, the cutter stays."""

    __pydantic_config__ = STRICT

    at_division: float
    kind: Literal["zero"] = "zero"


@dataclass(frozen=True, slots=True, kw_only=True)
class Planned:
    """The plan was changed: limits, rules, or what sets the cutter. What is cut stays cut, the rest is shared anew."""

    __pydantic_config__ = STRICT

    bore: BoreInWork
    rules: Rules
    setting: Way
    #: What cuts, by name: another bar or bit voids the setting.
    tool: str = ""
    kind: Literal["planned"] = "planned"


@dataclass(frozen=True, slots=True, kw_only=True)
class Undo:
    """Takes back the last entry that stands."""

    __pydantic_config__ = STRICT

    kind: Literal["undo"] = "undo"


Entry = Annotated[Set | Cut | Size | Touched | TouchOff | Zero | Planned | Undo, Field(discriminator="kind")]


def require_entry(prefix: str, entry: Entry) -> None:
    """Refuse an entry that could never fit; raises InvalidInput at `prefix.field`."""
    if isinstance(entry, (Set, Cut)):
        require_whole(1, **{f"{prefix}.pass": entry.number})
    if isinstance(entry, Set):
        require_finite(**{f"{prefix}.actual": entry.actual})
    if isinstance(entry, Cut) and entry.through is not None:
        require_whole(1, **{f"{prefix}.through": entry.through})
    if isinstance(entry, Size):
        require_taken(prefix, entry.taken)
    if isinstance(entry, Planned):
        require_asked(entry.bore, entry.rules, entry.setting, prefix=f"{prefix}.")
    if isinstance(entry, (TouchOff, Zero)):
        require_not_negative(**{f"{prefix}.at_division": entry.at_division})

"""What can stand in the log of the check."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from gyrocore.checks import require_finite, require_not_negative
from gyroplan.gauges import SizeTaken, require_taken
from gyroplan.shape import STRICT


@dataclass(frozen=True, slots=True, kw_only=True)
class Size:
    """A diameter at one depth in one direction."""

    __pydantic_config__ = STRICT

    z_mm: float
    angle_deg: float
    gauge: str
    readings_mm: list[float]
    part_temp_c: float = 20.0
    instrument_temp_c: float = 20.0
    temp_u_c: float = 0.0
    kind: Literal["size"] = "size"

    @property
    def taken(self) -> SizeTaken:
        """The same without its place."""
        return SizeTaken(
            gauge=self.gauge,
            readings_mm=self.readings_mm,
            part_temp_c=self.part_temp_c,
            instrument_temp_c=self.instrument_temp_c,
            temp_u_c=self.temp_u_c,
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class Depth:
    """The depth of the shoulder."""

    __pydantic_config__ = STRICT

    gauge: str
    readings_mm: list[float]
    kind: Literal["depth"] = "depth"

    @property
    def taken(self) -> SizeTaken:
        """As sizes are taken."""
        return SizeTaken(gauge=self.gauge, readings_mm=self.readings_mm)


@dataclass(frozen=True, slots=True, kw_only=True)
class Runout:
    """The run-out of the finished bore; the last one stands."""

    __pydantic_config__ = STRICT

    swing_mm: float
    expanded_mm: float = 0.0
    kind: Literal["runout"] = "runout"


@dataclass(frozen=True, slots=True, kw_only=True)
class Undo:
    """Takes back the last entry that stands."""

    __pydantic_config__ = STRICT

    kind: Literal["undo"] = "undo"


Entry = Annotated[Size | Depth | Runout | Undo, Field(discriminator="kind")]


def require_entry(prefix: str, entry: Entry) -> None:
    """Refuse an entry that could never fit; raises InvalidInput at `prefix.field`."""
    if isinstance(entry, Size):
        require_finite(**{f"{prefix}.z_mm": entry.z_mm, f"{prefix}.angle_deg": entry.angle_deg})
    if isinstance(entry, (Size, Depth)):
        require_taken(prefix, entry.taken)
    if isinstance(entry, Runout):
        require_not_negative(**{f"{prefix}.swing_mm": entry.swing_mm, f"{prefix}.expanded_mm": entry.expanded_mm})

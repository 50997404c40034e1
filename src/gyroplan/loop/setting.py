"""How a cutter is set: by an amount from where it stands, or to a reading that says where it stands."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, radians
from typing import Annotated, Literal

from pydantic import Field

from gyrocore.checks import TOLERANCE, require_finite, require_open_between, require_positive
from gyrocore.errors import InvalidInput
from gyroplan.shape import STRICT


@dataclass(frozen=True, slots=True, kw_only=True)
class Told:
    """What is told in phase `set`: the fields that this way has, the rest None."""

    divisions: float | None = None
    to_division: float | None = None
    advance_mm: float | None = None
    reading_mm: float | None = None

    @property
    def amount(self) -> float:
        """What an entry's `actual` is compared with: divisions, advance or reading."""
        return next(x for x in (self.divisions, self.advance_mm, self.reading_mm) if x is not None)


@dataclass(frozen=True, slots=True, kw_only=True)
class DialWay:
    """A slide or a boring head with a dial; numbers rise or fall as the cutter goes outward."""

    __pydantic_config__ = STRICT

    division_mm: float
    divisions_per_turn: float
    reads: Literal["radius", "diameter"] = "radius"
    at_division: float = 0.0
    numbers: Literal["rise", "fall"] = "rise"
    way: Literal["dial"] = "dial"

    @property
    def on_diameter_mm(self) -> float:
        """What one division changes on diameter."""
        return self.division_mm * (2 if self.reads == "radius" else 1)

    def moved_mm(self, divisions: float) -> float:
        """The change on diameter of so many divisions outward."""
        return divisions * self.on_diameter_mm

    def told(self, change_mm: float, stands_at: float) -> Told:
        """The divisions outward for a change on diameter, and what the dial then shows."""
        divisions = change_mm / self.on_diameter_mm
        return Told(divisions=divisions, to_division=self.turned(stands_at, divisions))

    def turned(self, stands_at: float, divisions: float) -> float:
        """The number under the mark after so many divisions outward."""
        outward = 1.0 if self.numbers == "rise" else -1.0
        number = (stands_at + outward * divisions) % self.divisions_per_turn
        return 0.0 if self.divisions_per_turn - number <= TOLERANCE else number

    def nearest(self, stands_at: float, number: float, meant: float) -> float:
        """The divisions outward that bring the dial from one number to another, in the turn nearest what was meant."""
        outward = 1.0 if self.numbers == "rise" else -1.0
        within = (outward * (number - stands_at)) % self.divisions_per_turn
        turns = round((meant - within) / self.divisions_per_turn)
        return within + turns * self.divisions_per_turn

    def require(self) -> None:
        """Refuse a dial that cannot be; raises InvalidInput at `setting.field`."""
        require_positive(
            **{"setting.division_mm": self.division_mm, "setting.divisions_per_turn": self.divisions_per_turn}
        )
        require_finite(**{"setting.at_division": self.at_division})
        if not 0 <= self.at_division < self.divisions_per_turn:
            raise InvalidInput(
                "setting.at_division", "off_the_dial", given=self.at_division, allowed=self.divisions_per_turn
            )


@dataclass(frozen=True, slots=True, kw_only=True)
class AdvanceWay:
    """An indicator along the bit shows how far it is pushed; it may lean from square."""

    __pydantic_config__ = STRICT

    bit_tilt_deg: float = 0.0
    way: Literal["advance"] = "advance"

    def moved_mm(self, advance_mm: float) -> float:
        """The change on diameter of an advance along the bit."""
        return 2 * advance_mm * cos(radians(self.bit_tilt_deg))

    def told(self, change_mm: float, _stands_at: float) -> Told:
        """The advance along the bit for a change on diameter."""
        return Told(advance_mm=change_mm / 2 / cos(radians(self.bit_tilt_deg)))

    def require(self) -> None:
        """Refuse a bit that leans too far; raises InvalidInput at `setting.bit_tilt_deg`."""
        require_open_between(-90, 90, **{"setting.bit_tilt_deg": self.bit_tilt_deg})


@dataclass(frozen=True, slots=True, kw_only=True)
class OverBarWay:
    """A micrometer over the bar's back and the tip."""

    __pydantic_config__ = STRICT

    bar_diameter_mm: float
    way: Literal["over-bar"] = "over-bar"

    def diameter_mm(self, reading_mm: float) -> float:
        """The diameter a reading cuts."""
        return 2 * reading_mm - self.bar_diameter_mm

    def reading_mm(self, diameter_mm: float) -> float:
        """The reading of a diameter."""
        return (self.bar_diameter_mm + diameter_mm) / 2

    def stands_out(self, reading_mm: float) -> bool:
        """Whether the tip stands beyond the bar."""
        return self.diameter_mm(reading_mm) > self.bar_diameter_mm + TOLERANCE

    def require(self) -> None:
        """Refuse a bar without a diameter; raises InvalidInput at `setting.bar_diameter_mm`."""
        require_positive(**{"setting.bar_diameter_mm": self.bar_diameter_mm})


@dataclass(frozen=True, slots=True, kw_only=True)
class StepWay:
    """A step gauge, or a jig with its own zero: the tip beyond the bar's own surface."""

    __pydantic_config__ = STRICT

    bar_diameter_mm: float
    #: What it reads with the tip flush with the bar.
    scale_zero_mm: float = 0.0
    way: Literal["step"] = "step"

    def diameter_mm(self, reading_mm: float) -> float:
        """The diameter a reading cuts."""
        return self.bar_diameter_mm + 2 * (reading_mm - self.scale_zero_mm)

    def reading_mm(self, diameter_mm: float) -> float:
        """The reading of a diameter."""
        return (diameter_mm - self.bar_diameter_mm) / 2 + self.scale_zero_mm

    def stands_out(self, reading_mm: float) -> bool:
        """Whether the tip stands beyond the bar."""
        return reading_mm - self.scale_zero_mm > TOLERANCE

    def require(self) -> None:
        """Refuse a bar without a diameter; raises InvalidInput at `setting.field`."""
        require_positive(**{"setting.bar_diameter_mm": self.bar_diameter_mm})
        require_finite(**{"setting.scale_zero_mm": self.scale_zero_mm})


@dataclass(frozen=True, slots=True, kw_only=True)
class MicrometerWay:
    """A setting micrometer that reads the cutting diameter, plus its zero."""

    __pydantic_config__ = STRICT

    scale_zero_mm: float = 0.0
    way: Literal["micrometer"] = "micrometer"

    def diameter_mm(self, reading_mm: float) -> float:
        """The diameter a reading cuts."""
        return reading_mm - self.scale_zero_mm

    def reading_mm(self, diameter_mm: float) -> float:
        """The reading of a diameter."""
        return diameter_mm + self.scale_zero_mm

    def stands_out(self, reading_mm: float) -> bool:
        """Whether there is a cutting diameter at all; the bar is not known here."""
        return self.diameter_mm(reading_mm) > TOLERANCE

    def require(self) -> None:
        """Refuse a zero that is no number; raises InvalidInput at `setting.scale_zero_mm`."""
        require_finite(**{"setting.scale_zero_mm": self.scale_zero_mm})


Relative = DialWay | AdvanceWay
Absolute = OverBarWay | StepWay | MicrometerWay
Way = Annotated[DialWay | AdvanceWay | OverBarWay | StepWay | MicrometerWay, Field(discriminator="way")]

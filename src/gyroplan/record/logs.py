"""Entries of the logs as they stand: what was superseded is left out, each keeps what it rested on [mm].

`key` names the row that an entry came from; `bore` is the place of its bore along the axis, None for the whole set-up.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from math import cos, radians, sin
from typing import Literal

from gyroplan.gauges import Gauge
from gyroplan.loop import BoreLog


@dataclass(frozen=True, slots=True, kw_only=True)
class RemarkRecord:
    """How a pass sounded and looked."""

    number: int
    sound: Literal["quiet", "hum", "squeal", ""]
    look: Literal["clean", "torn", "waves", ""]
    #: With what the pass was cut, and how deep, as it was then; empty and None in entries of an older make.
    bar: str = ""
    cutter: int | None = None
    feed_mm_rev: float | None = None
    depth_mm: float | None = None
    diameter_mm: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class DamperTryRecord:
    """How a tuned bar sounded with its damper so many turns out."""

    turns: float
    sound: Literal["quiet", "hum", "squeal", ""]


@dataclass(frozen=True, slots=True, kw_only=True)
class CutLogRecord:
    """The cutting log of one bore of one piece, for the loop; and the last remark on each pass."""

    bore: int
    piece: int
    log: BoreLog
    remarks: tuple[RemarkRecord, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingRecord:
    """One reading of a round; at place `places` it is the first place read once more."""

    key: int
    place: int
    #: None where the place cannot be read, or the needle was past the end of the scale.
    value_mm: float | None
    #: As typed; of a needle off the scale which way.
    text: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class GaugeCard:
    """What stands on a gauge and on its certificate; empty where nobody has said."""

    serial: str = ""
    certificate: str = ""
    certified_on: date | None = None


NO_CARD = GaugeCard()


@dataclass(frozen=True, slots=True, kw_only=True)
class IndicatorRecord:
    """An indicator that read: its name, until when it may be trusted (None for always), its card."""

    name: str
    step_mm: float
    due_on: date | None = None
    card: GaugeCard = NO_CARD


@dataclass(frozen=True, slots=True, kw_only=True)
class RoundRecord:
    """One round of readings on one surface, with what stands in it."""

    key: int
    number: int
    purpose: Literal["true", "check"]
    #: walls: runs along the wall at several sides, each at the same depths.
    method: Literal["sweep", "flats", "walls", "eye", "plug", "coaxial", "edge"]
    places: int
    surface: Literal["inside", "outside", "face"]
    bore: int | None
    piece: int
    indicator_step_mm: float
    closing_mm: float | None = None
    readings: tuple[ReadingRecord, ...] = ()
    #: The depth of its plane from the open face, where more planes than one are read.
    plane_mm: float | None = None
    #: Of runs along the wall: the depths that are read at each side.
    depths_mm: tuple[float, ...] = ()
    #: Whether plus was plunger out.
    plus_out: bool = False
    #: Whether it was looked at from the other end: its drawing is mirrored, its figures are the same.
    seen_other: bool = False
    #: Wanted off centre on purpose, along 0 and along 90 degrees [mm].
    target_mm: tuple[float, float] = (0.0, 0.0)

    #: What read it; None for what was centred otherwise, and in records of an older make.
    indicator: IndicatorRecord | None = None
    #: Centred by other means than a round of readings: how far the centre may then lie off [mm].
    bound_mm: float | None = None

    @property
    def is_bound(self) -> bool:
        """Whether it was centred by eye, plug, coaxial indicator or edge-finder: no round of readings."""
        return self.bound_mm is not None

    @property
    def is_walls(self) -> bool:
        """Whether the indicator ran along the wall, not round it."""
        return self.method == "walls"

    @property
    def sides(self) -> int:
        """At how many sides it ran along the wall."""
        return self.places // len(self.depths_mm) if self.depths_mm else 0

    @property
    def swept_as(self) -> Literal["inside", "outside"]:
        """The surface for the sweep: a face reads like an outside, nearer is higher."""
        return "outside" if self.surface == "face" else self.surface

    @property
    def angles_deg(self) -> list[float]:
        """The places on the work, clockwise from jaw 1; of runs along the wall the side of each."""
        if self.is_walls:
            return [360 * (place // len(self.depths_mm)) / self.sides for place in range(self.places)]
        return [360 * place / self.places for place in range(self.places)]

    @property
    def sign(self) -> int:
        """1 where plus is plunger in, as every formula has it, else -1."""
        return -1 if self.plus_out else 1

    def counted(self, reading_mm: float, angle_deg: float) -> float:
        """A reading as it counts: plus is plunger in, and work that lies as it is wanted reads alike all round.

        References: the first harmonic of a surface off centre, as `gyrocore.sweep` has it; derived here.
        """
        if self.is_walls or self.surface == "face":
            return self.sign * reading_mm
        toward = self.target_mm[0] * cos(radians(angle_deg)) + self.target_mm[1] * sin(radians(angle_deg))
        return self.sign * reading_mm - (toward if self.surface == "outside" else -toward)

    @property
    def order(self) -> list[int]:
        """The places in the order in which they are read: round the work, flats a pair and then the other."""
        if self.method == "flats":
            step = self.places // 4
            return [0, 2 * step, step, 3 * step]
        return list(range(self.places))


@dataclass(frozen=True, slots=True, kw_only=True)
class BetweenRecord:
    """What happened after a round: moved as told, or disturbed."""

    kind: Literal["moved", "disturbed"]
    after_round: int
    bore: int | None
    piece: int
    #: What disturbed it.
    how: str = ""
    #: Moved otherwise than told: what was really moved, along 0 and along 90 degrees [mm]; None for as told.
    really_mm: tuple[float, float] | None = None
    #: When it was logged; None in records of an older make.
    at: datetime | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class SizeRecord:
    """One diameter of the finished bore, by a gauge as it was."""

    key: int
    bore: int
    piece: int
    z_mm: float
    angle_deg: float
    value_mm: float
    gauge: Gauge
    #: Until when the gauge may be trusted; None for always.
    gauge_due_on: date | None = None
    card: GaugeCard = NO_CARD
    part_temp_c: float = 20.0
    gauge_temp_c: float = 20.0
    temp_u_c: float = 0.0
    #: When it was read; None in records of an older make.
    at: datetime | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class DepthRecord:
    """The depth of a shoulder from the open face, by a gauge as it was."""

    key: int
    bore: int
    piece: int
    value_mm: float
    gauge: Gauge
    gauge_due_on: date | None = None
    card: GaugeCard = NO_CARD
    #: When it was read; None in records of an older make.
    at: datetime | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class PlugRecord:
    """A plug or the mating part tried in a finished bore, or a gauge set to a size and compared by feel [mm]."""

    key: int
    bore: int
    piece: int
    #: Of a plug its side; `mate` the mating part; `set` a gauge set to a size.
    side: Literal["go", "no-go", "mate", "set"]
    goes: bool
    size_mm: float
    gauge: Gauge
    gauge_due_on: date | None = None
    card: GaugeCard = NO_CARD
    #: Of a set gauge: tighter, same or looser than it was set to.
    felt: Literal["", "tighter", "same", "looser"] = ""
    #: When it was tried; None in records of an older make.
    at: datetime | None = None

    @property
    def by_feel(self) -> bool:
        """Whether it says something of one spot, not of the whole bore."""
        return self.side == "set"

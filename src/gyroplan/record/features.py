"""What a set-up makes beside its bores, and what was read of it [mm], [deg]."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Literal

from gyroplan.gauges import Gauge
from gyroplan.record.logs import NO_CARD, GaugeCard, IndicatorRecord

FeatureKind = Literal["face", "length", "band", "outside", "relief", "distance"]
Quantity = Literal["size", "angle", "runout", "form"]
ReadOver = Literal["centres", "near-walls", "far-walls"]


@dataclass(frozen=True, slots=True, kw_only=True)
class FeatureRecord:
    """One feature with its limits; each limit that is None is not asked."""

    key: int
    #: Its number in the set-up.
    place: int
    name: str
    #: A face by its depth or by the length it leaves, an angled face, an outside, a relief, a distance between axes.
    kind: FeatureKind
    inspection: Literal["reduced", "normal", "critical"] = "normal"
    #: The size as it was written, and its limits: depth, length, wide diameter of a band, diameter, distance.
    wanted: str = ""
    wanted_unit: str = "mm"
    lower_mm: float | None = None
    upper_mm: float | None = None
    #: Of a band, between the face and a plane square to the axis.
    angle_lower_deg: float | None = None
    angle_upper_deg: float | None = None
    runout_limit_mm: float | None = None
    #: Of its own shape: roundness of an outside or relief, flatness of a face, straightness of a band.
    form_limit_mm: float | None = None
    #: Where it lies along the axis from the open face, and how long it is.
    z_mm: float = 0.0
    length_mm: float | None = None
    #: The ring that is faced.
    inner_mm: float | None = None
    outer_mm: float | None = None
    #: What is to come off: along the axis of a face, on diameter of an outside.
    stock_mm: float | None = None
    #: The set-up whose axis the distance is taken from.
    to_setup: int | None = None

    @property
    def aim_mm(self) -> float | None:
        """The middle of its limits."""
        return None if self.lower_mm is None or self.upper_mm is None else (self.lower_mm + self.upper_mm) / 2

    @property
    def grows(self) -> bool | None:
        """Whether cutting makes it larger, smaller, or mends nothing."""
        return {"distance": None, "length": False, "outside": False}.get(self.kind, True)


@dataclass(frozen=True, slots=True, kw_only=True)
class FeatureReadingRecord:
    """One reading of a feature of a piece, with what it rested on as it was."""

    key: int
    #: The place of its feature in the set-up.
    feature: int
    piece: int
    what: Quantity
    value: float
    #: Of a size: by which gauge; of an angle or a swing: how well the instrument tells it.
    gauge: Gauge | None = None
    gauge_due_on: date | None = None
    card: GaugeCard = NO_CARD
    #: Of a swing.
    indicator: IndicatorRecord | None = None
    #: Of a ring or gap gauge: the side that was tried, its size the value, and whether it goes over.
    side: Literal["", "go", "no-go"] = ""
    goes: bool = False
    expanded: float = 0.0
    #: Of a distance: what it was read over, with the sizes of the two bores as they were known.
    over: ReadOver = "centres"
    first_mm: float | None = None
    second_mm: float | None = None
    walls_expanded_mm: float = 0.0

    @property
    def due_on(self) -> date | None:
        """Until when what read it may be trusted; None for always."""
        return self.indicator.due_on if self.indicator is not None else self.gauge_due_on

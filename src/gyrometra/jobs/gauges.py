"""Gauges as they were when they measured: kept with every size, so that no later change of a card changes a size."""

from __future__ import annotations

from typing import Any

from gyrometra.crib.models import Gauge as GaugeCard
from gyroplan import Gauge

_UNKNOWN: dict[str, Any] = {
    "name": "unknown gauge", "resolution_mm": 0.001, "error_limit_mm": 0.0, "correction_mm": 0.0,
    "single_sd_mm": None,
}  # fmt: skip


def gauge_values(card: GaugeCard, username: str) -> dict[str, Any]:
    """A gauge in this person's hands, as it is when it measures."""
    data = card.data_for(username)
    return {
        "name": card.name, "resolution_mm": data.resolution_mm, "error_limit_mm": data.error_limit_mm,
        "correction_mm": data.correction_mm, "single_sd_mm": data.single_sd_mm,
    }  # fmt: skip


class GaugesAsTheyWere:
    """The gauges of a log; one whose card has changed in between, or in other hands, stands twice."""

    def __init__(self) -> None:
        self.known: list[Gauge] = []

    def name_of(self, rests_on: dict[str, Any], card: GaugeCard | None, username: str) -> str:
        """The name under which the log knows a gauge; entries of an older make have only its card."""
        values = rests_on or (gauge_values(card, username) if card else _UNKNOWN)
        same = {key: value for key, value in values.items() if key != "name"}
        for gauge in self.known:
            if gauge.name.split(" #")[0] == values["name"] and {key: getattr(gauge, key) for key in same} == same:
                return gauge.name
        taken = sum(gauge.name.split(" #")[0] == values["name"] for gauge in self.known)
        name = f"{values['name']} #{taken + 1}" if taken else str(values["name"])
        self.known.append(Gauge(name=name, **same))
        return name

"""Gauges as they were when they measured: kept with every size, so that no later change of a card changes a size."""

from __future__ import annotations

from dataclasses import asdict
from decimal import Decimal
from typing import Any

from gyrometra.crib.models import Gauge as GaugeCard
from gyrometra.crib.records import gauge_record
from gyroplan import Gauge

_UNKNOWN = Gauge(name="unknown gauge", resolution_mm=0.001)


def gauge_values(card: GaugeCard, username: str, learned_mm: float | None = None) -> dict[str, Any]:
    """A gauge in this person's hands, as it is when it measures."""
    return asdict(gauge_record(card, username, learned_mm))


def mate_values(expanded_mm: Decimal) -> dict[str, Any]:
    """The mating part as a plug: what its size is known to."""
    return asdict(Gauge(name="mating part", resolution_mm=0.0, error_limit_mm=float(expanded_mm)))


def gauge_as_it_was(rests_on: dict[str, Any], card: GaugeCard | None, username: str) -> Gauge:
    """The gauge of an entry as it was; entries of an older make have only its card."""
    if rests_on:
        return Gauge(**rests_on)
    return gauge_record(card, username) if card else _UNKNOWN

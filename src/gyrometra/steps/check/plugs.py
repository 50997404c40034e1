"""Plug gauges on Check: which of the shop's fit these limits, what was tried, between what the size lies."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge
from gyrometra.steps.page import JobPage
from gyroplan.assess import Checked


@dataclass(frozen=True, kw_only=True)
class PlugSide:
    """One side of a plug: its size, what was tried, and the entry that an undo names."""

    side: str
    name: str
    size: str
    said: str
    entry: str


@dataclass(frozen=True, kw_only=True)
class PlugRow:
    """A plug gauge with its two sides."""

    pk: int
    name: str
    sides: Sequence[PlugSide]


def plug_rows(page: JobPage) -> list[PlugRow]:
    """The plugs that have a side near these limits, and those that were tried."""
    tried = {page.rows.plugs[one.key].gauge for one in page.judged.plugs if one.key in page.rows.plugs}
    offered = [] if page.is_locked else list(Gauge.objects.plugs(page.bore.lower_mm, page.bore.upper_mm))
    return [_row(page, gauge) for gauge in (*offered, *(one for one in tried if one not in offered))]


def _row(page: JobPage, gauge: Gauge) -> PlugRow:
    sides = [("go", "go", gauge.range_low_mm), ("no-go", "no-go", gauge.range_high_mm)]
    return PlugRow(pk=gauge.pk, name=gauge.name, sides=[
        PlugSide(side=side, name=name, size=page.units.planned(size), **_tried(page, gauge, side))
        for side, name, size in sides
    ])  # fmt: skip


def _tried(page: JobPage, gauge: Gauge, side: str) -> dict[str, str]:
    rows = [page.rows.plugs[one.key] for one in page.judged.plugs if one.key in page.rows.plugs and one.side == side]
    last = next((row for row in reversed(rows) if row.gauge_id == gauge.pk), None)
    if last is None:
        return {"said": "", "entry": ""}
    return {"said": "goes" if last.goes else "does not go", "entry": str(last.client_id)}


def bounds_words(judged: Checked, units: Units) -> str:
    """Between what the size lies, by the plugs."""
    bounds = judged.bounds
    if bounds is None:
        return ""
    least = "" if bounds.at_least_mm is None else f"at least {units.planned(bounds.at_least_mm)}"
    most = "" if bounds.at_most_mm is None else f"at most {units.planned(bounds.at_most_mm)}"
    return ", ".join(part for part in (least, most) if part)

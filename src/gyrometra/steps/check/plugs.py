"""What is tried in a bore, on Check: plugs that fit these limits, the mating part, a gauge set to a size."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore import GaugeBounds
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge
from gyrometra.inspection.models import PlugReading
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
    tried = {row.gauge for row in _rows(page) if row.side in ("go", "no-go")}
    low, high = page.bore.lower_mm, page.bore.upper_mm
    offered = [] if page.is_locked else [one for one in Gauge.objects.tried("plug") if one.fits(low, high)]
    return [_row(page, gauge) for gauge in (*offered, *(one for one in tried if one not in offered))]


def _rows(page: JobPage) -> list[PlugReading]:
    return [page.rows.plugs[one.key] for one in page.judged.plugs if one.key in page.rows.plugs]


@dataclass(frozen=True, kw_only=True)
class FeltRow:
    """The mating part or a set gauge, as it was tried, and the entry that an undo names."""

    words: str
    entry: str


def felt_rows(page: JobPage) -> list[FeltRow]:
    """What was tried beside plugs, in order."""
    rows = [row for row in _rows(page) if row.side in ("mate", "set")]
    return [FeltRow(words=_felt_words(row, page.units), entry=str(row.client_id)) for row in rows]


def _felt_words(row: PlugReading, units: Units) -> str:
    size = units.planned(row.size_mm)
    if row.gauge is None:
        return f"The mating part, Ø{size}: {'goes' if row.goes else 'does not go'}"
    return f"{row.gauge.name} set to {size}: {row.get_felt_display()}"


def felt_sizes(page: JobPage) -> dict[str, str]:
    """The sizes that are offered: the mating part as it was measured, a gauge set to the size asked."""
    mate = page.bore_row.mate_mm
    return {"mate": "" if mate is None else page.units.plain(mate), "set": page.units.plain(page.bore.aim_mm)}


def _row(page: JobPage, gauge: Gauge) -> PlugRow:
    sides = [("go", "go", gauge.range_low_mm), ("no-go", "no-go", gauge.range_high_mm)]
    return PlugRow(pk=gauge.pk, name=gauge.name, sides=[
        PlugSide(side=side, name=name, size=page.units.planned(size), **_tried(page, gauge, side))
        for side, name, size in sides
    ])  # fmt: skip


def _tried(page: JobPage, gauge: Gauge, side: str) -> dict[str, str]:
    rows = [row for row in _rows(page) if row.side == side and row.gauge_id == gauge.pk]
    last = rows[-1] if rows else None
    if last is None:
        return {"said": "", "entry": ""}
    return {"said": "goes" if last.goes else "does not go", "entry": str(last.client_id)}


def bounds_words(judged: Checked, units: Units) -> str:
    """Between what the size lies, by plugs and the mating part."""
    return between_words(judged.bounds, units)


def felt_words(judged: Checked, units: Units) -> str:
    """Between what it lies where a set gauge was felt."""
    return between_words(judged.felt, units)


def between_words(bounds: GaugeBounds | None, units: Units) -> str:
    """At least and at most, rounded as planned sizes; nothing where nothing bounds it."""
    if bounds is None:
        return ""
    least = "" if bounds.at_least_mm is None else f"at least {units.planned(bounds.at_least_mm)}"
    most = "" if bounds.at_most_mm is None else f"at most {units.planned(bounds.at_most_mm)}"
    return ", ".join(part for part in (least, most) if part)

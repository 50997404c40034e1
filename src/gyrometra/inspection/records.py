"""Sizes of finished bores and depths of shoulders as frozen records; nothing is decided."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Literal, cast

from django.db.models import Max

from gyrometra.crib.records import certified, indicator_record, maybe
from gyrometra.cutting.models import CutEntry
from gyrometra.inspection.models import DepthReading, FeatureReading, PlugReading, SizeReading
from gyrometra.jobs.gauges import gauge_as_it_was
from gyrometra.jobs.models import Job, SetUp
from gyrometra.truing.models import Round
from gyroplan.record import (
    NO_CARD,
    DepthRecord,
    FeatureReadingRecord,
    GaugeCard,
    PlugRecord,
    Quantity,
    ReadOver,
    SizeRecord,
)


def sizes_of(setup: SetUp, pieces: Iterable[int] | None = None) -> list[SizeReading]:
    """The standing sizes of a set-up, whichever bore, of some pieces or all; one query."""
    sizes = SizeReading.objects.standing().filter(setup=setup).select_related("gauge", "by")
    return list(sizes if pieces is None else sizes.filter(piece__in=pieces))


def depths_of(setup: SetUp, pieces: Iterable[int] | None = None) -> list[DepthReading]:
    """The standing depths of shoulders; one query."""
    depths = DepthReading.objects.standing().filter(setup=setup).select_related("gauge", "by")
    return list(depths if pieces is None else depths.filter(piece__in=pieces))


def size_record(row: SizeReading, places: Mapping[int, int]) -> SizeRecord:
    """A size by its gauge as it was."""
    return SizeRecord(
        key=row.pk, bore=places[row.bore_id], piece=row.piece, z_mm=float(row.z_mm), angle_deg=float(row.angle_deg),
        value_mm=float(row.value_mm), gauge=gauge_as_it_was(row.rests_on, row.gauge, row.by.username),
        gauge_due_on=row.gauge.due_on, card=certified(row.gauge), part_temp_c=float(row.part_temp_c),
        gauge_temp_c=float(row.gauge_temp_c),
        temp_u_c=float(row.temp_u_c), at=row.read_at,
    )  # fmt: skip


def depth_record(row: DepthReading, places: Mapping[int, int]) -> DepthRecord:
    """A depth by its gauge as it was."""
    return DepthRecord(
        key=row.pk, bore=places[row.bore_id], piece=row.piece, value_mm=float(row.value_mm),
        gauge=gauge_as_it_was(row.rests_on, row.gauge, row.by.username), gauge_due_on=row.gauge.due_on,
        card=certified(row.gauge), at=row.read_at,
    )  # fmt: skip


def plugs_of(setup: SetUp, pieces: Iterable[int] | None = None) -> list[PlugReading]:
    """The standing trials of plugs; one query."""
    plugs = PlugReading.objects.standing().filter(setup=setup).select_related("gauge", "by")
    return list(plugs if pieces is None else plugs.filter(piece__in=pieces))


def plug_record(row: PlugReading, places: Mapping[int, int]) -> PlugRecord:
    """What was tried, as it was."""
    card = row.gauge
    return PlugRecord(
        key=row.pk, bore=places[row.bore_id], piece=row.piece, side=cast(Side, row.side), goes=row.goes,
        felt=cast(Felt, row.felt), size_mm=float(row.size_mm),
        gauge=gauge_as_it_was(row.rests_on, card, row.by.username),
        gauge_due_on=None if card is None else card.due_on, card=GaugeCard() if card is None else certified(card),
        at=row.read_at,
    )  # fmt: skip


Side = Literal["go", "no-go", "mate", "set"]
RingSide = Literal["", "go", "no-go"]
Felt = Literal["", "tighter", "same", "looser"]


def feature_readings_of(setup: SetUp, pieces: Iterable[int] | None = None) -> list[FeatureReading]:
    """The standing readings of features; one query."""
    rows = FeatureReading.objects.standing().filter(setup=setup).select_related("gauge", "indicator", "by", "feature")
    return list(rows if pieces is None else rows.filter(piece__in=pieces))


def feature_reading_record(row: FeatureReading) -> FeatureReadingRecord:
    """A reading of a feature by its gauge as it was."""
    return FeatureReadingRecord(
        key=row.pk, feature=row.feature.place, piece=row.piece, what=cast(Quantity, row.what), value=float(row.value),
        gauge=gauge_as_it_was(row.rests_on, row.gauge, row.by.username) if row.gauge is not None else None,
        gauge_due_on=row.gauge.due_on if row.gauge is not None else None,
        card=certified(row.gauge) if row.gauge is not None else NO_CARD, side=cast(RingSide, row.side), goes=row.goes,
        indicator=indicator_record(row.indicator) if row.indicator is not None else None,
        expanded=float(row.expanded),
        over=cast(ReadOver, row.over), first_mm=maybe(row.first_mm), second_mm=maybe(row.second_mm),
        walls_expanded_mm=float(row.walls_expanded_mm),
    )  # fmt: skip


def last_piece(job: Job) -> int:
    """The highest number of a piece that has anything in its logs, whatever the set-up; 1 where none has."""
    logs = (CutEntry.objects, SizeReading.objects, DepthReading.objects, FeatureReading.objects, PlugReading.objects,
            Round.objects)  # fmt: skip
    found = [rows.filter(setup__job=job).aggregate(last=Max("piece"))["last"] for rows in logs]
    return max(number or 1 for number in found)

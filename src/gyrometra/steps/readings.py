"""Every reading of a set-up as a file: sizes, depths, what was tried, features, rounds; struck-out ones too."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal
from typing import Any

from django.utils.timezone import localtime

from gyrometra.crib.models import Gauge, Indicator
from gyrometra.inspection.models import DepthReading, FeatureReading, PlugReading, SizeReading
from gyrometra.steps.page import JobPage
from gyrometra.truing.models import Reading
from gyroplan.assess import OFF_SCALE
from gyroplan.record import RoundRecord

#: Columns of the file.
CSV_HEAD = ("job", "set-up", "piece", "of", "what", "depth_mm", "angle_deg", "value_mm", "result", "as typed", "gauge",
            "serial", "certificate", "part_c", "gauge_c", "by", "at", "how", "withdrawn")  # fmt: skip


def csv_rows(page: JobPage) -> Iterator[list[str]]:
    """A row a reading, log by log, each in its order; a query a log."""
    for cells in (*_sizes(page), *_depths(page), *_tried(page), *_features(page), *_rounds(page)):
        yield [cells.get(name, "") for name in CSV_HEAD]


def _cells(page: JobPage, row: Any, **more: str) -> dict[str, str]:
    """What every reading has: where it belongs, with what, by whom and when."""
    tool = getattr(row, "gauge", None) or getattr(row, "indicator", None)
    return {
        "job": page.job.number, "set-up": page.record.setup.letter, "as typed": row.text, "by": row.by.username,
        "at": localtime(row.read_at).isoformat(timespec="seconds"), "how": row.source,
        "withdrawn": "yes" if row.withdrawn else "", **_with(tool), **more,
    }  # fmt: skip


def _with(tool: Gauge | Indicator | None) -> dict[str, str]:
    return {} if tool is None else {"gauge": tool.name, "serial": tool.serial, "certificate": tool.certificate}


def _plain(value: Decimal | float | None) -> str:
    return "" if value is None else f"{Decimal(str(value)).normalize():f}"


def _sizes(page: JobPage) -> Iterator[dict[str, str]]:
    for row in SizeReading.objects.filter(setup=page.job.setup).select_related("by", "gauge", "bore").order_by("pk"):
        yield _cells(
            page, row, piece=str(row.piece), of=row.bore.name, what="size", depth_mm=_plain(row.z_mm),
            angle_deg=_plain(row.angle_deg), value_mm=_plain(row.value_mm), part_c=f"{row.part_temp_c:f}",
            gauge_c=f"{row.gauge_temp_c:f}",
        )  # fmt: skip


def _depths(page: JobPage) -> Iterator[dict[str, str]]:
    for row in DepthReading.objects.filter(setup=page.job.setup).select_related("by", "gauge", "bore").order_by("pk"):
        yield _cells(page, row, piece=str(row.piece), of=row.bore.name, what="depth of the shoulder",
                     value_mm=_plain(row.value_mm))  # fmt: skip


def _tried(page: JobPage) -> Iterator[dict[str, str]]:
    for row in PlugReading.objects.filter(setup=page.job.setup).select_related("by", "gauge", "bore").order_by("pk"):
        yield _cells(page, row, piece=str(row.piece), of=row.bore.name, what=row.get_side_display(),
                     value_mm=_plain(row.size_mm), result=row.get_felt_display() or _goes(row.goes))  # fmt: skip


def _goes(goes: bool) -> str:
    return "goes" if goes else "does not go"


def _features(page: JobPage) -> Iterator[dict[str, str]]:
    rows = FeatureReading.objects.filter(setup=page.job.setup).select_related("by", "gauge", "indicator", "feature")
    for row in rows.order_by("pk"):
        what, result = row.get_what_display(), _goes(row.goes) if row.side else ""
        if row.what == FeatureReading.What.SIZE:
            over = "" if row.over == FeatureReading.Over.CENTRES else f", {row.get_over_display()}"
            what = f"{row.side} side" if row.side else f"{what}{over}"
        value = {"value_mm": _plain(row.value)}
        if row.what == FeatureReading.What.ANGLE:
            value = {"result": f"{_plain(row.value)} deg"}
        yield _cells(page, row, **{"piece": str(row.piece), "of": row.feature.name, "what": what, "result": result,
                                   **value})  # fmt: skip


def _rounds(page: JobPage) -> Iterator[dict[str, str]]:
    """Indicator readings, each at its place on the work."""
    known = {one.key: one for one in page.record.rounds}
    rows = Reading.objects.filter(round__setup=page.job.setup).select_related("by", "round__indicator", "round__bore")
    for row in rows.order_by("pk"):
        one = row.round
        what = f"{'run-out' if one.purpose == one.Purpose.CHECK else 'truing'} round {one.number}"
        yield _cells(
            page, row, piece=str(one.piece), of=one.bore.name if one.bore else "", value_mm=_plain(row.value_mm),
            what=f"{what}, back at start" if row.place == one.places else what,
            result="" if row.value_mm is not None else OFF_SCALE.get(row.text, "skipped"),
            **_place(known.get(one.pk), row.place), **_with(one.indicator),
        )  # fmt: skip


def _place(one: RoundRecord | None, place: int) -> dict[str, str]:
    """Where the stylus stood: its angle, and its depth where the round has one."""
    if one is None or place >= one.places:
        return {}
    depth = one.depths_mm[place % len(one.depths_mm)] if one.is_walls else one.plane_mm
    return {"angle_deg": _plain(one.angles_deg[place]), "depth_mm": _plain(depth)}

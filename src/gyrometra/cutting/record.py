"""The cutting log as the loop of a bore replays it: rows of the database as frozen entries, nothing decided."""

from __future__ import annotations

import json
from collections.abc import Callable, Container, Iterable, Sequence
from dataclasses import dataclass, field
from functools import cache
from typing import Any, Literal, cast

from pydantic import TypeAdapter

from gyrometra.cutting.models import CutEntry
from gyrometra.jobs.gauges import gauge_as_it_was
from gyrometra.jobs.models import Bore, SetUp
from gyroplan.gauges import GaugeNames
from gyroplan.loop import (
    AdvanceWay,
    BoreLog,
    Cut,
    DialWay,
    Entry,
    Planned,
    Set,
    Size,
    Touched,
    TouchOff,
    Way,
    Zero,
)
from gyroplan.record import CutLogRecord, RemarkRecord


@dataclass(frozen=True, slots=True)
class CutLog:
    """The log of one bore of one piece: for the loop, and the rows behind each of its entries."""

    log: BoreLog = field(default_factory=BoreLog)
    #: The row of each entry of the log, in its order.
    rows: tuple[CutEntry, ...] = ()
    guarded: bool = False
    #: The last remark on each pass.
    remarks: dict[int, CutEntry] = field(default_factory=dict)
    #: What else was seen, oldest first.
    seen: tuple[CutEntry, ...] = ()

    @property
    def last_size(self) -> CutEntry | None:
        """The size measured last."""
        return next((row for row in reversed(self.rows) if row.kind == CutEntry.Kind.SIZE), None)


def cuts_of(setup: SetUp, pieces: Iterable[int] | None = None) -> list[CutEntry]:
    """All standing entries of a set-up, whichever bore, of some pieces or all; one query."""
    entries = CutEntry.objects.standing().filter(setup=setup).select_related("by", "gauge")
    return list(entries if pieces is None else entries.filter(piece__in=pieces))


def log_of(entries: Sequence[CutEntry], bore: Bore, piece: int, way: Callable[[], Way]) -> CutLog:
    """The entries of one bore of one piece. `way` reads settings of an older make, which know no plan."""
    own = [row for row in entries if row.piece == piece and row.bore_id in (None, bore.pk)]
    gauges = GaugeNames()
    found: list[Entry] = []
    rows: list[CutEntry] = []
    first: Planned | None = None
    for row in own:
        if row.kind == CutEntry.Kind.PLAN and first is None and not found:
            first = planned_from(row.rests_on)
            continue
        made = _entries_of(row, way, gauges)
        found += made
        rows += [row] * len(made)
    log = BoreLog(first=first, entries=tuple(found), gauges=tuple(gauges.known))
    # a sound that is the bar's is a squeal, until somebody says otherwise: the later of the two counts
    told = (CutEntry.Kind.REMARK, CutEntry.Kind.NOISE)
    remarks = {row.number: row for row in own if row.kind in told and row.sound}
    guarded = any(row.kind == CutEntry.Kind.GUARD for row in own)
    return CutLog(log, tuple(rows), guarded, remarks, tuple(row for row in own if row.kind == CutEntry.Kind.SEEN))


def log_record(found: CutLog, place: int, piece: int) -> CutLogRecord:
    """The same as a frozen record."""
    cut_as = {row.number: row for row in found.rows if row.kind in (CutEntry.Kind.SET, CutEntry.Kind.CUT)}
    remarks = tuple(_remark(row, cut_as.get(row.number)) for row in found.remarks.values())
    return CutLogRecord(bore=place, piece=piece, log=found.log, remarks=remarks)


def _remark(row: CutEntry, cut: CutEntry | None) -> RemarkRecord:
    """A remark with what its pass was cut with."""
    made = cut.rests_on if cut is not None else {}
    return RemarkRecord(
        number=row.number, sound=cast(Sound, row.sound), look=cast(Look, row.look), bar=made.get("bar", ""),
        cutter=made.get("cutter_id"), feed_mm_rev=made.get("feed_mm_rev"), depth_mm=made.get("depth_mm"),
        diameter_mm=None if cut is None or cut.value_mm is None else float(cut.value_mm),
    )  # fmt: skip


Sound = Literal["quiet", "hum", "squeal", ""]
Look = Literal["clean", "torn", "waves", ""]


@cache
def _planned_reader() -> TypeAdapter[Planned]:
    return TypeAdapter(Planned)


def planned_from(values: dict[str, Any]) -> Planned:
    """A plan as it was stored."""
    return _planned_reader().validate_json(json.dumps(values))


def planned_values(planned: Planned) -> dict[str, Any]:
    """A plan as it is stored."""
    found: dict[str, Any] = _planned_reader().dump_python(planned, mode="json")
    return found


def _entries_of(row: CutEntry, way: Callable[[], Way], gauges: GaugeNames) -> list[Entry]:
    kinds = CutEntry.Kind
    if row.kind == kinds.SET:
        if row.actual is None:
            return _set_and_cut(row, way())
        return [Set(number=row.number, actual=float(row.actual))]
    if row.kind == kinds.SIZE:
        return [_size(row, gauges)]
    division = None if row.at_division is None else float(row.at_division)
    simple: dict[str, Entry] = {
        kinds.CUT: Cut(number=row.number, through=row.through),
        kinds.TOUCHED: Touched(),
        kinds.TOUCH_OFF: TouchOff(at_division=division),
        kinds.ZERO: Zero(at_division=division or 0.0),
    }
    if row.kind == kinds.PLAN:
        return [planned_from(row.rests_on)]
    return [simple[row.kind]] if row.kind in simple else []


def _size(row: CutEntry, gauges: GaugeNames) -> Size:
    return Size(
        gauge=gauges.name_of(gauge_as_it_was(row.rests_on, row.gauge, row.by.username)),
        readings_mm=[float(row.value_mm or 0)], part_temp_c=float(row.part_temp_c),
        instrument_temp_c=float(row.gauge_temp_c), temp_u_c=float(row.temp_u_c),
    )  # fmt: skip


def _set_and_cut(row: CutEntry, way: Way) -> list[Entry]:
    """A setting of an older make: one tap set the cutter and cut the pass."""
    target, change = float(row.value_mm or 0), float(row.change_mm or 0)
    if isinstance(way, DialWay):
        actual = change / way.on_diameter_mm if row.divisions is None else float(row.divisions)
    elif isinstance(way, AdvanceWay):
        actual = way.told(change, 0.0).amount
    else:
        actual = way.reading_mm(target)
    return [Set(number=row.number, actual=actual), Cut(number=row.number)]


def why_begun(setup: SetUp, bore: Bore | None = None, pieces: Container[int] | None = None) -> str:
    """Why what the log began with cannot be changed: it counts from there. Empty where no pass is set."""
    setting = CutEntry.objects.standing().filter(setup=setup, kind__in=(CutEntry.Kind.SET, CutEntry.Kind.CUT))
    rows = set((setting if bore is None else setting.filter(bore=bore)).values_list("bore", "piece", "number"))
    begun = sum(pieces is None or piece in pieces for _, piece, _ in rows)
    if not begun:
        return ""
    already = "Pass 1 is set" if begun == 1 else f"{begun} passes are set"
    return f"{already} already: undo them on Bore before this is changed."

"""Things of the crib as frozen records: floats in millimetres, no database behind them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from decimal import Decimal
from typing import Any, Literal, overload

from gyrocore import HeadHole
from gyrometra.crib.models import Bar, Cutter, Gauge, Head, Indicator, Machine
from gyroplan import Gauge as GaugeAsItIs
from gyroplan.record import (
    BarRecord,
    CutterRecord,
    FixtureRecord,
    GaugeCard,
    HeadRecord,
    IndicatorRecord,
    MachineRecord,
    SpeedRecord,
)

#: Rows of a child table, each a mapping of its columns.
Rows = Iterable[Mapping[str, Any]]


@overload
def maybe(value: Decimal | float | int) -> float: ...
@overload
def maybe(value: None) -> None: ...
def maybe(value: Decimal | float | int | None) -> float | None:
    """A figure of the database as a float; None stays None."""
    return None if value is None else float(value)


def bar_record(bar: Bar) -> BarRecord:
    """A bar as it is now."""
    return BarRecord(
        key=bar.pk, name=bar.name, kind=bar.kind, method=bar.method, diameter_mm=float(bar.diameter_mm),
        length_mm=float(bar.length_mm), min_bore_mm=float(bar.min_bore_mm),
        inner_diameter_mm=float(bar.inner_diameter_mm), grip_mm=maybe(bar.grip_mm), tip_mm=maybe(bar.tip_mm),
        tail_mm=float(bar.tail_mm or 0),
        shank_mm=maybe(bar.shank_mm), steps_mm=_pairs(bar.steps_mm), tilt_deg=float(bar.tilt_deg),
        damping_ratio=maybe(bar.damping_ratio), tuned=_pairs(bar.tuned), tuned_turns=maybe(bar.tuned_turns),
        bits_apart_mm=maybe(bar.bits_apart_mm), pads_behind_mm=maybe(bar.pads_behind_mm), pads_mm=maybe(bar.pads_mm),
    )  # fmt: skip


def _pairs(rows: Iterable[tuple[float, float]]) -> tuple[tuple[float, float], ...]:
    return tuple((float(first), float(second)) for first, second in rows)


def cutter_record(cutter: Cutter) -> CutterRecord:
    """A cutter as it is now."""
    return CutterRecord(
        key=cutter.pk, name=cutter.name, made_of=cutter.made_of, nose_radius_mm=float(cutter.nose_radius_mm),
        entering_angle_deg=float(cutter.entering_angle_deg), least_depth_mm=float(cutter.least_depth_mm),
    )  # fmt: skip


def head_record(head: Head, holes: Rows | None = None) -> HeadRecord:
    """A boring head as it is now; its holes are read unless they are given as rows."""
    rows = head.holes.values("name", "offset_mm") if holes is None else holes
    return HeadRecord(
        name=head.name, division_mm=float(head.division_mm), divisions_per_turn=head.divisions_per_turn,
        slide_travel_mm=float(head.slide_travel_mm), shank_mm=float(head.shank_mm),
        holes=tuple(HeadHole(hole=row["name"], offset_mm=float(row["offset_mm"])) for row in rows),
        dial_reads=_reads(head.dial_reads), dial_numbers=_numbers(head.dial_numbers),
        max_rpm=maybe(head.max_rpm), clearance_mm=float(head.clearance_mm),
        carrier_mm=maybe(head.carrier_mm), carrier_out_mm=maybe(head.carrier_out_mm),
    )  # fmt: skip


def machine_record(machine: Machine, speeds: Rows | None = None) -> MachineRecord:
    """A machine as it is now; its speeds are read unless they are given as rows."""
    own: Rows = [{"rpm": speed.rpm, "lever": speed.lever} for speed in machine.speeds.all()] if speeds is None else ()
    return MachineRecord(
        name=machine.name, kind=machine.kind, stepless=machine.stepless,
        speeds=tuple(SpeedRecord(rpm=float(row["rpm"]), lever=row["lever"]) for row in speeds or own),
        division_mm=maybe(machine.division_mm), divisions_per_turn=machine.divisions_per_turn,
        dial_reads=_reads(machine.dial_reads), dial_numbers=_numbers(machine.dial_numbers),
        backlash_divisions=maybe(machine.backlash_divisions), unbalanced_max_rpm=maybe(machine.unbalanced_max_rpm),
        cuts_large_mm=maybe(machine.cuts_large_mm), power_kw=maybe(machine.power_kw),
        torque_nm=maybe(machine.torque_nm), feeds_mm_rev=tuple(float(feed) for feed in machine.feeds_mm_rev),
        travel_mm=maybe(machine.travel_mm), centres_mm=maybe(machine.centres_mm),
        axis_height_mm=maybe(machine.axis_height_mm), table_division_mm=maybe(machine.table_division_mm),
        screw_pitch_mm=maybe(machine.screw_pitch_mm), table_divisions_per_turn=machine.table_divisions_per_turn,
        table_backlash_divisions=maybe(machine.table_backlash_divisions),
    )  # fmt: skip


def fixture_records(rows: Rows) -> tuple[FixtureRecord, ...]:
    """Fixtures and packing as they are now."""
    return tuple(FixtureRecord(name=row["name"], kind=row["kind"], height_mm=maybe(row["height_mm"])) for row in rows)


def gauge_record(card: Gauge, username: str, learned_mm: float | None = None) -> GaugeAsItIs:
    """A gauge in this person's hands, as it is now; `learned_mm` is what their own readings repeat to."""
    return GaugeAsItIs(
        name=card.name, resolution_mm=float(card.resolution_mm), error_limit_mm=float(card.error_limit_mm),
        correction_mm=float(card.correction_mm), single_sd_mm=card.single_sd_of(username, learned_mm),
    )  # fmt: skip


def _reads(value: str) -> Literal["radius", "diameter"]:
    return "diameter" if value == "diameter" else "radius"


def _numbers(value: str) -> Literal["rise", "fall"]:
    return "fall" if value == "fall" else "rise"


def certified(item: Gauge | Indicator) -> GaugeCard:
    """What a report prints of a gauge or an indicator beside its figures."""
    return GaugeCard(serial=item.serial, certificate=item.certificate, certified_on=item.certified_on)


def indicator_record(item: Indicator) -> IndicatorRecord:
    """An indicator as it is now."""
    return IndicatorRecord(name=item.name, step_mm=float(item.step_mm), due_on=item.due_on, card=certified(item))

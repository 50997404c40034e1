"""A job as a record, without a database: the made-up shop's trunnion housing, and what can be changed of it."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from typing import Any

from gyrocore import material
from gyroplan import Gauge
from gyroplan.assess import Assessment
from gyroplan.record import (
    BarRecord,
    BoreRecord,
    CutterRecord,
    JobRecord,
    MachineRecord,
    PlanRecord,
    ReadingRecord,
    RoundRecord,
    SetUpRecord,
    SizeRecord,
    SpeedRecord,
)

TODAY = date(2026, 5, 4)
GAUGE = Gauge(name="Bore gauge", resolution_mm=0.001, error_limit_mm=0.001, single_sd_mm=0.0005)
CUTTER = CutterRecord(key=1, name="Bit", made_of="carbide", nose_radius_mm=0.4, entering_angle_deg=90,
                      least_depth_mm=0.05)  # fmt: skip
BAR = BarRecord(key=7, name="Bar 7", kind="steel", method="lathe-bar", diameter_mm=40, length_mm=300, min_bore_mm=44)
LATHE = MachineRecord(
    name="Lathe", kind="lathe", division_mm=0.02, divisions_per_turn=100, unbalanced_max_rpm=500, power_kw=3,
    speeds=tuple(SpeedRecord(rpm=rpm) for rpm in (45, 90, 180, 280, 355, 500)),
)  # fmt: skip


def bore(**more: Any) -> BoreRecord:
    """72 H7, 140 long, found at 68.40."""
    values: dict[str, Any] = {
        "key": 1, "name": "bore", "place": 1, "start_mm": 0.0, "length_mm": 140.0, "wanted": "72 H7", "lower_mm": 72.0,
        "upper_mm": 72.03, "runout_limit_mm": 0.02, "found_mm": ((20.0, 68.4), (120.0, 68.42)),
    }  # fmt: skip
    return BoreRecord(**{**values, **more})


def job(
    *bores: BoreRecord, plan: dict[str, Any] | None = None, setup: dict[str, Any] | None = None, **more: Any
) -> JobRecord:
    """The job with what is said of it."""
    planned = PlanRecord(**{"bar": BAR, "cutter": CUTTER, **(plan or {})})
    held: dict[str, Any] = {"machine": LATHE, "method": "lathe-bar", "reference": "old-bore"}
    made = SetUpRecord(plan=planned, bores=bores or (bore(),), **{**held, **(setup or {})})
    return JobRecord(number="Q-1", part="housing", material=material("grey-iron"), setup=made, **more)


def assessed(record: JobRecord) -> Assessment:
    """The job assessed on the day of the tests."""
    return Assessment(record=record, today=TODAY)


def in_line(*starts: float, bar_mm: float = 60, **more: Any) -> JobRecord:
    """Bores of 90 H7, 80 long, in line, bored with a bar in bearings."""
    bar = BarRecord(key=9, name="Line bar", kind="line-bar", method="line", diameter_mm=bar_mm, length_mm=2000,
                    min_bore_mm=bar_mm + 4, bits_apart_mm=more.pop("bits_apart_mm", None))  # fmt: skip
    bores = [
        bore(name=f"H{n + 1}", place=n + 1, key=n + 1, start_mm=start, length_mm=80.0, lower_mm=90.0, upper_mm=90.035,
             found_mm=((10.0, 87.6),), runout_limit_mm=limit)
        for n, (start, limit) in enumerate(zip(starts, more.pop("runouts", [0.02] * len(starts)), strict=True))
    ]  # fmt: skip
    plan = {"bar": bar, "bearings_mm": more.pop("bearings_mm", (-80.0, starts[-1] + 160)), **more.pop("plan", {})}
    machine = MachineRecord(name="Rig", kind="portable", speeds=LATHE.speeds, power_kw=3)
    return job(*bores, plan=plan, setup={"method": "line", "machine": machine, **more.pop("setup", {})}, **more)


def sizes(
    value_mm: float, *, piece: int = 1, place: int = 1, length_mm: float = 140, **more: Any
) -> tuple[SizeRecord, ...]:
    """The same size at two ends and the middle, in two directions."""
    return tuple(
        SizeRecord(key=n, bore=place, piece=piece, z_mm=z, angle_deg=angle, value_mm=value_mm, gauge=GAUGE, **more)
        for n, (z, angle) in enumerate((length_mm * share, a) for share in (1 / 7, 1 / 2, 6 / 7) for a in (0.0, 90.0))
    )


def swept(
    readings: list[float], *, purpose: str = "check", place: int | None = 1, piece: int = 1, number: int = 1
) -> RoundRecord:  # fmt: skip
    """A round of four places that came back to where it began."""
    rows = [*readings, readings[0]]
    return RoundRecord(
        key=number, number=number, purpose=purpose, method="sweep", places=len(readings), surface="inside",  # type: ignore[arg-type]
        bore=place, piece=piece, indicator_step_mm=0.001,
        readings=tuple(ReadingRecord(key=n, place=n, value_mm=value) for n, value in enumerate(rows)),
    )  # fmt: skip


def with_plan(record: JobRecord, **changes: Any) -> JobRecord:
    """The same job, planned otherwise."""
    return replace(record, setup=replace(record.setup, plan=replace(record.setup.plan, **changes)))

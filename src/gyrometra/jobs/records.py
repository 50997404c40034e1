"""A job's work and plan as frozen records."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal, cast

from gyrometra.crib.models import Bar
from gyrometra.crib.records import (
    Rows,
    bar_record,
    cutter_record,
    fixture_records,
    head_record,
    machine_record,
    maybe,
)
from gyrometra.jobs.models import Bore, Job, Plan
from gyroplan.record import (
    BarRecord,
    BoreRecord,
    BreakRecord,
    FeatureRecord,
    HeavyRecord,
    PlanRecord,
    SetUpRecord,
    ThereRecord,
)

#: The level of inspection by how much a bore matters.
INSPECTION: dict[str, Literal["reduced", "normal", "critical"]] = {
    Bore.Matters.LITTLE: "reduced", Bore.Matters.DRAWN: "normal", Bore.Matters.MUCH: "critical",
}  # fmt: skip
Ends = Literal["through", "shoulder", "blind"]
SetWith = Literal["", "protrusion", "indicator", "jig"]
Reference = Literal["old-bore", "outside", "face", "wall", "finished"]
Side = Literal["first", "other"]


def bore_record(bore: Bore) -> BoreRecord:
    """A bore as it is asked for now."""
    typed = bore.typed.get("wanted") if bore.play_least_mm is None else None
    return BoreRecord(
        key=bore.pk, name=bore.name, place=bore.place, start_mm=float(bore.start_mm), length_mm=float(bore.length_mm),
        ends=cast(Ends, bore.ends), wanted=bore.wanted, wanted_unit=typed["unit"] if typed else "mm",
        nominal_mm=maybe(bore.nominal_mm), lower_mm=float(bore.lower_mm), upper_mm=float(bore.upper_mm),
        target_lower_mm=maybe(bore.target_lower_mm), target_upper_mm=maybe(bore.target_upper_mm),
        depth_lower_mm=maybe(bore.depth_lower_mm), depth_upper_mm=maybe(bore.depth_upper_mm),
        inspection=INSPECTION[bore.matters], runout_limit_mm=float(bore.runout_limit_mm),
        roundness_limit_mm=maybe(bore.roundness_limit_mm), taper_limit_mm=maybe(bore.taper_limit_mm),
        found_mm=tuple(
            (float(row["z_mm"]), float(row["diameter_mm"])) for row in child_rows(bore, "found") if not row["piece"]
        ),
        found_alone_mm=tuple(
            (row["piece"], float(row["z_mm"]), float(row["diameter_mm"]))
            for row in child_rows(bore, "found") if row["piece"]
        ),
        found_at_deg=tuple(
            (float(row["z_mm"]), float(row["diameter_mm"]), float(row["angle_deg"]))
            for row in child_rows(bore, "found") if row["angle_deg"] is not None
        ),
        outside_mm=tuple((float(row["length_mm"]), float(row["diameter_mm"])) for row in child_rows(bore, "outside")),
        breaks=tuple(
            BreakRecord(kind=row["kind"], **{name: float(row[name]) for name in _BREAK_MM})
            for row in child_rows(bore, "interruptions")
        ),
        there=tuple(
            ThereRecord(name=row["name"], **{name: float(row[name]) for name in ("from_mm", "to_mm", "diameter_mm")})
            for row in child_rows(bore, "there")
        ),
    )  # fmt: skip


_BREAK_MM = ("from_mm", "to_mm", "angle_deg", "width_mm")
#: Where `BoreQuerySet.with_rows` puts the rows of each child table.
_READ_WITH = {"found": "found_rows", "outside": "outside_rows", "interruptions": "break_rows", "there": "there_rows"}


def child_rows(bore: Bore, name: str) -> Rows:
    """Rows of a child table: read with the bore, or now."""
    known: Rows | None = getattr(bore, _READ_WITH[name], None)
    return [vars(row) for row in getattr(bore, name).all()] if known is None else known


def plan_record(plan: Plan, holes: Rows | None = None) -> PlanRecord:
    """How a set-up is bored, as it is planned now."""
    return PlanRecord(
        bar=_bar(plan.bar), opening_bar=_bar(plan.opening_bar),
        cutter=cutter_record(plan.cutter) if plan.cutter else None,
        head=head_record(plan.head, holes) if plan.head else None,
        set_with=cast(SetWith, plan.set_with), jig_zero_mm=maybe(plan.jig_zero_mm),
        guide_play_mm=maybe(plan.guide_play_mm), overlap_mm=float(plan.overlap_mm),
        side_depth_mm=maybe(plan.side_depth_mm), droop_mm=float(plan.droop_mm),
        face_read_mm=maybe(plan.face_read_mm), supports_mm=maybe(plan.supports_mm),
        pivot_mm=maybe(plan.pivot_mm), level_about=plan.level_about,
        axis_allowed_mm=maybe(plan.axis_allowed_mm), falls_mm=maybe(plan.falls_mm),
        falls_over_mm=maybe(plan.falls_over_mm), masses=tuple(HeavyRecord(**one) for one in plan.masses),
        plate_radius_mm=maybe(plan.plate_radius_mm), plate_holes=plan.plate_holes,
        weight_step_kg=float(plan.weight_step_kg), force_limit_n=maybe(plan.force_limit_n),
        driver_mm=float(plan.driver_mm), tail_mm=float(plan.tail_mm), work_length_mm=maybe(plan.work_length_mm),
        foot_mm=maybe(plan.foot_mm), bearings_mm=tuple(float(place) for place in plan.bearings_mm),
        overrun_mm=float(plan.overrun_mm),
        clear_mm=float(plan.clear_mm), chip_clearance_mm=float(plan.chip_clearance_mm),
        budget_mm=maybe(plan.budget_mm), rough_speed_m_min=maybe(plan.rough_speed_m_min),
        finish_speed_m_min=maybe(plan.finish_speed_m_min), rough_feed_mm_rev=float(plan.rough_feed_mm_rev),
        finish_feed_mm_rev=float(plan.finish_feed_mm_rev), rough_depth_mm=float(plan.rough_depth_mm),
        finish_depth_mm=float(plan.finish_depth_mm), finish_passes=plan.finish_passes,
        spring_passes=plan.spring_passes, test_first=plan.test_first, test_leave_mm=maybe(plan.test_leave_mm),
        hone_allowance_mm=float(plan.hone_allowance_mm), rest_until=plan.rest_until, max_rpm=maybe(plan.max_rpm),
    )  # fmt: skip


def _bar(bar: Bar | None) -> BarRecord | None:
    return None if bar is None else bar_record(bar)


def _holes(job: Job) -> Rows | None:
    """The holes that were read with the job, where its head is still the same."""
    rows = list(getattr(job, "hole_rows", ()))
    return rows if rows and rows[0]["head_id"] == job.setup.plan.head_id else None


def setup_record(job: Job, bores: Iterable[Bore]) -> SetUpRecord:
    """The set-up in hand of a job that was read whole, with its bores in their order along the axis."""
    setup = job.setup
    return SetUpRecord(
        place=setup.place, side=cast(Side, setup.side), closed_reason=setup.closed_reason,
        machine=machine_record(setup.machine, getattr(job, "speed_rows", None)), method=setup.method,
        holding=setup.holding,
        reference=cast(Reference, setup.reference), plan=plan_record(setup.plan, _holes(job)),
        bores=tuple(bore_record(bore) for bore in bores), room_behind_mm=maybe(setup.room_behind_mm),
        coaxiality_mm=maybe(setup.coaxiality_mm), match_mm=maybe(setup.match_mm),
        fixtures=fixture_records(getattr(job, "fixture_rows", ())),
        features=feature_records(getattr(job, "feature_rows", ())), only_trued=setup.only_trued,
    )  # fmt: skip


_FEATURE_NUMBERS = (
    "lower_mm", "upper_mm", "angle_lower_deg", "angle_upper_deg", "runout_limit_mm", "form_limit_mm",
    "length_mm", "inner_mm",
    "outer_mm", "stock_mm",
)  # fmt: skip


def feature_records(rows: Rows) -> tuple[FeatureRecord, ...]:
    """What a set-up makes beside its bores, as it is asked for now; what was taken off the list is left out."""
    return tuple(
        FeatureRecord(
            key=row["id"], place=row["place"], name=row["name"], kind=row["kind"], wanted=row["wanted"],
            wanted_unit=row["typed"].get("wanted", {}).get("unit", "mm"), z_mm=float(row["z_mm"]),
            to_setup=row["to_setup__place"], inspection=INSPECTION[row["matters"]],
            **{name: None if row[name] is None else float(row[name]) for name in _FEATURE_NUMBERS},
        )
        for row in sorted(rows, key=lambda row: int(row["place"])) if not row["dropped"]
    )  # fmt: skip

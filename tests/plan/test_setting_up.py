"""A set-up worked out before anything is clamped: two sides, packing, balance, a bush; from records alone."""

from __future__ import annotations

from dataclasses import replace
from math import pi
from typing import Any

import pytest

from gyrocore import InvalidInput, PackingPiece, material, read_limits
from gyroplan.assess import (
    BushWork,
    Seat,
    bush_plan,
    choice_of,
    packed_from,
    reach_into,
    seat_of,
    setup_summary,
    sides_of,
    turning_of,
    turns_heavy,
)
from gyroplan.record import (
    BarRecord,
    HeavyRecord,
    JobRecord,
    SetUpSummary,
    ThereRecord,
    record_from_json,
    record_to_json,
)
from tests.plan.shop import LATHE, assessed, bore, in_line, job, sizes, with_plan

SLIM = BarRecord(key=2, name="Bar 2", kind="carbide", method="lathe-bar", diameter_mm=25, length_mm=200, min_bore_mm=28)


def long_bore(**more: Any) -> Any:
    return bore(
        length_mm=210.0, lower_mm=36.0, upper_mm=36.039, found_mm=((20.0, 34.2),), runout_limit_mm=0.012, **more
    )


def at(record: JobRecord) -> Any:
    return assessed(record).boring(1, 1).passes.at


def test_a_bar_that_does_not_reach_bores_from_two_sides() -> None:
    record = job(long_bore(), plan={"bar": SLIM, "clear_mm": 10.0, "chip_clearance_mm": 4.0, "overlap_mm": 2.0})
    found = sides_of(at(record), SLIM, None)
    assert found is not None
    assert found.reach.depth_mm == 115, "200 long, 75 in the clamp, 10 clear"
    assert (found.found.depth_a_mm, found.found.depth_b_mm) == (115, 97)
    assert (found.out_a_mm, found.out_b_mm) == (125, 107)
    assert found.step_mm == pytest.approx(0.012), "half of the run-out limit by each truing"
    trued = sides_of(at(record), SLIM, 0.002)
    assert trued is not None
    assert trued.step_mm == pytest.approx(0.008)
    other = replace(record, others=(SetUpSummary(place=2, word="in", digest="", off_centre_mm=0.001),))
    both = sides_of(at(other), SLIM, 0.002)
    assert both is not None
    assert both.step_mm == pytest.approx(0.003)
    gone_on = SetUpSummary(place=1, word="incomplete", digest="", closed_reason="goes on in B", off_centre_mm=0.001)
    after = sides_of(at(replace(record, others=(gone_on,))), SLIM, 0.002)
    assert after is not None
    assert after.step_mm == pytest.approx(0.003), "the first side's truing, though its set-up is closed"
    line = in_line(0, 600, plan={"side_depth_mm": 20.0})
    assert not at(line).is_one_side, "a bar held at both ends has no sides"


def test_a_side_is_bored_as_deep_as_it_was_said() -> None:
    record = job(long_bore(), plan={"bar": SLIM, "clear_mm": 10.0, "chip_clearance_mm": 4.0, "side_depth_mm": 115.0})
    here, through = at(record), at(with_plan(record, side_depth_mm=None))
    assert (here.bored_mm, here.overrun_mm) == (115, 0)
    assert (through.bored_mm, through.overrun_mm) == (210, 5)
    boring = assessed(record).boring(1, 1)
    assert boring.bar.reach.value is not None
    assert boring.bar.reach.value.reach_mm == 125
    whole = assessed(with_plan(record, side_depth_mm=None)).boring(1, 1).speeds.minutes
    assert boring.speeds.minutes == pytest.approx(whole * 115 / 215), "less time under feed"
    assert not at(with_plan(record, side_depth_mm=500.0)).is_one_side


@pytest.mark.parametrize(("steps", "depth", "by"), [
    ((), 115.0, "clamp"),
    (((60.0, 20.0), (40.0, 32.0)), 60.0, "step"),
    (((60.0, 20.0), (40.0, 24.0)), 115.0, "clamp"),
])  # fmt: skip
def test_a_thick_part_ends_the_reach(steps: tuple[tuple[float, float], ...], depth: float, by: str) -> None:
    bar = replace(SLIM, steps_mm=steps)
    found = reach_into(bar, entry_mm=34.2, clear_mm=10, chip_mm=4)
    assert (found.depth_mm, found.ends_by) == (depth, by)


def test_a_closed_bore_or_a_bar_held_at_both_ends_has_no_two_sides() -> None:
    assert sides_of(at(job(long_bore(ends="blind"), plan={"bar": SLIM})), SLIM, None) is None
    assert sides_of(at(in_line(0, 600)), SLIM, None) is None
    assert sides_of(at(job(long_bore())), None, None) is None


OWNED = [PackingPiece(name=name, height_mm=height, count=count) for name, height, count in (
    ("60", 60, 1), ("1.5", 1.5, 2), ("0.2", 0.2, 1), ("0.1", 0.1, 2), ("0.05", 0.05, 1))]  # fmt: skip


def on_saddle(**plan: Any) -> JobRecord:
    bar = BarRecord(key=3, name="Centres bar", kind="steel", method="centres", diameter_mm=38, length_mm=560,
                    min_bore_mm=42)  # fmt: skip
    machine = replace(LATHE, axis_height_mm=210.0, centres_mm=1000.0)
    return job(plan={"bar": bar, "foot_mm": 148.4, **plan}, setup={"method": "centres", "machine": machine})


def test_packing_is_built_of_what_is_owned() -> None:
    found = packed_from(at(on_saddle(falls_mm=0.09, axis_allowed_mm=0.05)), OWNED, 1.4)
    assert found is not None
    assert found.needed_mm == pytest.approx(61.6)
    best = found.rows[0]
    assert [(one.name, one.count) for one in best.stack.stack] == [("60", 1), ("1.5", 1), ("0.1", 1)]
    assert best.shim is not None
    assert best.shim.height_mm == pytest.approx(0.1), "one of the two that the stack left"
    assert best.axis_error_mm == pytest.approx(0.005), "half of what the shim is off"
    assert best.allowed
    assert not packed_from(at(on_saddle(axis_allowed_mm=0.01)), OWNED[:2], 1.4).rows[0].allowed  # type: ignore[union-attr]
    covered = packed_from(at(on_saddle()), OWNED[:2], 1.4)
    assert covered is not None
    assert (covered.allowed_mm, covered.own_limit, covered.rows[0].allowed) == (1.4, False, True)


def test_no_packing_where_the_height_is_not_known_or_the_work_turns() -> None:
    assert packed_from(at(on_saddle(foot_mm=None)), OWNED, 1.0) is None
    assert packed_from(at(job(plan={"foot_mm": 100.0})), OWNED, 1.0) is None
    nothing = packed_from(at(on_saddle()), [], 1.0)
    assert nothing is not None
    assert nothing.rows == ()


MASSES = (HeavyRecord(name="web", mass_kg=6.4, radius_mm=72, angle_deg=90),)


def test_what_is_left_unbalanced_caps_the_speed() -> None:
    plate = {"setup": {"holding": "faceplate"}}
    bare = job(plan={"masses": MASSES, "force_limit_n": 60.0}, **plate)
    found = turning_of(at(bare))
    assert found is not None
    assert found.left_kg_mm == pytest.approx(6.4 * 72)
    rpm = (60 * 1000 / (6.4 * 72)) ** 0.5 * 60 / (2 * pi)
    assert found.max_rpm == pytest.approx(rpm)
    assert assessed(bare).boring(1, 1).speeds.cap_rpm == pytest.approx(rpm), "the least of all caps"
    weighed = turning_of(at(with_plan(bare, plate_radius_mm=140.0, plate_holes=12, weight_step_kg=0.25)))
    assert weighed is not None
    assert weighed.left_kg_mm < 0.1 * found.left_kg_mm
    assert assessed(job(plan={"masses": MASSES}, **plate)).boring(1, 1).speeds.cap_rpm == 500, "the machine's own"


def test_work_in_a_collet_turns_balanced() -> None:
    assert turns_heavy(at(job()))
    assert not turns_heavy(at(job(setup={"holding": "collet"})))
    assert turning_of(at(job(plan={"masses": MASSES}, setup={"holding": "three-jaw"}))) is None


def test_a_record_keeps_how_it_is_set_up() -> None:
    record = job(plan={"masses": MASSES, "side_depth_mm": 80.0, "falls_mm": 0.09}, setup={"holding": "faceplate"})
    assert record_from_json(record_to_json(record)) == record


def test_the_summary_says_how_far_off_it_was_trued() -> None:
    assert setup_summary(assessed(job())).off_centre_mm is None


def asked(**more: Any) -> BushWork:
    values: dict[str, Any] = {"least_mm": 0.025, "most_mm": 0.055, "finish": read_limits("54 H8"), "leave_mm": 0.5,
                              "length_mm": 23.8, "material": material("bronze")}  # fmt: skip
    return BushWork(**{**values, **more})


SEAT = Seat(smallest_mm=62.012, largest_mm=62.018, uncertainty_mm=0.003, source="check", depth_mm=24.0)


def test_a_bush_from_its_seat() -> None:
    found = bush_plan(asked(), SEAT, material("grey-iron"), 112.0)
    assert (found.outside.lower_mm, found.outside.upper_mm) == (pytest.approx(62.046), pytest.approx(62.064))
    assert found.turned_mm == pytest.approx(53.5)
    assert found.pressed_bore_mm == pytest.approx(53.5 - (found.pressed.bore_closes_mm or 0))
    assert found.after_mm == pytest.approx(54.023 - found.pressed_bore_mm)
    assert found.loosest.press_force_n < found.pressed.press_force_n < found.tightest.press_force_n
    removed = {one.key: one.removed for one in found.stages}
    blank = next(one for one in found.stages if one.key == "blank")
    whole = (blank.outside_mm or 0) ** 2 * (blank.length_mm or 0)
    turned = (found.outside.aim_mm**2 - 53.5**2) * 23.8
    assert removed["turn"] == pytest.approx(1 - turned / whole)
    assert found.needs_rest, "more than two fifths are cut away"
    hollow = bush_plan(asked(blank_outside_mm=65.0, blank_inside_mm=51.0), SEAT, material("grey-iron"), 112.0)
    assert not hollow.needs_rest


@pytest.mark.parametrize(("more", "field"), [
    ({"most_mm": 0.03}, "most_mm"),
    ({"finish": read_limits("61 H8"), "leave_mm": 0.0}, "inside_mm"),
    ({"leave_mm": 60.0}, "leave_mm"),
    ({"blank_outside_mm": 60.0}, "blank_outside_mm"),
    ({"blank_inside_mm": 53.0}, "blank_inside_mm"),
    ({"length_mm": 0.0}, "length_mm"),
])  # fmt: skip
def test_a_bush_that_cannot_be_is_refused_at_its_place(more: dict[str, Any], field: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        bush_plan(asked(**more), SEAT, material("grey-iron"), 112.0)
    assert refused.value.field == field


def test_the_seat_is_what_was_measured_last() -> None:
    unmeasured = seat_of(assessed(job()), 1, 1)
    assert (unmeasured.smallest_mm, unmeasured.largest_mm, unmeasured.source) == (72.0, 72.03, "limits")
    measured = seat_of(assessed(job(sizes=sizes(72.012))), 1, 1)
    assert (measured.smallest_mm, measured.source) == (pytest.approx(72.012), "check")
    assert measured.uncertainty_mm > 0


def test_a_seat_that_is_still_to_be_bored_is_no_size_to_turn_a_bush_to() -> None:
    """Measured at 71.6 of 72 H7: the bush is worked out from the limits, or says that its seat will move."""
    halfway = seat_of(assessed(job(sizes=sizes(71.6))), 1, 1)
    assert not halfway.finished
    assert seat_of(assessed(job(sizes=sizes(72.012))), 1, 1).finished
    assert not seat_of(assessed(job()), 1, 1).finished


def test_a_side_that_was_said_leaves_the_rest_to_the_other() -> None:
    record = job(long_bore(), plan={"bar": SLIM, "clear_mm": 10.0, "chip_clearance_mm": 4.0, "overlap_mm": 2.0,
                                    "side_depth_mm": 101.6})  # fmt: skip
    found = sides_of(at(record), SLIM, None)
    assert found is not None
    assert (found.found.depth_a_mm, found.found.depth_b_mm) == (101.6, pytest.approx(110.4))
    short = sides_of(at(with_plan(record, side_depth_mm=80.0)), SLIM, None)
    assert short is not None
    assert not short.found.possible, "the other side reaches 115 of the 132 that are left"
    longer = replace(SLIM, length_mm=400)
    wished = sides_of(at(job(long_bore(), plan={"bar": longer, "side_depth_mm": 101.6, "chip_clearance_mm": 4.0})),
                      longer, None)  # fmt: skip
    assert wished is not None
    assert (wished.found.one_side_enough, wished.found.depth_b_mm) == (None, pytest.approx(110.4)), "as it was said"


def test_the_bar_must_pass_what_is_only_there() -> None:
    """A hole of 50 before the end of the cut keeps a bar of 40 with 5 to spare a side, and nothing thicker."""
    there = (ThereRecord(name="oil hole", from_mm=0, to_mm=12, diameter_mm=50.0),)
    past = (ThereRecord(name="far bearing", from_mm=150, to_mm=170, diameter_mm=30.0),)
    assert at(job(bore(there=there))).narrowest_mm == 50
    assert at(job(bore(there=past))).narrowest_mm == 68.4, "the bar ends before it"
    assert at(job(bore())).narrowest_mm == 68.4
    thick = replace(SLIM, name="Bar 45", diameter_mm=45, length_mm=330, min_bore_mm=49.5)
    for holes, usable in (((), True), (past, True), (there, False)):
        boring = assessed(job(bore(there=holes))).boring(1, 1)
        ranked = choice_of(boring.passes, boring.bar, [SLIM, thick]).value
        assert ranked is not None
        assert {one.name: one.usable for one in ranked.ranked}["Bar 45"] is usable

"""What is left once some passes are cut, and what the machine, its speeds and a pilot's guides allow."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrocore import (
    BoreInLine,
    CentresBar,
    Cut,
    Cutting,
    Drive,
    InvalidInput,
    PassRules,
    Segment,
    TunedPoint,
    WorkOnSaddle,
    bar_out,
    between_centres,
    cutting_force,
    pass_plan,
    passes_left,
    pilot_guidance,
    power_check,
    segments_out,
    surface_speed_m_min,
    tuning,
)

RULES = PassRules(rough_depth_mm=0.5, finish_depth_mm=0.2)


def left(
    known: float, done: list[str], rules: PassRules = RULES, lower: float = 72.0
) -> list[tuple[str, float, float]]:
    at = Cutting(known_diameter_mm=known, done=done, lower_mm=lower)
    plan = passes_left(cutting=at, aim_diameter_mm=72.015, rules=rules)
    return [(cut.kind, round(cut.depth_mm, 6), round(cut.diameter_mm, 6)) for cut in plan.passes]


def test_as_planned_the_rest_is_the_rest_of_the_plan() -> None:
    plan = pass_plan(start_diameter_mm=68.4, aim_diameter_mm=72.015, rules=RULES)
    for cut in range(len(plan.passes)):
        done = plan.passes[:cut]
        known = done[-1].diameter_mm if done else 68.4
        got = left(known, [p.kind for p in done])
        want = [(p.kind, round(p.depth_mm, 6), round(p.diameter_mm, 6)) for p in plan.passes[cut:]]
        assert got == want


def test_what_came_out_small_or_large_is_shared_alike() -> None:
    assert left(71.0, ["rough", "test"]) == [("finish", 0.25375, 71.5075), ("finish", 0.25375, 72.015)]
    assert left(71.585, ["rough", "rough", "finish"]) == [("finish", 0.215, 72.015)]
    assert [k for k, _, _ in left(70.0, ["rough", "rough"])] == ["rough", "rough", "finish", "finish"]


def test_a_thin_rest_is_left_where_the_size_will_do() -> None:
    assert left(72.004, ["rough", "finish"]) == []
    assert left(71.98, ["rough", "finish", "finish"]) == [("finish", 0.0175, 72.015)], "metal left: one more pass"
    assert left(72.05, ["rough", "finish"]) == [], "over: nothing to cut"
    assert left(72.004, ["finish"], PassRules(rough_depth_mm=0.5, finish_depth_mm=0.2, spring_passes=1)) == [
        ("spring", 0.0, 72.004)
    ]


def test_a_test_cut_that_no_longer_fits_is_left_out() -> None:
    rules = PassRules(rough_depth_mm=0.5, finish_depth_mm=0.2, test_leave_mm=0.8)
    assert [kind for kind, _, _ in left(71.18, ["rough"], rules)] == ["finish", "finish"]
    with pytest.raises(InvalidInput):
        left(71.0, ["rough"], PassRules(rough_depth_mm=0.05, finish_depth_mm=0.2))


@given(st.floats(60, 71.9), st.lists(st.sampled_from(["rough", "test", "finish"]), max_size=4))
def test_what_is_left_always_ends_at_the_aim_and_never_rubs(known: float, done: list[str]) -> None:
    at = Cutting(known_diameter_mm=known, done=sorted(done, key=["rough", "test", "finish"].index), lower_mm=72)
    plan = passes_left(cutting=at, aim_diameter_mm=72.015, rules=RULES)
    assert plan.passes[-1].diameter_mm == pytest.approx(72.015)
    assert sum(cut.depth_mm for cut in plan.passes) == pytest.approx((72.015 - known) / 2)
    assert [cut.number for cut in plan.passes] == list(range(len(done) + 1, len(done) + len(plan.passes) + 1))
    assert max(cut.depth_mm for cut in plan.passes) <= 0.5 + 1e-9


CUT = Cut(kc11_mpa=1100, mc=0.25, depth_mm=2, feed_mm_rev=0.2, surface_speed_m_min=70, diameter_mm=72)


@given(st.floats(50, 20_000), st.one_of(st.none(), st.floats(1, 500)))
def test_the_deepest_cut_uses_the_drive_up(power: float, torque: float | None) -> None:
    found = power_check(cut=CUT, drive=Drive(power_w=power, torque_nm=torque))
    at = cutting_force(
        Cut(kc11_mpa=1100, mc=0.25, depth_mm=found.deepest_mm, feed_mm_rev=0.2, surface_speed_m_min=70, diameter_mm=72)
    )
    used = max((at.power_w or 0) / power, 0 if torque is None else (at.torque_nm or 0) / torque)
    assert used == pytest.approx(1, abs=1e-6)
    assert found.holds is (found.deepest_mm >= 2 - 1e-9)


def test_power_is_torque_times_turns() -> None:
    found = power_check(cut=CUT, drive=Drive(power_w=3000))
    turns_s = 70_000 / 60 / (3.14159265 * 72)
    assert found.power_w == pytest.approx(found.torque_nm * 2 * 3.14159265 * turns_s)


def test_power_needs_a_speed() -> None:
    with pytest.raises(InvalidInput):
        power_check(cut=Cut(kc11_mpa=1100, mc=0.25, depth_mm=2, feed_mm_rev=0.2), drive=Drive(power_w=3000))


def test_a_stepped_bar_is_as_stiff_as_the_sum_of_its_parts_bends() -> None:
    """Mohr: the tip gives sum of (b^3 - a^3)/(3 E I), a and b from the tip."""
    steps = [Segment(length_mm=60, diameter_mm=30), Segment(length_mm=50, diameter_mm=35)]
    out = segments_out(steps, Segment(length_mm=1, diameter_mm=40), 165)
    give, at = 0.0, 0.0
    for part in reversed(out):
        moment = 3.141592653589793 * part.diameter_mm**4 / 64
        give += ((at + part.length_mm) ** 3 - at**3) / (3 * 205_000 * moment)
        at += part.length_mm
    found = bar_out(segments=out)
    assert found.response.stiffness_n_mm == pytest.approx(1 / give)
    assert 30 < found.equal_diameter_mm < 40
    assert sum(part.length_mm for part in segments_out(steps, Segment(length_mm=1, diameter_mm=40), 45)) == 45


def test_the_work_is_clear_of_the_bit_at_both_ends() -> None:
    """By moving the work: at each end of the travel it lies between driver and tail, and the bit off the bore."""
    work = WorkOnSaddle(length_mm=260, bored_from_mm=20, bored_to_mm=180, overrun_mm=6)
    found = between_centres(work=work, bar=CentresBar(length_mm=600, driver_mm=45, tail_mm=25))
    assert found.ok
    assert found.bit_to_mm is not None
    for bit in (found.bit_from_mm, found.bit_to_mm):
        start, end = bit - 20 + 6, bit - 180 - 6
        assert end >= 45 - 1e-9
        assert start + 260 <= 600 - 25 + 1e-9
        assert start - end == pytest.approx(found.travel_mm)
    least = between_centres(work=work, bar=CentresBar(length_mm=found.least_bar_length_mm, driver_mm=45, tail_mm=25))
    assert least.bit_to_mm == pytest.approx(least.bit_from_mm)
    short = between_centres(work=work, bar=CentresBar(length_mm=400, driver_mm=45, tail_mm=25), centres_mm=300,
                            saddle_travel_mm=100)  # fmt: skip
    assert (short.ok, short.bit_to_mm) == (False, None)
    assert [n.code for n in short.notes] == ["centres_bar_too_short", "centres_too_near", "saddle_travel_short"]
    with pytest.raises(InvalidInput):
        between_centres(work=WorkOnSaddle(length_mm=100, bored_from_mm=0, bored_to_mm=120), bar=CentresBar(length_mm=9))
    with pytest.raises(InvalidInput):
        between_centres(work=WorkOnSaddle(length_mm=100, bored_from_mm=50, bored_to_mm=40), bar=CentresBar(length_mm=9))


@given(st.floats(0, 0.2), st.floats(10, 500), st.floats(-800, 800), st.floats(1, 300))
def test_a_pilot_off_by_its_play_never_passes_what_is_said(
    play: float, span: float, start: float, length: float
) -> None:
    """Every straight line that the play allows, tried at its four extremes."""
    bore = BoreInLine(name="new", start_mm=start, end_mm=start + length)
    found = pilot_guidance(guides_mm=[0, span], play_mm=play, bores=[bore])
    tried = [
        abs(a + (b - a) * z / span)
        for a in (-play / 2, play / 2)
        for b in (-play / 2, play / 2)
        for z in (start, start + length)
    ]
    assert found.worst_mm == pytest.approx(max(tried), abs=1e-12)
    with pytest.raises(InvalidInput):
        pilot_guidance(guides_mm=[5, 5], play_mm=play, bores=[bore])


def test_a_tuned_bar_is_not_guessed_between_its_points() -> None:
    table = [TunedPoint(overhang_mm=300, turns=2), TunedPoint(overhang_mm=400, turns=3.5)]
    between = tuning(points=table, overhang_mm=360, stands_turns=2)
    assert (between.turns, between.before, between.after) == (None, table[0], table[1])
    assert tuning(points=table, overhang_mm=300.5, stands_turns=2.25).move_turns == pytest.approx(-0.25)
    assert tuning(points=table, overhang_mm=250).before is None
    with pytest.raises(InvalidInput):
        tuning(points=[], overhang_mm=300)


def test_a_speed_that_cut_well_carries_over() -> None:
    assert surface_speed_m_min(72, 280) == pytest.approx(surface_speed_m_min(144, 140))

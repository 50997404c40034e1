"""Setting the cutter, learning a bar's habit, fits, taper and heat."""

from itertools import pairwise
from math import cos, radians

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gyrocore import (
    Habit,
    HeadBar,
    HeadHole,
    InvalidInput,
    SetAndMeasured,
    cutter_advance,
    elastic_passes,
    fit,
    fit_with_part,
    head_range,
    limits_to_suit,
    next_cut,
    over_bar,
    passes_until_round,
    taper_correction,
    thermal_size,
)

SIZES = st.floats(10, 300)


def test_over_the_bar_as_on_the_drawing() -> None:
    found = over_bar(bar_diameter_mm=60, cutting_diameter_mm=88.2)
    assert (found.reading_mm, found.protrusion_mm) == (pytest.approx(74.1), pytest.approx(14.1))


@given(SIZES, st.floats(0.01, 100))
def test_over_the_bar_goes_both_ways(bar: float, more: float) -> None:
    there = over_bar(bar_diameter_mm=bar, cutting_diameter_mm=bar + more)
    back = over_bar(bar_diameter_mm=bar, reading_mm=there.reading_mm)
    assert back.cutting_diameter_mm == pytest.approx(bar + more)
    assert there.reading_mm - bar == pytest.approx(there.protrusion_mm)


@pytest.mark.parametrize(
    ("given_field", "field"),
    [
        ({}, "reading_mm"),
        ({"cutting_diameter_mm": 80, "reading_mm": 70}, "reading_mm"),
        ({"cutting_diameter_mm": 60}, "cutting_diameter_mm"),
        ({"reading_mm": 59.9}, "reading_mm"),
    ],
)
def test_over_the_bar_refuses(given_field: dict[str, float], field: str) -> None:
    with pytest.raises(InvalidInput) as caught:
        over_bar(bar_diameter_mm=60, **given_field)
    assert caught.value.field == field


@given(SIZES, SIZES, st.floats(-80, 80))
def test_a_leaning_bit_moves_more_along_itself(now: float, wanted: float, tilt: float) -> None:
    found = cutter_advance(measured_diameter_mm=now, target_diameter_mm=wanted, bit_tilt_deg=tilt)
    assert found.radial_mm == pytest.approx((wanted - now) / 2)
    assert found.advance_mm * cos(radians(tilt)) == pytest.approx(found.radial_mm)


def swept(bar: HeadBar, centre: float) -> tuple[float, float]:
    """What tip and rest sweep with the bar's centre there: the second method."""
    return centre + bar.tip_projection_mm, max(abs(centre) + bar.shank_diameter_mm / 2, bar.tail_mm)


@settings(max_examples=150)
@given(
    st.floats(6, 40),
    st.floats(3, 60),
    st.floats(0, 60),
    st.floats(-30, 60),
    st.floats(0, 40),
    st.floats(0, 2).map(lambda room: round(room, 6)),
)
def test_head_range_by_trying_every_place(
    shank: float, tip: float, tail: float, offset: float, travel: float, room: float
) -> None:
    bar = HeadBar(shank_diameter_mm=shank, tip_projection_mm=tip, tail_mm=tail)
    row = head_range(
        bar=bar, offsets_mm=[HeadHole(hole="a", offset_mm=offset)], slide_travel_mm=travel, clearance_mm=room
    ).ranges[0]
    places = np.linspace(offset, offset + travel, 2001)
    good = [x for x in places if swept(bar, x)[1] + room <= swept(bar, x)[0] + 1e-9]
    step = 2 * travel / 2000 + 1e-6
    if not good:
        assert row.smallest_mm is None or row.largest_mm - row.smallest_mm <= step  # type: ignore[operator]
        return
    assert row.smallest_mm == pytest.approx(2 * swept(bar, good[0])[0], abs=step)
    assert row.largest_mm == pytest.approx(2 * swept(bar, good[-1])[0], abs=step)
    assert row.least_hole_mm == pytest.approx(2 * (swept(bar, good[0])[1] + room), abs=step)


def test_head_range_says_where_the_heel_touches() -> None:
    bar = HeadBar(shank_diameter_mm=16, tip_projection_mm=11)
    holes = [HeadHole(hole=1, offset_mm=0), HeadHole(hole="far side", offset_mm=-40)]
    found = head_range(bar=bar, offsets_mm=holes, slide_travel_mm=20)
    assert (found.ranges[0].smallest_mm, found.ranges[0].largest_mm, found.ranges[0].least_hole_mm) == (22, 62, 17)
    assert found.ranges[1].smallest_mm is None
    assert [note.code for note in found.notes] == ["hole_touches", "least_hole_first"]
    short = head_range(bar=HeadBar(shank_diameter_mm=16, tip_projection_mm=8.2), offsets_mm=holes, slide_travel_mm=20)
    assert short.notes[0].code == "heel_always_touches"


def test_the_bars_habit_is_weighed_with_what_was_known() -> None:
    """Against the posterior worked out on a fine grid."""
    cuts = [(71.2, 71.212), (71.6, 71.608), (71.8, 71.815)]
    habit = Habit(prior_bias_mm=0.002, prior_sd_mm=0.01, reading_sd_mm=0.006)
    found = next_cut(
        history=[SetAndMeasured(set_diameter_mm=s, measured_diameter_mm=m) for s, m in cuts],
        aim_mm=72.015, limits_mm=(72, 72.03), habit=habit,
    )  # fmt: skip
    bias = np.linspace(-0.1, 0.1, 200_001)
    weight = -((bias - 0.002) ** 2) / (2 * 0.01**2)
    for s, m in cuts:
        weight = weight - (m - s - bias) ** 2 / (2 * 0.006**2)
    weight = np.exp(weight - weight.max())
    mean = (bias * weight).sum() / weight.sum()
    assert found.bias_mm == pytest.approx(mean, abs=1e-7)
    assert found.bias_sd_mm == pytest.approx(
        float(np.sqrt(((bias - mean) ** 2 * weight).sum() / weight.sum())), rel=1e-4
    )
    assert found.set_diameter_mm + found.bias_mm == pytest.approx(72.015)
    draws = np.random.default_rng(7).normal(found.predicted_mm, found.predicted_sd_mm, 400_000)
    assert found.chance_in_limits == pytest.approx(((draws >= 72) & (draws <= 72.03)).mean(), abs=0.005)


def test_a_setting_is_rounded_down_so_that_metal_is_left() -> None:
    found = next_cut(history=[], aim_mm=72.015, limits_mm=(72, 72.03), dial_step_mm=0.02)
    assert found.set_diameter_mm == pytest.approx(72.0)
    exact = next_cut(history=[], aim_mm=72.02, limits_mm=(72, 72.03), dial_step_mm=0.02)
    assert exact.set_diameter_mm == pytest.approx(72.02)


@given(st.lists(st.floats(-0.05, 0.05), min_size=1, max_size=8))
def test_more_cuts_never_know_the_habit_less(biases: list[float]) -> None:
    cuts = [SetAndMeasured(set_diameter_mm=72, measured_diameter_mm=72 + b) for b in biases]
    spreads = [next_cut(history=cuts[:n], aim_mm=72.01, limits_mm=(72, 72.03)).bias_sd_mm for n in range(len(cuts) + 1)]
    assert all(later < earlier for earlier, later in pairwise(spreads))


def test_spring_passes_by_cutting_them_one_by_one() -> None:
    found = elastic_passes(bar_stiffness_n_mm=5000, cutting_stiffness_n_mm=1200, depth_mm=0.3, runout_mm=0.4, passes=4)
    left = 0.3
    for row in found.rows:
        force = 1200 * 5000 / (1200 + 5000) * left  # the infeed left is shared by bar and cut
        left = force / 5000  # the bar's share stays on the wall
        assert row.left_on_diameter_mm == pytest.approx(2 * left)
    assert found.rows[-1].runout_left_mm == pytest.approx(0.4 * found.ratio**4)
    with pytest.raises(InvalidInput):
        elastic_passes(bar_stiffness_n_mm=1, cutting_stiffness_n_mm=1, depth_mm=1, passes=1001)


@given(st.floats(0.01, 0.9), st.floats(0.01, 2), st.floats(0.005, 0.1))
def test_passes_until_round_is_the_first_that_does(ratio: float, runout: float, allowed: float) -> None:
    count = passes_until_round(ratio=ratio, runout_mm=runout, allowed_mm=allowed)
    assert runout * ratio**count <= allowed * (1 + 1e-9)
    assert count == 1 or runout * ratio ** (count - 1) > allowed * (1 - 1e-9)


@pytest.mark.parametrize(
    ("hole", "shaft", "kind", "most", "least"),
    [
        ("72 H7", "72 g6", "clearance", 0.059, 0.010),
        ("72 H7", "72 k6", "transition", 0.028, -0.021),
        ("72 H7", "72 p6", "interference", -0.002, -0.051),
        ("72 H7", "72 h6", "clearance", 0.049, 0),
        ("72 H7", "71.99-72.01", "transition", 0.04, -0.01),
        ("72 ±0.01", "72 ±0.01", "transition", 0.02, -0.02),
        ("72 -0.01/-0.02", "72.00-72.01", "interference", -0.01, -0.03),
    ],
)
def test_fits_of_the_standard(hole: str, shaft: str, kind: str, most: float, least: float) -> None:
    """ISO 286-2 deviations at 72: H7 +30/0, g6 -10/-29, k6 +21/+2, p6 +51/+32."""
    found = fit(hole=hole, shaft=shaft)
    assert found.kind == kind
    assert (found.max_clearance_mm, found.min_clearance_mm) == (pytest.approx(most), pytest.approx(least))


@pytest.mark.parametrize(
    ("hole", "shaft", "field"),
    [
        ("72 h7", "72 g6", "hole"), ("72 H7", "72 G6", "shaft"), ("72 H7", "70 g6", "shaft"),
        ("72 H7", "g6", "shaft"), ("H7", "72 g6", "hole"), ("wide", "72 g6", "hole"),
    ],
)  # fmt: skip
def test_fits_that_cannot_be(hole: str, shaft: str, field: str) -> None:
    with pytest.raises(InvalidInput) as caught:
        fit(hole=hole, shaft=shaft)
    assert caught.value.field == field


@given(st.floats(-1, 1), st.floats(1, 500), st.floats(-900, 900))
def test_taking_the_move_takes_the_taper_out(taper: float, over: float, lever: float) -> None:
    found = taper_correction(taper_mm=taper, over_mm=over, lever_mm=lever)
    wall_at_lever = taper / 2 / over * lever
    assert wall_at_lever + found.move_mm == pytest.approx(0, abs=1e-12)
    on_radius = taper_correction(taper_mm=taper / 2, over_mm=over, lever_mm=lever, on="radius")
    assert on_radius.angle_mm_m == pytest.approx(found.angle_mm_m)


def test_a_warm_bore_reads_large() -> None:
    warm = thermal_size(diameter_mm=100, expansion_um_m_k=10.5, at_c=35)
    assert warm.change_mm == pytest.approx(0.01575)
    assert thermal_size(diameter_mm=100, expansion_um_m_k=10.5, at_c=20).change_mm == 0
    with pytest.raises(InvalidInput):
        thermal_size(diameter_mm=100, expansion_um_m_k=10.5, at_c=-273.15)


@given(st.floats(10, 400), st.floats(-0.2, 0.2), st.floats(0.001, 0.2))
def test_limits_to_suit_give_the_clearance_back(mate: float, least: float, wider: float) -> None:
    hole = limits_to_suit(mate_mm=mate, least_mm=least, most_mm=least + wider)
    found = fit_with_part(hole=hole, mate_mm=mate)
    assert found.min_clearance_mm == pytest.approx(least, abs=1e-9)
    assert found.max_clearance_mm == pytest.approx(least + wider, abs=1e-9)


@pytest.mark.parametrize(
    ("fields", "field"),
    [
        ({"mate_mm": 0, "least_mm": 0, "most_mm": 1}, "mate_mm"),
        ({"mate_mm": 10, "least_mm": 0.02, "most_mm": 0.02}, "most_mm"),
        ({"mate_mm": 1, "least_mm": -2, "most_mm": 1}, "least_mm"),
    ],
)
def test_parts_that_cannot_be_suited(fields: dict[str, float], field: str) -> None:
    with pytest.raises(InvalidInput) as caught:
        limits_to_suit(**fields)
    assert caught.value.field == field

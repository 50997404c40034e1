"""Speed, time, finish, force, chatter and overhang: closed forms, brute force, laws."""

from math import atan2, cos, degrees, pi, radians, sin, sqrt

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gyrocore import (
    BarSection,
    Cut,
    EdgeInCut,
    InvalidInput,
    cut_time,
    cutting_force,
    finish,
    overhang,
    spindle_speed,
    stability,
)
from gyrocore.formulas.beam import overhang_for_stiffness_mm, second_moment_mm4, tip_stiffness_n_mm
from gyrocore.formulas.stability import chatter_load_n_mm
from gyrocore.formulas.surface import theoretical_ra_um, theoretical_rt_um
from gyrocore.planning.overhang import BarData

SPEEDS = [45.0, 63, 90, 125, 180, 250, 355, 500]


def test_exact_speed_and_the_four_times_rule() -> None:
    found = spindle_speed(diameter_mm=25.4, surface_speed_m_min=30.48)
    assert found.exact_rpm == pytest.approx(1200 / pi)
    assert found.rule_of_thumb_rpm == pytest.approx(400)


@given(st.floats(5, 400), st.floats(5, 400), st.floats(0, 20), st.one_of(st.none(), st.floats(45, 600)))
def test_set_speed_is_the_fastest_that_holds(diameter: float, v: float, over: float, cap: float | None) -> None:
    found = spindle_speed(
        diameter_mm=diameter, surface_speed_m_min=v, spindle_speeds_rpm=SPEEDS, max_rpm=cap, over_percent=over
    )
    allowed = found.exact_rpm * (1 + over / 100)
    holds = [n for n in SPEEDS if n <= allowed + 1e-9 and n <= (cap or 1e9) + 1e-9]
    assert found.set_rpm == (max(holds) if holds else SPEEDS[0])
    assert found.surface_speed_at_set_m_min == pytest.approx(pi * diameter * found.set_rpm / 1000)


def test_every_speed_over_the_cap_is_refused() -> None:
    with pytest.raises(InvalidInput) as refused:
        spindle_speed(diameter_mm=50, surface_speed_m_min=60, spindle_speeds_rpm=SPEEDS, max_rpm=40)
    assert refused.value.field == "max_rpm"


def test_without_a_list_the_lesser_of_exact_and_cap() -> None:
    assert spindle_speed(diameter_mm=50, surface_speed_m_min=100, max_rpm=300).set_rpm == 300
    assert spindle_speed(diameter_mm=50, surface_speed_m_min=10, max_rpm=300).set_rpm == pytest.approx(200 / pi)


def test_time_under_feed() -> None:
    found = cut_time(length_mm=140, feed_mm_rev=0.2, rpm=280, approach_mm=2, overrun_mm=5, passes=3)
    assert found.minutes_per_pass == pytest.approx(147 / 56)
    assert found.minutes == pytest.approx(3 * 147 / 56)


def test_roughness_against_the_integrated_profile() -> None:
    """A second method: mean distance of the true nose arc from its mean line, integrated."""
    r, f = 0.8, 0.15
    x = np.linspace(-f / 2, f / 2, 200_001)
    y = r - np.sqrt(r**2 - x**2)
    assert theoretical_ra_um(r, f) == pytest.approx(1000 * np.abs(y - y.mean()).mean(), rel=2e-3)
    assert theoretical_rt_um(r, f) == pytest.approx(1000 * (y.max() - y.min()), rel=5e-3)


@given(st.floats(0.05, 3), st.floats(0.01, 0.5))
def test_feed_and_roughness_are_inverse(nose: float, feed: float) -> None:
    ra = finish(nose_radius_mm=nose, feed_mm_rev=feed).ra_um
    assert finish(nose_radius_mm=nose, ra_um=ra).feed_mm_rev == pytest.approx(feed)


@pytest.mark.parametrize("given_both", [{}, {"feed_mm_rev": 0.1, "ra_um": 1.0}])
def test_exactly_one_of_feed_and_roughness(given_both: dict[str, float]) -> None:
    with pytest.raises(InvalidInput) as refused:
        finish(nose_radius_mm=0.4, **given_both)
    assert refused.value.field == "ra_um"


@given(st.floats(0.01, 5), st.floats(5, 175), st.floats(0.0, 2))
def test_chord_of_the_engaged_edge_by_construction(depth: float, angle: float, nose: float) -> None:
    """The chord joins the edge's lowest point and the point of the edge at the depth."""
    k = radians(angle)
    arc = nose * (1 - cos(k))
    if depth <= arc:
        along = sqrt(max(0.0, nose**2 - (nose - depth) ** 2))
    else:
        along = nose * sin(k) + (depth - arc) / np.tan(k)
    cut = Cut(kc11_mpa=1000, mc=0, depth_mm=depth, feed_mm_rev=0.1, entering_angle_deg=angle, nose_radius_mm=nose)
    found = cutting_force(cut)
    assert found.effective_entering_angle_deg == pytest.approx(degrees(atan2(depth, along)), abs=1e-5)
    assert found.tangential_n == pytest.approx(100 * depth)
    assert found.radial_n**2 + found.axial_n**2 == pytest.approx((0.5 * found.tangential_n) ** 2)
    assert found.chip_width_mm * found.chip_thickness_mm == pytest.approx(depth * 0.1)


def test_kienzle_power_and_torque() -> None:
    cut = Cut(kc11_mpa=1500, mc=0.25, depth_mm=2, feed_mm_rev=0.2, nose_radius_mm=0, surface_speed_m_min=100,
              diameter_mm=50)  # fmt: skip
    found = cutting_force(cut)
    force = 1500 * 0.2**-0.25 * 2 * 0.2
    assert found.tangential_n == pytest.approx(force)
    assert found.power_w == pytest.approx(force * 100 / 60)
    assert found.torque_nm == pytest.approx(force * 0.025)
    assert found.radial_n == pytest.approx(0, abs=1e-9)


@settings(max_examples=40, deadline=None)
@given(
    st.floats(300, 60000), st.floats(0.005, 0.2), st.floats(0.05, 3), st.floats(20, 160), st.floats(0, 1.5),
    st.one_of(st.none(), st.floats(0.02, 0.5)),
)  # fmt: skip
def test_limit_depth_against_brute_force(
    stiffness: float, damping: float, depth: float, angle: float, nose: float, feed: float | None
) -> None:
    edge = EdgeInCut(kc_mpa=1800, entering_angle_deg=angle, nose_radius_mm=nose, feed_mm_rev=feed)
    found = stability(
        stiffness_n_mm=stiffness, damping_ratio=damping, natural_frequency_hz=180, depth_mm=depth, edge=edge
    )
    threshold = 2 * stiffness * damping * (1 + damping)
    fine = np.linspace(0, 10 * depth, 40_001)[1:]
    over = np.flatnonzero(chatter_load_n_mm(fine, edge) >= threshold)
    brute = float(fine[over[0]]) if over.size else None
    if brute is None:
        assert found.limit_depth_mm is None or found.limit_depth_mm == pytest.approx(10 * depth, rel=0.05)
    else:
        assert found.limit_depth_mm == pytest.approx(brute, abs=2.1 * 10 * depth / 40_000)
    assert found.stable == (float(chatter_load_n_mm(np.array([depth]), edge)[0]) < threshold - 1e-9)


def test_pockets_between_given_speeds_ends_counted() -> None:
    edge = EdgeInCut(kc_mpa=1000)
    found = stability(
        stiffness_n_mm=1e4, damping_ratio=0.02, natural_frequency_hz=100, depth_mm=1, edge=edge,
        speed_range_rpm=(500, 2000),
    )  # fmt: skip
    assert found.pocket_speeds_rpm == pytest.approx([6000 / j for j in range(3, 13)])
    with pytest.raises(InvalidInput) as refused:
        stability(stiffness_n_mm=1e4, damping_ratio=0.02, natural_frequency_hz=100, depth_mm=1, edge=edge,
                  speed_range_rpm=(600, 500))  # fmt: skip
    assert refused.value.field == "speed_range_rpm.1"


@given(st.floats(10, 1000), st.one_of(st.none(), st.floats(10, 1000)))
def test_overhang_and_stiffness_are_inverse(reach: float, spacing: float | None) -> None:
    stiffness = tip_stiffness_n_mm(2.5e10, reach, spacing)
    assert overhang_for_stiffness_mm(2.5e10, stiffness, spacing) == pytest.approx(reach, rel=1e-9)


def test_cantilever_against_numerical_integration() -> None:
    """Tip deflection by integrating M^2 along the bar (Castigliano)."""
    x = np.linspace(0, 165, 100_001)
    ei = 205_000 * second_moment_mm4(40)
    assert 1 / tip_stiffness_n_mm(ei, 165) == pytest.approx(np.trapezoid(x**2, x) / ei, rel=1e-6)


CUT = Cut(kc11_mpa=1100, mc=0.25, depth_mm=0.47, feed_mm_rev=0.2)


def test_limits_of_a_steel_bar() -> None:
    found = overhang(bar=BarSection(kind="steel", diameter_mm=40), cut=CUT, budget_mm=0.0075, needed_mm=165)
    rule, deflection, chatter = found.limits
    assert rule.overhang_mm == 160
    push = cutting_force(CUT).radial_n
    assert deflection.overhang_mm == pytest.approx((3 * 205_000 * second_moment_mm4(40) * 0.0075 / push) ** (1 / 3))
    assert (found.governing, found.exceeded, found.needed_ok) == ("rule", ("rule",), False)
    assert found.hard_limit_mm == min(deflection.overhang_mm or 0, chatter.overhang_mm or 0)


def test_chatter_limit_is_where_stability_turns() -> None:
    found = overhang(bar=BarSection(kind="steel", diameter_mm=25), cut=CUT, budget_mm=1.0)
    limit = found.limits[2].overhang_mm or 0
    force = cutting_force(CUT)
    edge = EdgeInCut(kc_mpa=force.kc_mpa, feed_mm_rev=0.2)
    depths = np.linspace(0, CUT.depth_mm, 20_001)[1:]
    worst = float(chatter_load_n_mm(depths, edge).max())
    for share, holds in ((0.999, True), (1.001, False)):
        stiffness = tip_stiffness_n_mm(205_000 * second_moment_mm4(25), share * limit)
        assert (worst < 2 * stiffness * 0.02 * 1.02) is holds


@given(st.sampled_from(["steel", "heavy-metal", "carbide", "damped-steel", "damped-carbide"]), st.floats(10, 80))
def test_a_tighter_budget_never_reaches_further(kind: str, diameter: float) -> None:
    loose = overhang(bar=BarSection(kind=kind, diameter_mm=diameter), cut=CUT, budget_mm=0.02)
    tight = overhang(bar=BarSection(kind=kind, diameter_mm=diameter), cut=CUT, budget_mm=0.005)
    assert tight.safe_overhang_mm <= loose.safe_overhang_mm
    assert loose.ratio == pytest.approx(loose.safe_overhang_mm / diameter)


def test_bearing_spacing_is_for_line_bars_only() -> None:
    with pytest.raises(InvalidInput) as refused:
        overhang(bar=BarSection(kind="steel", diameter_mm=40), cut=CUT, budget_mm=0.01,
                 data=BarData(bearing_spacing_mm=200))  # fmt: skip
    assert refused.value.field == "bearing_spacing_mm"


@pytest.mark.parametrize("bad", [0.0, -1.0, float("nan"), float("inf")])
def test_nested_errors_carry_their_path(bad: float) -> None:
    cut = Cut(kc11_mpa=1100, mc=0.25, depth_mm=bad, feed_mm_rev=0.2)
    with pytest.raises(InvalidInput) as refused:
        overhang(bar=BarSection(kind="steel", diameter_mm=40), cut=cut, budget_mm=0.01)
    assert refused.value.field == "cut.depth_mm"

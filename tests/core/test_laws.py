"""Laws that must hold whatever the figures: symmetry, scale, order, round trips."""

from math import cos, hypot, radians, sin

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from gyrocore import (
    BarCandidate,
    DiameterReading,
    EdgeInCut,
    FlatPair,
    GaugeData,
    InvalidInput,
    PassRules,
    Station,
    Warmth,
    bore_form,
    choose_bar,
    four_jaw_flats,
    measurement,
    pass_plan,
    read_length,
    read_limits,
    stability,
    sweep,
    verdict,
)

SIZES = st.integers(1_000, 400_000).map(lambda um: um / 1000)
SMALL = st.integers(1, 200).map(lambda um: um / 1000)


@given(SIZES, SMALL, SMALL)
def test_limits_are_read_back_as_written(size: float, up: float, down: float) -> None:
    for spec in (
        f"{size:.3f} +{up:.3f}/-{down:.3f}",
        f"{size:.3f}+{up:.3f} / -{down:.3f} mm",
        f"{size - down:.3f}-{size + up:.3f}",
        f"{size - down:.3f} / {size + up:.3f}",
    ):
        try:
            found = read_limits(spec)
        except InvalidInput as error:
            assert size - down <= 0, (spec, error)
            continue
        assert found.lower_mm == pytest.approx(size - down, abs=1e-9)
        assert found.upper_mm == pytest.approx(size + up, abs=1e-9)


@given(st.integers(0, 60), st.integers(0, 63), st.sampled_from([2, 4, 8, 16, 32, 64]))
def test_fractions_are_exact_in_binary_inches(whole: int, top: int, bottom: int) -> None:
    assume(0 < top < bottom)
    expected = (whole + top / bottom) * 25.4
    assert read_length(f"{whole} {top}/{bottom} in", "mm").length_mm == pytest.approx(expected, rel=1e-14)
    assert read_length(f"{whole}-{top}/{bottom}", "in").length_mm == pytest.approx(expected, rel=1e-14)


@given(st.integers(-(10**6), 10**6))
def test_a_comma_and_a_point_mean_the_same_where_there_is_no_doubt(hundredths: int) -> None:
    text = f"{hundredths / 100:.2f}"
    assert read_length(text.replace(".", ","), "mm").length_mm == read_length(text, "mm").length_mm


@settings(deadline=None)
@given(
    st.lists(st.floats(-0.1, 0.1), min_size=8, max_size=8), st.floats(0, 360), st.sampled_from(["outside", "inside"])
)
def test_turning_the_marks_turns_the_answer(readings: list[float], turn: float, surface: str) -> None:
    plain = sweep(angles_deg=[45.0 * n for n in range(8)], readings_mm=readings, surface=surface)
    turned = sweep(angles_deg=[45.0 * n + turn for n in range(8)], readings_mm=readings, surface=surface)
    assert turned.eccentricity_mm == pytest.approx(plain.eccentricity_mm, abs=1e-9)
    assert turned.expected_total_after_mm == pytest.approx(plain.expected_total_after_mm, abs=1e-9)
    if plain.eccentricity_mm > 1e-6:
        off = (turned.offset_angle_deg - plain.offset_angle_deg - turn) % 360
        assert min(off, 360 - off) < 1e-4
    assert 0 <= turned.offset_angle_deg < 360


@settings(deadline=None)
@given(st.lists(st.floats(-0.1, 0.1), min_size=12, max_size=12), st.floats(-1, 1))
def test_a_shifted_zero_changes_nothing(readings: list[float], shift: float) -> None:
    angles = [30.0 * n for n in range(12)]
    plain = sweep(angles_deg=angles, readings_mm=readings, surface="outside")
    shifted = sweep(angles_deg=angles, readings_mm=[r + shift for r in readings], surface="outside")
    assert shifted.offset_x_mm == pytest.approx(plain.offset_x_mm, abs=1e-9)
    assert shifted.total_reading_mm == pytest.approx(plain.total_reading_mm, abs=1e-9)


@given(st.floats(-0.3, 0.3), st.floats(-0.3, 0.3))
def test_inside_is_the_mirror_of_outside(x: float, y: float) -> None:
    angles = [90.0 * n for n in range(4)]
    readings = [x * cos(radians(a)) + y * sin(radians(a)) for a in angles]
    outside = sweep(angles_deg=angles, readings_mm=readings, surface="outside")
    inside = sweep(angles_deg=angles, readings_mm=readings, surface="inside")
    assert (outside.offset_x_mm, outside.offset_y_mm) == pytest.approx((x, y), abs=1e-9)
    assert (inside.offset_x_mm, inside.offset_y_mm) == pytest.approx((-x, -y), abs=1e-9)
    assert outside.total_reading_mm <= 2 * hypot(x, y) + 1e-9


@given(st.floats(-0.5, 0.5), st.floats(-0.5, 0.5))
def test_flats_and_sweep_agree_on_a_square_of_four(first: float, third: float) -> None:
    flats = four_jaw_flats(pairs=[FlatPair(jaws=("1", "3"), readings_mm=(first, third))], acceptance_mm=0.02)
    jaws = {"1": 0.0, "2": 90.0, "3": 180.0, "4": 270.0}
    swept = sweep(angles_deg=[0, 90, 180, 270], readings_mm=[first, 0, third, 0], surface="outside", jaws_deg=jaws)
    by_flats, by_sweep = flats.pairs[0], [m for m in swept.moves if m.tighten in "13"]
    if abs(first - third) > 1e-6:
        assert by_sweep[0].tighten == by_flats.tighten
        assert by_sweep[0].by_mm == pytest.approx(by_flats.by_mm, abs=1e-9)


@settings(max_examples=30, deadline=None)
@given(st.floats(500, 50000), st.floats(0.01, 0.1), st.floats(1.1, 3))
def test_a_stiffer_bar_never_chatters_earlier(stiffness: float, damping: float, more: float) -> None:
    edge = EdgeInCut(kc_mpa=1500, feed_mm_rev=0.15)

    def limit(k: float) -> float:
        found = stability(
            stiffness_n_mm=k, damping_ratio=damping, natural_frequency_hz=150, depth_mm=0.5, edge=edge
        ).limit_depth_mm
        return 5.0 if found is None else found

    assert limit(stiffness) <= limit(more * stiffness) + 1e-9


@given(
    st.lists(st.tuples(st.floats(10, 80), st.floats(50, 400)), min_size=1, max_size=6),
    st.floats(60, 300),
    st.floats(30, 90),
)
def test_ranking_keeps_its_order_and_its_reasons(bars: list[tuple[float, float]], needed: float, bore: float) -> None:
    made = [
        BarCandidate(name=f"b{n}", kind="steel", diameter_mm=d, shank_mm=d, reach_mm=r, min_bore_mm=1.05 * d)
        for n, (d, r) in enumerate(bars)
    ]
    found = choose_bar(candidates=made, needed_reach_mm=needed, bore_mm=bore, chip_clearance_mm=3)
    assert {row.name for row in found.ranked} == {bar.name for bar in made}
    assert all(row.usable is (not row.reasons) for row in found.ranked)
    flags = [row.usable for row in found.ranked]
    assert flags == sorted(flags, reverse=True)
    usable = [row.tip_stiffness_n_mm for row in found.ranked if row.usable]
    assert usable == sorted(usable, reverse=True)
    assert (found.by_rule is None) == (found.by_stiffness is None) == (not usable)


@given(st.floats(20, 200), st.floats(1, 12), st.floats(0.2, 0.9), st.integers(1, 3))
def test_a_test_cut_leaves_exactly_what_was_asked(start: float, stock: float, leave: float, count: int) -> None:
    assume(leave / 2 / count >= 0.05)
    rules = PassRules(rough_depth_mm=0.6, finish_depth_mm=0.2, finish_passes=count, test_leave_mm=leave)
    try:
        found = pass_plan(start_diameter_mm=start, aim_diameter_mm=start + stock, rules=rules)
    except InvalidInput as refused:
        assert refused.field == "test_leave_mm"
        return
    tests = [p for p in found.passes if p.kind == "test"]
    assert len(tests) == 1
    assert tests[0].diameter_mm == pytest.approx(start + stock - leave)
    assert tests[0].measure_after
    assert sum(p.depth_mm for p in found.passes if p.kind == "finish") == pytest.approx(leave / 2)


@given(st.lists(st.floats(71.9, 72.1), min_size=1, max_size=9), st.floats(0, 0.01), st.floats(0, 0.01))
def test_more_doubt_never_shrinks_the_uncertainty(readings: list[float], limit: float, more: float) -> None:
    small = measurement(readings_mm=readings, gauge=GaugeData(resolution_mm=0.001, error_limit_mm=limit))
    large = measurement(
        readings_mm=readings,
        gauge=GaugeData(resolution_mm=0.001, error_limit_mm=limit + more),
        warmth=Warmth(temp_u_c=1),
    )
    assert large.expanded_mm >= small.expanded_mm
    assert small.value_mm == large.value_mm
    assert min(readings) - 1e-9 <= small.mean_mm <= max(readings) + 1e-9


@given(st.floats(71.9, 72.1), st.floats(0, 0.02))
def test_verdicts_mirror_about_the_middle(value: float, doubt: float) -> None:
    mirror = {"in": "in", "under": "over", "over": "under", "undecided-low": "undecided-high",
              "undecided-high": "undecided-low"}  # fmt: skip
    here = verdict(value_mm=value, lower_mm=72, upper_mm=72.03, expanded_mm=doubt)
    there = verdict(value_mm=144.03 - value, lower_mm=72, upper_mm=72.03, expanded_mm=doubt)
    near = min(abs(abs(value - edge) - doubt) for edge in (72, 72.03)) < 1e-6 or abs(value - 72.015) < 1e-6
    assert near or there.verdict == mirror[here.verdict]


@given(st.lists(st.integers(-40, 40), min_size=2, max_size=6), st.floats(1, 50))
def test_shape_does_not_depend_on_size_or_place(um: list[int], shift: float) -> None:
    def shape(size: float, start: float) -> str:
        made = [
            Station(z_mm=start + 20 * n, diameters=(DiameterReading(angle_deg=0, diameter_mm=size + v / 1000),))
            for n, v in enumerate(um)
        ]
        return bore_form(stations=made, significance_mm=0.0049).shape

    assert shape(72, 0) == shape(72 + shift, shift)

"""Bars on their supports and bars in bearings, against closed forms and a second method."""

from math import cos, cosh, pi, sqrt

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import quad
from scipy.optimize import brentq

from gyrocore import (
    BarMaterial,
    BoreInLine,
    InvalidInput,
    LineBar,
    Segment,
    Support,
    Tool,
    bar_response,
    build_beam,
    line_bar_layout,
    line_response,
    one_more_bearing_mm,
)

EI = 205_000 * pi * 60**4 / 64
PER_MM_KG = 7850e-9 * pi * 60**2 / 4
BAR = [Segment(length_mm=1000, diameter_mm=60)]


def clamp(at: float, **more: float) -> Support:
    return Support(position_mm=at, kind="clamped", **more)


def bearing(at: float, stiffness: float | None = None) -> Support:
    return Support(position_mm=at, kind="bearing", stiffness_n_mm=stiffness)


def mode_hz(beta_l: float, length_mm: float = 1000.0) -> float:
    return (beta_l / length_mm) ** 2 * sqrt(1000 * EI / PER_MM_KG) / (2 * pi)


def test_cantilever_has_its_textbook_figures() -> None:
    found = bar_response(segments=BAR, supports=[clamp(0)], tool=Tool(position_mm=1000))
    root = brentq(lambda x: cos(x) * cosh(x) + 1, 1, 3)
    assert found.stiffness_n_mm == pytest.approx(3 * EI / 1000**3, rel=1e-9)
    assert found.sag_mm == pytest.approx(PER_MM_KG * 9.80665 * 1000**4 / (8 * EI), rel=1e-9)
    assert found.natural_frequency_hz == pytest.approx(mode_hz(root), rel=1e-5)
    assert found.mass_kg == pytest.approx(PER_MM_KG * 1000)


def test_two_bearings_and_two_clamps() -> None:
    simple = bar_response(segments=BAR, supports=[bearing(0), bearing(1000)], tool=Tool(position_mm=500))
    assert simple.stiffness_n_mm == pytest.approx(48 * EI / 1000**3, rel=1e-9)
    assert simple.sag_mm == pytest.approx(5 * PER_MM_KG * 9.80665 * 1000**4 / (384 * EI), rel=1e-9)
    assert simple.natural_frequency_hz == pytest.approx(mode_hz(pi), rel=1e-5)
    held = bar_response(segments=BAR, supports=[clamp(0), clamp(1000)], tool=Tool(position_mm=500))
    assert held.stiffness_n_mm == pytest.approx(192 * EI / 1000**3, rel=1e-9)
    assert held.natural_frequency_hz == pytest.approx(mode_hz(brentq(lambda x: cos(x) * cosh(x) - 1, 4, 5)), rel=1e-5)


def test_overhung_from_two_bearings_gives_with_the_spacing() -> None:
    found = bar_response(segments=BAR, supports=[bearing(200), bearing(700)], tool=Tool(position_mm=1000))
    assert found.compliance_mm_n == pytest.approx(300**2 * (300 + 500) / (3 * EI), rel=1e-9)


def test_springs_of_the_supports_add_their_own_give() -> None:
    stiff, turn = 40_000.0, 25_000.0
    found = bar_response(
        segments=BAR,
        supports=[clamp(0, stiffness_n_mm=stiff, rotational_stiffness_nm_rad=turn)],
        tool=Tool(position_mm=1000),
    )
    assert found.compliance_mm_n == pytest.approx(1000**3 / (3 * EI) + 1 / stiff + 1000**2 / (1000 * turn), rel=1e-9)
    soft = bar_response(segments=BAR, supports=[bearing(0, 5e3), bearing(1000, 5e3)], tool=Tool(position_mm=500))
    assert soft.compliance_mm_n == pytest.approx(1000**3 / (48 * EI) + 1 / 1e4, rel=1e-9)


def test_a_stepped_bar_by_the_unit_load_integral() -> None:
    steps = [Segment(length_mm=120, diameter_mm=50), Segment(length_mm=90, diameter_mm=32, inner_diameter_mm=10)]
    found = bar_response(segments=steps, supports=[clamp(0)], tool=Tool(position_mm=210))
    moments = (pi * 50**4 / 64, pi * (32**4 - 10**4) / 64)
    give = sum(
        quad(lambda x: (210 - x) ** 2, a, b)[0] / (205_000 * moment)
        for (a, b), moment in zip(((0, 120), (120, 210)), moments, strict=True)
    )
    assert found.compliance_mm_n == pytest.approx(give, rel=1e-9)


def test_a_heavy_tool_on_a_light_bar_is_one_mass_on_a_spring() -> None:
    found = bar_response(segments=BAR, supports=[clamp(0)], tool=Tool(position_mm=1000, mass_kg=5000))
    single = sqrt(1000 * 3 * EI / 1000**3 / (5000 + 33 / 140 * PER_MM_KG * 1000)) / (2 * pi)
    assert found.natural_frequency_hz == pytest.approx(single, rel=1e-4)
    bare = bar_response(segments=BAR, supports=[clamp(0)], tool=Tool(position_mm=1000)).sag_mm
    assert found.sag_mm - bare == pytest.approx(5000 * 9.80665 * 1000**3 / (3 * EI), rel=1e-9)


def test_on_a_rigid_support_nothing_gives() -> None:
    found = bar_response(segments=BAR, supports=[bearing(0), bearing(400)], tool=Tool(position_mm=400))
    assert (found.compliance_mm_n, found.stiffness_n_mm, found.sag_mm) == (0, None, 0)


@settings(max_examples=25)
@given(
    st.lists(st.tuples(st.floats(20, 300), st.floats(15, 80)), min_size=1, max_size=5),
    st.floats(0.05, 0.95), st.floats(0.05, 0.95), st.booleans(),
)  # fmt: skip
def test_maxwell_a_push_here_moves_there_as_there_moves_here(
    steps: list[tuple[float, float]], one: float, two: float, held: bool
) -> None:
    segments = [Segment(length_mm=length, diameter_mm=diameter) for length, diameter in steps]
    whole = sum(length for length, _ in steps)
    supports = [clamp(0)] if held else [bearing(0), bearing(whole)]
    beam = build_beam(segments, BarMaterial(), supports, [one * whole, two * whole])
    a, b = beam.node_at(one * whole), beam.node_at(two * whole)
    push = np.eye(len(beam.weight))
    here, there = beam.deflections_mm(push[2 * a])[b], beam.deflections_mm(push[2 * b])[a]
    assert here == pytest.approx(there, rel=1e-6, abs=1e-15)


@settings(max_examples=25)
@given(st.floats(0.1, 0.9), st.floats(100, 900))
def test_one_more_bearing_never_softens(tool: float, third: float) -> None:
    two = [bearing(0), bearing(1000)]
    place = Tool(position_mm=1000 * tool)
    more = bar_response(segments=BAR, supports=[*two, bearing(third)], tool=place)
    fewer = bar_response(segments=BAR, supports=two, tool=place)
    assert more.compliance_mm_n <= fewer.compliance_mm_n * (1 + 1e-9)
    assert more.natural_frequency_hz >= fewer.natural_frequency_hz * (1 - 1e-9)


@pytest.mark.parametrize(
    ("supports", "field"),
    [
        ([], "supports"),
        ([bearing(500)], "supports"),
        ([bearing(500), bearing(500)], "supports"),
        ([bearing(0), bearing(1001)], "supports.1.position_mm"),
        ([bearing(0, 0), bearing(900)], "supports.0.stiffness_n_mm"),
        ([clamp(0, rotational_stiffness_nm_rad=-1)], "supports.0.rotational_stiffness_nm_rad"),
        ([Support(position_mm=0, kind="bearing", rotational_stiffness_nm_rad=9)],
         "supports.0.rotational_stiffness_nm_rad"),
        ([Support(position_mm=0, kind="glued")], "supports.0.kind"),
    ],
)  # fmt: skip
def test_supports_that_do_not_hold_are_refused(supports: list[Support], field: str) -> None:
    with pytest.raises(InvalidInput) as caught:
        bar_response(segments=BAR, supports=supports, tool=Tool(position_mm=500))
    assert caught.value.field == field


def test_steps_and_tool_are_refused_at_their_place() -> None:
    with pytest.raises(InvalidInput) as caught:
        bar_response(segments=[*BAR, Segment(length_mm=10, diameter_mm=0)], supports=[clamp(0)],
                     tool=Tool(position_mm=5))  # fmt: skip
    assert caught.value.field == "segments.1.diameter_mm"
    with pytest.raises(InvalidInput) as caught:
        bar_response(segments=BAR, supports=[clamp(0)], tool=Tool(position_mm=1000.1))
    assert caught.value.field == "tool_position_mm"


HOUSINGS = [
    BoreInLine(name="H1", start_mm=0, end_mm=80),
    BoreInLine(name="H2", start_mm=620, end_mm=700),
    BoreInLine(name="H3", start_mm=1120, end_mm=1200),
]


def test_three_housings_on_two_and_on_three_bearings() -> None:
    two = line_bar_layout(bar=LineBar(diameter_mm=60), bores=HOUSINGS, bearings_mm=[-80, 1280])
    assert [row.distance_mm for row in two.rows] == [160, 660, 160]
    assert [row.ok for row in two.rows] == [True, False, True]
    assert (two.bearings_ok, two.ok, two.least_bar_length_mm) == (True, False, 1440)
    three = line_bar_layout(bar=LineBar(diameter_mm=60, feed="head"), bores=HOUSINGS, bearings_mm=[1280, 540, -80])
    assert [row.distance_mm for row in three.rows] == [160, 160, 160]
    assert (three.ok, three.least_bar_length_mm) == (True, 1360)


def test_the_middle_of_a_span_is_its_worst_place() -> None:
    bore = [BoreInLine(name="long", start_mm=100, end_mm=900)]
    row = line_bar_layout(bar=LineBar(diameter_mm=60), bores=bore, bearings_mm=[0, 1000]).rows[0]
    brute = max(min(z, 1000 - z) for z in np.linspace(100, 900, 801))
    assert row.distance_mm == pytest.approx(brute)
    assert (row.mode, row.ok) == ("between", False)


@pytest.mark.parametrize(("bearings", "good"), [((-120, 0), True), ((-79, 0), False), ((-40, -120), True)])
def test_a_blind_bore_beyond_two_bearings(bearings: tuple[float, float], good: bool) -> None:
    bore = [BoreInLine(name="blind", start_mm=5, end_mm=80, closed=True)]
    found = line_bar_layout(bar=LineBar(diameter_mm=60), bores=bore, bearings_mm=bearings)
    assert found.rows[0].mode == "overhung"
    assert found.rows[0].distance_mm == 80 - max(bearings)
    assert found.bearings_ok is (good and found.rows[0].distance_mm <= abs(bearings[0] - bearings[1]))


def test_the_bar_must_be_long_enough_and_carry_its_stroke() -> None:
    short = LineBar(diameter_mm=60, length_mm=1439.9, rule_ratio=20)
    assert not line_bar_layout(bar=short, bores=HOUSINGS, bearings_mm=[-80, 1280]).ok
    enough = LineBar(diameter_mm=60, length_mm=1440, rule_ratio=20)
    assert line_bar_layout(bar=enough, bores=HOUSINGS, bearings_mm=[-80, 1280]).ok


@pytest.mark.parametrize(
    ("bores", "bearings", "field"),
    [
        (HOUSINGS, [-80], "bearings_mm"),
        (HOUSINGS, [-80, 40], "bearings_mm.1"),
        (HOUSINGS, [-80, -80], "bearings_mm.1"),
        ([BoreInLine(name="b", start_mm=5, end_mm=80, closed=True)], [-120, 80], "bearings_mm.1"),
        ([], [-80, 90], "bores"),
        ([HOUSINGS[0], HOUSINGS[0]], [-80, 90], "bores.1.name"),
        ([BoreInLine(name="x", start_mm=10, end_mm=10)], [-80, 90], "bores.0.end_mm"),
    ],
)
def test_lines_that_cannot_be_cut_are_refused(bores: list[BoreInLine], bearings: list[float], field: str) -> None:
    with pytest.raises(InvalidInput) as caught:
        line_bar_layout(bar=LineBar(diameter_mm=60), bores=bores, bearings_mm=bearings)
    assert caught.value.field == field


def test_a_bearing_may_touch_the_face_of_a_bore() -> None:
    found = line_bar_layout(bar=LineBar(diameter_mm=60), bores=HOUSINGS[:1], bearings_mm=[0, 80])
    assert found.rows[0].distance_mm == 40


@given(st.floats(-500, -1), st.floats(81, 600))
def test_a_line_seen_from_the_other_end_is_the_same(left: float, right: float) -> None:
    bore = BoreInLine(name="H1", start_mm=0, end_mm=80)
    mirrored = BoreInLine(name="H1", start_mm=-80, end_mm=0)
    one = line_bar_layout(bar=LineBar(diameter_mm=60), bores=[bore], bearings_mm=[left, right])
    two = line_bar_layout(bar=LineBar(diameter_mm=60), bores=[mirrored], bearings_mm=[-left, -right])
    assert one.rows[0].distance_mm == pytest.approx(two.rows[0].distance_mm)


def test_sag_away_from_the_middle_is_exact_too() -> None:
    beam = build_beam(BAR, BarMaterial(), [bearing(0), bearing(1000)], [250])
    exact = PER_MM_KG * 9.80665 * 250 * (1000**3 - 2 * 1000 * 250**2 + 250**3) / (24 * EI)
    assert beam.sag_mm(250)[beam.node_at(250)] == pytest.approx(exact, rel=1e-9)


def test_a_line_at_rest_and_under_the_cut_by_the_beam_of_the_textbook() -> None:
    bar, bearings = LineBar(diameter_mm=60), [-80.0, 1280.0]
    found = line_response(bar=bar, bores=HOUSINGS, bearings_mm=bearings, radial_n=200)
    span, w = 1360.0, PER_MM_KG * 9.80665

    def sag(z: float) -> float:
        return w * z * (span**3 - 2 * span * z**2 + z**3) / (24 * EI)

    middles = [120.0, 740.0, 1240.0]
    assert [row.sag_mm for row in found.rows] == pytest.approx([sag(z) for z in middles], rel=1e-9)
    line = sag(120) + (sag(1240) - sag(120)) * (740 - 120) / (1240 - 120)
    assert found.rows[1].off_line_mm == pytest.approx(sag(740) - line, rel=1e-9)
    softest = max(z**2 * (span - z) ** 2 / (3 * EI * span) for z in (700.0, 740.0, 780.0))
    assert found.rows[1].spring_mm == pytest.approx(200 * softest, rel=1e-9)
    assert found.natural_frequency_hz == pytest.approx(mode_hz(pi, span), rel=1e-5)


def test_one_more_bearing_stands_where_no_other_place_is_better() -> None:
    bar, bearings = LineBar(diameter_mm=60), [-80.0, 1280.0]
    place = one_more_bearing_mm(bar=bar, bores=HOUSINGS, bearings_mm=bearings)
    assert place is not None

    def worst(at: float) -> float:
        rows = line_bar_layout(bar=bar, bores=HOUSINGS, bearings_mm=[*bearings, at]).rows
        return max(row.distance_mm for row in rows)

    free = [z for z in range(-40, 1241) if all(not h.start_mm - 40 < z < h.end_mm + 40 for h in HOUSINGS)]
    assert worst(place) == pytest.approx(min(worst(z) for z in free), abs=20)
    assert one_more_bearing_mm(bar=bar, bores=HOUSINGS[:1], bearings_mm=[-10.0, 90.0]) is None, "no room for one"


def test_a_bar_on_its_own_bearing_gives_nothing_there() -> None:
    bore = [BoreInLine(name="H1", start_mm=0, end_mm=80)]
    found = line_response(bar=LineBar(diameter_mm=60), bores=bore, bearings_mm=[0, 80])
    assert found.rows[0].stiffness_n_mm is not None, "between the two it gives"
    with pytest.raises(InvalidInput):
        line_response(bar=LineBar(diameter_mm=60), bores=bore, bearings_mm=[0, 80], radial_n=-1)

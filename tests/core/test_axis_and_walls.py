"""An axis from planes, a spindle from two swings, lean and taper from runs along the wall."""

from __future__ import annotations

from math import cos, hypot, radians, sin
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrocore import (
    AlongWall,
    InvalidInput,
    Plane,
    SpindleReading,
    WallSide,
    axis_line,
    four_places,
    read_needle,
    slope_at,
    spindle_check,
    sweep,
    wall_runs,
)

small = st.floats(-0.5, 0.5)


def plane(z: float, x: float, y: float) -> Plane:
    return Plane(z_mm=z, offset_x_mm=x, offset_y_mm=y)


def test_two_planes_by_similar_triangles() -> None:
    found = axis_line(planes=[plane(20, 0.03, 0.0), plane(120, 0.03, 0.06)], adjust_z_mm=(-60, 200),
                      report_z_mm=[70, 0])  # fmt: skip
    assert (found.tilt_mm_m, found.tilt_angle_deg) == pytest.approx((0.6, 90))
    assert (found.at_zero.offset_x_mm, found.at_zero.offset_y_mm) == pytest.approx((0.03, -0.012))
    assert [(one.move_x_mm, one.move_y_mm) for one in found.moves] == [
        pytest.approx((-0.03, 0.048)), pytest.approx((-0.03, -0.108))
    ]  # fmt: skip
    assert found.report[0].total_reading_mm == pytest.approx(2 * hypot(0.03, 0.03))
    assert found.worst_residual_mm == pytest.approx(0, abs=1e-12)
    assert found.notes[0].code == "axis_of_two_planes"


def test_three_planes_as_polyfit_has_them() -> None:
    z, x, y = [0.0, 50.0, 150.0], [0.01, 0.02, 0.02], [0.0, -0.01, 0.03]
    found = axis_line(planes=[plane(*row) for row in zip(z, x, y, strict=True)], adjust_z_mm=(0, 100), report_z_mm=[33])
    ax, bx = np.polyfit(z, x, 1)
    ay, by = np.polyfit(z, y, 1)
    assert found.tilt_mm_m == pytest.approx(1000 * hypot(ax, ay))
    assert found.report[0].eccentricity_mm == pytest.approx(hypot(ax * 33 + bx, ay * 33 + by))
    worst = max(hypot(p - ax * r - bx, q - ay * r - by) for r, p, q in zip(z, x, y, strict=True))
    assert found.worst_residual_mm == pytest.approx(worst)


@given(offset=st.tuples(small, small), lean=st.tuples(small, small), a=st.floats(-300, -10), b=st.floats(60, 400))
def test_made_moves_leave_a_true_axis(offset: tuple[float, float], lean: tuple[float, float], a: float,
                                      b: float) -> None:  # fmt: skip
    """The moves at both places are a shift that grows along z: what is left of every plane is nothing."""

    def centre(z: float) -> tuple[float, float]:
        return offset[0] + lean[0] * z / 1000, offset[1] + lean[1] * z / 1000

    found = axis_line(planes=[plane(z, *centre(z)) for z in (0, 40, 90)], adjust_z_mm=(a, b))
    first, second = found.moves
    for z in (0.0, 55.0, 140.0):
        share = (z - a) / (b - a)
        x = centre(z)[0] + first.move_x_mm * (1 - share) + second.move_x_mm * share
        y = centre(z)[1] + first.move_y_mm * (1 - share) + second.move_y_mm * share
        assert hypot(x, y) < 1e-9


def test_planes_come_from_sweeps() -> None:
    """Two swept planes of a leaning bore: the axis is the lean that made them."""
    angles = [0.0, 45, 90, 135, 180, 225, 270, 315]
    planes = []
    for z in (10.0, 110.0):
        x, y = 0.02 + 0.3 * z / 1000, -0.01 - 0.2 * z / 1000
        readings = [-(x * cos(radians(t)) + y * sin(radians(t))) + 0.004 * cos(2 * radians(t)) for t in angles]
        found = sweep(angles_deg=angles, readings_mm=readings, surface="inside")
        planes.append(plane(z, found.offset_x_mm, found.offset_y_mm))
    line = axis_line(planes=planes, adjust_z_mm=(0, 100))
    assert (line.at_zero.offset_x_mm, line.at_zero.offset_y_mm) == pytest.approx((0.02, -0.01))
    assert line.tilt_mm_m == pytest.approx(hypot(0.3, 0.2))


@pytest.mark.parametrize(("planes", "adjust", "field", "code"), [
    ([plane(0, 0, 0)], (0, 100), "planes", "two_planes"),
    ([plane(5, 0, 0), plane(5, 0.1, 0)], (0, 100), "planes", "two_planes"),
    ([], (0, 100), "planes", "two_planes"),
    ([plane(0, 0, 0), plane(9, 0, 0)], (50, 50), "adjust_z_mm.1", "repeated"),
    ([plane(0, float("nan"), 0), plane(9, 0, 0)], (0, 50), "planes.0.offset_x_mm", "not_finite"),
])  # fmt: skip
def test_an_axis_that_cannot_be_is_refused(planes: list[Plane], adjust: tuple[float, float], field: str,
                                           code: str) -> None:  # fmt: skip
    with pytest.raises(InvalidInput) as refused:
        axis_line(planes=planes, adjust_z_mm=adjust)
    assert (refused.value.field, refused.value.code) == (field, code)


def reading(distance: float, total: float, angle: float) -> SpindleReading:
    return SpindleReading(distance_mm=distance, total_reading_mm=total, high_angle_deg=angle)


def test_a_spindle_s_offset_is_told_from_its_tilt() -> None:
    same = spindle_check(near=reading(50, 0.01, 40), far=reading(250, 0.01, 40), tool_length_mm=400)
    assert (same.nose_eccentricity_mm, same.tilt_mm_m) == pytest.approx((0.005, 0), abs=1e-12)
    # opposite high places: the axis crosses between, at 50 + 200 x 4 / (4 + 12)
    crossed = spindle_check(near=reading(50, 0.008, 0), far=reading(250, 0.024, 180), tool_length_mm=100,
                            push_mm=0.004, pull_mm=-0.006)  # fmt: skip
    assert crossed.total_reading_at_tool_mm == pytest.approx(0, abs=1e-12)
    assert crossed.tilt_mm_m == pytest.approx(0.016 / 200 * 1000)
    assert crossed.play_mm == pytest.approx(0.010)
    assert same.play_mm is None


@given(e=st.tuples(small, small), s=st.tuples(small, small), tool=st.floats(0, 600))
def test_a_spindle_s_swing_at_the_tool_is_its_axis_there(e: tuple[float, float], s: tuple[float, float],
                                                         tool: float) -> None:  # fmt: skip
    def at(d: float) -> complex:
        return complex(e[0] + s[0] * d / 1000, e[1] + s[1] * d / 1000)

    def read(d: float) -> SpindleReading:
        return reading(d, 2 * abs(at(d)), float(np.degrees(np.angle(at(d)))))

    found = spindle_check(near=read(40), far=read(240), tool_length_mm=tool)
    assert found.total_reading_at_tool_mm == pytest.approx(2 * abs(at(tool)), abs=1e-9)
    assert found.nose_eccentricity_mm == pytest.approx(abs(at(0)), abs=1e-9)


@pytest.mark.parametrize(("near", "far", "field"), [
    (reading(250, 0.01, 0), reading(50, 0.01, 0), "far.distance_mm"),
    (reading(-1, 0.01, 0), reading(50, 0.01, 0), "near.distance_mm"),
    (reading(0, -0.01, 0), reading(50, 0.01, 0), "near.total_reading_mm"),
    (reading(0, 0.01, float("inf")), reading(50, 0.01, 0), "near.high_angle_deg"),
])  # fmt: skip
def test_a_spindle_that_cannot_be_is_refused(near: SpindleReading, far: SpindleReading, field: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        spindle_check(near=near, far=far, tool_length_mm=100)
    assert refused.value.field == field


def run(angle: float, *, grows: float = 0.0, lean: tuple[float, float] = (0.0, 0.0), surface: Any = "inside",
        at: tuple[float, ...] = (5, 40, 90)) -> WallSide:  # fmt: skip
    """What an indicator reads along a wall: the distance from the spindle's axis to the wall, step by step."""
    rows = []
    for z in at:
        x, y = lean[0] * z / 1000, lean[1] * z / 1000
        radius = 20 + grows * z / 1000 + x * cos(radians(angle)) + y * sin(radians(angle))
        rows.append(AlongWall(z_mm=z, reading_mm=20 - radius if surface == "inside" else radius - 20))
    return WallSide(angle_deg=angle, readings=tuple(rows))


lean = st.tuples(st.floats(-2, 2), st.floats(-2, 2))


@given(grows=st.floats(-1, 1), tilt=lean, surface=st.sampled_from(["inside", "outside"]))
def test_walls_round_the_bore_tell_lean_from_taper(grows: float, tilt: tuple[float, float], surface: Any) -> None:
    sides = [run(t, grows=grows, lean=tilt, surface=surface) for t in (0, 90, 180, 270)]
    found = wall_runs(sides=sides, surface=surface)
    assert found.wall_slope_mm_m == pytest.approx(grows, abs=1e-9)
    assert (found.tilt_x_mm_m, found.tilt_y_mm_m) == pytest.approx(tilt, abs=1e-9)
    assert found.tilt_along_mm_m is None
    for row in found.rows:
        slope = slope_at(wall_slope_mm_m=grows, tilt=tilt, angle_deg=row.angle_deg, surface=surface)
        assert row.slope_mm_m == pytest.approx(slope, abs=1e-9)
        assert row.worst_residual_mm < 1e-9


@given(grows=st.floats(-1, 1), tilt=lean, first=st.floats(0, 359))
def test_two_opposite_walls_see_their_own_diameter(grows: float, tilt: tuple[float, float], first: float) -> None:
    """Half the difference of both is the lean, half their sum the taper: as it is checked by hand."""
    found = wall_runs(sides=[run(t, grows=grows, lean=tilt) for t in (first, first + 180)])
    a, b = (row.slope_mm_m for row in found.rows)
    assert found.wall_slope_mm_m == pytest.approx(-(a + b) / 2, abs=1e-9)
    assert found.tilt_along_mm_m is not None
    assert found.tilt_along_mm_m.tilt_mm_m == pytest.approx(-(a - b) / 2, abs=1e-9)
    along = tilt[0] * cos(radians(first)) + tilt[1] * sin(radians(first))
    assert found.tilt_along_mm_m.tilt_mm_m == pytest.approx(along, abs=1e-9)
    assert (found.tilt_x_mm_m, found.tilt_mm_m, found.tilt_angle_deg) == (None, None, None)


@pytest.mark.parametrize("angles", [[0.0], [0.0, 90.0], [10.0, 11.0, 12.0], [0.0, 40.0]])
def test_one_wall_or_two_neighbours_tell_nothing(angles: list[float]) -> None:
    found = wall_runs(sides=[run(t, lean=(1, 0)) for t in angles])
    assert [row.slope_mm_m for row in found.rows] == pytest.approx([-cos(radians(t)) for t in angles])
    assert (found.wall_slope_mm_m, found.tilt_mm_m, found.tilt_along_mm_m) == (None, None, None)
    assert found.notes[0].code == "walls_cannot_tell"


def test_a_straight_bore_leans_nowhere() -> None:
    found = wall_runs(sides=[run(t) for t in (0, 120, 240)])
    assert (found.tilt_mm_m, found.tilt_angle_deg) == (pytest.approx(0), None)


@pytest.mark.parametrize(("sides", "field", "code"), [
    ([], "sides", "empty"),
    ([run(0), run(360.3)], "sides.1.angle_deg", "repeated"),
    ([WallSide(angle_deg=0, readings=(AlongWall(z_mm=1, reading_mm=0),))], "sides.0.readings", "two_along_the_wall"),
    ([run(0, at=(5, 40, 5))], "sides.0.readings.0.z_mm", "repeated"),
    ([run(float("nan"))], "sides.0.angle_deg", "not_finite"),
])  # fmt: skip
def test_walls_that_cannot_be_are_refused(sides: list[WallSide], field: str, code: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        wall_runs(sides=sides)
    assert (refused.value.field.rsplit(".", 2)[0], refused.value.code) == (field.rsplit(".", 2)[0], code)


def test_a_surface_is_inside_or_outside() -> None:
    with pytest.raises(InvalidInput) as refused:
        wall_runs(sides=[run(0), run(180)], surface="upside")  # type: ignore[arg-type]
    assert refused.value.field == "surface"


@given(c=small, x=small, y=small, gone=st.integers(0, 3))
def test_three_of_four_readings_tell_the_fourth(c: float, x: float, y: float, gone: int) -> None:
    whole = [c + x * cos(radians(90 * n)) + y * sin(radians(90 * n)) for n in range(4)]
    found = four_places(readings_mm=[None if n == gone else v for n, v in enumerate(whole)], indicator_step_mm=0.001)
    assert (found.missing, found.predicted_mm) == (gone, pytest.approx(whole[gone], abs=1e-12))
    assert four_places(readings_mm=whole, indicator_step_mm=0.001).holds


def test_four_that_are_no_circle_say_by_how_much() -> None:
    """An oval of 0.01 cos 2t: its two diameters differ by 0.04."""
    found = four_places(readings_mm=[0.01 * cos(radians(180 * n)) for n in range(4)], indicator_step_mm=0.001)
    assert (found.holds, found.differ_mm, found.notes[0].code) == (False, pytest.approx(0.04), "not_a_circle")
    assert four_places(readings_mm=[0.004, 0, 0, 0], indicator_step_mm=0.001).holds, "as near as the indicator tells"


@pytest.mark.parametrize(("readings", "field"), [
    ([0.0, 0.0, 0.0], "readings_mm"), ([None, 0.0, None, 0.0], "readings_mm"),
    ([0.0, float("nan"), 0.0, 0.0], "readings_mm.1"),
])  # fmt: skip
def test_four_readings_are_four(readings: list[float | None], field: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        four_places(readings_mm=readings, indicator_step_mm=0.001)
    assert refused.value.field == field


@pytest.mark.parametrize(("text", "middle", "half"), [
    ("27", 0.027, 0.0), ("3 to 7", 0.005, 0.002), ("7..3", 0.005, 0.002), ("-2…4", 0.001, 0.003),
    ("-4 to -2", -0.003, 0.001), (".002 to .004", 0.003, 0.001),
])  # fmt: skip
def test_a_dancing_needle_is_read_at_its_middle(text: str, middle: float, half: float) -> None:
    found = read_needle(text, "mm", 0.001)
    assert (found.length_mm, found.half_mm) == (pytest.approx(middle), pytest.approx(half))


@pytest.mark.parametrize("text", ["3 to", "to 7", "a to b", "3 to 5 to 7"])
def test_half_a_range_is_refused(text: str) -> None:
    with pytest.raises(InvalidInput):
        read_needle(text, "mm", 0.001)

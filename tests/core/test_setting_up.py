"""Setting the work up: each against a second method, and its laws."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise, product
from math import cos, pi, radians, sin

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from scipy.integrate import quad
from scipy.optimize import linprog

from gyrocore import (
    Bush,
    Hub,
    InvalidInput,
    Mass,
    PackingPiece,
    PilotGuide,
    Pivot,
    SupportPoint,
    SweptHousing,
    angled_face,
    balance,
    face_time,
    line_bar_moves,
    packing,
    pilot,
    press_fit,
    support_moves,
    two_sided,
)

mm = st.floats(-500, 500)
tilt = st.floats(-5, 5)
FEET = [
    SupportPoint(name=n, x_mm=x, y_mm=y) for n, x, y in (("a", 0, 0), ("b", 200, 0), ("c", 0, 300), ("d", 180, 260))
]


# supports


@given(tx=tilt, ty=tilt, at=st.none() | st.tuples(mm, mm))
def test_lifted_so_the_face_is_level(tx: float, ty: float, at: tuple[float, float] | None) -> None:
    pivot = None if at is None else Pivot(x_mm=at[0], y_mm=at[1])
    moved = support_moves(
        points=FEET, tilt_x_mm_m=tx, tilt_y_mm_m=ty, about="lowest" if at is None else "pivot", pivot=pivot
    )
    heights = [(tx * p.x_mm + ty * p.y_mm) / 1000 + m.lift_mm for p, m in zip(FEET, moved.moves, strict=True)]
    assert np.ptp(heights) == pytest.approx(0, abs=1e-9)
    if pivot is None:
        assert min(one.lift_mm for one in moved.moves) == 0
    else:
        assert heights[0] == pytest.approx((tx * pivot.x_mm + ty * pivot.y_mm) / 1000, abs=1e-9), "the pivot stays"


@pytest.mark.parametrize(("points", "field", "code"), [
    (FEET[:2], "points", "three_supports"),
    ([FEET[0], FEET[1], SupportPoint(name="e", x_mm=-70, y_mm=0)], "points", "supports_on_one_line"),
    ([FEET[0], FEET[1], SupportPoint(name="a", x_mm=0, y_mm=9)], "points.2.name", "repeated"),
])  # fmt: skip
def test_supports_that_hold_no_plane(points: Sequence[SupportPoint], field: str, code: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        support_moves(points=points, tilt_x_mm_m=1, tilt_y_mm_m=0)
    assert (refused.value.field, refused.value.code) == (field, code)


# packing


@given(
    st.lists(st.tuples(st.integers(1, 80), st.integers(1, 3)), min_size=1, max_size=4), st.integers(1, 300),
    st.integers(1, 4),
)  # fmt: skip
def test_no_stack_is_nearer(heights: list[tuple[int, int]], target: int, most: int) -> None:
    pieces = [PackingPiece(name=str(n), height_mm=h, count=c) for n, (h, c) in enumerate(heights)]
    found = packing(pieces=pieces, target_mm=target, most_pieces=most)
    every = [
        counts for counts in product(*(range(one.count + 1) for one in pieces)) if 0 < sum(counts) <= most
    ]  # fmt: skip

    def worth(counts: tuple[int, ...]) -> tuple[float, ...]:
        height = sum(n * one.height_mm for n, one in zip(counts, pieces, strict=True))
        return (abs(height - target), sum(counts), -height, *(-n for n in counts))

    best = min(every, key=worth)
    assert [(one.name, one.count) for one in found.stack] == [
        (one.name, n) for one, n in zip(pieces, best, strict=True) if n
    ]
    assert found.height_mm == sum(n * one.height_mm for n, one in zip(best, pieces, strict=True))


def test_the_largest_search_ends() -> None:
    pieces = [PackingPiece(name=str(n), height_mm=3 + n * 1.37, count=6) for n in range(20)]
    assert abs(packing(pieces=pieces, target_mm=71.113, most_pieces=6).error_mm) < 0.1


# balance


@given(st.lists(st.tuples(st.floats(0.1, 50), st.floats(1, 500), st.floats(-720, 720)), min_size=1, max_size=5))
def test_a_counterweight_leaves_nothing(rows: list[tuple[float, float, float]]) -> None:
    masses = [Mass(name=str(n), mass_kg=m, radius_mm=r, angle_deg=a) for n, (m, r, a) in enumerate(rows)]
    found = balance(masses=masses, counter_radius_mm=120, rpm=250, force_limit_n=300)
    assume(found.unbalance_kg_mm > 1e-3)
    assert found.counter_mass_kg is not None
    assert found.counter_angle_deg is not None
    counter = Mass(name="counter", mass_kg=found.counter_mass_kg, radius_mm=120, angle_deg=found.counter_angle_deg)
    assert balance(masses=[*masses, counter]).unbalance_kg_mm == pytest.approx(0, abs=1e-6)
    assert found.max_rpm is not None
    at_most = balance(masses=masses, rpm=found.max_rpm).force_n
    assert at_most == pytest.approx(300, rel=1e-9)


def test_nothing_to_balance() -> None:
    found = balance(
        masses=[Mass(name="a", mass_kg=2, radius_mm=0, angle_deg=10)], counter_radius_mm=50, force_limit_n=9
    )
    assert (found.angle_deg, found.counter_mass_kg, found.counter_angle_deg, found.max_rpm) == (None,) * 4


# two sides


@given(st.floats(1, 1000), st.floats(0, 1000), st.floats(0, 1000), st.floats(0, 20))
def test_two_sides_cover_the_bore(length: float, a: float, b: float, overlap: float) -> None:
    found = two_sided(length_mm=length, reach_a_mm=a, reach_b_mm=b, overlap_mm=overlap)
    if not found.possible:
        assert (found.depth_a_mm, found.depth_b_mm) == (None, None)
        more = [two_sided(length_mm=length, reach_a_mm=a + s, reach_b_mm=b, overlap_mm=overlap).possible
                or two_sided(length_mm=length, reach_a_mm=a, reach_b_mm=b + s, overlap_mm=overlap).possible
                for s in (found.short_mm + 1e-6, max(0.0, found.short_mm - 1e-3))]  # fmt: skip
        assert more[0], "so much more is enough"
        assert not more[1] or found.short_mm < 1e-3, "and no less"
        return
    assert found.depth_a_mm is not None
    assert found.depth_b_mm is not None
    assert found.depth_a_mm <= max(a, length) + 1e-6
    assert found.depth_b_mm <= b + 1e-6 or found.one_side_enough == "b"
    covered = length + (overlap if found.one_side_enough is None else 0)
    assert found.depth_a_mm + found.depth_b_mm == pytest.approx(covered)


# pilot


@given(
    st.lists(
        st.tuples(st.integers(-300, 300), st.integers(0, 200_000).map(lambda nm: nm / 1e6)),
        min_size=2,
        max_size=5,
        unique_by=lambda row: row[0],
    ),
    st.integers(-500, 500),
)
def test_a_pilot_bar_by_linear_programming(rows: list[tuple[int, float]], z: int) -> None:
    found = pilot(guides=[PilotGuide(z_mm=at, clearance_mm=c) for at, c in rows], at_z_mm=[z])
    bounds = np.array([[1, at / 100] for at, _ in rows])
    # in nanometres: the solver's tolerance is 1e-7 of whatever it is given, and a lean far out multiplies it
    half = np.array([c / 2 * 1e6 for _, c in rows])
    inside = {"A_ub": np.vstack([bounds, -bounds]), "b_ub": np.hstack([half, half]), "bounds": (None, None)}
    off = linprog([-1, -z / 100], **inside)
    lean = linprog([0, -1], **inside)
    assert found.rows[0].off_mm == pytest.approx(-off.fun / 1e6, abs=1e-7)
    assert found.lean_mm_m == pytest.approx(-lean.fun * 10 / 1e6, abs=1e-6)


# line bar


HOUSINGS = st.lists(
    st.tuples(st.integers(0, 2000), st.floats(-1, 1), st.floats(-1, 1), st.floats(-0.2, 0.2), st.floats(0, 0.1)),
    min_size=2, max_size=5, unique_by=lambda row: row[0],
)  # fmt: skip


@given(rows=HOUSINGS, with_datum=st.booleans(), down=st.floats(0, 360))
def test_the_moved_bar_lies_on_the_line(rows: list[tuple[float, ...]], with_datum: bool, down: float) -> None:
    swept = [SweptHousing(name=str(n), z_mm=z, off_x_mm=x, off_y_mm=y, sag_mm=s, droop_mm=d)
             for n, (z, x, y, s, d) in enumerate(rows)]  # fmt: skip
    found = line_bar_moves(
        housings=swept, bearings_mm=(-150, 2200), datum=("0", "1") if with_datum else None, down_deg=down
    )
    low, high = found.moves
    left = []
    for one, (z, x, y, sag, droop) in zip(found.housings, rows, strict=True):
        hang = sag + droop
        true = (x + hang * cos(radians(down)), y + hang * sin(radians(down)))
        assert (one.true_x_mm, one.true_y_mm) == pytest.approx(true)
        share = (z - low.z_mm) / (high.z_mm - low.z_mm)
        bar = [a + share * (b - a) for a, b in ((low.move_x_mm, high.move_x_mm), (low.move_y_mm, high.move_y_mm))]
        left.append((true[0] - bar[0], true[1] - bar[1]))
        assert one.off_mm == pytest.approx(np.hypot(*left[-1]), abs=1e-9)
    if with_datum or len(rows) == 2:
        assert max(np.hypot(*left[0]), np.hypot(*left[1])) == pytest.approx(0, abs=1e-9)
    else:
        assert np.sum(left, axis=0) == pytest.approx([0, 0], abs=1e-9), "least squares leave no mean"
    assert found.worst_off_mm == max(one.off_mm for one in found.housings)


@pytest.mark.parametrize(("more", "field"), [
    ({"datum": ("a", "z")}, "datum.1"), ({"datum": ("a", "a")}, "datum.1"), ({"bearings_mm": (5, 5)}, "bearings_mm.1"),
])  # fmt: skip
def test_a_line_bar_that_cannot_be(more: dict[str, object], field: str) -> None:
    ends = [SweptHousing(name=n, z_mm=z, off_x_mm=0, off_y_mm=0) for n, z in (("a", 0), ("b", 100))]
    given_to: dict[str, object] = {"housings": ends, "bearings_mm": (-10, 110), **more}
    with pytest.raises(InvalidInput) as refused:
        line_bar_moves(**given_to)  # type: ignore[arg-type]
    assert refused.value.field == field


# press fit


@given(
    d=st.floats(20, 300), inside=st.floats(0.2, 0.95), outside=st.floats(1.05, 6), i=st.floats(0.005, 0.2),
    stiff=st.tuples(st.floats(60, 220), st.floats(60, 220)), poisson=st.tuples(st.floats(0, 0.45), st.floats(0, 0.45)),
)  # fmt: skip
def test_both_walls_give_what_the_press_takes(
    d: float, inside: float, outside: float, i: float, stiff: tuple[float, float], poisson: tuple[float, float]
) -> None:
    """Lame's constants solved as a system: radial displacement A r + B / r in each ring."""
    (eb, eh), (nb, nh) = stiff, poisson
    bush = Bush(outside_mm=d, inside_mm=d * inside, youngs_modulus_gpa=eb, poisson=nb)
    hub = Hub(outside_mm=d * outside, youngs_modulus_gpa=eh, poisson=nh)
    found = press_fit(bush=bush, hub=hub, interference_mm=i, length_mm=60)

    def rows(e_gpa: float, poisson: float, radius: float) -> tuple[list[float], list[float]]:
        stress = [e_gpa * 1000 / (1 - poisson), -e_gpa * 1000 / (1 + poisson) / radius**2]
        return stress, [radius, 1 / radius]

    r, ri, ro = d / 2, d * inside / 2, d * outside / 2
    free_in, out_of_bush = rows(eb, nb, ri)[0], rows(eb, nb, r)
    in_of_hub, free_out = rows(eh, nh, r), rows(eh, nh, ro)[0]
    matrix = np.array([
        [*free_in, 0, 0], [0, 0, *free_out],
        [*out_of_bush[0], *(-x for x in in_of_hub[0])],
        [*(-x for x in out_of_bush[1]), *in_of_hub[1]],
    ])  # fmt: skip
    scale = np.array([1, 1 / r**2, 1, 1 / r**2])
    solved = np.linalg.solve(matrix / scale, [0, 0, 0, i / 2]) / scale
    pressure = -(out_of_bush[0][0] * solved[0] + out_of_bush[0][1] * solved[1])
    assert found.pressure_mpa == pytest.approx(pressure, rel=1e-6)
    assert found.bore_closes_mm == pytest.approx(-2 * (solved[0] * ri + solved[1] / ri), rel=1e-6)
    assert found.hub_grows_mm == pytest.approx(2 * (solved[2] * ro + solved[3] / ro), rel=1e-6)
    assert found.press_force_n == pytest.approx(0.12 * pressure * pi * d * 60, rel=1e-6)


def test_a_very_thick_hub_is_the_limit_of_thick_ones() -> None:
    bush = Bush(outside_mm=80, inside_mm=70)
    thick, very = (press_fit(bush=bush, hub=hub, interference_mm=0.04, length_mm=60)
                   for hub in (Hub(outside_mm=80_000), Hub()))  # fmt: skip
    assert thick.pressure_mpa == pytest.approx(very.pressure_mpa, rel=1e-5)
    assert very.hub_grows_mm is None


@pytest.mark.parametrize("room", [-10.0, 20.0, 35.0])
def test_heated_or_cooled_it_slips_in(room: float) -> None:
    bush, hub = Bush(outside_mm=80, inside_mm=70), Hub(outside_mm=120)
    found = press_fit(bush=bush, hub=hub, interference_mm=0.05, length_mm=60, room_c=room)

    def gap(hub_c: float, bush_c: float) -> float:
        seat = 80 - 0.05  # the seat is smaller by the interference, at 20 C; expansions are of the nominal size
        return (
            seat
            + 80 * hub.expansion_um_m_k * 1e-6 * (hub_c - 20)
            - 80
            - 80 * bush.expansion_um_m_k * 1e-6 * (bush_c - 20)
        )

    assert gap(found.heat_hub_to_c, room) == pytest.approx(0.02, abs=1e-9)
    assert found.cool_bush_to_c is not None
    assert gap(room, found.cool_bush_to_c) == pytest.approx(0.02, abs=1e-9)


def test_clearance_presses_nothing_and_no_cold_is_enough() -> None:
    loose = press_fit(bush=Bush(outside_mm=80), hub=Hub(), interference_mm=-0.1, length_mm=60)
    assert (loose.pressure_mpa, loose.bore_closes_mm, loose.heat_hub_to_c) == (0, None, 20)
    tight = press_fit(bush=Bush(outside_mm=10, expansion_um_m_k=5), hub=Hub(), interference_mm=0.1, length_mm=60)
    assert tight.cool_bush_to_c is None
    assert "cannot_cool" in [one.code for one in tight.notes]


# faces


def test_an_angled_face() -> None:
    found = angled_face(angle_deg=30, inner_diameter_mm=40, outer_diameter_mm=60, deepen_mm=0.2)
    assert found.width_mm**2 == pytest.approx(10**2 + found.height_mm**2)
    assert (found.top_slide_deg, found.normal_mm) == (60, pytest.approx(0.2 * cos(radians(30))))
    deeper = 2 * 0.2 / np.tan(radians(30))
    assert found.inner_shift_mm == pytest.approx(deeper)


@given(
    outer=st.floats(20, 1000), share=st.floats(0, 0.95), feed=st.floats(0.05, 1), speed=st.floats(10, 400),
    most=st.none() | st.floats(50, 4000),
)  # fmt: skip
def test_the_time_of_facing_by_integration(
    outer: float, share: float, feed: float, speed: float, most: float | None
) -> None:
    inner = outer * share
    assume(inner > 1 or most is not None)
    found = face_time(outer_diameter_mm=outer, inner_diameter_mm=inner, feed_mm_rev=feed, surface_speed_m_min=speed,
                      max_rpm=most)  # fmt: skip

    def minutes_per_mm(diameter: float) -> float:
        wanted = 1000 * speed / (pi * diameter) if diameter else float("inf")
        return 1 / (2 * feed * (wanted if most is None else min(wanted, most)))

    turn = [] if most is None else [1000 * speed / (pi * most)]
    breaks = [inner, *(d for d in turn if inner < d < outer), outer]
    total = sum(quad(minutes_per_mm, a, b)[0] for a, b in pairwise(breaks))
    assert found.minutes == pytest.approx(total, rel=1e-6)
    assert found.rpm_at_inner >= found.rpm_at_outer - 1e-9


@pytest.mark.parametrize(("fields", "field", "code"), [
    ({}, "rpm", "one_of_two"),
    ({"rpm": 100, "surface_speed_m_min": 50}, "surface_speed_m_min", "only_one_of_two"),
    ({"rpm": 100, "max_rpm": 200}, "max_rpm", "only_with_surface_speed"),
    ({"surface_speed_m_min": 50}, "max_rpm", "cap_to_centre"),
])  # fmt: skip
def test_facing_needs_one_speed(fields: dict[str, float], field: str, code: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        face_time(outer_diameter_mm=100, feed_mm_rev=0.1, **fields)
    assert (refused.value.field, refused.value.code) == (field, code)

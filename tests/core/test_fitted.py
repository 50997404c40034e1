"""Bushes, packing in order, counterweights at holes, ways of holding: each against a second way or a law."""

from __future__ import annotations

from itertools import product
from math import cos, hypot, radians, sin
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrocore import (
    InvalidInput,
    Narrow,
    PackingPiece,
    bush_outside,
    centre_distance,
    counterweights,
    held,
    holdings,
    holdings_for,
    methods,
    nearest_stacks,
    packing,
    require_wall,
    way_home,
)

SIZES = st.floats(5, 500)


@given(SIZES, st.floats(0, 0.1), st.floats(-0.1, 0.1), st.floats(0.001, 0.3), st.floats(0, 0.02))
def test_a_bush_within_its_limits_keeps_the_fit_at_every_place(
    seat: float, spread: float, least: float, more: float, unsure: float
) -> None:
    """Whatever size within its limits meets whatever true size of the seat, the interference is as it was asked."""
    asked = {"seat_smallest_mm": seat, "seat_largest_mm": seat + spread, "least_mm": least, "most_mm": least + more,
             "uncertainty_mm": unsure}  # fmt: skip
    if more <= spread + 2 * unsure + 1e-9:
        with pytest.raises(InvalidInput) as refused:
            bush_outside(**asked)
        assert (refused.value.field, refused.value.code) == ("most_mm", "seat_varies_more")
        return
    found = bush_outside(**asked)
    for outside, true in product((found.lower_mm, found.upper_mm), (seat - unsure, seat + spread + unsure)):
        assert least - 1e-9 <= outside - true <= least + more + 1e-9


@pytest.mark.parametrize(("fields", "at"), [
    ({"seat_smallest_mm": 0.0}, "seat_smallest_mm"),
    ({"seat_largest_mm": 61.0}, "seat_largest_mm"),
    ({"uncertainty_mm": -0.001}, "uncertainty_mm"),
    ({"most_mm": 0.02}, "most_mm"),
])  # fmt: skip
def test_what_no_bush_can_be_is_refused(fields: dict[str, float], at: str) -> None:
    good = {"seat_smallest_mm": 62.0, "seat_largest_mm": 62.01, "least_mm": 0.02, "most_mm": 0.06}
    with pytest.raises(InvalidInput) as refused:
        bush_outside(**{**good, **fields})
    assert refused.value.field == at


def test_a_wall_too_thin_to_press() -> None:
    assert require_wall(outside_mm=80, inside_mm=76) == 2
    with pytest.raises(InvalidInput, match="wall_too_thin"):
        require_wall(outside_mm=80, inside_mm=76.1)


@given(
    st.lists(st.tuples(st.integers(1, 4000), st.integers(1, 3)), min_size=1, max_size=5, unique_by=lambda one: one[0]),
    st.integers(1, 9000), st.integers(1, 4), st.integers(1, 6),
)  # fmt: skip
def test_the_nearest_stacks_are_the_first_of_all_in_order(
    rows: list[tuple[int, int]], target: int, most: int, wanted: int
) -> None:
    pieces = [PackingPiece(name=str(n), height_mm=h / 100, count=c) for n, (h, c) in enumerate(rows)]
    found = nearest_stacks(pieces=pieces, target_mm=target / 100, most_pieces=most, rows=wanted)
    heights = {
        round(sum(n * one.height_mm for n, one in zip(counts, pieces, strict=True)), 9)
        for counts in product(*(range(one.count + 1) for one in pieces)) if 0 < sum(counts) <= most
    }  # fmt: skip
    errors = sorted(abs(height - target / 100) for height in heights)
    assert [abs(one.error_mm) for one in found] == pytest.approx(errors[:wanted])
    assert len({round(one.height_mm, 9) for one in found}) == len(found), "each height once"
    assert found[0] == packing(pieces=pieces, target_mm=target / 100, most_pieces=most)


@given(st.floats(0, 5000), st.floats(0, 360), st.floats(20, 400), st.integers(3, 24), st.floats(0.01, 2))
def test_counterweights_leave_as_little_as_their_step_allows(
    moment: float, angle: float, radius: float, holes: int, step: float
) -> None:
    found = counterweights(unbalance_kg_mm=moment, angle_deg=angle, radius_mm=radius, holes=holes, step_kg=step)
    x = moment * cos(radians(angle)) + sum(radius * w.mass_kg * cos(radians(w.angle_deg)) for w in found.weights)
    y = moment * sin(radians(angle)) + sum(radius * w.mass_kg * sin(radians(w.angle_deg)) for w in found.weights)
    assert found.left_kg_mm == pytest.approx(hypot(x, y), abs=1e-6)
    assert found.left_kg_mm <= radius * step * 1.0001, "each weight is at most half a step off, along two directions"
    for one in found.weights:
        assert (one.mass_kg / step) == pytest.approx(round(one.mass_kg / step), abs=1e-6)
        assert (one.angle_deg * holes / 360) == pytest.approx(round(one.angle_deg * holes / 360), abs=1e-6)


def test_what_is_left_sets_the_speed() -> None:
    found = counterweights(unbalance_kg_mm=100, angle_deg=0, radius_mm=100, holes=8, step_kg=0.3, rpm=300,
                           force_limit_n=50)  # fmt: skip
    assert [(one.angle_deg, one.mass_kg) for one in found.weights] == [(180, pytest.approx(0.9))]
    assert found.left_kg_mm == pytest.approx(10)
    assert found.force_n == pytest.approx(10 / 1000 * (2 * 3.14159265 * 300 / 60) ** 2, rel=1e-6)
    assert found.max_rpm == pytest.approx(300 * (50 / found.force_n) ** 0.5)
    assert counterweights(unbalance_kg_mm=0, angle_deg=0, radius_mm=100, holes=8, force_limit_n=5).max_rpm is None


def test_each_method_is_held_in_ways_of_its_own() -> None:
    assert {key for one in holdings().values() for key in one.methods} == set(methods())
    for key, way in methods().items():
        usual = held(key)
        assert usual == held(key, holdings_for(key)[0].key)
        assert (usual.jaws, usual.unbalanced, usual.place_word) == (way.jaws, way.unbalanced, way.place_word)
    plate = held("lathe-bar", "faceplate")
    assert (plate.jaws, plate.unbalanced, plate.place_name(90)) == (False, True, "mark 2")
    assert not held("lathe-bar", "collet").unbalanced
    with pytest.raises(InvalidInput) as refused:
        held("head", "collet")
    assert refused.value.field == "holding"


@given(st.floats(20, 120), st.floats(20, 120), st.floats(5, 400))
def test_both_ways_over_the_walls_give_one_distance(first: float, second: float, between: float) -> None:
    """Metal between two bores, and over their far walls: two readings of one pair of axes."""
    near = centre_distance(reading_mm=between, over="near-walls", first_mm=first, second_mm=second)
    far = centre_distance(reading_mm=between + first + second, over="far-walls", first_mm=first, second_mm=second)
    assert near.distance_mm == pytest.approx(far.distance_mm)
    assert near.distance_mm == pytest.approx(centre_distance(reading_mm=near.distance_mm, over="centres").distance_mm)


def test_an_axis_between_walls_knows_what_its_bores_know() -> None:
    found = centre_distance(reading_mm=68.985, over="near-walls", first_mm=90.012, second_mm=72.015,
                            reading_expanded_mm=0.003, first_expanded_mm=0.008, second_expanded_mm=0)  # fmt: skip
    assert (found.distance_mm, found.expanded_mm) == (pytest.approx(149.9985), pytest.approx(0.005))


@pytest.mark.parametrize(
    ("given_", "field"),
    [
        ({"over": "near-walls"}, "first_mm"), ({"over": "centres", "first_mm": 20}, "first_mm"),
        ({"over": "beside"}, "over"), ({"over": "far-walls", "first_mm": 90, "second_mm": 90}, "reading_mm"),
    ],
)  # fmt: skip
def test_a_centre_distance_that_cannot_be(given_: dict[str, Any], field: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        centre_distance(reading_mm=80, **given_)
    assert refused.value.field == field


@given(st.floats(20, 200), st.lists(st.tuples(st.floats(-900, 900), st.floats(1, 80), st.floats(0, 250)), max_size=5))
def test_a_bit_runs_free_up_to_the_nearest_thing_it_does_not_pass(
    cut: float, things: list[tuple[float, float, float]]
) -> None:
    """Against a walk along the line in steps of a tenth."""
    outside = [(a, a + n, size) for a, n, size in things if a + n <= 0 or a >= 100]
    others = [Narrow(name=f"{k}", start_mm=a, end_mm=b, size_mm=s) for k, (a, b, s) in enumerate(outside)]
    found = way_home(start_mm=0, end_mm=100, cut_diameter_mm=cut, others=others)
    walked = 0.0
    while walked < 1000 and not any(a <= 100 + walked <= b and s < cut + 0.4 for a, b, s in outside):
        walked += 0.1
    room = found.towards_end.room_mm
    assert (room is None) == (walked >= 1000) or (room is not None and room > 799)
    assert room is None or walked >= 1000 or abs(walked - room) <= 0.2


def test_a_bearing_inside_the_bore_has_no_way_home() -> None:
    with pytest.raises(InvalidInput) as refused:
        way_home(start_mm=0, end_mm=80, cut_diameter_mm=90, others=[Narrow(name="b", start_mm=40, end_mm=40)])
    assert (refused.value.field, refused.value.code) == ("others.0.start_mm", "inside_the_bore")

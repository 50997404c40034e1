"""Two planes to a true axis, and runs along the wall: what holds, what lapses, and the moves that take a lean out."""

from __future__ import annotations

from dataclasses import replace
from math import cos, hypot, radians, sin
from typing import Any, Literal

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gyroplan.assess import tilt_of, wall_lean_of
from gyroplan.record import BetweenRecord, JobRecord, ReadingRecord, RoundRecord
from tests.plan.shop import assessed, bore, job

EIGHT = [45.0 * n for n in range(8)]
Vector = tuple[float, float]


def plane(number: int, z: float | None, off: Vector, *, again: float = 0.0) -> RoundRecord:
    """A sweep of the bore in one plane, whose centre lies there."""
    values = [-(off[0] * cos(radians(a)) + off[1] * sin(radians(a))) for a in EIGHT]
    rows = [*values, values[0] + again]
    return RoundRecord(
        key=number, number=number, purpose="true", method="sweep", places=8, surface="inside", bore=None, piece=1,
        indicator_step_mm=0.001, plane_mm=z,
        readings=tuple(ReadingRecord(key=100 * number + n, place=n, value_mm=v) for n, v in enumerate(rows)),
    )  # fmt: skip


def walls(number: int, *, grows: float = 0.0, lean: Vector = (0.0, 0.0), sides: int = 4, again: float = 0.0,
          skip: tuple[int, ...] = (), depths: tuple[float, ...] = (10, 45, 85, 120)) -> RoundRecord:  # fmt: skip
    """Runs along the walls of a bore that leans and tapers, each from its own zero at the first depth."""
    values: list[float | None] = []
    for side in range(sides):
        angle = radians(360 * side / sides)
        slope = grows + lean[0] * cos(angle) + lean[1] * sin(angle)
        values += [-slope * (z - depths[0]) / 1000 for z in depths]
    values = [None if n in skip else v for n, v in enumerate(values)]
    rows = [*values, (values[-len(depths)] or 0.0) + again]
    return RoundRecord(
        key=number, number=number, purpose="true", method="walls", places=sides * len(depths), surface="inside",
        bore=None, piece=1, indicator_step_mm=0.001, depths_mm=depths,
        readings=tuple(ReadingRecord(key=100 * number + n, place=n, value_mm=v) for n, v in enumerate(rows)),
    )  # fmt: skip


def read(*rounds: RoundRecord, reference: str = "old-bore", between: tuple[BetweenRecord, ...] = (),
         **plan: Any) -> JobRecord:  # fmt: skip
    return job(bore(), rounds=rounds, between=between, setup={"reference": reference}, plan=plan)


def happened(after: int, kind: Literal["moved", "disturbed"] = "moved") -> BetweenRecord:
    return BetweenRecord(kind=kind, after_round=after, piece=1, bore=None)


def test_two_planes_tell_the_lean_and_the_two_steps() -> None:
    """A (20 deep, at the open end) and B (120, at the jaws): centre at B by the jaws, then tap at A."""
    found = tilt_of(assessed(read(plane(1, 120, (0.03, 0.0)), plane(2, 20, (0.03, -0.05)))), 1, 1)
    assert found is not None
    assert found.line.tilt_mm_m == pytest.approx(0.5)
    assert found.lean_mm == pytest.approx(0.5 * 140 / 1000)
    assert (found.at.round.plane_mm, found.tap.round.plane_mm) == (120, 20)
    assert (found.tap_mm, found.tap_deg) == pytest.approx((0.05, 90))
    assert not found.within


small = st.floats(-0.2, 0.2)


@settings(max_examples=60, deadline=None)
@given(b=st.tuples(small, small), a=st.tuples(small, small), za=st.floats(0, 40), zb=st.floats(80, 140))
def test_jaws_then_tap_make_both_planes_true(a: Vector, b: Vector, za: float, zb: float) -> None:
    """What is left after the two steps, each as told, is nothing in either plane."""
    found = tilt_of(assessed(read(plane(1, zb, b), plane(2, za, a))), 1, 1)
    assert found is not None
    shift = found.at.figures.offset if found.at.figures else (0.0, 0.0)
    tap = (found.tap_mm * cos(radians(found.tap_deg)), found.tap_mm * sin(radians(found.tap_deg)))
    assert hypot(a[0] - shift[0] + tap[0], a[1] - shift[1] + tap[1]) < 1e-6
    assert hypot(b[0] - shift[0], b[1] - shift[1]) < 1e-6


def test_a_move_takes_every_plane_and_both_are_asked_again() -> None:
    truing = assessed(read(plane(1, 120, (0.03, 0)), plane(2, 20, (0.0, 0)), plane(3, 120, (0.0, 0)),
                           between=(happened(2),))).truing(1, 1)  # fmt: skip
    assert [one.round.number for one in truing.planes] == [3]
    assert truing.standing is not None
    assert truing.standing.within
    assert not truing.within, "the other plane was read before the move"
    both = assessed(read(plane(1, 120, (0.03, 0)), plane(2, 20, (0.0, 0)), plane(3, 120, (0.0, 0)),
                         plane(4, 20, (0.004, 0)), between=(happened(2),))).truing(1, 1)  # fmt: skip
    assert both.within
    assert len(both.planes) == 2


def test_one_plane_alone_is_one_plane() -> None:
    job_ = assessed(read(plane(1, None, (0.004, 0))))
    assert tilt_of(job_, 1, 1) is None
    assert job_.truing(1, 1).within
    assert job_.truing(1, 1).planes == ()
    planes = assessed(read(plane(1, None, (0.2, 0)), plane(2, 20, (0, 0)), plane(3, 120, (0, 0)))).truing(1, 1)
    assert planes.within, "once planes are read the rough round before them counts no more"
    assert len(planes.last) == 2


def test_disturbed_work_forgets_its_planes() -> None:
    found = assessed(read(plane(1, 120, (0, 0)), plane(2, 20, (0, 0)), plane(3, 120, (0, 0)),
                          between=(happened(2, "disturbed"),))).truing(1, 1)  # fmt: skip
    assert found.within
    assert [one.round.number for one in found.last] == [3], "set true in one plane again"


def test_an_open_round_is_given_up_for_one_of_another_plane() -> None:
    half = replace(plane(1, 20, (0, 0)), readings=plane(1, 20, (0, 0)).readings[:3])
    found = assessed(read(half, plane(2, 120, (0, 0)))).truing(1, 1)
    assert [one.validity for one in found.rounds] == ["void", "closed"]
    assert not found.within


def test_walls_tell_lean_and_taper_and_the_lifts() -> None:
    """The lean of 2 mm/m toward 0 degrees lifts the far support by 2 x 200 / 1000, the sides by half."""
    found = wall_lean_of(
        assessed(read(walls(1, grows=0.1, lean=(2.0, 0.0)), reference="wall", supports_mm=200.0)), 1, 1
    )
    assert found is not None
    assert (found.lean_mm, found.lean_deg) == pytest.approx((2.0 * 140 / 1000, 0))
    assert found.taper_mm == pytest.approx(2 * 0.1 * 140 / 1000)
    assert [one.lift_mm for one in found.lifts] == pytest.approx([0, 0.2, 0.4, 0.2])
    assert found.then_mm == pytest.approx(-0.1 * 110 / 1000)
    assert not found.within


def test_over_a_pivot_opposite_screws_go_by_half_each_and_tell_what_lifts_tell() -> None:
    over, under = (
        wall_lean_of(assessed(read(walls(1, lean=(2.0, -0.7)), reference="wall", supports_mm=200.0, pivot_mm=180.0,
                                   level_about=about)), 1, 1)
        for about in ("pivot", "lowest")
    )  # fmt: skip
    assert over is not None
    assert under is not None
    by, lifts = ({one.name: one.lift_mm for one in found.lifts} for found in (over, under))
    assert by["1"] == pytest.approx(-by["3"])
    assert by["2"] == pytest.approx(-by["4"])
    assert by["3"] - by["1"] == pytest.approx(lifts["3"] - lifts["1"]) == pytest.approx(0.4)
    assert min(lifts.values()) == pytest.approx(0)
    assert over.carried_mm == under.carried_mm == pytest.approx(180 * over.lean_mm / 140), "its distance, no factor"


@settings(max_examples=60, deadline=None)
@given(lean=st.tuples(st.floats(-3, 3), st.floats(-3, 3)), grows=st.floats(-0.3, 0.3))
def test_the_told_lifts_make_the_walls_true(lean: Vector, grows: float) -> None:
    found = wall_lean_of(assessed(read(walls(1, grows=grows, lean=lean), reference="wall", supports_mm=240.0)), 1, 1)
    assert found is not None
    by = {one.name: one.lift_mm for one in found.lifts}
    raised = ((by["1"] - by["3"]) / 240 * 1000, (by["2"] - by["4"]) / 240 * 1000)
    left = wall_lean_of(assessed(read(
        walls(1, grows=grows, lean=(lean[0] + raised[0], lean[1] + raised[1])), reference="wall")), 1, 1)  # fmt: skip
    assert left is not None
    assert left.lean_mm < 1e-6
    assert left.within


def test_walls_come_back_and_lapse_with_a_move() -> None:
    assert assessed(read(walls(1, again=0.05), reference="wall")).truing(1, 1).rounds[0].is_void
    stands = assessed(read(walls(1), reference="wall")).truing(1, 1)
    assert stands.within
    moved = assessed(read(walls(1), reference="wall", between=(happened(1),))).truing(1, 1)
    assert not moved.within
    assert moved.walls is None
    assert moved.last_valid is not None


def test_two_walls_see_one_way_and_one_wall_nothing() -> None:
    two = wall_lean_of(assessed(read(walls(1, lean=(-1.0, 2.0), sides=2), reference="wall")), 1, 1)
    assert two is not None
    assert two.one_way
    assert (two.lean_mm, two.lean_deg) == pytest.approx((0.14, 180))
    one = assessed(read(walls(1, lean=(1.0, 0.0), sides=1), reference="wall"))
    assert wall_lean_of(one, 1, 1) is None
    assert not one.truing(1, 1).within, "a wall alone proves nothing"


def test_a_wall_that_a_port_breaks_is_left_out() -> None:
    found = wall_lean_of(assessed(read(walls(1, lean=(1.0, 0.5), skip=(5, 6, 7)), reference="wall")), 1, 1)
    assert found is not None
    assert found.lean_mm == pytest.approx(hypot(1.0, 0.5) * 0.14)


def test_walls_beside_a_sweep_count_while_they_hold_and_tell() -> None:
    """Set true to the old bore: a lean that the walls show is not passed over, walls that tell nothing are."""
    straight, leaning = walls(2), walls(2, lean=(2.0, 0.0))
    assert assessed(read(plane(1, None, (0.004, 0)), straight)).truing(1, 1).within
    assert not assessed(read(plane(1, None, (0.004, 0)), leaning)).truing(1, 1).within
    one = assessed(read(plane(1, None, (0.004, 0)), walls(2, lean=(2.0, 0.0), sides=1))).truing(1, 1)
    assert one.within, "one wall cannot tell"
    moved = assessed(read(walls(1, lean=(2.0, 0.0)), plane(2, None, (0.004, 0)), between=(happened(1),)))
    assert moved.truing(1, 1).within, "they were run along before the move"
    by_wall = assessed(read(plane(1, None, (0.2, 0)), walls(2), reference="wall")).truing(1, 1)
    assert by_wall.within, "set true to its walls, only they decide"

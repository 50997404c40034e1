"""Wanted off centre on purpose, plus as plunger out, centred without a round, what a disturbance re-opens."""

from __future__ import annotations

from dataclasses import replace
from math import cos, hypot, radians, sin
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrocore import InvalidInput
from gyroplan.assess import centring, reopened_of
from gyroplan.record import BetweenRecord, JobRecord, ReadingRecord, RoundRecord
from gyroplan.simulated import SimulatedWork
from tests.plan.shop import assessed, bore, job

EIGHT = [45.0 * place for place in range(8)]


def swept(number: int, work: SimulatedWork, **more: Any) -> RoundRecord:
    """A round read on simulated work, its sign turned where plus is plunger out."""
    sign = -1 if more.get("plus_out") else 1
    values = [sign * (work.reading_mm(angle) or 0.0) for angle in EIGHT]
    readings = tuple(
        ReadingRecord(key=100 * number + n, place=n, value_mm=v) for n, v in enumerate([*values, values[0]])
    )
    base = RoundRecord(key=number, number=number, purpose="true", method="sweep", places=8,
                       surface="inside" if work.inside else "outside", bore=None, piece=1, indicator_step_mm=0.001,
                       readings=readings)  # fmt: skip
    return replace(base, **more)


def bound(number: int, how: Any, bound_mm: float) -> RoundRecord:
    return RoundRecord(key=number, number=number, purpose="true", method=how, places=2, surface="inside", bore=None,
                       piece=1, indicator_step_mm=0.001, bound_mm=bound_mm)  # fmt: skip


def record(*rounds: RoundRecord, between: tuple[BetweenRecord, ...] = (), reference: str = "old-bore") -> JobRecord:
    return job(bore(), rounds=rounds, between=between, setup={"reference": reference})


def after(number: int, kind: Any = "disturbed", how: str = "") -> BetweenRecord:
    return BetweenRecord(kind=kind, after_round=number, piece=1, bore=None, how=how)


@given(st.floats(-0.3, 0.3), st.floats(-0.3, 0.3), st.floats(0, 0.5), st.floats(0, 360), st.booleans(), st.booleans())
def test_the_wanted_offset_is_what_is_judged(
    x: float, y: float, size: float, angle: float, inside: bool, plus_out: bool
) -> None:
    target = (size * cos(radians(angle)), size * sin(radians(angle)))
    work = SimulatedWork(off_mm=(x, y), oval_mm=0.002, inside=inside)
    one = swept(1, work, target_mm=target, plus_out=plus_out)
    truing = assessed(record(one, reference="old-bore" if inside else "outside")).truing(1, 1)
    assert truing.standing is not None
    off = hypot(x - target[0], y - target[1])
    assert truing.standing.off_centre_mm == pytest.approx(off, abs=1e-9)
    assert truing.within is (off <= truing.limit_mm / 2 + 1e-9)
    # the moves that are told bring it to where it is wanted, and not to the axis
    moved = work
    for move in truing.standing.moves:
        moved = moved.toward(move.slacken, move.by_mm)
    again = swept(2, moved, target_mm=target, plus_out=plus_out)
    then = assessed(record(one, again, between=(after(1, "moved"),), reference="old-bore" if inside else "outside"))
    assert then.truing(1, 1).within
    assert hypot(moved.off_mm[0] - target[0], moved.off_mm[1] - target[1]) < truing.limit_mm / 2 + 1e-9


def test_the_reading_to_expect_has_the_indicators_own_sign() -> None:
    work = SimulatedWork(off_mm=(0.1, 0.0))
    told = {}
    for plus_out in (False, True):
        view = assessed(record(swept(1, work, plus_out=plus_out))).truing(1, 1).standing
        assert view is not None
        (move,) = view.moves
        told[plus_out] = (move.slacken, move.tighten, view.reading_before_mm(move), view.reading_after_mm(move))
    assert told[False][:2] == told[True][:2]
    assert told[True][2:] == tuple(-(one or 0.0) for one in told[False][2:])


def test_a_mirrored_sign_tells_the_opposite_move() -> None:
    """The trap that the question is for: read with the wrong sign the work is sent twice as far off."""
    work = SimulatedWork(off_mm=(0.1, 0.0))
    right = assessed(record(swept(1, work))).truing(1, 1).standing
    wrong = assessed(record(replace(swept(1, work), plus_out=True))).truing(1, 1).standing
    assert right is not None
    assert wrong is not None
    assert (right.moves[0].slacken, right.moves[0].tighten) == (wrong.moves[0].tighten, wrong.moves[0].slacken)


@pytest.mark.parametrize(
    ("how", "values", "off"),
    [
        ("eye", {"within_mm": 0.5}, 0.5), ("plug", {"clearance_mm": 0.02}, 0.01), ("plug", {"clearance_mm": 0.0}, 0.0),
        ("coaxial", {"swing_mm": 0.012}, 0.006),
        ("edge", {"left_mm": -36.0, "right_mm": 36.0, "front_mm": 10.0, "back_mm": 82.0, "sure_mm": 0.01},
         0.01 * 2**0.5),
    ],
)  # fmt: skip
def test_what_a_centring_proves(how: str, values: dict[str, float], off: float) -> None:
    found = centring(how, values)
    assert found.bound_mm == pytest.approx(off)
    if how == "edge":
        assert found.middle_mm == (0.0, 46.0)
        assert (found.across_mm, found.along_mm) == (72.0, 72.0)


@pytest.mark.parametrize(
    ("how", "values"),
    [
        ("eye", {"within_mm": 0.0}), ("plug", {"clearance_mm": -0.1}), ("coaxial", {"swing_mm": float("nan")}),
        ("magic", {}), ("edge", {"left_mm": 1.0, "right_mm": 1.0, "front_mm": 0.0, "back_mm": 2.0, "sure_mm": 0.01}),
    ],
)  # fmt: skip
def test_what_cannot_be_is_refused(how: str, values: dict[str, float]) -> None:
    with pytest.raises(InvalidInput):
        centring(how, values)


def test_a_plug_closes_the_step_an_eye_does_not() -> None:
    limit = assessed(record()).truing(1, 1).limit_mm
    plug = assessed(record(bound(1, "plug", limit / 2))).truing(1, 1)
    assert plug.within
    eye = assessed(record(bound(1, "eye", limit))).truing(1, 1)
    assert not eye.within
    assert eye.standing is not None, "it stands in the log all the same"
    # a sweep after it counts, and what it was before says nothing any more once it is centred anew
    bad = swept(2, SimulatedWork(off_mm=(0.4, 0.0)))
    assert not assessed(record(bound(1, "plug", 0.0), bad)).truing(1, 1).within
    assert assessed(record(swept(1, SimulatedWork(off_mm=(0.4, 0.0))), bound(2, "plug", 0.0))).truing(1, 1).within
    knocked = assessed(record(bound(1, "plug", 0.0), between=(after(1),))).truing(1, 1)
    assert not knocked.within
    assert knocked.standing is None


def test_a_disturbance_lists_what_must_be_read_again() -> None:
    true = SimulatedWork()
    planes = (swept(1, true, plane_mm=105.0), swept(2, true, plane_mm=12.0))
    found = reopened_of(record(*planes, between=(after(2, how="welded"),)), 1, 1)
    assert found is not None
    assert found.planes_mm == (12.0, 105.0)
    assert (found.how, found.walls, found.tool) == ("welded", False, False)
    assert reopened_of(record(*planes), 1, 1) is None
    assert reopened_of(record(*planes, swept(3, true), between=(after(2, how="welded"),)), 1, 1) is None
    knocked = reopened_of(record(swept(1, true), between=(after(1, how="knocked"),)), 1, 1)
    assert knocked is not None
    assert (knocked.planes_mm, knocked.tool, knocked.sizes) == ((None,), True, False)

"""A face set true by its own swing: hidden leans, swept, come level by the lifts that are told."""

from __future__ import annotations

from math import cos, radians, sin
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gyroplan.assess import level_of
from gyroplan.record import JobRecord, ReadingRecord, RoundRecord
from tests.plan.shop import assessed, job

LEAN = st.floats(-3, 3)


def face_job(values: list[float], **plan: Any) -> JobRecord:
    readings = [ReadingRecord(key=n, place=n, value_mm=value) for n, value in enumerate([*values, values[0]])]
    one = RoundRecord(key=1, number=1, purpose="true", method="sweep", places=8, surface="face", bore=None, piece=1,
                      indicator_step_mm=0.001, readings=tuple(readings))  # fmt: skip
    return job(rounds=(one,), plan={"face_read_mm": 120.0, "supports_mm": 200.0, **plan}, setup={"reference": "face"})


def read(tilt_x: float, tilt_y: float, form: float = 0.0) -> list[float]:
    """Eight readings on a circle of 120: nearer where the face is higher, with a saddle that no support cures."""
    return [60 / 1000 * (tilt_x * cos(radians(45 * n)) + tilt_y * sin(radians(45 * n))) + form * cos(radians(90 * n))
            for n in range(8)]  # fmt: skip


@settings(deadline=None, max_examples=40)
@given(LEAN, LEAN, st.floats(0, 0.05))
def test_lifts_as_told_make_any_lean_level(tilt_x: float, tilt_y: float, form: float) -> None:
    record = face_job(read(tilt_x, tilt_y, form))
    found = level_of(assessed(record), 1)
    assert found is not None
    lifts = {one.name: one.lift_mm for one in found.lifts}
    assert min(lifts.values()) == pytest.approx(0, abs=1e-9), "shims only add"
    angles = record.setup.way.places_deg
    # the plane through the lifted supports leans as much the other way
    for name, lift in lifts.items():
        x, y = 100 * cos(radians(angles[name])), 100 * sin(radians(angles[name]))
        opposite = next(other for other, at in angles.items() if abs((at - angles[name]) % 360 - 180) < 1e-9)
        slope = lift - lifts[opposite]
        assert slope == pytest.approx(-2 * (tilt_x * x + tilt_y * y) / 1000, abs=1e-9)
    assert found.tilt_mm_m == pytest.approx((tilt_x**2 + tilt_y**2) ** 0.5, abs=1e-9)


def test_what_is_the_face_s_own_form_is_not_lean() -> None:
    found = level_of(assessed(face_job(read(0.0, 0.0, 0.05))), 1)
    assert found is not None
    assert found.within
    assert found.swing_mm == pytest.approx(0.1)
    assert all(one.lift_mm == pytest.approx(0, abs=1e-9) for one in found.lifts)


def test_without_its_circles_or_set_true_otherwise_nothing_is_told() -> None:
    assert level_of(assessed(face_job(read(1, 0), face_read_mm=None)), 1) is None
    record = face_job(read(1, 0))
    other = job(rounds=record.rounds, plan={"face_read_mm": 120.0, "supports_mm": 200.0})
    assert level_of(assessed(other), 1) is None

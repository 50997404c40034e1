"""A round taken apart: offset, oval and rest add up to what was read, whatever was read."""

from __future__ import annotations

from dataclasses import replace
from math import cos, radians, sin

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyroplan.assess import RoundStanding, oval_of, parts_of
from gyroplan.record import ReadingRecord, RoundRecord
from gyroplan.rounds import TrueWork
from gyroplan.rounds.figures import figures_of
from tests.plan.shop import job

ANGLES = [45.0 * n for n in range(8)]


def swept(surface: str, values: list[float | None]) -> RoundStanding:
    """A closed round of eight places of one surface."""
    read = tuple(
        ReadingRecord(key=place, place=place, value_mm=value) for place, value in enumerate(values)
    )  # fmt: skip
    record = RoundRecord(
        key=1, number=1, purpose="true", method="sweep", places=8, surface=surface, bore=None, piece=1,  # type: ignore[arg-type]
        indicator_step_mm=0.001, readings=read,
    )  # fmt: skip
    known = [(a, v) for a, v in zip(ANGLES, values, strict=True) if v is not None]
    work = TrueWork(surface=surface, limit_mm=0.05, indicator_step_mm=0.001)  # type: ignore[arg-type]
    found = figures_of(work, [a for a, _ in known], [v for _, v in known])
    return RoundStanding(round=record, limit_mm=0.05, way=job().setup.way, figures=found, validity="closed", holds=True)


@pytest.mark.parametrize("surface", ["outside", "inside"])
def test_a_known_surface_is_told_apart(surface: str) -> None:
    sign = 1 if surface == "outside" else -1
    # off by 0.020 to 0 and 0.010 to 90 degrees, 0.008 of oval standing out at 45
    values = [sign * (0.020 * cos(radians(a)) + 0.010 * sin(radians(a)) + 0.008 * cos(2 * radians(a - 45)))
              for a in ANGLES]  # fmt: skip
    found = parts_of(swept(surface, list(values)))
    assert found is not None
    assert found.offset_mm == pytest.approx((0.020, 0.010))
    assert found.oval_mm == pytest.approx(0.008)
    assert found.wide_deg == pytest.approx(45)
    assert found.oval_swing_mm == pytest.approx(0.016)
    assert found.rest_swing_mm == pytest.approx(0, abs=1e-9)


@given(values=st.lists(st.floats(-0.2, 0.2), min_size=8, max_size=8), inside=st.booleans())
def test_the_parts_add_up_to_what_was_read(values: list[float], inside: bool) -> None:
    found = parts_of(swept("inside" if inside else "outside", list(values)))
    assert found is not None
    for angle, out in zip(found.angles_deg, found.outward_mm, strict=True):
        assert found.outward_at_mm(angle) == pytest.approx(out, abs=1e-9)
    assert sum(found.rest_mm) == pytest.approx(0, abs=1e-9)
    turned = found.outward_mm[2] - found.outward_mm[5]
    assert turned == pytest.approx((-1 if inside else 1) * (values[2] - values[5]), abs=1e-9)


def test_its_oval_is_the_one_that_the_cut_is_told_of() -> None:
    view = swept("inside", [-0.008 * cos(2 * radians(a - 45)) for a in ANGLES])
    parts, oval = parts_of(view), oval_of(view, 70.0)
    assert parts is not None
    assert oval is not None
    assert oval.differs_mm == pytest.approx(2 * parts.oval_swing_mm)
    assert oval.wide_deg == pytest.approx(parts.wide_deg)


def test_a_blocked_place_is_left_out_and_too_few_tell_nothing() -> None:
    known: list[float | None] = [0.01 * cos(radians(a)) for a in ANGLES]
    found = parts_of(swept("outside", [*known[:3], None, *known[4:]]))
    assert found is not None
    assert len(found.angles_deg) == 7
    assert parts_of(swept("outside", [known[0], known[1], None, known[3], None, known[5], None, known[7]])) is None
    assert parts_of(None) is None
    view = swept("outside", known)
    assert parts_of(replace(view, round=replace(view.round, method="flats"))) is None
    assert parts_of(replace(view, figures=None)) is None

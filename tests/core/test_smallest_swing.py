"""A coaxial indicator: the least of its swings against a search by brute force, and laws of it."""

from __future__ import annotations

from math import hypot, inf, nan

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrocore import InvalidInput, smallest_swing


def swing(x: float, x0: float, y: float, times: float = 1.0) -> float:
    """What it shows at x: the distance of the hole's centre, both ways."""
    return 2 * times * hypot(x - x0, y)


PLACES = st.floats(-1, 1)


@given(x0=PLACES, y=PLACES, first=PLACES, apart=st.floats(0.05, 1))
def test_two_positions_tell_the_least(x0: float, y: float, first: float, apart: float) -> None:
    at = [first, first + apart]
    found = smallest_swing(at_mm=at, swings_mm=[swing(x, x0, y) for x in at])
    assert found.at_mm == pytest.approx(x0, abs=1e-6)
    assert found.swing_mm == pytest.approx(2 * abs(y), abs=1e-3)
    assert found.shown_times == 1
    assert bool(found.notes) is not (min(at) <= found.at_mm <= max(at))


@given(x0=PLACES, y=PLACES, times=st.floats(0.3, 12), apart=st.floats(0.1, 1))
def test_three_positions_tell_how_much_the_indicator_magnifies_too(
    x0: float, y: float, times: float, apart: float
) -> None:
    at = [-apart, 0.1 * apart, apart]
    found = smallest_swing(at_mm=at, swings_mm=[swing(x, x0, y, times) for x in at])
    assert found.at_mm == pytest.approx(x0, abs=1e-5)
    assert found.shown_times == pytest.approx(times, rel=1e-4)
    assert found.swing_mm == pytest.approx(swing(x0, x0, y, times), abs=3e-3 * times)


def test_as_a_search_by_brute_force_finds_it() -> None:
    at = [0.0, 0.1, 0.2, 0.3]
    found = smallest_swing(at_mm=at, swings_mm=[swing(x, 0.137, 0.04) for x in at])
    best = min((swing(n / 10_000, 0.137, 0.04), n / 10_000) for n in range(3001))
    assert (found.swing_mm, found.at_mm) == (pytest.approx(best[0], abs=1e-6), pytest.approx(best[1], abs=1e-4))
    assert not found.notes


def test_wound_there_nothing_is_left_but_the_other_axis() -> None:
    at = [-0.5, 0.0, 0.5]
    found = smallest_swing(at_mm=at, swings_mm=[swing(x, 0.2, 0.0) for x in at])
    assert found.swing_mm == pytest.approx(0, abs=1e-6)


@pytest.mark.parametrize(
    ("at", "swings", "field", "code"),
    [
        ([0.1], [0.2], "at_mm", "two_positions"),
        ([0.1, 0.1], [0.2, 0.2], "at_mm", "two_positions"),
        ([0.1, 0.1 + 1e-12], [0.2, 0.2], "at_mm", "two_positions"),
        ([0, 0.1], [0.2], "swings_mm", "unlike_lengths"),
        ([0, 0.1, 0.2], [0.1, 0.3, 0.1], "swings_mm", "no_least_swing"),
        ([0, nan], [0.1, 0.3], "at_mm.1", "not_finite"),
        ([0, 1], [0.1, inf], "swings_mm.1", "not_finite"),
        ([0, 1], [0.1, -0.3], "swings_mm.1", "negative"),
    ],
)
def test_what_cannot_be_is_refused_at_its_field(at: list[float], swings: list[float], field: str, code: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        smallest_swing(at_mm=at, swings_mm=swings)
    assert (refused.value.field, refused.value.code) == (field, code)

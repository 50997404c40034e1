"""No calculation answers nonsense: what cannot be is refused by name, and none hangs."""

from math import inf, nan

import pytest

import gyrocore
from gyrocore import InvalidInput, TunedPoint, judge_at_most, passes_until_round, tuning, unit_slip


@pytest.mark.parametrize("value", [nan, inf, -inf])
@pytest.mark.parametrize("name", ["feet_min", "second_moment_mm4"])
def test_a_number_that_is_none_is_refused(name: str, value: float) -> None:
    with pytest.raises(InvalidInput):
        getattr(gyrocore, name)(value)


@pytest.mark.parametrize("diameter", [1e300, 1e-300, -1])
def test_no_power_overflows(diameter: float) -> None:
    with pytest.raises(InvalidInput) as refused:
        gyrocore.second_moment_mm4(diameter)
    assert refused.value.field == "diameter_mm"
    with pytest.raises(InvalidInput):
        gyrocore.middle_stiffness_n_mm(1e9, diameter)


@pytest.mark.parametrize("band", [nan, inf, 0, -1])
def test_a_band_is_over_nothing(band: float) -> None:
    with pytest.raises(InvalidInput):
        unit_slip(value_mm=2.83, expected_mm=72, band=band)


def test_a_rule_is_guarded_or_simple() -> None:
    with pytest.raises(InvalidInput) as refused:
        judge_at_most(found_mm=1, allowed_mm=2, rule="gaurded")
    assert (refused.value.field, refused.value.code) == ("rule", "not_a_rule")


@pytest.mark.parametrize(
    ("ratio", "runout", "allowed", "count"),
    [(0.1, 0.6, 0.02, 2), (0.5, 1, 0.25, 2), (0.5, 1, 0.26, 2), (0.9, 0.02, 0.02, 1), (0.5, 1, 0.125, 3)],
)
def test_passes_until_round_by_the_law(ratio: float, runout: float, allowed: float, count: int) -> None:
    assert passes_until_round(ratio=ratio, runout_mm=runout, allowed_mm=allowed) == count
    assert runout * ratio**count <= allowed < runout * ratio ** (count - 1) or count == 1


def test_a_bore_that_never_gets_round_is_said_at_once() -> None:
    with pytest.raises(InvalidInput) as refused:
        passes_until_round(ratio=1 - 1e-12, runout_mm=1, allowed_mm=1e-9)
    assert refused.value.code == "never_round"


def test_of_two_points_of_a_table_the_nearer_answers() -> None:
    points = [TunedPoint(overhang_mm=400, turns=2), TunedPoint(overhang_mm=400.8, turns=3)]
    assert tuning(points=points, overhang_mm=400.7).turns == 3
    assert tuning(points=points, overhang_mm=400.1).turns == 2

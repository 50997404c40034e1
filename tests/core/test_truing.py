"""Truing: a simulated work that lies off centre and is out of round is found again."""

from math import cos, hypot, radians, sin

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gyrocore import (
    FlatPair,
    InvalidInput,
    close_round,
    closing_allowance_mm,
    four_jaw_flats,
    reading_after_move_mm,
    sweep,
)

JAWS = {"1": 0.0, "2": 90.0, "3": 180.0, "4": 270.0}


def simulate(angles: list[float], surface: str, x: float, y: float, lobes: dict[int, tuple[float, float]],
             diameter: float = 72.0) -> list[float]:  # fmt: skip
    """What an indicator reads round a work whose centre lies at (x, y), with lobes of shape."""
    readings = []
    for angle in angles:
        t = radians(angle)
        toward = x * cos(t) + y * sin(t)
        across = -x * sin(t) + y * cos(t)
        wall = toward + (diameter**2 / 4 - across**2) ** 0.5 - diameter / 2
        wall += sum(size * cos(n * (t - radians(at))) for n, (size, at) in lobes.items())
        readings.append(wall if surface == "outside" else -wall)
    return readings


@settings(deadline=None)
@given(st.sampled_from(["outside", "inside"]), st.floats(-0.5, 0.5), st.floats(-0.5, 0.5), st.sampled_from([8, 12]))
def test_finds_the_centre_of_a_simulated_work(surface: str, x: float, y: float, places: int) -> None:
    angles = [360 * n / places for n in range(places)]
    found = sweep(angles_deg=angles, readings_mm=simulate(angles, surface, x, y, {2: (0.01, 20)}), surface=surface,
                  diameter_mm=72)  # fmt: skip
    assert (found.offset_x_mm, found.offset_y_mm) == pytest.approx((x, y), abs=2e-5)
    assert found.form[0].amplitude_mm == pytest.approx(0.01, abs=2e-5)


def test_moves_bring_the_work_to_the_axis() -> None:
    angles = [45.0 * n for n in range(8)]
    x, y = 0.027, -0.013
    for surface in ("outside", "inside"):
        found = sweep(angles_deg=angles, readings_mm=simulate(angles, surface, x, y, {}), surface=surface,
                      jaws_deg=JAWS)  # fmt: skip
        for move in found.moves:
            away = radians(JAWS[move.slacken])
            x_after = x + move.by_mm * cos(away) if move.slacken in "13" else x
            y_after = y + move.by_mm * sin(away) if move.slacken in "24" else y
            assert min(abs(x_after), abs(y_after)) < 1e-5
        assert {move.tighten for move in found.moves} == {"1", "4"}


def test_false_oval_of_a_round_work_off_centre() -> None:
    angles = [30.0 * n for n in range(12)]
    readings = simulate(angles, "inside", 0.8, 0.3, {}, diameter=20)
    plain = sweep(angles_deg=angles, readings_mm=readings, surface="inside")
    told = sweep(angles_deg=angles, readings_mm=readings, surface="inside", diameter_mm=20)
    assert plain.form[0].amplitude_mm == pytest.approx(hypot(0.8, 0.3) ** 2 / 40, rel=1e-2)
    assert told.form[0].amplitude_mm < 0.03 * plain.form[0].amplitude_mm
    assert told.expected_total_after_mm < 0.1 * plain.expected_total_after_mm


def test_shape_is_told_from_place_and_the_half_rule_overshoots() -> None:
    angles = [45.0 * n for n in range(8)]
    found = sweep(angles_deg=angles, readings_mm=simulate(angles, "outside", 0.02, 0, {2: (0.03, 0)}),
                  surface="outside", acceptance_mm=0.02)  # fmt: skip
    assert found.eccentricity_mm == pytest.approx(0.02, abs=1e-5)
    codes = [note.code for note in found.notes]
    assert "half_rule_overshoots" in codes
    assert "shape_over_limit" in codes
    assert found.expected_total_after_mm == pytest.approx(0.06, abs=1e-4)


def test_gaps_are_skipped_and_said() -> None:
    angles = [0.0, 30, 60, 90, 120, 150, 180, 200]
    found = sweep(angles_deg=angles, readings_mm=simulate(angles, "inside", 0.05, 0.02, {}), surface="inside")
    assert (found.offset_x_mm, found.offset_y_mm) == pytest.approx((0.05, 0.02), abs=1e-3)
    assert "gap_in_sweep" in [note.code for note in found.notes]


def test_short_arcs_drop_orders_until_the_centre_is_known() -> None:
    angles = [float(a) for a in range(0, 100, 10)]
    found = sweep(angles_deg=angles, readings_mm=[0.0] * 10, surface="outside")
    assert found.form == ()
    assert "short_arc_order" in [note.code for note in found.notes]


def test_scatter_of_the_centre_against_simulation() -> None:
    """eccentricity_sd is what repeated sweeps with noise really scatter by."""
    rng = np.random.default_rng(3)
    angles = [30.0 * n for n in range(12)]
    truth = np.array(simulate(angles, "outside", 0.3, 0.1, {}))
    runs = [sweep(angles_deg=angles, readings_mm=list(truth + rng.normal(0, 0.004, 12)), surface="outside")
            for _ in range(300)]  # fmt: skip
    seen = float(np.std([run.eccentricity_mm for run in runs]))
    said = float(np.sqrt(np.mean([(run.eccentricity_sd_mm or 0) ** 2 for run in runs])))
    assert said == pytest.approx(seen, rel=0.15)


@pytest.mark.parametrize(
    ("angles", "readings", "field", "code"),
    [
        ([0, 180], [0, 1], "angles_deg", "under_three_places"),
        ([0, 0.4, 180], [0, 0, 1], "angles_deg", "under_three_places"),
        ([0, 120, 359.8], [0, 0, 1], "angles_deg", "under_three_places"),
        ([350, 10, 50], [0, 0, 1], "angles_deg", "short_arc"),
        ([0, 120, 240], [0, 1], "readings_mm", "unlike_lengths"),
    ],
)
def test_sweeps_that_cannot_tell(angles: list[float], readings: list[float], field: str, code: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        sweep(angles_deg=angles, readings_mm=readings, surface="outside")
    assert (refused.value.field, refused.value.code) == (field, code)


def test_three_places_have_no_scatter_to_show() -> None:
    found = sweep(angles_deg=[0, 120, 240], readings_mm=[0.01, 0, 0], surface="outside")
    assert found.residual_sd_mm is None
    assert found.eccentricity_sd_mm is None


@pytest.mark.parametrize(("surface", "tighten"), [("outside", "1"), ("inside", "3")])
def test_flats_move_half_the_difference(surface: str, tighten: str) -> None:
    found = four_jaw_flats(
        pairs=[FlatPair(jaws=("1", "3"), readings_mm=(0.1, 0.04)), FlatPair(jaws=("2", "4"), readings_mm=(0.2, 0.2))],
        acceptance_mm=0.02, surface=surface,
    )  # fmt: skip
    first, second = found.pairs
    assert (first.tighten, first.by_mm, first.within) == (tighten, pytest.approx(0.03), False)
    assert (second.tighten, second.slacken, second.within) == (None, None, True)
    assert not found.within


def test_repeated_jaws_are_refused() -> None:
    with pytest.raises(InvalidInput) as refused:
        four_jaw_flats(pairs=[FlatPair(jaws=("1", "1"), readings_mm=(0, 0))], acceptance_mm=0.02)
    assert refused.value.field == "pairs.0.jaws.1"


@pytest.mark.parametrize(("again", "holds"), [(0.002, True), (-0.002, True), (0.0021, False)])
def test_a_round_that_does_not_come_back_is_void(again: float, holds: bool) -> None:
    allowed = closing_allowance_mm(indicator_step_mm=0.001, limit_mm=0.02)
    assert close_round(first_mm=0, first_again_mm=again, allowed_mm=allowed).holds is holds


@given(st.sampled_from(["outside", "inside"]), st.floats(-0.3, 0.3))
def test_reading_after_the_move(surface: str, off: float) -> None:
    before = simulate([0.0], surface, off, 0, {})[0]
    after = simulate([0.0], surface, 0, 0, {})[0]
    assert reading_after_move_mm(reading_mm=before, surface=surface, offset_toward_mm=off) == pytest.approx(
        after, abs=1e-9
    )

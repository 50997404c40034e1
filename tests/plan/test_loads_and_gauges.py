"""What a pass may spring, and what a reading is worth: the rules that nothing else would miss."""

from __future__ import annotations

import pytest

from gyrocore import Cut, Pass
from gyroplan import Expansions, Gauge, SizeTaken, believed_size
from gyroplan.plan import loads_of


def _pass(number: int, kind: str, depth: float, *, measured: bool = False) -> Pass:
    return Pass(number=number, kind=kind, depth_mm=depth, diameter_mm=70.0, measure_after=measured)


def _cut(one: Pass) -> Cut:
    return Cut(kc11_mpa=1150.0, mc=0.25, depth_mm=one.depth_mm, feed_mm_rev=0.1)


def _budgets(*passes: Pass, own: float | None = None) -> list[tuple[str, float]]:
    return [(one.budget_from, pytest.approx(one.budget_mm)) for one in loads_of(passes, _cut, 0.03, own)]


def test_a_rough_pass_may_spring_a_quarter_of_the_next_and_the_last_a_quarter_of_the_tolerance() -> None:
    found = _budgets(_pass(1, "rough", 0.8), _pass(2, "rough", 0.4), _pass(3, "finish", 0.2))

    assert found == [("next", 0.1), ("next", 0.05), ("tolerance", 0.0075)]


def test_a_finish_pass_after_one_alike_that_was_measured_may_spring_six_tenths() -> None:
    found = _budgets(_pass(1, "finish", 0.2, measured=True), _pass(2, "finish", 0.18))

    assert found == [("next", 0.045), ("alike", 0.018)]


def test_a_deeper_or_unmeasured_pass_before_it_says_nothing_of_the_last() -> None:
    deeper = _budgets(_pass(1, "finish", 0.4, measured=True), _pass(2, "finish", 0.2))
    unmeasured = _budgets(_pass(1, "finish", 0.2), _pass(2, "finish", 0.2))

    assert [deeper[-1], unmeasured[-1]] == [("tolerance", 0.0075)] * 2


def test_the_shops_own_figure_stands_for_finish_passes_only() -> None:
    found = _budgets(_pass(1, "rough", 0.8), _pass(2, "finish", 0.2), own=0.004)

    assert found == [("next", 0.05), ("own", 0.004)]


def test_spring_passes_are_no_load() -> None:
    assert len(loads_of([_pass(1, "finish", 0.2), _pass(2, "spring", 0.0)], _cut, 0.03)) == 1


def test_a_reading_is_corrected_by_its_gauge_before_the_temperature_is_taken_out() -> None:
    gauge = Gauge(name="B", resolution_mm=0.001, correction_mm=50.0, single_sd_mm=0.0)
    taken = SizeTaken(gauge="B", readings_mm=[50.0], part_temp_c=120.0, instrument_temp_c=20.0)

    found = believed_size([taken], [gauge], Expansions(part_um_m_k=10.0, instrument_um_m_k=10.0))

    # A gauge that reads 50 short on a bore of 100 that is 100 K warm: both its reading and its error have grown.
    assert found.value_mm == pytest.approx(100.0 / (1 + 10e-6 * 100.0), abs=1e-3)
    assert found.value_mm == pytest.approx(99.9, abs=2e-3)

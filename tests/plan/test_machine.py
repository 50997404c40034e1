"""The machine itself: figures of its checks, their run over the years, what a bore gets of them by which part turns."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyroplan.machine import KINDS, Checked, effects_of, health_of, kinds_of, limited_mm, spindle_of

SPINDLE = {
    "near_mm": 40.0,
    "near_tir_mm": 0.005,
    "near_deg": 62.0,
    "far_mm": 300.0,
    "far_tir_mm": 0.017,
    "far_deg": 101.0,
}
TODAY = date(2026, 11, 28)


def test_each_machine_is_asked_what_it_has() -> None:
    assert [one.key for one in kinds_of("lathe")] == ["spindle", "play", "centre", "tailstock", "slope"]
    assert [one.key for one in kinds_of("mill")] == ["spindle", "play", "tram"]
    assert [one.key for one in kinds_of("portable")] == ["play", "wear"]
    assert all(one.asked and one.how for one in KINDS.values())


@pytest.mark.parametrize(
    ("kind", "values", "figure"),
    [
        ("spindle", SPINDLE, 0.017),
        ("play", {"push_mm": 0.004, "pull_mm": -0.003}, 0.007),
        ("centre", {"swing_mm": 0.012}, 0.012),
        ("tailstock", {"off_mm": -0.012, "over_mm": 300.0}, 0.012),
        ("slope", {"rise_mm": -0.02, "over_mm": 400.0}, 0.05),
        ("tram", {"across_mm": 0.03, "along_mm": -0.04, "circle_mm": 200.0}, 0.25),
        ("wear", {"worn_mm": 0.08}, 0.08),
    ],
)
def test_the_figure_that_is_limited(kind: str, values: dict[str, float], figure: float) -> None:
    assert limited_mm(kind, values) == pytest.approx(figure)


def told(kind: str, values: dict[str, float], **more: Any) -> tuple[str, float | None]:
    asked = {"bar_turns": True, "tool_mm": 235.0, "bore_mm": 100.0, **more}
    found = effects_of(kind, values, **asked)
    return found.says.code, found.figure_mm


def test_a_spindle_that_runs_out_shows_only_where_the_bar_turns() -> None:
    at_tool = spindle_of(SPINDLE, 235.0).total_reading_at_tool_mm
    assert told("spindle", SPINDLE) == ("spindle_bar_turns", at_tool)
    assert at_tool == pytest.approx(0.0135, abs=0.0005)
    assert told("spindle", SPINDLE, bar_turns=False) == ("spindle_work_turns", None)


def test_a_path_not_parallel_tapers_twice_or_leans() -> None:
    slope = {"rise_mm": 0.02, "over_mm": 400.0}  # 0.05 over a metre
    assert told("slope", slope, bar_turns=False) == ("path_tapers", pytest.approx(2 * 0.05 * 0.1))
    assert told("slope", slope) == ("path_leans", pytest.approx(0.05 * 0.1))
    assert told("tram", {"across_mm": 0.01, "along_mm": 0.0, "circle_mm": 200.0}) == (
        "path_leans",
        pytest.approx(0.005),
    )


def test_between_centres_and_play() -> None:
    off = {"off_mm": 0.012, "over_mm": 300.0}
    # twice the offset over the length between centres, for the length of the bore
    assert told("tailstock", off, bar_turns=False) == ("tailstock_tapers", pytest.approx(2 * 0.012 / 300 * 100))
    assert told("tailstock", off, centres_mm=600.0)[1] == pytest.approx(2 * 0.012 / 600 * 100)
    assert told("centre", {"swing_mm": 0.012}) == ("centre_runs_out", pytest.approx(0.006))
    play = {"push_mm": 0.004, "pull_mm": -0.003}
    assert told("play", play) == ("play_bar_turns", pytest.approx(0.007))
    assert told("play", play, bar_turns=False) == ("play_work_turns", pytest.approx(0.007))
    assert told("wear", {"worn_mm": 0.08}) == ("guides_worn", 0.08)


def at(days_ago: int, value: float | None, changed: str = "") -> Checked:
    return Checked(day=TODAY - timedelta(days=days_ago), value_mm=value, changed=changed)


def test_states_of_a_check() -> None:
    def state(*entries: Checked, limit: float | None = 0.02) -> str:
        return health_of(entries, limit, 180, TODAY).state

    assert state() == "none"
    assert state(at(10, 0.02)) == "in"
    assert state(at(10, 0.0201)) == "over"
    assert state(at(10, 9.0), limit=None) == "in"
    assert state(at(167, 0.01)) == "soon"
    assert state(at(180, 0.01)) == "soon"
    assert state(at(181, 0.01)) == "late"
    assert state(at(10, 0.01), at(5, None, "knocked")) == "changed"
    assert state(at(10, 0.01), at(5, None, "knocked"), at(1, 0.01)) == "in"


def test_the_forecast_uses_what_came_after_the_change() -> None:
    before = (at(900, 0.001), at(720, 0.010), at(560, 0.019), at(545, None, "set"))
    # 0.001 each 100 days since: at 0.013 today, 0.020 in 700 days
    after = tuple(at(days, 0.010 + (300 - days) * 0.001 / 100) for days in (300, 200, 100, 0))
    found = health_of(before + after, 0.020, 180, TODAY)
    assert found.since == TODAY - timedelta(days=300)
    assert found.reaches == TODAY + timedelta(days=700)
    assert health_of(before + after[:2], 0.020, 180, TODAY).reaches is None, "two checks are no run"
    assert health_of(after, None, 180, TODAY).reaches is None
    falling = tuple(at(days, 0.010 + days * 1e-5) for days in (300, 200, 100))
    assert health_of(falling, 0.02, 180, TODAY).reaches is None
    same_day = tuple(at(5, value) for value in (0.01, 0.011, 0.012))
    assert health_of(same_day, 0.02, 180, TODAY).reaches is None
    slow = tuple(at(days, 0.010 - days * 1e-9) for days in (300, 200, 100))
    assert health_of(slow, 0.02, 180, TODAY).reaches is None, "farther off than ten years is no forecast"


@given(st.lists(st.tuples(st.integers(0, 4000), st.floats(0, 1)), max_size=12), st.floats(0.001, 1))
def test_a_forecast_never_lies_before_the_last_check(rows: list[tuple[int, float]], limit: float) -> None:
    entries = [at(days, value) for days, value in sorted(rows, reverse=True)]
    found = health_of(entries, limit, 180, TODAY)
    if found.reaches is not None and found.last is not None:
        assert found.last.day <= found.reaches <= found.last.day + timedelta(days=3651)

"""Lines of gauges, read strictly; simulated work reads as the core's own sweep takes it apart."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrocore import sweep
from gyrolink.lines import Line, read_line
from gyrolink.simulated import SimulatedIndicator, made_work
from gyroplan.needle import STILL_S, Watched, live_needle
from gyroplan.simulated import SimulatedWork

PLACES = [45.0 * place for place in range(8)]


@pytest.mark.parametrize(
    ("text", "unit", "value", "pressed"),
    [
        ("+0.0123", "mm", 0.0123, False), ("-12 um", "mm", -0.012, False), ("12", "um", 0.012, False),
        ("A1: 0.0005 in", "mm", 0.0127, False), ("01A+0.5", "mm", None, None), ("A+0012.345 mm", "mm", None, None),
        ("0,015 mm press", "mm", 0.015, True), ("press", "mm", None, True), ("PRESS\r\n", "mm", None, True),
        ("", "mm", None, None), ("--3", "mm", None, None), ("1e9", "mm", None, None), ("nan", "mm", None, None),
        ("99999", "mm", None, None), ("0.1 ft", "mm", None, None), ("press press", "mm", None, None),
    ],
)  # fmt: skip
def test_lines(text: str, unit: str, value: float | None, pressed: bool | None) -> None:
    found = read_line(text, unit)
    if pressed is None:
        assert found is None
        return
    assert found is not None
    assert found.pressed is pressed
    assert found.value_mm == (None if value is None else pytest.approx(value))


@given(st.text(max_size=40))
def test_no_line_breaks_it(text: str) -> None:
    found = read_line(text, "mm")
    assert found is None or found == Line(None, True) or abs(found.value_mm or 0) <= 1000


@given(
    st.floats(-0.5, 0.5), st.floats(-0.5, 0.5), st.floats(0, 0.02), st.floats(0, 180), st.booleans(), st.floats(0, 200)
)
def test_the_sweep_finds_what_the_work_hides(
    x: float, y: float, oval: float, at: float, inside: bool, z: float
) -> None:
    work = SimulatedWork(off_mm=(x, y), lean=(0.0004, -0.0002), oval_mm=oval, oval_deg=at, inside=inside)
    readings = [work.reading_mm(place, z) for place in PLACES]
    found = sweep(angles_deg=PLACES, readings_mm=[one for one in readings if one is not None],
                  surface="inside" if inside else "outside")  # fmt: skip
    assert (found.offset_x_mm, found.offset_y_mm) == pytest.approx(work.axis_at(z), abs=1e-9)
    form = {one.order: one.amplitude_mm for one in found.form}
    assert form[2] == pytest.approx(oval, abs=1e-9)


def test_a_tap_leaves_the_depth_it_turns_about() -> None:
    work = SimulatedWork(off_mm=(0.1, 0.0)).tapped(0.03, -0.02, at_mm=20, about_mm=120)
    assert work.axis_at(120) == pytest.approx((0.1, 0.0))
    assert work.axis_at(20) == pytest.approx((0.13, -0.02))
    assert work.toward("2", 0.05).axis_at(120) == pytest.approx((0.1, 0.05))


def test_a_stylus_falls_into_a_port() -> None:
    work = SimulatedWork(blocked_deg=(90.0,))
    assert work.reading_mm(85.0) is None
    assert work.reading_mm(101.0) == 0


def test_the_needle_follows_and_settles_on_the_work() -> None:
    tool = SimulatedIndicator(made_work(7), noise_mm=0.0)
    assert tool.obey("turn 90")
    first = tool.step(0.02)
    for _ in range(200):
        tool.step(0.02)
    assert not tool.turns
    assert tool.step(0.02) == pytest.approx(made_work(7).reading_mm(90.0), abs=1e-6)
    assert first == pytest.approx(made_work(7).reading_mm(0.0), abs=0.02)
    assert [tool.obey(words) for words in ("jaw 9 1", "turn", "to x", "", "hello", "jaw 1 0.02", "plane 30")] == [
        False, False, False, False, False, True, True,
    ]  # fmt: skip


def seen(newest: float, low: float, high: float, **more: float) -> Watched:
    given = {"count": 12, "newest_age_s": 0.05, "oldest_age_s": STILL_S, "mean_mm": (low + high) / 2, **more}
    return Watched(newest_mm=newest, least_mm=low, greatest_mm=high, **given)  # type: ignore[arg-type]


def test_a_needle_is_read_once_where_it_stands_still() -> None:
    still = live_needle(seen(0.101, 0.100, 0.102), 0.001, None)
    assert still.is_still
    assert still.has_moved
    assert still.value_mm == pytest.approx(0.101)
    again = live_needle(seen(0.101, 0.100, 0.102), 0.001, 0.101)
    assert again.is_still
    assert not again.has_moved, "the same stand is not read by itself twice"
    assert live_needle(seen(0.101, 0.100, 0.102), 0.001, 0.101, had_moved=True).has_moved, "it went round and came back"
    moving = live_needle(seen(0.130, 0.101, 0.130), 0.001, 0.101)
    assert not moving.is_still
    assert moving.has_moved
    assert moving.value_mm == 0.130, "a needle on its way is read where it is"
    assert moving.turn == pytest.approx(1.3)


@pytest.mark.parametrize("more", [{"count": 2}, {"newest_age_s": 0.6}, {"oldest_age_s": 0.2}])
def test_too_little_is_not_still(more: dict[str, float]) -> None:
    assert not live_needle(seen(0.1, 0.1, 0.1, **more), 0.001, None).is_still

"""Lobes and pockets of chatter, by simulation of the delayed oscillator and by laws."""

from __future__ import annotations

from math import inf

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrocore import EdgeInCut, InvalidInput, speeds_in_pockets, stability
from gyrocore.formulas.lobes import lobe_gain

EDGE = EdgeInCut(kc_mpa=2000, nose_radius_mm=0.8, feed_mm_rev=0.1)


def grows(gain: float, speed_rpm: float, frequency_hz: float, z: float) -> bool:
    """Whether x'' + 2 z w x' + w^2 x = -K w^2 (x(t) - x(t - T)) grows, K = gain x 2 z (1 + z); central differences."""
    turn = 60 / speed_rpm * frequency_hz * 2 * np.pi
    steps = max(400, int(turn * 40))
    dt = turn / steps
    load = gain * 2 * z * (1 + z)
    turns = max(40, int(300 / turn))
    x = np.zeros(steps * turns)
    x[1] = 1e-3 * dt
    for i in range(1, len(x) - 1):
        before = x[i - steps] if i >= steps else 0.0
        push = -x[i] - load * (x[i] - before)
        x[i + 1] = (2 * x[i] - x[i - 1] * (1 - z * dt) + dt * dt * push) / (1 + z * dt)
    quarter = len(x) // 4
    return bool(np.abs(x[-quarter:]).max() > np.abs(x[quarter : 2 * quarter]).max())


@pytest.mark.parametrize("speed_rpm", [1200, 1500, 1680, 2700])
def test_the_border_is_where_the_delayed_oscillator_begins_to_grow(speed_rpm: float) -> None:
    gain = lobe_gain(speed_rpm=speed_rpm, natural_frequency_hz=100, damping_ratio=0.05)
    assert not grows(0.9 * gain, speed_rpm, 100, 0.05)
    assert grows(1.12 * gain, speed_rpm, 100, 0.05)


@given(speed=st.floats(5, 2e5), frequency=st.floats(20, 5000), z=st.floats(0.005, 0.3))
def test_no_speed_is_worse_than_the_worst(speed: float, frequency: float, z: float) -> None:
    gain = lobe_gain(speed_rpm=speed, natural_frequency_hz=frequency, damping_ratio=z)
    assert 1 <= gain < inf


@given(frequency=st.floats(20, 5000), z=st.floats(0.01, 0.1))
def test_inner_pockets_are_deeper(frequency: float, z: float) -> None:
    gains = [
        lobe_gain(speed_rpm=60 * frequency / j, natural_frequency_hz=frequency, damping_ratio=z) for j in range(1, 8)
    ]
    assert gains == sorted(gains, reverse=True)


def pockets(speeds: list[float], stepless: bool = False, stiffness: float = 4000.0, depth: float = 1.0):  # type: ignore[no-untyped-def]
    return speeds_in_pockets(
        stiffness_n_mm=stiffness, damping_ratio=0.03, natural_frequency_hz=100, depth_mm=depth, edge=EDGE,
        spindle_speeds_rpm=speeds, stepless=stepless,
    )  # fmt: skip


def test_only_speeds_with_a_fifth_in_hand_are_offered() -> None:
    found = pockets([120, 300, 590, 760, 1000, 1200, 5000, 6100])
    offered = [p.speed_rpm for p in found.pockets]
    assert found.least_limit_mm is not None
    assert 6100 in offered
    assert not {120, 300} & set(offered), "the outer lobes have no depth in hand"
    for pocket in found.pockets:
        assert pocket.limit_depth_mm is None or pocket.limit_depth_mm >= 1.2 * found.least_limit_mm
    worst = stability(stiffness_n_mm=4000, damping_ratio=0.03, natural_frequency_hz=100, depth_mm=1, edge=EDGE)
    assert found.least_limit_mm == pytest.approx(worst.limit_depth_mm)


def test_a_stepless_machine_is_offered_the_middles() -> None:
    found = pockets([900, 2500], stepless=True)
    assert [round(p.speed_rpm) for p in found.pockets] == [2000, 1500, 1200, 1000]
    assert pockets([10, 40], stepless=True).notes[0].code == "no_pocket"


def test_where_no_cut_chatters_nothing_is_offered() -> None:
    found = pockets([1000, 6000], stiffness=1e7)
    assert (found.pockets, found.least_limit_mm, found.notes[0].code) == ((), None, "no_chatter_to")


@pytest.mark.parametrize(
    ("change", "field"),
    [({"speed_rpm": 0.0}, "speed_rpm"), ({"speed_rpm": float("nan")}, "speed_rpm"),
     ({"damping_ratio": 1.0}, "damping_ratio"), ({"natural_frequency_hz": -1.0}, "natural_frequency_hz")],
)  # fmt: skip
def test_impossible_figures_are_refused(change: dict[str, float], field: str) -> None:
    good = {"speed_rpm": 500.0, "natural_frequency_hz": 100.0, "damping_ratio": 0.03}
    with pytest.raises(InvalidInput) as caught:
        lobe_gain(**{**good, **change})
    assert caught.value.field == field
    with pytest.raises(InvalidInput):
        pockets([])

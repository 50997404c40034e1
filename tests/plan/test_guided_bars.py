"""A head on the end of a bar, a bar guided by pads, and the way home of a bar from one side."""

from __future__ import annotations

from dataclasses import replace
from math import pi
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyroplan.assess import pads_of, way_home_of
from gyroplan.record import BarRecord, JobRecord, ThereRecord
from tests.plan.shop import CUTTER, assessed, bore, job
from tests.plan.test_heads_tail import BAR, HEAD

CARRIED = replace(HEAD, carrier_mm=60.0, carrier_out_mm=200.0)
PADDED = BarRecord(key=4, name="Padded", kind="steel", method="lathe-bar", diameter_mm=40, length_mm=500,
                   min_bore_mm=44, pads_behind_mm=30.0, pads_mm=71.98)  # fmt: skip


def on_mill(length_mm: float, **plan: Any) -> JobRecord:
    return job(bore(found_mm=((10.0, 54.0),), wanted="62 H7", lower_mm=62.0, upper_mm=62.03, length_mm=length_mm),
               plan={"bar": BAR, "cutter": CUTTER, **plan}, setup={"method": "head"})  # fmt: skip


def test_a_head_on_a_bar_gives_what_both_bars_give() -> None:
    """Second way: a cantilever of two sections by Mohr, the load at the tip."""
    found = BAR.on_head(CARRIED)
    own = BAR.length_mm - 3 * BAR.diameter_mm
    assert found.reach_mm == own + 200.0
    e = 1000 * found.made_of.youngs_modulus_gpa
    thin, thick = (pi * d**4 / 64 for d in (20.0, 60.0))
    give = own**3 / (3 * e * thin) + ((own + 200.0) ** 3 - own**3) / (3 * e * thick)
    assert found.stands_out(found.reach_mm).response.compliance_mm_n == pytest.approx(give, rel=1e-6)
    assert BAR.on_head(HEAD) == BAR
    assert PADDED.on_head(CARRIED) == PADDED


def test_the_head_on_a_bar_counts_wherever_the_bar_stands_out() -> None:
    short, carried = (assessed(on_mill(40.0, head=one)).at(1, 1).boring.bar for one in (HEAD, CARRIED))
    assert carried.out_mm == (short.out_mm or 0) + 200.0
    assert carried.stiffness_n_mm is not None
    assert short.stiffness_n_mm is not None
    assert carried.stiffness_n_mm < short.stiffness_n_mm
    assert carried.at.bar is not None
    # into 40 only the head's own bar goes; deeper than it reaches, what carries the head would have to enter
    assert carried.at.bar.thickest_within_mm(40.0) == 20.0
    assert carried.at.bar.thickest_within_mm(80.0) == 60.0


def padded(bar: BarRecord, **more: Any) -> Any:
    record = job(bore(**more), plan={"bar": bar, "cutter": CUTTER})
    boring = assessed(record).at(1, 1).boring
    return pads_of(boring.passes, boring.bar)


@given(a=st.floats(20, 200), b=st.floats(40, 400), d=st.floats(20, 80))
def test_pads_hold_as_a_propped_cantilever_does(a: float, b: float, d: float) -> None:
    """Closed form: a beam clamped at one end, borne at b, loaded a past it gives a^2 (b/4 + a/3) / (E I)."""
    bar = replace(PADDED, diameter_mm=d, pads_behind_mm=a, pads_mm=d + 5)
    held = bar.held_by_pads(a + b)
    assert held is not None
    stiff = 1000 * bar.made_of.youngs_modulus_gpa * pi * d**4 / 64
    assert held.compliance_mm_n == pytest.approx(a * a * (b / 4 + a / 3) / stiff, rel=1e-5)


def test_pads_say_what_they_do_on_the_last_pass() -> None:
    found = padded(PADDED)
    assert found.state == "holds"
    assert found.play_mm == pytest.approx(72.015 - 71.98)
    assert found.held_mm > found.play_mm / 2
    assert padded(replace(PADDED, pads_mm=72.1)).state == "tight"
    assert padded(replace(PADDED, pads_mm=71.0)).state == "loose"
    assert padded(replace(PADDED, pads_behind_mm=145.0)).state == "outside"
    assert padded(replace(PADDED, pads_behind_mm=None, pads_mm=None)) is None


def test_from_one_side_what_is_narrower_before_the_bore_stops_the_bit() -> None:
    narrow = ThereRecord(name="spigot", from_mm=0.0, to_mm=20.0, diameter_mm=70.0)

    def home(*there: ThereRecord) -> Any:
        record = job(bore(start_mm=60.0, there=there), plan={"bar": PADDED, "cutter": CUTTER})
        return way_home_of(assessed(record).at(1, 1).boring.passes.at)

    found = home(narrow)
    assert (found.towards_start.room_mm, found.towards_start.meets) == (40.0, "spigot")
    assert home(replace(narrow, diameter_mm=80.0)).towards_start.room_mm is None

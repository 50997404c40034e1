"""Where a finished bore is measured: risk and what breaks the wall decide; nothing is asked where no foot can stand."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gyroplan.assess import AskedPlaces, asked_places
from gyroplan.assess.asked import is_blocked
from gyroplan.gauges import Gauge
from gyroplan.record import BreakRecord, JobRecord, SizeRecord
from tests.plan.shop import assessed, job


def with_breaks(*breaks: BreakRecord) -> JobRecord:
    record = job()
    first, *rest = record.setup.bores
    return replace(record, setup=replace(record.setup, bores=(replace(first, breaks=breaks), *rest)))


def asked(record: JobRecord, holding: str = "") -> AskedPlaces:
    return asked_places(assessed(record).check(1, record.setup.bores[0].place), holding)


def slot(angle: float, width: float, start: float = 0.0, end: float = 1000.0) -> BreakRecord:
    return BreakRecord(kind="keyway", from_mm=start, to_mm=end, angle_deg=angle, width_mm=width)


def test_a_plain_bore_is_read_at_both_ends_and_the_middle() -> None:
    record = job()
    length = record.setup.bores[0].length_mm
    found = asked(record)
    depths, angles = sorted({z for z, _ in found.places}), sorted({angle for _, angle in found.places})
    assert [z / length for z in depths] == pytest.approx([1 / 7, 1 / 2, 6 / 7], abs=0.01)
    assert angles == [0.0, 90.0]
    assert (found.blocked, found.turned_deg, found.for_jaws) == ((), 0.0, False)
    assert found.now == found.places[0]


def test_three_jaws_ask_three_directions() -> None:
    found = asked(job(), "three-jaw")
    assert found.for_jaws
    assert sorted({angle for _, angle in found.places}) == [0.0, 60.0, 120.0]
    assert not asked(job(), "collet").for_jaws


@pytest.mark.parametrize("angle", [0.0, 180.0, 90.0, 270.0])
def test_a_keyway_all_along_turns_the_directions(angle: float) -> None:
    """Either end of a diameter may fall into it."""
    record = with_breaks(slot(angle, 12.0))
    found = asked(record)
    assert found.turned_deg > 0
    assert not found.blocked
    assert not any(is_blocked(record.setup.bores[0], *at) for at in found.places)


def test_a_port_all_round_moves_the_depth() -> None:
    record = job()
    middle = round(record.setup.bores[0].length_mm / 2)
    ring = [slot(angle, 30.0, middle - 1, middle + 1) for angle in range(0, 360, 30)]
    found = asked(with_breaks(*ring))
    depths = sorted({z for z, _ in found.places})
    assert len(depths) == 3
    assert depths[1] != middle
    assert abs(depths[1] - middle) >= 3, "the foot needs metal either side"
    assert not found.blocked


def test_what_is_blocked_even_then_is_left_out_and_named() -> None:
    record = job()
    length = record.setup.bores[0].length_mm
    wide = [slot(angle, 40.0, 0.0, length / 3) for angle in range(0, 360, 20)]
    found = asked(with_breaks(*wide))
    assert {z for z, _ in found.blocked} == {round(length / 7)}
    assert {z for z, _ in found.places} == {round(length / 2), round(length * 6 / 7)}


def test_the_directions_stay_once_something_was_read() -> None:
    record = with_breaks(slot(0.0, 12.0))
    first = asked(record)
    z, angle = first.now
    read = SizeRecord(
        key=1, bore=record.setup.bores[0].place, piece=1, z_mm=z, angle_deg=angle,
        value_mm=record.setup.bores[0].aim_mm, gauge=Gauge(name="G", resolution_mm=0.001, single_sd_mm=0.001),
    )  # fmt: skip
    then = asked(replace(record, sizes=(read,)))
    assert (then.places, then.turned_deg) == (first.places, first.turned_deg)
    assert then.now == first.places[1]


@settings(max_examples=60)
@given(st.lists(st.tuples(st.floats(0, 359), st.floats(1, 60), st.floats(0, 100), st.floats(1, 60)), max_size=5))
def test_no_place_is_asked_where_the_wall_is_broken(breaks: list[tuple[float, float, float, float]]) -> None:
    record = with_breaks(*(slot(angle, width, start, start + long) for angle, width, start, long in breaks))
    found, bore = asked(record), record.setup.bores[0]
    assert found.places
    free = [at for at in found.places if not is_blocked(bore, *at)]
    assert free == list(found.places) or not free, "only where nothing at all is free is every place told"
    assert found.now in found.places

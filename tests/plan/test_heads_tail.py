"""A bar held crosswise in a boring head: what stands out behind the axis, and the room wanted there, count."""

from __future__ import annotations

from dataclasses import replace

from gyrocore import HeadHole
from gyroplan.assess.heads import holes_of
from gyroplan.record import BarRecord, HeadRecord
from tests.plan.shop import CUTTER, assessed, bore, job

HEAD = HeadRecord(name="Head", division_mm=0.01, divisions_per_turn=50, slide_travel_mm=20, shank_mm=20,
                  holes=(HeadHole(hole="A", offset_mm=0.0), HeadHole(hole="B", offset_mm=15.0)))  # fmt: skip
BAR = BarRecord(key=3, name="Head bar", kind="steel", method="head", diameter_mm=20, length_mm=120, min_bore_mm=30,
                tip_mm=13)  # fmt: skip


def smallest(bar: BarRecord, head: HeadRecord) -> dict[str, float | None]:
    record = job(bore(found_mm=((10.0, 54.0),), wanted="62 H7", lower_mm=62.0, upper_mm=62.03),
                 plan={"bar": bar, "head": head, "cutter": CUTTER}, setup={"method": "head"})  # fmt: skip
    found = holes_of(assessed(record).at(1, 1).boring.passes).value
    assert found is not None
    return {row.hole: row.smallest_mm for row in found.rows}


def test_a_tail_needs_a_larger_hole_and_so_does_more_room() -> None:
    plain = smallest(BAR, HEAD)
    tail = smallest(replace(BAR, tail_mm=35.0), HEAD)
    assert plain["B"] is not None
    assert tail["B"] is not None
    assert tail["B"] > plain["B"]
    # the tip must clear the tail by the room: its circle is twice their sum
    assert tail["B"] == 2 * (35.0 + HEAD.clearance_mm)
    roomy = smallest(replace(BAR, tail_mm=35.0), replace(HEAD, clearance_mm=2.0))
    assert roomy["B"] == 2 * 37.0


def test_where_no_hole_does_for_all_the_passes_share_two() -> None:
    head = replace(HEAD, slide_travel_mm=16.0)
    record = job(bore(found_mm=((10.0, 34.0),), wanted="62 H7", lower_mm=62.0, upper_mm=62.03),
                 plan={"bar": replace(BAR, diameter_mm=16.0, tip_mm=11.0), "head": head, "cutter": CUTTER,
                       "rough_depth_mm": 2.0}, setup={"method": "head"})  # fmt: skip
    passes = assessed(record).at(1, 1).boring.passes
    found = holes_of(passes).value
    assert found is not None
    assert found.picked is None
    assert [hole for _, _, hole in found.changes] == ["A", "B"]
    firsts, lasts = [one[0] for one in found.changes], [one[1] for one in found.changes]
    assert (firsts[0], lasts[-1]) == (1, len(passes.every))
    assert firsts[1] == lasts[0] + 1
    by_hole = {row.hole: row for row in found.rows}
    for first, last, hole in found.changes:
        for cut in passes.every[first - 1 : last]:
            low, high = by_hole[hole].smallest_mm, by_hole[hole].largest_mm
            assert low is not None
            assert high is not None
            assert low - 1e-9 <= cut.diameter_mm <= high + 1e-9

"""Faces, bands, outsides, reliefs and distances: each limit judged by itself, and what facing takes."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from math import cos, pi, radians
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrocore import centre_distance, slide_move
from gyroplan.assess import cut_of, job_word, setup_summary, shown_digest, summary_of, way_home_of, worst_named
from gyroplan.assess.features import asked_of, face_speed_rpm, features_of
from gyroplan.record import FeatureReadingRecord, FeatureRecord, JobRecord, PlanRecord, record_from_json, record_to_json
from tests.plan.shop import GAUGE, TODAY, assessed, bore, job

FACE = {"key": 1, "place": 1, "name": "Face", "kind": "face", "lower_mm": 11.9, "upper_mm": 12.1}


def feature(**more: Any) -> FeatureRecord:
    return FeatureRecord(**{**FACE, **more})


def read(value: float, **more: Any) -> FeatureReadingRecord:
    return FeatureReadingRecord(**{"key": 1, "feature": 1, "piece": 1, "what": "size", "gauge": GAUGE, "value": value,
                                   **more})  # fmt: skip


def of(*features: FeatureRecord, readings: tuple[FeatureReadingRecord, ...] = (), **more: Any) -> JobRecord:
    return job(setup={"features": features}, feature_readings=readings, **more)


def word(one: FeatureRecord, *readings: FeatureReadingRecord) -> str:
    return features_of(of(one, readings=readings), 1, TODAY)[0].word


@pytest.mark.parametrize(
    ("kind", "value", "said"),
    [
        ("face", 12.0, "in"), ("face", 11.5, "metal-left"), ("face", 12.4, "over"),
        ("length", 12.4, "metal-left"), ("length", 11.5, "over"), ("outside", 12.4, "metal-left"),
        ("outside", 11.5, "over"), ("relief", 11.5, "metal-left"), ("relief", 12.4, "over"), ("band", 12.4, "over"),
        ("distance", 11.5, "over"), ("distance", 12.4, "over"), ("face", 12.0995, "not-proven"),
    ],
)  # fmt: skip
def test_what_can_still_be_cut_is_metal_left_and_what_cannot_is_over(kind: str, value: float, said: str) -> None:
    assert word(feature(kind=kind), read(value)) == said


def test_a_critical_size_is_read_twice() -> None:
    once, twice = read(12.0), read(12.001, key=2)
    assert word(feature(inspection="critical"), once) == "incomplete"
    assert word(feature(inspection="critical"), once, twice) == "in"
    assert word(feature(inspection="critical"), read(12.4)) == "over", "what is over needs no second reading"


def test_each_limit_needs_its_own_reading() -> None:
    one = feature(kind="band", angle_lower_deg=29.5, angle_upper_deg=30.5, runout_limit_mm=0.02)
    assert [what for what, _, _ in asked_of(one)] == ["size", "angle", "runout"]
    size, angle = read(12.0), read(30.0, what="angle", gauge=None, expanded=0.1)
    swing = read(0.012, what="runout", gauge=None, expanded=0.001)
    assert word(one, size) == word(one, size, angle) == "incomplete"
    assert word(one, size, angle, swing) == "in"
    assert word(one, size, replace(angle, value=30.45), swing) == "not-proven", "its protractor tells a tenth"
    assert word(one, size, replace(angle, value=30.8), swing) == "over"
    assert word(one, size, angle, replace(swing, value=0.03)) == "over"


def test_a_gauge_past_its_day_proves_nothing_and_the_last_swing_stands() -> None:
    late = read(12.0, gauge_due_on=TODAY - timedelta(days=1))
    assert word(feature(), late) == "incomplete"
    only_square = feature(lower_mm=None, upper_mm=None, runout_limit_mm=0.02)
    swings = [read(value, what="runout", gauge=None, expanded=0.001) for value in (0.05, 0.01)]
    assert word(only_square, *swings) == "in"


def test_a_reading_whose_repeatability_is_not_known_is_asked_twice() -> None:
    plain = replace(GAUGE, single_sd_mm=None)
    once = features_of(of(feature(), readings=(read(12.0, gauge=plain),)), 1, TODAY)[0].lines[0]
    assert (once.word, once.unrepeated) == ("not-proven", True)
    assert word(feature(), read(12.0, gauge=plain), read(12.001, gauge=plain, key=2)) == "in"


@given(st.floats(100, 300), st.floats(20, 90), st.floats(20, 90))
def test_a_distance_over_walls_is_judged_as_centres_with_what_the_walls_are_known_to(
    aim: float, first: float, second: float
) -> None:
    one = feature(kind="distance", lower_mm=aim - 0.02, upper_mm=aim + 0.02, to_setup=2)
    near = aim - (first + second) / 2
    over = {"over": "near-walls", "first_mm": first, "second_mm": second}
    line = features_of(of(one, readings=(read(near, **over),)), 1, TODAY)[0].lines[0]
    assert line.value == pytest.approx(centre_distance(reading_mm=near, **over).distance_mm)  # type: ignore[arg-type]
    assert line.word == "in"
    doubted = features_of(of(one, readings=(read(near, walls_expanded_mm=0.03, **over),)), 1, TODAY)[0].lines[0]
    assert doubted.expanded is not None
    assert line.expanded is not None
    assert doubted.expanded == pytest.approx((line.expanded**2 + 0.03**2) ** 0.5)
    assert doubted.word == "not-proven"


def test_a_feature_counts_in_the_verdict_of_its_piece_and_under_the_signature() -> None:
    asked, over = assessed(of(feature())), assessed(of(feature(), readings=(read(12.4),)))
    assert ("Face", "incomplete") in worst_named(asked)
    assert shown_digest(over) != shown_digest(assessed(of(feature(), readings=(read(12.41),))))
    assert (job_word(over), summary_of(over, 1).features[0].word) == ("over", "over")
    assert setup_summary(over).word == "over"
    alike = assessed(of(feature(), readings=(read(12.4, piece=2),), quantity=2))
    assert ("Face of piece 2", "over") in worst_named(alike)
    assert 2 in alike.begun, "a piece that only its face was read of is begun"


def test_a_record_with_features_comes_back_from_json() -> None:
    record = of(feature(to_setup=2, kind="distance"), readings=(read(12.0),))
    assert record_from_json(record_to_json(record)) == record


def test_facing_takes_its_passes_over_the_ring() -> None:
    plan = PlanRecord(rough_depth_mm=0.5, rough_feed_mm_rev=0.2, finish_feed_mm_rev=0.1)
    one = feature(outer_mm=110.0, inner_mm=70.0, stock_mm=1.2)
    found = cut_of(one, plan, 200)
    assert found is not None
    assert (found.passes, found.depth_mm) == (3, pytest.approx(0.4))
    assert found.minutes == pytest.approx(20 / (0.2 * 200) * 2 + 20 / (0.1 * 200))
    band = cut_of(replace(one, kind="band", angle_lower_deg=29.0, angle_upper_deg=31.0), plan, 200)
    assert band is not None
    assert band.band is not None
    assert band.band.width_mm == pytest.approx(20 / cos(radians(30)))
    assert band.minutes == pytest.approx(found.minutes / cos(radians(30)))
    for lacks in ({"outer_mm": None}, {"stock_mm": None}, {"kind": "outside"}, {"inner_mm": 120.0}):
        assert cut_of(replace(one, **lacks), plan, 200) is None
    assert cut_of(one, plan, None) is None


def test_a_face_turns_no_faster_than_its_outer_edge_stands() -> None:
    record = of(feature(outer_mm=110.0, stock_mm=1.0))
    at = assessed(record).at(1, 1).boring.passes.at
    rpm = face_speed_rpm(at, record.setup.features[0])
    assert rpm in [speed.rpm for speed in at.machine.speeds]
    small = replace(record.setup.features[0], outer_mm=20.0)
    faster = face_speed_rpm(at, small)
    assert faster is not None
    assert rpm is not None
    assert faster > rpm
    wanted = at.material.speed_m_min[at.cutter.made_of].rough if at.cutter else 0.0
    assert rpm <= 1000 * wanted / (pi * 110) * 1.05 + 1e-9


@given(st.floats(0.1, 900), st.sampled_from([0.005, 0.02, 0.0254]), st.sampled_from([50, 100, 200]), st.floats(0, 20))
def test_turns_and_divisions_are_the_way_itself(away: float, division: float, per_turn: int, play: float) -> None:
    found = slide_move(distance_mm=away, division_mm=division, divisions_per_turn=per_turn, backlash_divisions=play)
    assert (found.turns * per_turn + found.odd_divisions) * division == pytest.approx(away, abs=1e-6)
    assert found.after_reversal_divisions - found.divisions == pytest.approx(play, abs=1e-9)
    assert 0 <= found.odd_divisions < per_turn + 1e-6


def test_the_bit_of_a_line_bar_is_taken_out_where_no_bore_and_no_bearing_is_in_its_way() -> None:
    bores = [bore(key=n, place=n, name=f"H{n}", start_mm=start, length_mm=80.0, lower_mm=90.0, upper_mm=90.035,
                  found_mm=((40.0, 87.6),)) for n, start in ((1, 0.0), (2, 400.0), (3, 900.0))]  # fmt: skip
    record = job(*bores, plan={"bearings_mm": (-80.0, 600.0, 1100.0)}, setup={"method": "line"})
    middle = way_home_of(assessed(record).at(1, 2).boring.passes.at)
    assert middle is not None
    assert (middle.towards_start.room_mm, middle.towards_start.meets) == (320, "H1")
    assert (middle.towards_end.room_mm, middle.towards_end.meets) == (120, "bearing 2")

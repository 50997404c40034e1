"""Two ways of measuring, go and no-go, existing sizes, pieces alike, drift, tones."""

from __future__ import annotations

from math import pi, sin, sqrt

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrocore import (
    ExistingSize,
    Found,
    InvalidInput,
    PieceSize,
    Seen,
    agreement,
    drift,
    gauge_bounds,
    match_set,
    name_tones,
    next_size,
    size_slips,
    spectrum,
    tones,
    weighted_mm,
)

sizes_mm = st.floats(10, 500)
doubts_mm = st.floats(0.0005, 0.05)


def found(value: float, expanded: float) -> Found:
    return Found(value_mm=value, expanded_mm=expanded)


def test_two_ways_weighted_by_what_they_are_known_to() -> None:
    both = agreement(first=found(72.010, 0.003), second=found(72.014, 0.004))
    # by hand: weights 9:16 the other way round
    assert both.value_mm == pytest.approx((72.010 * 16 + 72.014 * 9) / 25)
    assert both.expanded_mm == pytest.approx(0.003 * 0.004 / 0.005)
    assert (both.en, both.agree) == (pytest.approx(0.8), True)
    apart = agreement(first=found(72.010, 0.003), second=found(72.0151, 0.004))
    assert (apart.agree, [one.code for one in apart.notes]) == (False, ["ways_disagree"])
    exact = agreement(first=found(72.010, 0), second=found(72.012, 0.004))
    assert (exact.value_mm, exact.expanded_mm, exact.agree) == (72.010, 0.0, True)
    same = agreement(first=found(72, 0), second=found(72, 0))
    assert (same.en, same.agree) == (None, True)
    assert not agreement(first=found(72, 0), second=found(72.001, 0)).agree


@given(sizes_mm, doubts_mm, sizes_mm, doubts_mm)
def test_the_order_of_two_ways_does_not_matter(a: float, ua: float, b: float, ub: float) -> None:
    one, other = agreement(first=found(a, ua), second=found(b, ub)), agreement(first=found(b, ub), second=found(a, ua))
    assert one.value_mm == pytest.approx(other.value_mm)
    assert one.difference_mm == -other.difference_mm
    assert min(a, b) - 1e-9 <= one.value_mm <= max(a, b) + 1e-9
    assert one.expanded_mm < min(ua, ub)


def test_three_ways_at_once() -> None:
    value, expanded = weighted_mm([found(72.01, 0.004)] * 4)
    assert (value, expanded) == (pytest.approx(72.01), pytest.approx(0.002))


@pytest.mark.parametrize(
    ("seen", "verdict"),
    [
        ([("go", 72.0, 0.0), ("no-go", 72.03, 0.0)], "in"),
        ([("go", 72.0, 0.002), ("no-go", 72.03, 0.0)], "undecided"),
        ([("no-go", 71.999, 0.0)], "under"),
        ([("go", 72.031, 0.0)], "over"),
        ([("go", 72.0, 0.0)], "undecided"),
        ([("go", 72.0, 0.0), ("value", 72.02, 0.004)], "in"),
    ],
)
def test_what_goes_and_what_does_not(seen: list[tuple[str, float, float]], verdict: str) -> None:
    rows = [Seen(kind=kind, size_mm=size, expanded_mm=u) for kind, size, u in seen]
    assert gauge_bounds(seen=rows, lower_mm=72.0, upper_mm=72.03).verdict == verdict


def test_what_cannot_be_true_has_no_verdict() -> None:
    said = gauge_bounds(
        seen=[Seen(kind="go", size_mm=72.02), Seen(kind="no-go", size_mm=72.01)], lower_mm=72, upper_mm=72.03
    )
    assert (said.consistent, said.verdict) == (False, None)
    assert "bounds_contradict" in [one.code for one in said.notes]
    with pytest.raises(InvalidInput) as refused:
        gauge_bounds(seen=[Seen(kind="go", size_mm=72.02)], lower_mm=72)
    assert refused.value.field == "upper_mm"


@given(st.lists(st.tuples(st.sampled_from(["go", "no-go", "value"]), sizes_mm, doubts_mm), min_size=1, max_size=6))
def test_more_evidence_never_widens(rows: list[tuple[str, float, float]]) -> None:
    seen = [Seen(kind=kind, size_mm=size, expanded_mm=u) for kind, size, u in rows]
    before, after = gauge_bounds(seen=seen[:1]), gauge_bounds(seen=seen)
    assert before.at_least_mm is None or (after.at_least_mm or 0) >= before.at_least_mm
    assert before.at_most_mm is None or (after.at_most_mm or 1e9) <= before.at_most_mm


def test_the_next_size_that_exists() -> None:
    exist = [
        ExistingSize(name=n, diameter_mm=d) for n, d in (("+1", 73.0), ("std", 72.0), ("+0.5", 72.5), ("+2", 74.0))
    ]
    said = next_size(bore_mm=72.45, sizes=exist, play_mm=0.02, least_cut_mm=0.05, outside_mm=80, least_wall_mm=3.2)
    assert [(row.name, row.reason) for row in said.rows] == [
        ("std", "no-metal"), ("+0.5", "no-metal"), ("+1", None), ("+2", "thin-wall")]  # fmt: skip
    assert (said.pick, said.bore_to_mm, said.wall_mm) == ("+1", pytest.approx(73.02), pytest.approx(3.49))
    none = next_size(bore_mm=72.45, sizes=exist[1:2])
    assert (none.pick, none.bore_to_mm, none.cut_mm, none.wall_mm) == (None, None, None, None)
    pressed = next_size(bore_mm=71.9, sizes=exist, play_mm=-0.05)
    assert pressed.bore_to_mm == pytest.approx(71.95)


def test_what_to_open_so_that_all_match() -> None:
    pieces = [PieceSize(name=f"{n}", value_mm=v) for n, v in enumerate((54.996, 55.004, 55.012, 55.010), 1)]
    said = match_set(pieces=pieces, match_mm=0.005, lower_mm=55.0, upper_mm=55.03)
    assert [(row.name, round(row.cut_mm, 4)) for row in said.rows] == [("1", 0.016), ("2", 0.008)]
    assert (said.within, said.possible, said.spread_mm) == (False, True, pytest.approx(0.016))
    low = match_set(pieces=[PieceSize(name="a", value_mm=54.99), PieceSize(name="b", value_mm=54.992)], match_mm=0.005,
                    lower_mm=55.0)  # fmt: skip
    assert (low.within, [row.to_mm for row in low.rows]) == (True, [55.0, 55.0])
    assert not match_set(pieces=pieces, match_mm=0.005, upper_mm=55.01).possible


@given(st.lists(sizes_mm, min_size=2, max_size=8), doubts_mm)
def test_opened_as_told_they_match(values: list[float], match: float) -> None:
    pieces = [PieceSize(name=f"{n}", value_mm=v) for n, v in enumerate(values)]
    to = {row.name: row.to_mm for row in match_set(pieces=pieces, match_mm=match).rows}
    after = [PieceSize(name=one.name, value_mm=to.get(one.name, one.value_mm)) for one in pieces]
    assert match_set(pieces=after, match_mm=match).within


def test_a_straight_drift_and_its_last_piece() -> None:
    said = drift(values_mm=[55.020, 55.017, 55.014, 55.011], lower_mm=55.0, upper_mm=55.03)
    assert (said.slope_mm_piece, said.sd_mm) == (pytest.approx(-0.003), pytest.approx(0, abs=1e-9))
    # 55.008, 55.005, 55.002, then 54.999
    assert (said.next_mm, said.pieces_left) == (pytest.approx(55.008), 3)
    assert drift(values_mm=[55.01] * 5, lower_mm=55.0, upper_mm=55.03).pieces_left == 1000
    assert drift(values_mm=[55.03, 55.04, 55.05], lower_mm=55.0, upper_mm=55.03).pieces_left == 0
    wide = drift(values_mm=[55.01, 55.02, 55.01, 55.02], lower_mm=55.0, upper_mm=55.03)
    assert wide.sd_mm == pytest.approx(np.std([-0.0020, 0.006, -0.006, 0.002]) * sqrt(2))


def tone(*parts: tuple[float, float], n: int = 4096, rate: float = 8000.0) -> list[float]:
    return [sum(a * sin(2 * pi * hz * i / rate + 0.4) for hz, a in parts) for i in range(n)]


@given(st.floats(60, 3500))
def test_a_clean_tone_to_a_tenth_of_a_line(hz: float) -> None:
    said = tones(samples=tone((hz, 1.0)), rate_hz=8000)
    assert abs(said.peaks[0].frequency_hz - hz) < 0.1 * 8000 / 4096
    assert said.peaks[0].level_db == 0


def test_levels_and_what_is_no_peak() -> None:
    said = tones(samples=tone((437.3, 1.0), (212.6, 0.5), (1500.0, 0.0005), (8.0, 2.0)), rate_hz=8000)
    assert [round(one.frequency_hz) for one in said.peaks] == [437, 213]
    assert said.peaks[1].level_db == pytest.approx(-6.02, abs=0.3)
    # two lines apart is one tone
    near = tones(samples=tone((500.0, 1.0), (503.0, 0.4)), rate_hz=8000)
    assert len(near.peaks) == 1
    assert tones(samples=[3.7] * 300, rate_hz=8000).peaks == ()
    assert tones(samples=[0.0] * 300, rate_hz=8000).peaks == ()


def test_tones_in_noise() -> None:
    noise = np.random.default_rng(7).normal(0, 1.0, 8192)
    heard = np.array(tone((437.3, 1.0), (212.6, 0.7), n=8192)) + noise
    said = tones(samples=heard.tolist(), rate_hz=8000, count=2)
    assert sorted(round(one.frequency_hz) for one in said.peaks) == [213, 437]


def test_a_tone_on_a_line_has_its_own_amplitude() -> None:
    found = spectrum(tone((8000 / 4096 * 100, 0.7)))
    assert found[100] == pytest.approx(0.7, rel=1e-9)
    assert found[100 + 3 :].max() < 1e-9


@pytest.mark.parametrize(
    ("fields", "at"),
    [
        ({"samples": [0.0] * 255}, "samples"),
        ({"samples": [0.0] * 65537}, "samples"),
        ({"samples": [0.0] * 299 + [float("nan")]}, "samples.299"),
        ({"rate_hz": 0}, "rate_hz"),
        ({"count": 0}, "count"),
        ({"least_hz": 4000}, "least_hz"),
    ],
)
def test_a_sound_that_cannot_be_is_refused(fields: dict[str, object], at: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        tones(**{"samples": [0.0] * 300, "rate_hz": 8000, **fields})  # type: ignore[arg-type]
    assert refused.value.field == at


def test_what_a_tone_is() -> None:
    said = name_tones(peaks_hz=[9.35, 212.0, 800.0], spindle_rpm=280, natural_frequency_hz=200)
    assert [(row.name, row.harmonic) for row in said.rows] == [("turn", 2), ("bar", None), ("other", None)]
    assert said.rows[1].waves_per_turn == pytest.approx(60 * 212 / 280)
    # 45.4 waves: the pockets of 45 and of 46
    assert said.pockets_rpm == (pytest.approx(60 * 212 / 45), pytest.approx(60 * 212 / 46))
    whole = name_tones(peaks_hz=[210.0], spindle_rpm=280, natural_frequency_hz=200)
    assert whole.pockets_rpm == (pytest.approx(280.0),)
    listed = name_tones(
        peaks_hz=[20.0], spindle_rpm=280, natural_frequency_hz=20, spindle_speeds_rpm=[180, 280, 390, 600]
    )
    # pockets at 1200, 600, 400, 300, 240, 200 ...
    assert listed.pockets_rpm == (600, 390)
    unknown = name_tones(peaks_hz=[212.0], spindle_rpm=280)
    assert (unknown.rows[0].name, unknown.pockets_rpm) == ("other", ())


@pytest.mark.parametrize(
    ("typed", "unit", "kind", "likely"),
    [
        (144.03, "mm", "twice", 72.015),
        (36.0075, "mm", "half", 72.015),
        (2.8352, "mm", "inch_as_mm", 72.014),
        (71.515, "mm", "thimble", 72.015),
        (72.515, "mm", "thimble", 72.015),
        (62.015, "mm", "rod", 72.015),
        (97.015, "mm", "rod", 72.015),
        (720.15, "mm", "ten", 72.015),
        (-72.015, "mm", "sign", 72.015),
        (27.015, "mm", "swapped", 72.015),
        (72.65, "in", "thimble", 72.015),
        (97.415, "in", "rod", 72.015),
    ],
)
def test_each_slip_of_a_size_is_named(typed: float, unit: str, kind: str, likely: float) -> None:
    text = f"{typed:g}" if unit == "mm" else f"{typed / 25.4:.4f}"
    said = size_slips(value_mm=typed, expected_mm=72.01, band_mm=0.03, unit=unit, text=text)
    assert [one.kind for one in said][:1] == [kind]
    assert said[0].likely_mm == pytest.approx(likely, abs=0.002)


@given(st.floats(-0.03, 0.03))
def test_a_size_that_is_as_expected_is_no_slip(off: float) -> None:
    assert size_slips(value_mm=72.01 + off, expected_mm=72.01, band_mm=0.031, text=f"{72.01 + off:.3f}") == ()


def test_a_size_that_is_simply_wrong_is_not_explained() -> None:
    assert size_slips(value_mm=71.3, expected_mm=72.01, band_mm=0.03, text="71.3") == ()

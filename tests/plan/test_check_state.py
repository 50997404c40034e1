"""The finished bore, entry by entry: every limit incomplete until what it needs was measured."""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.plan.replay import State, refused_input, replay

GAUGES = [{"name": "B", "resolution_mm": 0.001, "error_limit_mm": 0.001, "single_sd_mm": 0.0005},
          {"name": "C", "resolution_mm": 0.001, "error_limit_mm": 0.001}]  # fmt: skip
CHECK: dict[str, Any] = {"length_mm": 140, "lower_mm": 72.0, "upper_mm": 72.03, "gauges": GAUGES}
Places = list[tuple[float, float, float]]
ALL_IN: Places = [(z, a, 72.014) for z in (10, 70, 130) for a in (0, 90)]


def sizes(places: Places, gauge: str = "B", **more: Any) -> list[dict[str, Any]]:
    return [
        {"kind": "size", "z_mm": z, "angle_deg": a, "gauge": gauge, "readings_mm": [d], **more} for z, a, d in places
    ]  # fmt: skip


def check(work: dict[str, Any], *entries: dict[str, Any]) -> State:
    return replay("check_state", work, *entries)[-1]


class TestOverall:
    def test_in(self) -> None:
        state = check(CHECK, *sizes(ALL_IN))
        assert (state["overall"], state["missing"]) == ("in", [])

    def test_metal_left_is_never_over(self) -> None:
        """D1: the next cut takes the taper away."""
        taper = {**CHECK, "taper_limit_mm": 0.01}
        state = check(taper, *sizes([(z, a, d) for z, d in ((10, 71.6), (70, 71.615), (130, 71.63)) for a in (0, 90)]))
        assert state["limits"]["taper"]["verdict"] == "over"
        assert state["overall"] == "metal-left"

    def test_a_taper_in_a_bore_at_size_is_over(self) -> None:
        taper = {**CHECK, "taper_limit_mm": 0.01}
        state = check(
            taper, *sizes([(z, a, d) for z, d in ((10, 72.005), (70, 72.01), (130, 72.025)) for a in (0, 90)])
        )
        assert state["overall"] == "over"
        assert state["limits"]["taper"]["value_mm"] == pytest.approx(0.02 * 140 / 120)

    def test_over_wins_whatever_is_missing(self) -> None:
        assert check(CHECK, *sizes([(10, 0, 72.04)]))["overall"] == "over"

    def test_too_near_to_say(self) -> None:
        state = check(CHECK, *sizes([*ALL_IN[:-1], (130, 90, 72.0295)]))
        assert (state["overall"], state["limits"]["size"]["value_mm"]) == ("undecided", pytest.approx(72.0295))


class TestWhatIsMissing:
    @pytest.mark.parametrize(
        ("places", "missing"),
        [
            ([], ["depths"]),
            ([(z, a, 72.014) for z in (10, 11, 12) for a in (0, 90)], ["depths"]),  # D2
            ([(z, a, 72.014) for z in (10, 70, 130) for a in (0, 1)], ["directions"]),
            ([(z, a, 72.014) for z in (10, 70, 130) for a in (0, 180)], ["directions"]),
            ([(z, a, 72.014) for z in (35, 36, 105) for a in (0, 45)], []),
        ],
    )
    def test_depths_and_directions(self, places: Places, missing: list[str]) -> None:
        assert check(CHECK, *sizes(places))["missing"] == missing

    def test_critical_asks_three_directions_really_apart(self) -> None:
        critical = {**CHECK, "inspection": "critical"}
        assert check(critical, *sizes([*ALL_IN, *((z, 20, 72.014) for z in (10, 70, 130))]))["missing"] == [
            "directions"
        ]
        assert check(critical, *sizes([*ALL_IN, *((z, 45, 72.014) for z in (10, 70, 130))]))["missing"] == []

    def test_a_short_bore(self) -> None:
        short = {**CHECK, "length_mm": 8}
        two = sizes([(4, 0, 72.014), (4, 90, 72.014)])
        assert check(short, *two)["overall"] == "in"
        assert check({**short, "taper_limit_mm": 0.01}, *two)["missing"] == ["depths"]

    def test_run_out_and_shoulder(self) -> None:
        """D3: what was asked and not measured is incomplete."""
        asked = {**CHECK, "runout_limit_mm": 0.02, "depth_lower_mm": 18.0, "depth_upper_mm": 18.1}
        state = check(asked, *sizes(ALL_IN))
        assert (state["overall"], state["missing"]) == ("incomplete", ["runout", "shoulder"])
        depth = {"kind": "depth", "gauge": "B", "readings_mm": [18.05]}
        state = check(asked, *sizes(ALL_IN), depth, {"kind": "runout", "swing_mm": 0.012, "expanded_mm": 0.002})
        assert state["overall"] == "in"
        state = check(asked, *sizes(ALL_IN), depth, {"kind": "runout", "swing_mm": 0.025, "expanded_mm": 0.002})
        assert (state["overall"], state["limits"]["runout"]["verdict"]) == ("over", "over")

    def test_one_reading_whose_repeatability_is_unknown_proves_nothing_in(self) -> None:
        """D4."""
        state = check(CHECK, *sizes(ALL_IN, gauge="C"))
        assert (state["overall"], state["missing"]) == ("incomplete", ["repeat"])
        assert state["places"][0]["verdict"] == "undecided"
        assert check(CHECK, *sizes(ALL_IN, gauge="C"), *sizes(ALL_IN, gauge="C"))["overall"] == "in"


class TestPlaces:
    def test_two_gauges_at_one_place_are_compared(self) -> None:
        """D5."""
        state = check(CHECK, *sizes([(10, 0, 72.014)]), *sizes([(10, 180, 72.024)], gauge="C"))
        assert len(state["places"]) == 1
        assert (state["places"][0]["agree"], state["places"][0]["verdict"]) == (False, "undecided")

    def test_repeats_are_averaged(self) -> None:
        state = check(CHECK, *sizes([(10, 0, 72.012)]), *sizes([(10, 0, 72.016)]))
        assert state["places"][0]["value_mm"] == pytest.approx(72.014)

    def test_a_warm_gauge_on_a_warm_part(self) -> None:
        """D4: read 72.033 at 30 C; the gauge was warm too, and so the bore is over."""
        warm = sizes([(10, 0, 72.033)], part_temp_c=30, instrument_temp_c=30)
        assert check(CHECK, *warm)["places"][0]["verdict"] == "over"
        unsure = sizes([(10, 0, 72.033)], part_temp_c=30, instrument_temp_c=30, temp_u_c=2)
        assert check(CHECK, *unsure)["places"][0]["verdict"] == "undecided"

    def test_roundness_is_half_the_difference(self) -> None:
        state = check({**CHECK, "roundness_limit_mm": 0.004}, *sizes([(10, 0, 72.005), (10, 90, 72.025)]))
        assert state["limits"]["roundness"]["value_mm"] == pytest.approx(0.01)
        assert state["overall"] == "incomplete"


class TestRefusals:
    def test_what_no_limit_asks_for(self) -> None:
        assert check(CHECK, {"kind": "runout", "swing_mm": 0.01})["refused"]["field"] == "kind"
        assert check(CHECK, {"kind": "depth", "gauge": "B", "readings_mm": [18]})["refused"]["field"] == "kind"
        assert check(CHECK, *sizes([(150, 0, 72.0)]))["refused"]["field"] == "z_mm"
        assert check(CHECK, *sizes([(10, 0, 72.0)], gauge="Z"))["refused"]["field"] == "gauge"

    @pytest.mark.parametrize(
        ("change", "field"),
        [
            ({"depth_lower_mm": 18}, "depth_upper_mm"),
            ({"depth_upper_mm": 18}, "depth_lower_mm"),
            ({"upper_mm": 71}, "upper_mm"),
            ({"rule": "gaurded"}, "rule"),
            ({"taper_limit_mm": 0}, "taper_limit_mm"),
            ({"gauges": []}, "gauges"),
        ],
    )
    def test_bad_input(self, change: dict[str, Any], field: str) -> None:
        assert refused_input("check_state", {**CHECK, **change}) == field


@settings(max_examples=60, deadline=None)
@given(
    drawn=st.lists(st.tuples(st.floats(0, 140), st.floats(0, 360), st.floats(71.9, 72.1), st.sampled_from("BC"))),
    taper=st.sampled_from([None, 0.01]),
    inspection=st.sampled_from(["reduced", "normal", "critical"]),
)
def test_never_in_while_anything_is_missing_or_a_place_is_not(
    drawn: list[tuple[float, float, float, str]], taper: float | None, inspection: str
) -> None:
    work = {**CHECK, "taper_limit_mm": taper, "inspection": inspection}
    for state in replay("check_state", work, *(sizes([d[:3]], gauge=d[3])[0] for d in drawn)):
        if state["overall"] == "in":
            assert not state["missing"]
            assert all(place["verdict"] == "in" for place in state["places"])
        if any(place["verdict"] == "over" for place in state["places"]):
            assert state["overall"] == "over"

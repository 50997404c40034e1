"""The pass in hand, told step by step: figures worked out by hand from the plan and the log."""

from typing import Any

import pytest

from tests.plan.replay import State, refused_input, replay
from tests.plan.works import WAYS, bore_plan

DIAL = bore_plan(WAYS[0], test_leave_mm=0.8)
OVER_BAR = bore_plan(WAYS[3], test_leave_mm=0.8)
FIRST_THREE = ({"kind": "cut", "pass": 1, "through": 3},)


def size(*readings: float, gauge: str = "B", **more: Any) -> dict[str, Any]:
    return {"kind": "size", "gauge": gauge, "readings_mm": list(readings), **more}


def put(number: int, actual: float | None = None) -> dict[str, Any]:
    return {"kind": "set", "pass": number, "actual": actual}


def cut(number: int, through: int | None = None) -> dict[str, Any]:
    return {"kind": "cut", "pass": number, "through": through}


def bore(work: dict[str, Any], *entries: dict[str, Any]) -> State:
    return replay("bore_state", work, *entries)[-1]


def depths(state: State) -> list[tuple[str, float]]:
    return [(p["kind"], round(p["depth_mm"], 4)) for p in state["passes_left"]]


class TestTheMoveIsToldOnce:
    """A1 of what trying showed: told in `set`, afterwards only where the dial stands."""

    def test_pass_four_of_the_lock_gear(self) -> None:
        states = replay("bore_state", DIAL, *FIRST_THREE, size(71.196), put(4), cut(4))
        told = states[2]["told"]
        assert told["divisions"] == pytest.approx(10.2375)
        assert told["to_division"] == pytest.approx(80.6125)
        assert (states[3]["phase"], states[3]["told"]) == ("cut", None)
        assert states[3]["stands_at"] == pytest.approx(80.6125)
        assert (states[4]["phase"], states[4]["known_from"]) == ("measure", "set")

    def test_a_dial_whose_numbers_fall_and_that_reads_diameter(self) -> None:
        state = bore(bore_plan(WAYS[1]))
        # 0.46917 radial is 0.93833 on diameter: 93.833 divisions, from 12.5 down, 50 a turn
        assert state["told"]["divisions"] == pytest.approx(93.8333, abs=1e-4)
        assert state["told"]["to_division"] == pytest.approx((12.5 - 93.83333) % 50, abs=1e-4)

    def test_a_bit_that_leans_moves_more_along_itself(self) -> None:
        state = bore(bore_plan(WAYS[2]))
        assert state["told"] == {"advance_mm": pytest.approx(0.4691666 / 0.8660254, abs=1e-6)}

    def test_a_second_tap_is_refused_and_changes_nothing(self) -> None:
        once, twice = replay("bore_state", DIAL, put(1), put(1))[-2:]
        assert twice.pop("refused")["field"] == "kind"
        once.pop("refused")
        assert once == twice

    def test_what_was_really_set_counts_and_the_rest_is_shared_anew(self) -> None:
        state = bore(DIAL, put(1, 20), cut(1))
        assert state["known_mm"] == pytest.approx(69.2)
        assert state["passes_left"][0]["diameter_mm"] == pytest.approx(69.2 + (71.215 - 69.2) / 3)
        assert state["told"]["to_division"] == pytest.approx(20 + (71.215 - 69.2) / 3 / 0.04)

    def test_a_setting_past_the_upper_limit_is_stored_but_not_cut(self) -> None:
        before, after = replay("bore_state", DIAL, *FIRST_THREE, size(71.196), put(4, 25))[-2:]
        assert (after["phase"], after["refused"]) == ("set", None)
        assert after["told"]["divisions"] == pytest.approx(before["told"]["divisions"] - 25)

    def test_the_dial_zeroed_leaves_the_cutter(self) -> None:
        state = bore(DIAL, put(1, 20), {"kind": "zero", "at_division": 0})
        assert (state["stands_at"], state["set_diameter_mm"]) == (0, pytest.approx(69.2))


class TestTheTargetStays:
    def test_an_oversize_is_over_and_nothing_is_told(self) -> None:
        state = bore(DIAL, *FIRST_THREE, size(71.196), put(4), cut(4), size(71.606), put(5), cut(5), size(72.060))
        assert (state["phase"], state["verdict"], state["passes_left"]) == ("over", "over", [])
        assert state["to_come_off_mm"] == pytest.approx(-0.045)

    def test_done_and_in(self) -> None:
        state = bore(DIAL, *FIRST_THREE, size(71.215), cut(4, 4), size(71.615), cut(5, 5), size(72.014))
        assert (state["phase"], state["verdict"], state["pass"]) == ("done", "in", None)

    def test_too_near_the_top_is_measured_again(self) -> None:
        state = bore(DIAL, *FIRST_THREE, size(71.215), cut(4, 4), size(71.615), cut(5, 5), size(72.0295))
        assert (state["phase"], state["verdict"]) == ("measure", "undecided-high")

    def test_the_honing_allowance_moves_aim_and_limits(self) -> None:
        work = {**DIAL, "bore": {**DIAL["bore"], "hone_allowance_mm": 0.1}}
        assert bore(work)["to_come_off_mm"] == pytest.approx(71.915 - 68.4)
        assert bore(work, *FIRST_THREE, size(71.95))["verdict"] == "over"


class TestSizes:
    def test_the_gauge_is_corrected_before_anything_is_said(self) -> None:
        state = bore(DIAL, size(71.985, gauge="C"))
        assert state["known_mm"] == pytest.approx(72.015)

    def test_each_reading_is_brought_to_20_by_its_own_temperature(self) -> None:
        work = {**DIAL, "part_expansion_um_m_k": 10.0}
        warm, cold = size(72.0, part_temp_c=30), size(72.0)
        state = bore(work, warm, cold)
        assert state["known_mm"] == pytest.approx(72.0 - 72.0 * 10e-6 * 10 / 2 - 0, abs=5e-5)

    def test_two_gauges_that_contradict_are_believed_at_their_worst(self) -> None:
        state = bore(DIAL, *FIRST_THREE, size(72.01), size(72.05, gauge="C"))
        assert (state["agree"], state["known_mm"]) == (False, pytest.approx(72.08))
        assert state["verdict"] == "over"

    def test_a_size_after_another_entry_replaces(self) -> None:
        state = bore(DIAL, size(69.0), {"kind": "zero", "at_division": 3}, size(69.1))
        assert state["known_mm"] == pytest.approx(69.1)

    def test_a_size_before_the_cut_asks_to_set_again(self) -> None:
        state = bore(DIAL, put(1), size(68.44))
        assert state["phase"] == "set"
        target = state["passes_left"][0]["diameter_mm"]
        assert state["told"]["divisions"] == pytest.approx((target - 68.44) / 0.04 - 23.458333, abs=1e-5)

    @pytest.mark.parametrize(("came", "suspect"), [(72.02, "twice"), (71.4, "half"), (71.606, None), (71.3, None)])
    def test_a_change_of_twice_or_half_is_suspected(self, came: float, suspect: str | None) -> None:
        state = bore(DIAL, *FIRST_THREE, size(71.196), put(4), cut(4), size(came))
        assert state["suspect"] == suspect


class TestAbsoluteWays:
    def test_what_the_last_pass_came_out_wrong_is_taken_off(self) -> None:
        """A4: set at 14.250 over a step gauge it came out 0.03 small; the next pass is told 0.015 more."""
        work = bore_plan(WAYS[4], test_leave_mm=0.8)
        state = bore(work, *FIRST_THREE, size(71.185))
        target = state["passes_left"][0]["diameter_mm"]
        assert state["told"]["reading_mm"] == pytest.approx((target + 0.03 - 40) / 2)

    def test_each_pass_of_a_bundle_has_its_own_reading(self) -> None:
        first, after = replay("bore_state", OVER_BAR, cut(1, 1))
        assert first["told"]["reading_mm"] == pytest.approx((40 + 69.338333) / 2, abs=1e-6)
        assert after["told"]["reading_mm"] == pytest.approx((40 + 70.276667) / 2, abs=1e-6)

    def test_far_short_once_is_a_slip_twice_a_habit(self) -> None:
        once = bore(OVER_BAR, *FIRST_THREE, size(71.1))
        target = once["passes_left"][0]["diameter_mm"]
        assert once["told"]["reading_mm"] == pytest.approx((40 + target) / 2), "a slip is not taken off"
        again = bore(OVER_BAR, *FIRST_THREE, size(71.1), cut(4, 4), size(71.4425), cut(5, 5), size(71.895))
        assert again["told"]["reading_mm"] == pytest.approx((40 + 72.015 + 0.12) / 2), "0.115 and 0.12: that is the bar"

    def test_the_micrometer_has_its_zero(self) -> None:
        assert bore(bore_plan(WAYS[5]))["told"]["reading_mm"] == pytest.approx(69.338333 + 0.2, abs=1e-6)

    def test_a_tip_inside_the_bar_is_refused(self) -> None:
        assert bore(OVER_BAR, put(1, 39.9))["refused"]["field"] == "actual"


class TestSpringAndTouch:
    SPRUNG = bore_plan(WAYS[0], test_leave_mm=0.8, spring_passes=2)

    def test_a_spring_pass_leaves_the_setting(self) -> None:
        log = (*FIRST_THREE, size(71.215), cut(4, 4), size(71.615), cut(5, 5), size(71.985))
        state = bore(self.SPRUNG, *log)
        assert (state["phase"], depths(state)) == ("cut", [("spring", 0), ("spring", 0)])
        assert bore(self.SPRUNG, *log, put(6, 1))["refused"]["field"] == "kind"
        assert bore(self.SPRUNG, *log, cut(6, 7))["phase"] == "measure"

    def test_a_touched_tip_is_touched_off_and_its_first_cut_measured(self) -> None:
        state = bore(DIAL, cut(1, 1), {"kind": "touched"})
        assert (state["phase"], state["set_diameter_mm"]) == ("touch-off", None)
        assert state["passes_left"][0]["measure_after"] is True
        off = bore(DIAL, cut(1, 1), {"kind": "touched"}, {"kind": "touch-off", "at_division": 5})
        assert (off["phase"], off["stands_at"]) == ("set", 5)
        assert off["told"]["to_division"] == pytest.approx((5 + off["told"]["divisions"]) % 100)

    def test_an_absolute_way_needs_no_touching_off(self) -> None:
        state = bore(OVER_BAR, cut(1, 1), {"kind": "touched"})
        assert (state["phase"], state["stands_at"]) == ("set", None)
        assert bore(OVER_BAR, {"kind": "touch-off"})["refused"]["field"] == "kind"

    def test_touched_after_the_last_cut_owes_a_size(self) -> None:
        log = (*FIRST_THREE, size(71.215), cut(4, 4), size(71.615), cut(5, 5))
        assert bore(DIAL, *log, {"kind": "touched"})["phase"] == "measure"


class TestPassesLeft:
    def test_leftovers_keep_the_finish_depth(self) -> None:
        """A11: with 2.5 radial left and one finish pass cut, roughing comes first."""
        work = bore_plan(WAYS[0])
        state = bore(work, cut(1, 3), size(71.215), cut(4, 4), size(67.5))
        assert depths(state)[-1] == ("finish", 0.2)
        assert all(kind == "rough" and depth <= 0.5 for kind, depth in depths(state)[:-1])

    def test_no_pass_is_thinner_than_the_edge_cuts(self) -> None:
        work = bore_plan(WAYS[0])
        state = bore(work, cut(1, 3), size(71.215), cut(4, 4), size(71.9))
        assert depths(state) == [("finish", 0.0575)]


class TestRefusals:
    @pytest.mark.parametrize(
        ("log", "field"),
        [
            ([cut(1)], "kind"),
            ([put(2)], "pass"),
            ([{"kind": "undo"}], "kind"),
            ([put(1), cut(2)], "pass"),
            ([cut(1, 4)], "through"),
            ([cut(1, 9)], "through"),
            ([put(1, 20), cut(1, 2)], "through"),
            ([size(70.0, gauge="Z")], "gauge"),
            ([{"kind": "zero", "at_division": 100}], "at_division"),
            ([{"kind": "touched"}, put(1)], "kind"),
        ],
    )
    def test_what_does_not_fit_is_refused(self, log: list[dict[str, Any]], field: str) -> None:
        state = bore(DIAL, *log)
        assert state["refused"]["field"] == field
        assert state["refused"]["message"]

    @pytest.mark.parametrize(
        ("entry", "field"),
        [
            ({"kind": "sit"}, "entries.0.kind"),
            ({"pass": 1}, "entries.0.kind"),
            ({"kind": "set"}, "entries.0.pass"),
            ({"kind": "set", "pass": 0}, "entries.0.pass"),
            ({"kind": "set", "pass": 1, "extra": 2}, "entries.0.extra"),
            ({"kind": "set", "pass": "one"}, "entries.0.pass"),
            (size(), "entries.0.readings_mm"),
            (size(71.0, -1), "entries.0.readings_mm.1"),
            (size(71.0, temp_u_c=-1), "entries.0.temp_u_c"),
            ({"kind": "zero"}, "entries.0.at_division"),
            (5, "entries.0"),
        ],
    )
    def test_what_is_wrong_in_itself_is_bad_input(self, entry: Any, field: str) -> None:
        assert refused_input("bore_state", DIAL, entry) == field

    @pytest.mark.parametrize(
        ("change", "field"),
        [
            ({"bore": {"start_mm": 72.5, "lower_mm": 72.0, "upper_mm": 72.03}}, "bore.upper_mm"),
            ({"bore": {**DIAL["bore"], "aim_mm": 73}}, "bore.aim_mm"),
            ({"bore": {**DIAL["bore"], "upper_mm": 71}}, "bore.upper_mm"),
            ({"setting": {"way": "over-bar", "bar_diameter_mm": 70}}, "setting.bar_diameter_mm"),
            ({"setting": {"way": "lever"}}, "setting.way"),
            ({"setting": {"way": "dial", "division_mm": 0.02}}, "setting.divisions_per_turn"),
            ({"gauges": []}, "gauges"),
            ({"gauges": [DIAL["gauges"][0]] * 2}, "gauges.1.name"),
            ({"rules": {**DIAL["rules"], "min_depth_mm": 0.4}}, "rules.min_depth_mm"),
        ],
    )
    def test_a_plan_that_cannot_be_is_bad_input(self, change: dict[str, Any], field: str) -> None:
        assert refused_input("bore_state", {**DIAL, **change}) == field

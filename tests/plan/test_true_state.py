"""Truing, entry by entry: only a closed, valid, undisturbed round advises."""

from math import cos, radians, sin
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.plan.replay import State, refused_input, replay

JAWS = {"1": 0, "2": 90, "3": 180, "4": 270}
TRUE: dict[str, Any] = {"surface": "outside", "limit_mm": 0.02, "indicator_step_mm": 0.001, "jaws_deg": JAWS}
EIGHT = [45.0 * n for n in range(8)]
MOVED, DISTURBED, UNDO = {"kind": "moved"}, {"kind": "disturbed"}, {"kind": "undo"}


def swept(x: float, y: float, oval: float = 0.0, places: list[float] = EIGHT) -> list[dict[str, Any]]:
    """A full round on a shaft off by x, y with an oval."""
    values = [
        round(x * cos(radians(a)) + y * sin(radians(a)) + oval * cos(radians(2 * a)), 6) for a in places
    ]  # fmt: skip
    return [{"kind": "begin", "places_deg": places}, *({"kind": "reading", "reading_mm": v} for v in values),
            {"kind": "again", "reading_mm": values[0]}]  # fmt: skip


def true(work: dict[str, Any], *entries: dict[str, Any]) -> State:
    return replay("true_state", work, *entries)[-1]


class TestRounds:
    def test_nothing_is_said_before_the_round_is_closed(self) -> None:
        states = replay("true_state", TRUE, *swept(0.03, -0.04))
        assert [s["phase"] for s in states] == ["begin", *["reading"] * 8, "again", "closed"]
        assert all(s["moves"] is None for s in states[:-1])
        last = states[-1]
        assert last["eccentricity_mm"] == pytest.approx(0.05, abs=1e-6)
        assert last["moves"] == [
            {"slacken": "3", "tighten": "1", "by_mm": pytest.approx(0.03, abs=1e-6)},
            {"slacken": "2", "tighten": "4", "by_mm": pytest.approx(0.04, abs=1e-6)},
        ]

    def test_a_round_that_does_not_come_back_is_void_and_the_old_move_is_gone(self) -> None:
        log = [*swept(0.03, 0), MOVED, *swept(0.001, 0)[:-1], {"kind": "again", "reading_mm": 0.02}]
        state = true(TRUE, *log)
        assert (state["phase"], state["validity"], state["moves"]) == ("begin", "void", None)

    @pytest.mark.parametrize("entry", [MOVED, DISTURBED])
    def test_moving_in_an_open_round_voids_it(self, entry: dict[str, Any]) -> None:
        assert true(TRUE, *swept(0.03, 0)[:4], entry)["validity"] == "void"

    def test_a_moved_work_is_to_be_read_anew(self) -> None:
        state = true(TRUE, *swept(0.03, 0), MOVED)
        assert (state["phase"], state["validity"], state["moves"]) == ("begin", "closed", None)

    def test_blocked_places_are_skipped_and_too_few_say_nothing(self) -> None:
        places = {"kind": "begin", "places_deg": [0, 90, 180, 270]}
        read, blocked = {"kind": "reading", "reading_mm": 0.01}, {"kind": "blocked"}
        assert true(TRUE, places, blocked, read, read, read)["place_deg"] == 90
        assert true(TRUE, places, blocked, blocked, read, read)["validity"] == "void"

    def test_undo_opens_a_closed_round_again(self) -> None:
        assert true(TRUE, *swept(0.03, 0), UNDO)["phase"] == "again"


class TestWhatItIsJudgedBy:
    def test_a_peak_between_the_places_counts_in_finished_work(self) -> None:
        """B1: -9 -9 9 9 um reads 18 of 20, but the curve through it swings 25.5."""
        log = [{"kind": "begin", "places_deg": [0, 90, 180, 270]},
               *({"kind": "reading", "reading_mm": v} for v in (-0.009, -0.009, 0.009, 0.009)),
               {"kind": "again", "reading_mm": -0.009}]  # fmt: skip
        state = true({**TRUE, "purpose": "finished"}, *log)
        assert (state["within"], state["judged_by"]) == (False, "swing")
        assert (state["total_reading_mm"], state["swing_mm"]) == (
            pytest.approx(0.018),
            pytest.approx(0.02546, abs=1e-5),
        )

    def test_a_worn_oval_that_is_centred_is_done_before_boring(self) -> None:
        """B4: 0.040 of swing of which nearly all is its own form."""
        state = true(TRUE, *swept(0.002, 0, oval=0.019))
        assert (state["within"], state["judged_by"], state["moves"]) == (True, "centre", [])
        finished = true({**TRUE, "purpose": "finished"}, *swept(0.002, 0, oval=0.019))
        assert finished["within"] is False

    def test_no_move_finer_than_the_indicator(self) -> None:
        state = true({**TRUE, "purpose": "finished", "indicator_step_mm": 0.01}, *swept(0.004, 0, oval=0.03))
        assert (state["within"], state["moves"]) == (False, [])


class TestTheMoveBefore:
    """B5: a move that did not do what was told is named."""

    @pytest.mark.parametrize(
        ("now", "suspect"),
        [
            ((0.001, 0.001), None),
            ((0.12, 0.10), "wrong-way"),
            ((-0.06, -0.05), "twice"),
            ((0.03, 0.025), "half"),
            ((0.12, 0.001), "mirrored"),
            ((0.001, 0.10), "mirrored"),
        ],
    )
    def test_by_name(self, now: tuple[float, float], suspect: str | None) -> None:
        assert true(TRUE, *swept(0.06, 0.05), MOVED, *swept(*now))["suspect"] == suspect

    def test_the_other_pair_of_jaws(self) -> None:
        assert true(TRUE, *swept(0.06, 0.005), MOVED, *swept(0.065, -0.055))["suspect"] == "other-jaws"

    def test_not_where_nothing_was_moved_or_the_work_was_disturbed(self) -> None:
        assert true(TRUE, *swept(0.06, 0.05), *swept(0.12, 0.10))["suspect"] is None
        assert true(TRUE, *swept(0.06, 0.05), MOVED, DISTURBED, *swept(0.12, 0.10))["suspect"] is None


class TestRefusals:
    @pytest.mark.parametrize("entry", [{"kind": "reading", "reading_mm": 0}, {"kind": "blocked"}, UNDO,
                                       {"kind": "again", "reading_mm": 0}])  # fmt: skip
    def test_out_of_place(self, entry: dict[str, Any]) -> None:
        assert true(TRUE, entry)["refused"]["field"] == "kind"

    @pytest.mark.parametrize(
        ("change", "entry", "field"),
        [
            ({"limit_mm": 0}, MOVED, "limit_mm"),
            ({"purpose": "finished", "centre_limit_mm": 0.01}, MOVED, "centre_limit_mm"),
            ({"jaws_deg": {"1": 0, "2": 120, "3": 240}}, MOVED, "jaws_deg"),
            ({}, {"kind": "begin", "places_deg": [0, 90]}, "entries.0.places_deg"),
            ({}, {"kind": "begin", "places_deg": []}, "entries.0.places_deg"),
            ({}, {"kind": "reading"}, "entries.0.reading_mm"),
        ],
    )
    def test_bad_input(self, change: dict[str, Any], entry: dict[str, Any], field: str) -> None:
        assert refused_input("true_state", {**TRUE, **change}, entry) == field


@settings(max_examples=40, deadline=None)
@given(x=st.floats(-0.5, 0.5), y=st.floats(-0.5, 0.5), oval=st.floats(0, 0.05))
def test_moves_made_as_told_leave_the_work_true(x: float, y: float, oval: float) -> None:
    told = true(TRUE, *swept(x, y, oval))
    moves = {m["tighten"]: m["by_mm"] for m in told["moves"]}
    left = (x - moves.get("1", 0) + moves.get("3", 0), y - moves.get("2", 0) + moves.get("4", 0))
    assert true(TRUE, *swept(*left, oval))["within"] is True

"""The damper of a tuned bar found by ear: from full in, a turn at a time, then by halves."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from gyroplan.assess import damper_search
from gyroplan.record import DamperTryRecord


def sound_at(turns: float, best: float, quiet: float, hum: float) -> str:
    off = abs(turns - best)
    return "quiet" if off <= quiet else "hum" if off <= hum else "squeal"


def searched(best: float, quiet: float, hum: float) -> list[DamperTryRecord]:
    tries: list[DamperTryRecord] = []
    while (found := damper_search(tries)).next_turns is not None:
        turns = found.next_turns
        tries.append(DamperTryRecord(turns=turns, sound=sound_at(turns, best, quiet, hum)))  # type: ignore[arg-type]
        assert len(tries) < 60
    return tries


def test_it_begins_full_in_and_goes_out_by_turns() -> None:
    assert damper_search([]).next_turns == 0.0
    assert [one.turns for one in searched(3.0, 0.05, 1.2)] == [0, 1, 2, 3]


def test_past_the_best_it_comes_back_by_halves() -> None:
    tries = searched(2.4, 0.12, 1.0)
    assert [one.turns for one in tries[:5]] == [0, 1, 2, 3, 4]
    assert tries[-1].sound == "quiet"
    assert abs(tries[-1].turns - 2.4) <= 0.12


@given(st.floats(0, 7), st.floats(0.07, 0.5), st.floats(0.6, 2))
def test_any_damper_that_can_run_quiet_is_found(best: float, quiet: float, hum: float) -> None:
    tries = searched(best, quiet, hum)
    assert tries[-1].sound == "quiet"
    assert len({one.turns for one in tries}) == len(tries), "no place is tried twice"


def test_one_that_never_runs_quiet_ends_at_its_best() -> None:
    tries = searched(2.4, -1, 0.7)
    found = damper_search(tries)
    assert found.is_done
    assert found.best_sound == "hum"

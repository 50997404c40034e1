"""A line bar on True: housings hidden up and to the side, swept with a sagging bar and a drooping arm, come true."""

from __future__ import annotations

from dataclasses import replace
from math import cos, radians, sin
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gyroplan.assess import Assessment, line_moves_of, missing_for_moves, steps, steps_of
from gyroplan.assess.lines import response_of
from gyroplan.record import BarRecord, BetweenRecord, JobRecord, ReadingRecord, RoundRecord
from tests.plan.shop import assessed, bore, job

BAR = BarRecord(key=9, name="Line bar 1", kind="line-bar", method="line", diameter_mm=60, length_mm=1500,
                min_bore_mm=66)  # fmt: skip
BEARINGS = (-80.0, 500.0, 1280.0)
Centre = tuple[float, float]


def line_job(*rounds: RoundRecord, between: tuple[BetweenRecord, ...] = (), **plan: Any) -> JobRecord:
    bores = [
        bore(
            key=n,
            place=n,
            name=f"H{n}",
            start_mm=start,
            length_mm=80.0,
            lower_mm=90.0,
            upper_mm=90.035,
            runout_limit_mm=0.04,
            found_mm=((40.0, 87.6),),
        )
        for n, start in ((1, 0.0), (2, 560.0), (3, 1120.0))
    ]
    return job(*bores, plan={"bar": BAR, "bearings_mm": BEARINGS, **plan}, setup={"method": "line"},
               rounds=rounds, between=between)  # fmt: skip


def swept(place: int, centre: Centre, number: int = 1, droop_mm: float = 0.0) -> RoundRecord:
    """Eight readings inside a true round bore whose centre lies up and right of the bar, as the indicator shows them.

    The arm's tip hangs: it lies lower than where it is taken to be, so that the wall below presses it in.
    """
    up, right = centre
    readings = []
    for at in range(8):
        angle = radians(45 * at)
        # the wall stands nearer where the centre lies away: the plunger is pushed in
        value = -(up * cos(angle) + right * sin(angle)) - droop_mm * cos(angle)
        readings.append(ReadingRecord(key=100 * place + at, place=at, value_mm=value))
    readings.append(ReadingRecord(key=100 * place + 9, place=8, value_mm=readings[0].value_mm))
    return RoundRecord(key=10 * number + place, number=number, purpose="true", method="sweep", places=8,
                       surface="inside", bore=place, piece=1, indicator_step_mm=0.001,
                       readings=tuple(readings))  # fmt: skip


def sags() -> dict[str, float]:
    at = assessed(line_job()).boring(1, 1).passes.at
    return {row.bore: row.sag_mm for row in response_of(at, BAR, (BEARINGS[0], BEARINGS[-1])).rows}


def seen(true: Centre, name: str, droop_mm: float) -> Centre:
    """What a sweep shows of a bore that lies at `true` from the bearings' straight line: the bar hangs below it."""
    return true[0] + sags()[name], true[1]


def moved_line(found: Any, z_mm: float) -> Centre:
    """Where the bearings' line lies after the moves, by hand."""
    (a, b) = found.moves
    share = (z_mm - a.z_mm) / (b.z_mm - a.z_mm)
    return a.up_mm + share * (b.up_mm - a.up_mm), a.right_mm + share * (b.right_mm - a.right_mm)


OFF = st.floats(-0.4, 0.4)


@settings(deadline=None, max_examples=25)
@given(OFF, OFF, OFF, OFF, st.floats(0, 0.02))
def test_the_moves_lay_the_bearings_line_through_both_ends(
    a: float, b: float, c: float, d: float, droop: float
) -> None:
    ends = {"H1": (a, b), "H3": (c, d)}
    rounds = [swept(place, seen(ends[name], name, droop), droop_mm=droop) for place, name in ((1, "H1"), (3, "H3"))]
    found = line_moves_of(assessed(line_job(*rounds, droop_mm=droop)), 1)
    assert found is not None
    for one in found.bores:
        assert (one.true_up_mm, one.true_right_mm) == (pytest.approx(ends[one.name][0], abs=1e-6),
                                                       pytest.approx(ends[one.name][1], abs=1e-6))  # fmt: skip
        assert moved_line(found, one.z_mm) == (pytest.approx(ends[one.name][0], abs=1e-6),
                                               pytest.approx(ends[one.name][1], abs=1e-6))  # fmt: skip
        assert one.left_mm == pytest.approx(0, abs=1e-9)
    assert found.unseen == ("H2",)
    assert found.slack == (2,)
    assert found.within == (max((a * a + b * b) ** 0.5, (c * c + d * d) ** 0.5) <= 0.02 + 1e-9)


def test_without_both_ends_or_the_bearings_nothing_is_told() -> None:
    one = assessed(line_job(swept(1, (0.1, 0.0))))
    assert line_moves_of(one, 1) is None
    assert missing_for_moves(one, 1) == ("a sweep of H3",)
    both = (swept(1, (0.1, 0.0)), swept(3, (0.1, 0.0)))
    assert missing_for_moves(assessed(line_job(*both, bearings_mm=())), 1) == ("where the bearings stand, on Bar",)
    moved = BetweenRecord(kind="moved", after_round=1, bore=3, piece=1)
    assert line_moves_of(assessed(line_job(*both, between=(moved,))), 1) is None, "what was told is told once"


def test_true_is_done_when_the_line_is_and_not_when_the_sagging_bar_only_seems_so() -> None:
    def station(job: Assessment) -> tuple[str, str]:
        line = next(one for one in steps_of(job).steps if one.step == "true")
        return line.state, line.code

    true = [swept(place, seen((0.0, 0.0), name, 0.0)) for place, name in ((1, "H1"), (3, "H3"))]
    assert station(assessed(line_job(*true))) == ("done", "trued")
    one = assessed(line_job(swept(1, seen((0.1, 0.0), "H1", 0.0))))
    assert one.truing(1, 1).standing is not None
    assert one.truing(1, 1).standing.moves == [], "one end alone tells no move"  # type: ignore[union-attr]
    low = [swept(place, seen((0.03, 0.0), name, 0.0)) for place, name in ((1, "H1"), (3, "H3"))]
    assert station(assessed(line_job(*low))) == ("ahead", "truing")


def test_the_next_action_is_the_bearings_own_and_names_the_end_that_lacks_a_sweep() -> None:
    def told(*rounds: RoundRecord) -> tuple[str, dict[str, Any]]:
        done = dict.fromkeys(("work", "bar", "cuts"), lambda _: ("done", "", {}))
        with pytest.MonkeyPatch.context() as patch:
            for step, line in done.items():
                patch.setitem(steps._LINES_OF, step, line)
            found = steps_of(assessed(line_job(*rounds))).following
        return found.code, found.values

    code, values = told(swept(1, seen((0.1, 0.0), "H1", 0.0)))
    assert (code, values["of"]) == ("begin_truing", "H3")
    code, values = told(swept(1, seen((0.1, 0.02), "H1", 0.0)), swept(3, seen((-0.2, 0.0), "H3", 0.0)))
    found = line_moves_of(assessed(line_job(swept(1, seen((0.1, 0.02), "H1", 0.0)),
                                            swept(3, seen((-0.2, 0.0), "H3", 0.0)))), 1)  # fmt: skip
    assert found is not None
    assert (code, values["number"], values["way"]) == ("move_bearing", 3, "down")
    assert values["value_mm"] == pytest.approx(-found.moves[1].up_mm)


def test_an_opening_bar_in_bearings_carries_the_roughing_and_the_bar_the_rest() -> None:
    slim = replace(BAR, key=10, name="Line bar 6", diameter_mm=40, min_bore_mm=44)
    alone = assessed(line_job()).boring(1, 2)
    both = assessed(line_job(opening_bar=slim)).boring(1, 2)
    assert alone.bar.opening is None
    found = both.bar.opening
    assert found is not None
    assert found.bar.name == "Line bar 6"
    assert found.enters
    answer = response_of(both.passes.at, slim, BEARINGS)
    stiffness = next(row.stiffness_n_mm for row in answer.rows if row.bore == "H2")
    assert stiffness is not None
    assert found.spring_mm == pytest.approx(abs(found.force.radial_n) / stiffness)
    assert {load.kind for load in both.passes.carried} == {"finish"}
    assert not assessed(line_job(opening_bar=replace(slim, diameter_mm=84))).boring(1, 2).bar.opening.enters  # type: ignore[union-attr]

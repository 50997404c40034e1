"""Laws of the pass in hand, whatever is logged in whatever order."""

import json
from typing import Any

from hypothesis import given, settings

from gyrocore.contract import run_text
from gyroplan.contract import STATES
from tests.plan.works import WAYS, bore_plan, entry_from, plans, steps

NEAR = 1e-7


def states_of(work: dict[str, Any]) -> list[dict[str, Any]]:
    answer, is_result = run_text("bore_state", json.dumps(work), STATES)
    assert is_result, answer
    return answer["states"]


def walk(plan: dict[str, Any], drawn: list[tuple[str, float, int]]) -> tuple[list[Any], list[dict[str, Any]]]:
    """Each step is decided from the state as it is then."""
    entries: list[dict[str, Any]] = []
    for step in drawn:
        entries.append(entry_from(step, states_of({**plan, "entries": entries})[-1]))
    return entries, states_of({**plan, "entries": entries})


@settings(max_examples=60, deadline=None)
@given(plan=plans, drawn=steps)
def test_no_log_breaks_a_law(plan: dict[str, Any], drawn: list[tuple[str, float, int]]) -> None:
    entries, states = walk(plan, drawn)
    assert len(states) == len(entries) + 1
    rules, aim, upper = plan["rules"], 72.015, 72.03
    for state in states:
        assert abs(state["to_come_off_mm"] - (aim - state["known_mm"])) < NEAR, "the target moved"
        if state["verdict"] == "over":
            assert (state["phase"], state["passes_left"], state["told"]) == ("over", [], None)
        assert (state["told"] is not None) == (state["phase"] == "set"), "told once, in `set` alone"
        cutting = [p for p in state["passes_left"] if p["kind"] != "spring"]
        if cutting:
            assert abs(cutting[-1]["diameter_mm"] - aim) < NEAR
            thin = [p for p in cutting if p["depth_mm"] < 0.05 - NEAR]
            assert not thin or len(cutting) == 1
        leave = rules["test_leave_mm"]
        ask = 0.2 if leave is None else leave / 2 / rules["finish_passes"]
        for left in cutting:
            most = rules["rough_depth_mm"] if left["kind"] != "finish" else max(1.5 * ask, 0.1)
            assert left["depth_mm"] <= most + NEAR
        if state["phase"] == "cut" and state["set_diameter_mm"] is not None and cutting:
            assert state["set_diameter_mm"] <= upper + NEAR


@settings(max_examples=40, deadline=None)
@given(plan=plans, drawn=steps)
def test_an_undone_or_refused_entry_leaves_no_trace(plan: dict[str, Any], drawn: list[tuple[str, float, int]]) -> None:
    entries, states = walk(plan, drawn)
    standing: list[dict[str, Any]] = []
    for entry, state in zip(entries, states[1:], strict=True):
        if state["refused"] is not None:
            continue
        if entry["kind"] == "undo":
            standing.pop()
        else:
            standing.append(entry)
    clean = states_of({**plan, "entries": standing})[-1]
    assert {**states[-1], "refused": None} == clean


@settings(max_examples=40, deadline=None)
@given(drawn=steps)
def test_the_dial_stands_where_the_moves_add_up_to(drawn: list[tuple[str, float, int]]) -> None:
    entries, states = walk(bore_plan(WAYS[0]), drawn)
    dial, memory = 0.0, [0.0]
    for entry, before, after in zip(entries, states, states[1:], strict=False):
        if after["refused"] is not None:
            continue
        if entry["kind"] == "undo":
            memory.pop()
        else:
            dial = memory[-1]
            if entry["kind"] == "set":
                told = before["told"] or {"divisions": 0}
                dial += told["divisions"] if entry.get("actual") is None else entry["actual"]
            elif entry["kind"] in ("zero", "touch-off"):
                dial = entry["at_division"]
            elif entry["kind"] == "cut" and entry.get("through"):
                dial = after["stands_at"]  # a bundle: its settings are as told, tested by the stories
            memory.append(dial)
        off = (after["stands_at"] - memory[-1] + 50) % 100 - 50
        assert abs(off) < NEAR

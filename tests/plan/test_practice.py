"""The practice bench: what is allowed when, what it hides, what an expert and the half rule make of it."""

from __future__ import annotations

from collections.abc import Sequence

import pytest

from gyroplan.practice import (
    LEVELS,
    Act,
    Part,
    Refusal,
    Run,
    act,
    centre_after,
    chased,
    expert_path,
    half_rule_path,
    hidden_of,
    replayed,
)

SEEDS = range(1, 41)


def shown(run: Run) -> float | None:
    """What the needle shows, to the division."""
    value = run.needle_mm
    return None if value is None else round(value / run.level.step_mm) * run.level.step_mm


def read_round(run: Run) -> tuple[Run, list[Act]]:
    """Once round from where it stands, and back to where it was begun."""
    acts: list[Act] = []
    for place in range(run.level.places + 1):
        value = shown(run)
        if place < run.level.places or value is not None:
            acts.append({"kind": "read", "value_mm": value})
            run = act(run, acts[-1])
        if place < run.level.places:
            acts.append({"kind": "turn", "by": 1})
            run = act(run, acts[-1])
    return run, acts


def moved(run: Run, parts: Sequence[Part]) -> Run:
    return act(run, {"kind": "move", "parts": [list(part) for part in parts]})


@pytest.mark.parametrize("key", list(LEVELS))
def test_an_expert_is_true_in_two_moves_at_every_level(key: str) -> None:
    level = LEVELS[key]
    for seed in SEEDS:
        steps = expert_path(level, seed)
        assert 1 <= len(steps) <= 2, (key, seed)
        assert steps[-1].left_mm <= level.centre_limit_mm


def test_the_half_rule_is_right_for_round_work_only() -> None:
    left = {key: [half_rule_path(LEVELS[key], seed)[-1].left_mm for seed in SEEDS] for key in LEVELS}
    limits = {key: one.centre_limit_mm for key, one in LEVELS.items()}
    assert all(one <= limits["round"] for one in left["round"])
    # it never sees a lean, nor the far housing
    assert all(one > limits["tilted"] for one in left["tilted"])
    assert all(one > limits["line"] for one in left["line"])
    followed = [len(half_rule_path(LEVELS["oval"], seed)) - len(expert_path(LEVELS["oval"], seed)) for seed in SEEDS]
    assert sum(followed) / len(followed) > 1.5, "it follows the oval"


@pytest.mark.parametrize("key", ["square", "round", "oval"])
def test_a_learner_who_does_as_the_expert_gets_there(key: str) -> None:
    level, seed = LEVELS[key], 7
    run = replayed(level, seed, [])
    for step in expert_path(level, seed):
        run, _ = read_round(run)
        run = moved(run, step.parts)
        assert run.left_mm == pytest.approx(step.left_mm)
    run, _ = read_round(run)
    run = act(run, {"kind": "finish"})
    assert run.finished
    assert run.left_mm <= level.centre_limit_mm
    assert chased(run, seed) == []
    assert len(centre_after(run, seed)) == len(run.moves) + 1


def test_nothing_is_moved_without_a_round_and_no_round_is_skipped() -> None:
    run = replayed(LEVELS["round"], 3, [])
    with pytest.raises(Refusal, match="a move without one is a guess"):
        moved(run, [("jaw", "1", 0.1)])
    with pytest.raises(Refusal, match="Only a port is skipped"):
        act(run, {"kind": "read", "value_mm": None})
    with pytest.raises(Refusal, match="once more to its end"):
        act(run, {"kind": "finish"})
    run = act(run, {"kind": "read", "value_mm": shown(run)})
    with pytest.raises(Refusal, match="read already"):
        act(run, {"kind": "read", "value_mm": 0.0})
    run, _ = read_round(replayed(LEVELS["round"], 3, []))
    for parts, words in (
        ([], "at least one"), ([("jaw", "9", 0.1)], "A move is over 0"), ([("jaw", "1", 5.0)], "up to 2 mm"),
        ([("tap", "1", 0.1)], "not moved here"), ([("jaw", "1", -0.1)], "over 0"),
    ):  # fmt: skip
        with pytest.raises(Refusal, match=words):
            moved(run, parts)
    run = moved(run, [("jaw", "1", 0.1)])
    with pytest.raises(Refusal):
        moved(run, [("jaw", "1", 0.1)])
    with pytest.raises(Refusal, match="cannot be done"):
        act(run, {"kind": "sing"})


def test_a_port_is_skipped_and_a_slip_voids_the_round() -> None:
    level = LEVELS["port"]
    run, acts = read_round(replayed(level, 5, []))
    assert [one["value_mm"] for one in acts if one["kind"] == "read"].count(None) == 1
    assert not run.may_move, "the holder slipped half way round"
    assert run.rounds[0].found(level) is None
    run, _ = read_round(run)
    assert run.may_move
    found = run.rounds[1].found(level)
    assert found is not None
    assert found.eccentricity_mm == pytest.approx(hidden_of(level, 5).worst_mm(level), abs=0.01)


def test_a_misread_place_and_a_wrong_move_are_named() -> None:
    level, seed = LEVELS["round"], 11
    run = replayed(level, seed, [])
    start = run.left_mm
    acts: list[Act] = []
    for place in range(9):
        value = shown(run)
        assert value is not None
        value += 0.3 if place in (2, 3) else 0.0
        acts += [{"kind": "read", "value_mm": value}, {"kind": "turn", "by": 1}]
        run = act(act(run, acts[-2]), acts[-1])
    assert run.rounds[0].misread == (2, 3)
    found = run.rounds[0].found(level)
    assert found is not None
    away = ("jaw", "1" if run.hidden.work.off_mm[0] > 0 else "3", 0.2)
    run = moved(run, [away])
    assert run.left_mm > start
    assert chased(run, seed) == [(1, "misread")]


def test_a_run_is_the_same_however_often_it_is_replayed() -> None:
    level = LEVELS["oval"]
    run, acts = read_round(replayed(level, 9, []))
    assert replayed(level, 9, acts) == run
    assert replayed(level, 10, acts[:1]).hidden != run.hidden

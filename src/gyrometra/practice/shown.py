"""The practice bench as it is shown: dial, chuck, ways, tables, the coach's words."""

from __future__ import annotations

from typing import Any

from gyrodraw import ChuckDrawn, PathDrawn, chuck_scene, needle_dial, paths_scene
from gyrometra.bridge.units import Units
from gyroplan.needle import DIVISIONS_A_TURN
from gyroplan.practice import (
    LEVELS,
    MOVED,
    PAIRS,
    Level,
    Part,
    PracticeRound,
    Run,
    Step,
    advice,
    centre_after,
    chased,
    expert_path,
    half_rule_path,
)

#: Places of a bar in bearings, from 0 degrees clockwise; jaws have their numbers.
_SIDES = {"1": "up", "2": "right", "3": "down", "4": "left"}
_ACROSS = {"1": "3", "2": "4", "3": "1", "4": "2"}
_FALLEN_TURN = -0.42
_CHASED = {
    "oval": "move {number} took the high of the oval for the centre",
    "misread": "before move {number} a reading was typed that the needle did not show",
    "worse": "move {number} made it no better",
}


def place_word(level: Level, place: int) -> str:
    """A place as the learner sees it: a jaw, between two, or a side."""
    angle = 360 * place // level.places
    here, following = str(angle // 90 + 1), str((angle // 90 + 1) % 4 + 1)
    if level.moved == "bearings":
        return _SIDES[here] if angle % 90 == 0 else f"{_SIDES[here]}-{_SIDES[following]}"
    return f"jaw {here}" if angle % 90 == 0 else f"{here}-{following}"


def part_words(part: Part, units: Units) -> str:
    """A move in the terms of what is moved."""
    what, toward, by = part
    amount = units.planned(by)
    if what == "jaw":
        return f"slacken {toward}, tighten {_ACROSS[toward]}: {amount}"
    if what == "tap":
        return f"tap the outer plane to jaw {toward}: {amount}"
    return f"{what} {_SIDES[toward]}: {amount}"


def scenes_of(run: Run, seed: int, units: Units, *, coach: bool) -> dict[str, Any]:
    """Dial, chuck and, with the coach or at the end, the ways that were gone."""
    level = run.level
    value = run.needle_mm
    turn = _FALLEN_TURN if value is None else value / (level.step_mm * DIVISIONS_A_TURN)
    one = run.open_round
    # the stylus shows a place as it lies, read or not; what it hides is not drawn
    chuck = chuck_scene(ChuckDrawn(
        places=level.places, at=run.at, read=frozenset(one.typed if one is not None else ()), inside=level.inside,
        are_jaws=level.moved != "bearings",
        jaws=("up", "right", "down", "left") if level.moved == "bearings" else ("1", "2", "3", "4"),
    ))  # fmt: skip
    dial = needle_dial(f"{units.fine(level.step_mm)} {units.label}")
    return {"dial": dial, "turn": f"{360 * turn:.2f}", "fallen": value is None, "chuck": chuck,
            "paths": _paths(run, seed, units) if coach or run.finished else None}  # fmt: skip


def _paths(run: Run, seed: int, units: Units) -> Any:
    level = run.level
    start = centre_after(run, seed)
    shown = [
        PathDrawn(points=start, line="chart-line", place="place-solid", name="you"),
        _path("expert", expert_path(level, seed), start[0], ("expected-line", "place-expected")),
        _path("half rule", half_rule_path(level, seed), start[0], ("hidden", "place-void")),
    ]
    limit = level.centre_limit_mm
    # the ways of others are told when the learner has made a move of his own
    return paths_scene(shown if run.moves or run.finished else shown[:1], limit, units.planned(limit))


def _path(name: str, steps: tuple[Step, ...], start: tuple[float, float], roles: tuple[str, str]) -> PathDrawn:
    return PathDrawn(points=[start, *(one.centre_mm for one in steps)], line=roles[0], place=roles[1], name=name)


def reading_rows(run: Run, units: Units) -> list[dict[str, Any]]:
    """The places of the round in hand, else of the last one."""
    one = run.open_round or (run.rounds[-1] if run.rounds else PracticeRound(plane=run.plane))
    rows = [
        {"name": place_word(run.level, place), "value": _typed(one, place, units), "here": place == run.at}
        for place in range(run.level.places)
    ]  # fmt: skip
    if one.again_mm is not None:
        rows.append({"name": "again", "value": units.signed(one.again_mm), "here": False})
    return rows


def _typed(one: PracticeRound, place: int, units: Units) -> str:
    if place not in one.typed:
        return "·"
    value = one.typed[place]
    return "skipped" if value is None else units.signed(value)


def round_words(run: Run, units: Units) -> str:
    """What is to be done with the round in hand."""
    one = run.open_round
    if run.finished:
        return "The last round, as it was read:"
    if one is not None and one.is_full(run.level):
        first = one.first()
        return f"Back to {place_word(run.level, first)}: read it again." if first is not None else "Nothing was read."
    if one is not None or not run.rounds:
        return f"Round {len(run.rounds) + (one is None)}: turn, read, type what the needle shows."
    last = run.rounds[-1]
    if not last.is_valid(run.level):
        off = abs((last.again_mm or 0) - (last.typed.get(last.first() or 0) or 0))
        return f"Void: it came back {units.planned(off)} off. The holder slipped: tighten it and read the round again."
    return "The round holds: move it, or read the other plane." if len(run.level.planes_mm) > 1 else (
        "The round holds: move it, or say that it is true."
    )  # fmt: skip


def move_rows(level: Level) -> list[dict[str, Any]]:
    """The fields of what can be moved: a pair a row."""
    rows = []
    for what in MOVED[level.moved]:
        for place, pair in enumerate(PAIRS):
            options = [(one, _option(what, one)) for one in pair]
            label = {"jaw": "Tighten", "tap": "Tap to"}.get(what, what.capitalize())
            rows.append({"name": f"{what.replace(' ', '')}-{place}", "label": label, "options": options})
    return rows


def _option(what: str, toward: str) -> str:
    """`Tighten jaw 3` sends the work toward jaw 1."""
    if what == "jaw":
        return f"jaw {_ACROSS[toward]}"
    return f"jaw {toward}" if what == "tap" else _SIDES[toward]


def moves_table(run: Run, seed: int, units: Units, *, coach: bool) -> list[dict[str, Any]]:
    """Move by move what the learner did, and beside it what others would have done."""
    told = coach or run.finished
    expert, half = expert_path(run.level, seed), half_rule_path(run.level, seed)
    wrong = {number for number, _ in chased(run, seed)} if told else set()
    rows = []
    for number in range(max(len(run.moves), *((len(expert), len(half)) if told and run.moves else (0, 0)))):
        own = run.moves[number] if number < len(run.moves) else None
        rows.append({
            "number": number + 1, "wrong": number + 1 in wrong,
            "own": [part_words(part, units) for part in own.parts] if own else [],
            "own_left": _estimate(run, number, units) if own else "",
            "others": [_step(steps, number, units) for steps in (expert, half)] if told and run.moves else [],
        })  # fmt: skip
    return rows


def _step(steps: tuple[Step, ...], number: int, units: Units) -> dict[str, Any]:
    if number >= len(steps):
        return {"parts": ["centred" if number == len(steps) else ""], "left": ""}
    return {"parts": [part_words(part, units) for part in steps[number].parts],
            "left": units.planned(steps[number].left_mm)}  # fmt: skip


def _estimate(run: Run, number: int, units: Units) -> str:
    """What the learner's own rounds after a move say is left; the truth only at the end."""
    if run.finished:
        return units.planned(run.moves[number].left_mm)
    start = run.moves[number].after_round
    end = run.moves[number + 1].after_round if number + 1 < len(run.moves) else len(run.rounds)
    found = [one.found(run.level) for one in run.rounds[start:end]]
    sizes = [one.eccentricity_mm for one in found if one is not None]
    return units.planned(max(sizes)) if sizes else ""


def coach_says(run: Run, units: Units) -> dict[str, Any] | None:
    """The next move from the learner's own last round in each plane; None while there is none."""
    found = advice(run)
    if found is None:
        return None
    return {"parts": [part_words(part, units) for part in found.parts], "left": units.planned(found.left_mm),
            "true": found.left_mm <= run.level.centre_limit_mm}  # fmt: skip


def verdict_of(run: Run, seed: int, units: Units) -> dict[str, Any] | None:
    """At the end: the truth, and where it was chased."""
    if not run.finished:
        return None
    limit = run.level.centre_limit_mm
    notes = [_CHASED[why].format(number=number) for number, why in chased(run, seed)]
    pairs = [f"jaws {' and '.join(sorted(run.hidden.follows))} follow {100 * share:.0f} % of what they are turned"
             for share in sorted(set(run.hidden.follows.values()))]  # fmt: skip
    return {"true": run.left_mm <= limit + 1e-9, "left": units.planned(run.left_mm), "limit": units.planned(limit),
            "moves": len(run.moves), "notes": [*notes, *pairs]}  # fmt: skip


def rail_of(here: str, best: dict[str, int]) -> list[dict[str, Any]]:
    """The levels as stations."""
    return [
        {"key": key, "number": number, "name": one.name, "here": key == here, "done": key in best,
         "line": f"best {best[key]} {'move' if best[key] == 1 else 'moves'}" if key in best else ""}
        for number, (key, one) in enumerate(LEVELS.items(), 1)
    ]  # fmt: skip

"""A learner's run over one piece: what was turned, read and moved, replayed from its acts."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from gyrocore import InvalidInput, Sweep, closing_allowance_mm, sweep
from gyroplan.practice.levels import MOVED, Hidden, Level, Part, hidden_of
from gyroplan.simulated import JAWS

#: An act as it is stored: its kind and its values.
Act = dict[str, Any]
#: No jaw is turned further at once [mm].
MOST_MOVE_MM = 2.0
MOST_ACTS = 2000


class Refusal(Exception):
    """An act that is not possible now, in a sentence."""


@dataclass(frozen=True, slots=True)
class PracticeRound:
    """One round in one plane: what was typed at each place, None where it was skipped, and the first one again."""

    plane: int
    typed: dict[int, float | None] = field(default_factory=dict)
    again_mm: float | None = None
    #: Places where what was typed is more than a division off the needle.
    misread: tuple[int, ...] = ()

    def first(self) -> int | None:
        """The place that was read first."""
        return next((place for place, value in self.typed.items() if value is not None), None)

    def is_full(self, level: Level) -> bool:
        """Whether every place was read or skipped."""
        return len(self.typed) == level.places

    def is_closed(self) -> bool:
        """Whether the first reading was come back to."""
        return self.again_mm is not None

    def is_valid(self, level: Level) -> bool:
        """Whether it came back to where it began."""
        first = self.first()
        if self.again_mm is None or first is None:
            return False
        allowed = closing_allowance_mm(indicator_step_mm=level.step_mm, limit_mm=2 * level.centre_limit_mm)
        return abs(self.again_mm - (self.typed[first] or 0.0)) <= allowed + 1e-9

    def found(self, level: Level) -> Sweep | None:
        """What the solver makes of it; None while it is not closed, or void."""
        if not self.is_valid(level):
            return None
        read = [(level.angles_deg[place], value) for place, value in sorted(self.typed.items()) if value is not None]
        try:
            return sweep(
                angles_deg=[one for one, _ in read], readings_mm=[one for _, one in read],
                surface="inside" if level.inside else "outside", orders=2 if level.places > 4 else 1,
            )  # fmt: skip
        except InvalidInput:
            return None


@dataclass(frozen=True, slots=True)
class Moved:
    """What was moved at once: each a place toward which the work went and how far; and what was truly left after it."""

    after_round: int
    parts: tuple[Part, ...]
    left_mm: float


@dataclass(frozen=True, slots=True)
class Run:
    """Where a learner stands."""

    level: Level
    hidden: Hidden
    at: int = 0
    plane: int = 0
    rounds: tuple[PracticeRound, ...] = ()
    moves: tuple[Moved, ...] = ()
    finished: bool = False

    @property
    def open_round(self) -> PracticeRound | None:
        """The round that is being read."""
        last = self.rounds[-1] if self.rounds else None
        return last if last is not None and not last.is_closed() else None

    @property
    def since_move(self) -> tuple[PracticeRound, ...]:
        """The rounds since the last move."""
        return self.rounds[self.moves[-1].after_round if self.moves else 0 :]

    @property
    def may_move(self) -> bool:
        """Whether a valid round was read since the last move, and none is open."""
        return self.open_round is None and any(one.is_valid(self.level) for one in self.since_move)

    @property
    def needle_mm(self) -> float | None:
        """What the indicator shows at the place under it; None where it has fallen into a port."""
        value = self.hidden.work.reading_mm(self.level.angles_deg[self.at], self.level.planes_mm[self.plane])
        if value is None:
            return None
        number = len(self.rounds) if self.open_round is not None else len(self.rounds) + 1
        slip = self.hidden.slips.get(number)
        one = self.open_round
        # the holder slips half way round
        if slip is not None and one is not None and len(one.typed) * 2 >= self.level.places:
            value += slip
        return value

    @property
    def left_mm(self) -> float:
        """How far the centre truly lies off."""
        return self.hidden.worst_mm(self.level)


def replayed(level: Level, seed: int, acts: Sequence[Act]) -> Run:
    """Return where a run stands after its acts."""
    run = Run(level=level, hidden=hidden_of(level, seed))
    for one in acts:
        run = act(run, one)
    return run


def act(run: Run, one: Act) -> Run:
    """Return the run after one more act; raises Refusal where it is not possible now."""
    if run.finished:
        raise Refusal("This piece is finished: take a new one.")
    kind = one.get("kind")
    if kind == "turn":
        return replace(run, at=(run.at + int(one["by"])) % run.level.places)
    if kind == "plane":
        return _plane(run, int(one["plane"]))
    if kind == "read":
        return _read(run, one["value_mm"])
    if kind == "move":
        return _move(run, [(str(what), str(jaw), float(by)) for what, jaw, by in one["parts"]])
    if kind == "finish":
        if not run.rounds or not run.may_move:
            raise Refusal("Read it once more to its end before you say that it is true.")
        return replace(run, finished=True)
    raise Refusal("That cannot be done here.")


def _plane(run: Run, plane: int) -> Run:
    if not 0 <= plane < len(run.level.planes_mm):
        raise Refusal("There is no such plane.")
    if run.open_round is not None:
        raise Refusal("Read this plane to its end first: back to the place that was read first.")
    return replace(run, plane=plane)


def _read(run: Run, value_mm: float | None) -> Run:
    """Type what the needle shows at the place under it; the first place once more closes the round."""
    one = run.open_round or PracticeRound(plane=run.plane)
    rounds = run.rounds if run.open_round is None else run.rounds[:-1]
    shows = run.needle_mm
    off = shows is not None and value_mm is not None and abs(value_mm - shows) > 1.5 * run.level.step_mm
    if run.at not in one.typed:
        if value_mm is None and shows is not None:
            raise Refusal("The needle stands here: read it. Only a port is skipped.")
        if value_mm is not None and shows is None:
            raise Refusal("The stylus has fallen into a port here: skip this place.")
        misread = (*one.misread, run.at) if off else one.misread
        one = replace(one, typed={**one.typed, run.at: value_mm}, misread=misread)
    elif run.at == one.first() and one.is_full(run.level) and value_mm is not None:
        one = replace(one, again_mm=value_mm)
    else:
        raise Refusal("This place is read already: turn on.")
    return replace(run, rounds=(*rounds, one))


def _move(run: Run, parts: Sequence[Part]) -> Run:
    """Move what is moved: `jaw` toward a jaw, `tap` the outer plane, `bearing` 1 or 2 toward a place."""
    if not run.may_move:
        raise Refusal("Read a round to its end first: a move without one is a guess.")
    hidden = run.hidden
    if not parts:
        raise Refusal("Type how far at least one of them is moved.")
    for what, jaw, by in parts:
        if jaw not in JAWS or not 0 < by <= MOST_MOVE_MM:
            raise Refusal(f"A move is over 0 and up to {MOST_MOVE_MM:g} mm; {by:g} was given.")
        if what not in MOVED[run.level.moved]:
            raise Refusal("That is not moved here.")
        hidden = hidden.after(run.level, (what, jaw, by))
    moved = Moved(after_round=len(run.rounds), parts=tuple(parts), left_mm=hidden.worst_mm(run.level))
    return replace(run, hidden=hidden, moves=(*run.moves, moved))

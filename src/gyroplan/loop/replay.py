"""Replays the log of a bore: which entry fits, what it changes, what stands afterwards (contract, `bore_state`)."""

from __future__ import annotations

from dataclasses import dataclass, replace

from gyroplan.loop.asked import require_asked
from gyroplan.loop.changes import Act, Loop
from gyroplan.loop.entries import Undo
from gyroplan.loop.memory import Memory
from gyroplan.loop.plan import BoreWork, require_work
from gyroplan.loop.state import BoreState, BoreStates
from gyroplan.refusal import Refused


def bore_state(work: BoreWork) -> BoreStates:
    """Return the state of a bore before the first entry of its log and after each.

    Parameters
    ----------
    work : the plan and the entries, in order [mm]

    Returns
    -------
    BoreStates, one more than there are entries

    Raises
    ------
    InvalidInput
        At a field of the plan, or at `entries.N.field`, that could never be. What does not fit as things stand is
        refused in the state after it and changes nothing.

    References
    ----------
    Core contract, "The state of the work".
    """
    require_work(work)
    found = replayed(work)
    return BoreStates(states=found.states, notes=found.loop.notes(found.memory, found.states[-1]))


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """An entry that stands: its place in the log, and what was remembered before and after it."""

    place: int
    entry: Act
    before: Memory
    after: Memory


@dataclass(frozen=True, slots=True, kw_only=True)
class Replay:
    """A log replayed: the states, and the entries that stand with what each changed."""

    loop: Loop
    begin: Memory
    steps: tuple[Step, ...]
    states: tuple[BoreState, ...]

    @property
    def memory(self) -> Memory:
        """What is remembered now."""
        return self.steps[-1].after if self.steps else self.begin

    @property
    def now(self) -> BoreState:
        """The state now."""
        return self.states[-1]


def replayed(work: BoreWork) -> Replay:
    """Replay a log whose entries are sound in themselves; raises InvalidInput at a field of the plan."""
    require_asked(work.bore, work.rules, work.setting)
    loop = Loop(work)
    begin = loop.begin()
    steps: list[Step] = []
    states = [loop.state(begin)]
    for place, entry in enumerate(work.entries):
        before = steps[-1].after if steps else begin
        try:
            if isinstance(entry, Undo):
                _take_back(steps)
            else:
                steps.append(Step(place=place, entry=entry, before=before, after=loop.after(before, entry)))
            states.append(loop.state(steps[-1].after if steps else begin))
        except Refused as refused:
            states.append(replace(states[-1], refused=refused.refusal))
    return Replay(loop=loop, begin=begin, steps=tuple(steps), states=tuple(states))


def _take_back(steps: list[Step]) -> None:
    if not steps:
        raise Refused("kind", "nothing_to_undo")
    steps.pop()

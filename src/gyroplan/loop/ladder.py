"""The passes of a bore from the first to the last: those that are cut as they were set, then those that are left."""

from __future__ import annotations

from dataclasses import dataclass, replace

from gyrocore import Pass
from gyroplan.loop.changes import Loop
from gyroplan.loop.entries import Cut, Set, Size
from gyroplan.loop.memory import Memory
from gyroplan.loop.replay import Replay, Step
from gyroplan.loop.setting import AdvanceWay, DialWay, Told, Way


@dataclass(frozen=True, slots=True, kw_only=True)
class PassCut:
    """A pass that is cut: how it was set, what it was set to, what came out [mm]."""

    number: int
    kind: str
    from_mm: float
    set_mm: float
    #: What was moved or read to set it; None for a spring pass.
    set_as: Told | None
    measured_mm: float | None = None
    expanded_mm: float | None = None
    agree: bool | None = None
    suspect: str | None = None
    #: Places in the log: of the cut, and of the sizes measured after it.
    cut_at: int
    sizes_at: tuple[int, ...] = ()

    @property
    def depth_mm(self) -> float:
        """How deep it was set, radial; 0 where it met nothing."""
        return max(0.0, (self.set_mm - self.from_mm) / 2)

    @property
    def came_over_mm(self) -> float | None:
        """How much larger than set it came out, on diameter."""
        return None if self.measured_mm is None else self.measured_mm - self.set_mm


@dataclass(frozen=True, slots=True, kw_only=True)
class PassAhead:
    """A pass that is left, with its setting as things stand: what a size in between says may change it [mm]."""

    cut: Pass
    from_mm: float
    #: None for a spring pass, which leaves the setting.
    told: Told | None
    stands_at: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Ladder:
    """All passes of a bore, and the state now."""

    replay: Replay
    done: tuple[PassCut, ...]
    ahead: tuple[PassAhead, ...]

    @property
    def way(self) -> Way:
        """What sets the cutter now."""
        return self.replay.memory.way


def ladder_of(replay: Replay) -> Ladder:
    """Return the passes of a replayed log, those that are cut first."""
    done: list[PassCut] = []
    pending: list[Step] = []
    for step in replay.steps:
        if isinstance(step.entry, Set):
            pending.append(step)
        elif isinstance(step.entry, Cut):
            done += _cut_by(replay.loop, step, pending)
            pending = []
        elif isinstance(step.entry, Size) and done:
            done[-1] = _measured(done[-1], step)
    return Ladder(replay=replay, done=tuple(done), ahead=_ahead(replay.loop, replay.memory))


def _cut_by(loop: Loop, step: Step, pending: list[Step]) -> list[PassCut]:
    """The passes of one entry, set one after the other as the loop set them."""
    memory, found = step.before, []
    for place in range(step.after.done.passes - step.before.done.passes):
        hand = memory.passes[0]
        was_set = place == 0 and memory.is_set
        told: Told | None = None
        if hand.kind != "spring" and not was_set:
            told = loop.told(memory)
            memory = loop.moved(memory, told.amount)
        elif was_set:
            told = _as_set(memory, pending)
        set_mm = loop.set_diameter(memory)
        found.append(
            PassCut(
                number=hand.number, kind=hand.kind, from_mm=memory.known_mm,
                set_mm=memory.known_mm if set_mm is None else set_mm, set_as=told, cut_at=step.place,
            )
        )  # fmt: skip
        memory = loop.cut_one(memory)
    return found


def _as_set(memory: Memory, pending: list[Step]) -> Told:
    """What was moved in all since the last pass, or the reading set last."""
    if memory.reading_mm is not None:
        return Told(reading_mm=memory.reading_mm)
    moved = memory.moved_mm - (pending[0].before.moved_mm if pending else 0.0)
    if isinstance(memory.way, DialWay):
        return replace(memory.way.told(moved, 0.0), to_division=memory.dial)
    return memory.way.told(moved, 0.0) if isinstance(memory.way, AdvanceWay) else Told()


def _measured(cut: PassCut, step: Step) -> PassCut:
    after = step.after
    in_row = len(after.row) > 1
    return replace(
        cut, measured_mm=after.known_mm, expanded_mm=after.expanded_mm, agree=after.agree, suspect=after.suspect,
        sizes_at=(*cut.sizes_at, step.place) if in_row else (step.place,),
    )  # fmt: skip


def _ahead(loop: Loop, memory: Memory) -> tuple[PassAhead, ...]:
    """Each pass that is left as if all before it came out as set."""
    found = []
    if memory.needs_touch_off:
        memory = replace(memory, needs_touch_off=False)
    for cut in memory.passes:
        told, before = None, memory.known_mm
        if cut.kind != "spring":
            if not memory.is_set:
                told = loop.told(memory)
                memory = loop.moved(memory, told.amount)
            memory = replace(memory, is_set=False, known_mm=cut.diameter_mm, moved_mm=0.0)
        found.append(PassAhead(cut=cut, from_mm=before, told=told, stands_at=loop.stands_at(memory)))
        memory = replace(memory, passes=memory.passes[1:])
    return tuple(found)

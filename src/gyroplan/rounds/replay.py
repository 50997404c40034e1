"""Replays the log of truing (contract, `true_state`): only a closed, valid, undisturbed round advises."""

from __future__ import annotations

from dataclasses import dataclass, replace

from gyrocore import Note, note
from gyrocore.checks import TOLERANCE
from gyroplan.refusal import Refusal, Refused
from gyroplan.rounds.entries import Again, Begin, Blocked, Disturbed, Entry, Moved, Reading, Undo
from gyroplan.rounds.figures import Figures, Vector, can_tell, figures_of, suspect_of
from gyroplan.rounds.plan import TrueWork, require_work


@dataclass(frozen=True, slots=True, kw_only=True)
class TrueState:
    """The state of truing after an entry; figures are None unless a valid round stands [mm], [deg]."""

    phase: str
    round: int
    place_deg: float | None
    validity: str
    figures: Figures | None
    refused: Refusal | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class TrueStates:
    """One state before the first entry and one after each."""

    states: tuple[TrueState, ...]
    notes: tuple[Note, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class _Memory:
    round: int = 0
    validity: str = "none"
    #: The open round: its places in order, and what was read so far; None is blocked.
    places: tuple[float, ...] = ()
    values: tuple[float | None, ...] = ()
    closing_mm: float | None = None
    figures: Figures | None = None
    #: Offset of the last valid round where it told moves; what has happened since.
    told_from: Vector | None = None
    moved: bool = False
    disturbed: bool = False


def true_state(work: TrueWork) -> TrueStates:
    """Return the state of truing before the first entry of its log and after each.

    Parameters
    ----------
    work : the plan and the entries, in order [mm], [deg]

    Returns
    -------
    TrueStates, one more than there are entries

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
    stack = [_Memory()]
    states = [_state(stack[-1])]
    for entry in work.entries:
        try:
            stack = _after(work, stack, entry)
            states.append(_state(stack[-1]))
        except Refused as refused:
            states.append(replace(states[-1], refused=refused.refusal))
    return TrueStates(states=tuple(states), notes=_notes(stack[-1].figures))


def _notes(figures: Figures | None) -> tuple[Note, ...]:
    if figures is None:
        return ()
    own = (note("rest_is_form"),) if figures.is_form_or_too_fine else ()
    return (*own, *(n for n in figures.sweep.notes if n.code != "shape_over_limit"))


def _state(memory: _Memory) -> TrueState:
    phase = _phase(memory)
    place = None
    if phase == "reading":
        place = memory.places[len(memory.values)]
    elif phase == "again":
        place = _first_read(memory)[0]
    return TrueState(
        phase=phase, round=memory.round, place_deg=place, validity=memory.validity, figures=memory.figures
    )  # fmt: skip


def _phase(memory: _Memory) -> str:
    if memory.validity == "open":
        return "reading" if len(memory.values) < len(memory.places) else "again"
    return "closed" if memory.figures is not None else "begin"


def _read(memory: _Memory) -> list[tuple[float, float]]:
    pairs = zip(memory.places, memory.values, strict=False)
    return [(place, value) for place, value in pairs if value is not None]


def _first_read(memory: _Memory) -> tuple[float, float]:
    return _read(memory)[0]


def _after(work: TrueWork, stack: list[_Memory], entry: Entry) -> list[_Memory]:
    if isinstance(entry, Undo):
        if len(stack) == 1:
            raise Refused("kind", "nothing_to_undo")
        return stack[:-1]
    return [*stack, _apply(work, stack[-1], entry)]


def _apply(work: TrueWork, memory: _Memory, entry: Entry) -> _Memory:
    phase = _phase(memory)
    if isinstance(entry, Begin):
        return replace(
            memory, round=memory.round + 1, validity="open", places=tuple(entry.places_deg), values=(), figures=None,
            closing_mm=entry.closing_mm,
        )  # fmt: skip
    if isinstance(entry, (Reading, Blocked)):
        if phase != "reading":
            raise Refused("kind", "no_place_waits", phase=phase)
        return _with_value(memory, entry.reading_mm if isinstance(entry, Reading) else None)
    if isinstance(entry, Again):
        if phase != "again":
            raise Refused("kind", "again_out_of_place", phase=phase)
        return _closed(work, memory, entry.reading_mm)
    return _disturb(memory, entry)


def _with_value(memory: _Memory, value: float | None) -> _Memory:
    after = replace(memory, values=(*memory.values, value))
    full = len(after.values) == len(after.places)
    if full and not can_tell([place for place, _ in _read(after)]):
        return replace(after, validity="void")
    return after


def _disturb(memory: _Memory, entry: Moved | Disturbed | Undo) -> _Memory:
    """What was read before no longer holds; an open round is void."""
    return replace(
        memory,
        figures=None,
        validity="void" if memory.validity == "open" else memory.validity,
        moved=memory.moved or isinstance(entry, Moved),
        disturbed=memory.disturbed or isinstance(entry, Disturbed),
    )


def _closed(work: TrueWork, memory: _Memory, again_mm: float) -> _Memory:
    read = _read(memory)
    allowed = work.closing_allowed_mm if memory.closing_mm is None else memory.closing_mm
    if abs(again_mm - read[0][1]) > allowed + TOLERANCE:
        return replace(memory, validity="void")
    figures = figures_of(work, [place for place, _ in read], [value for _, value in read])
    if memory.told_from is not None and memory.moved and not memory.disturbed:
        figures = replace(figures, suspect=suspect_of(memory.told_from, figures.offset, work))
    return replace(
        memory,
        validity="closed",
        figures=figures,
        told_from=figures.offset if figures.moves else None,
        moved=False,
        disturbed=False,
    )

"""Rounds replayed: each surface, plane and wall by itself, what was moved or disturbed for all: `gyroplan.rounds`."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

from gyrocore import AlongWall, InvalidInput, Method, WallRuns, WallSide, wall_runs
from gyrocore.checks import TOLERANCE
from gyroplan.assess.truing import RoundStanding, Truing
from gyroplan.record import BetweenRecord, JobRecord, RoundRecord
from gyroplan.rounds import Again, Begin, Blocked, Disturbed, Entry, Moved, TrueState, TrueWork, true_state
from gyroplan.rounds import Reading as Read


def truing_of(record: JobRecord, piece: int, place: int) -> Truing:
    """Return the truing of a piece: of the set-up, or at this bore where the bar is trued bore by bore."""
    setup = record.setup
    of = (None, place)
    rounds = [r for r in record.rounds if r.purpose == "true" and r.piece == piece and r.bore in of]
    happened = [one for one in record.between if one.piece == piece and one.bore in of]
    limit = record.bore_at(place).runout_limit_mm if setup.way.several else setup.tightest_runout_mm
    # what levels a face, and what brings a line bar on to its bores, is worked out by itself, not from one round
    alone = setup.reference != "face" and not setup.moves_bearings
    way = setup.way if alone else replace(setup.way, moved_is="nothing")
    bore = record.bore_at(place)
    found = _replayed(rounds, happened, limit, way, bore.length_mm)
    return replace(found, by_walls=setup.reference == "wall")


def sweeps_of(record: JobRecord, piece: int, place: int) -> tuple[RoundStanding, ...]:
    """Return the sweeps of a finished bore and the runs along its wall, oldest first, each judged by itself."""
    bore, way = record.bore_at(place), record.setup.way
    rounds = [r for r in record.rounds if r.purpose == "check" and r.piece == piece and r.bore == place]
    found: list[RoundStanding] = []
    for one in rounds:
        if one.is_walls:
            found += _walls((one,), (), (bore.runout_limit_mm, bore.length_mm), way)
        else:
            found += _stretch((one,), (), bore.runout_limit_mm, way, "finished")[0]
    return tuple(found)


def _replayed(
    rounds: Sequence[RoundRecord], happened: Sequence[BetweenRecord], limit_mm: float, way: Method, length_mm: float
) -> Truing:  # fmt: skip
    """Each surface, each plane and the walls are read by themselves; what was moved or disturbed counts for all."""
    groups: dict[tuple[str, float | None], list[RoundRecord]] = {}
    for one in rounds:
        groups.setdefault(_read_apart(one), []).append(one)
    found: dict[int, RoundStanding] = {}
    last: list[RoundStanding] = []
    counts = _counting(rounds, happened)
    for (surface, plane), part in groups.items():
        if surface == "walls":
            views = _walls(part, happened, (limit_mm, length_mm), way)
        elif surface == "bound":
            views = _bound(part, happened, limit_mm, way)
        else:
            views = _stretch(tuple(part), _told_to(part, happened), limit_mm, way, "to-bore")[0]
        found |= {one.round.number: one for one in views}
        if (surface, plane) in counts:
            last.append(views[-1])
    newest = rounds[-1].number if rounds else 0
    every = tuple(_given_up(found[number], newest) for number in sorted(found))
    return Truing(rounds=every, limit_mm=limit_mm, last=tuple(_given_up(one, newest) for one in last))


def _read_apart(one: RoundRecord) -> tuple[str, float | None]:
    if one.is_bound:
        return "bound", None
    return ("walls", None) if one.is_walls else (one.surface, one.plane_mm)


def _counting(rounds: Sequence[RoundRecord], happened: Sequence[BetweenRecord]) -> set[tuple[str, float | None]]:
    """What is read apart and still counts: of the surface that was swept last, since the work was disturbed last.

    One round without a plane and rounds of planes are two ways to read: the newer one counts.
    """
    disturbed = max((what.after_round for what in happened if what.kind == "disturbed"), default=0)
    since = [one for one in rounds if one.number > disturbed] or list(rounds)
    if since and since[-1].is_bound:  # centred otherwise since: what was swept before was of another place
        return {_read_apart(since[-1])}
    since = [one for one in since if not one.is_bound]
    sweep = next((one for one in reversed(since) if not one.is_walls), None)
    return {
        _read_apart(one) for one in since
        if one.is_walls or (sweep is not None and one.surface == sweep.surface
                            and (one.plane_mm is None) == (sweep.plane_mm is None))
    }  # fmt: skip


def _given_up(view: RoundStanding, newest: int) -> RoundStanding:
    """An open round is given up once another is begun, of whatever plane."""
    if view.validity != "open" or view.round.number == newest:
        return view
    return replace(view, validity="void")


def _told_to(part: Sequence[RoundRecord], happened: Sequence[BetweenRecord]) -> tuple[BetweenRecord, ...]:
    """What happened, each after the last of these rounds that was begun before it; earlier things touch none."""
    numbers = [one.number for one in part]
    told = []
    for what in happened:
        before = [number for number in numbers if number <= what.after_round]
        if before:
            told.append(replace(what, after_round=max(before)))
    return tuple(told)


def _walls(
    part: Sequence[RoundRecord], happened: Sequence[BetweenRecord], asked: tuple[float, float], way: Method
) -> tuple[RoundStanding, ...]:
    """Runs along the wall: closed by coming back to the last wall's first reading; void where that differs."""
    limit, length = asked
    told = {what.after_round for what in _told_to(part, happened)}
    views = []
    for place, one in enumerate(part):
        view = RoundStanding(round=one, limit_mm=limit, way=way, length_mm=length)
        moved = one.number in told
        off, full = view.came_back_off_mm, view.is_full
        if off is None or not full:
            later = place < len(part) - 1
            views.append(replace(view, validity="void" if moved or later else "open"))
            continue
        runs = None if abs(off) > view.closing_mm + TOLERANCE else _runs_of(view)
        views.append(replace(view, validity="void" if runs is None else "closed", runs=runs,
                             holds=runs is not None and not moved and place == len(part) - 1,
                             notes=runs.notes if runs is not None else ()))  # fmt: skip
    return tuple(views)


def _bound(
    part: Sequence[RoundRecord], happened: Sequence[BetweenRecord], limit_mm: float, way: Method
) -> tuple[RoundStanding, ...]:
    """Centred by eye, plug, coaxial indicator or edge-finder: said at once, it holds until something happens."""
    told = {what.after_round for what in _told_to(part, happened)}
    return tuple(
        RoundStanding(round=one, limit_mm=limit_mm, way=way, validity="closed",
                      holds=place == len(part) - 1 and one.number not in told)
        for place, one in enumerate(part)
    )  # fmt: skip


def _runs_of(view: RoundStanding) -> WallRuns | None:
    """What the walls tell; None where a side has fewer than two readings."""
    depths, values = view.round.depths_mm, view.counted_mm
    sides = []
    for side in range(view.round.sides):
        own = values[side * len(depths) : (side + 1) * len(depths)]
        read = tuple(AlongWall(z_mm=z, reading_mm=v) for z, v in zip(depths, own, strict=True) if v is not None)
        if len(read) >= 2:  # a side that a port breaks is left out
            sides.append(WallSide(angle_deg=view.round.angles_deg[side * len(depths)], readings=read))
    try:
        return wall_runs(sides=sides, surface=view.round.swept_as)
    except InvalidInput:
        return None


@lru_cache(maxsize=512)  # every page of a job asks for its truing, and most pages change nothing of it
def _stretch(
    rounds: tuple[RoundRecord, ...], happened: tuple[BetweenRecord, ...], limit_mm: float, way: Method, purpose: str
) -> tuple[tuple[RoundStanding, ...], TrueState]:
    """Replay rounds of one surface and what happened between them, in their order."""
    entries: list[Entry] = []
    ends: list[int] = []
    for one in rounds:
        view = RoundStanding(round=one, limit_mm=limit_mm, way=way)
        entries += _entries(view)
        ends.append(len(entries))
        after = (what for what in happened if what.after_round == one.number)
        # what was moved otherwise is no move as told: the next round is not held against it
        as_told = (what.kind == "moved" and what.really_mm is None for what in after)
        entries += [Moved() if told else Disturbed() for told in as_told]
    found = true_state(
        TrueWork(
            surface=rounds[-1].swept_as, limit_mm=limit_mm, entries=entries,
            jaws_deg=None if way.moved_is == "nothing" else dict(way.places_deg),
            indicator_step_mm=rounds[-1].indicator_step_mm,
            purpose="finished" if purpose == "finished" else "to-bore",
        )
    )  # fmt: skip
    last = len(rounds) - 1
    views = []
    for number, (one, end) in enumerate(zip(rounds, ends, strict=True)):
        state = found.states[end]
        # an open round that was given up for the next one, or in which something was moved
        given_up = state.validity == "open" and (number < last or found.states[-1].validity == "void")
        views.append(
            RoundStanding(
                round=one, limit_mm=limit_mm, way=way, figures=state.figures,
                validity="void" if given_up else state.validity, notes=found.notes if number == last else (),
                holds=number == last and found.states[-1].phase == "closed",
            )
        )  # fmt: skip
    return tuple(views), found.states[-1]


def _entries(view: RoundStanding) -> list[Entry]:
    """One round as it is replayed: its places in order, as far as they are read."""
    angles, order, standing = view.round.angles_deg, view.round.order, view.by_place
    entries: list[Entry] = [Begin(places_deg=[angles[place] for place in order], closing_mm=view.closing_mm)]
    for place in order:
        reading = standing.get(place)
        if reading is None:
            return entries
        value = reading.value_mm
        entries.append(Blocked() if value is None else Read(reading_mm=view.round.counted(value, angles[place])))
    again = standing.get(view.round.places)
    if again is not None and again.value_mm is not None and view.first_place is not None:
        entries.append(Again(reading_mm=view.round.counted(again.value_mm, angles[view.first_place])))
    return entries

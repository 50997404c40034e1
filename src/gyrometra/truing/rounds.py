"""Rounds with their readings, and the state of the truing that follows: joins only, `gyroplan.rounds` decides."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import groupby

from gyrocore import InvalidInput, JawMove, Method, Note, Sweep, closing_allowance_mm, reading_after_move_mm, sweep
from gyrometra.jobs.models import SetUp
from gyrometra.truing.models import Between, Reading, Round
from gyroplan.rounds import Again, Begin, Blocked, Disturbed, Entry, Figures, Moved, TrueState, TrueWork, true_state
from gyroplan.rounds import Reading as Read

#: Typed for a reading past the end of the scale, with its side; the place is passed over, and says which way.
OFF_SCALE = {"off+": "off the scale, +", "off-": "off the scale, -"}


@dataclass
class RoundView:
    """One round with its standing readings, and what it says by itself."""

    round: Round
    readings: list[Reading]
    limit_mm: float
    way: Method
    #: What the replay of the truing says of this round; None while it is open, or void.
    figures: Figures | None = None
    validity: str = "open"
    notes: tuple[Note, ...] = ()

    @cached_property
    def by_place(self) -> dict[int, Reading]:
        """The standing reading of each place."""
        return {reading.place: reading for reading in self.readings}

    @property
    def values_mm(self) -> list[float | None]:
        """One value a place, None where nothing stands or the place is blocked."""
        standing = [self.by_place.get(place) for place in range(self.round.places)]
        return [None if r is None or r.value_mm is None else float(r.value_mm) for r in standing]

    @property
    def off_scale(self) -> dict[int, str]:
        """Places where the needle was past the end of the scale, and which way."""
        return {place: r.text for place, r in self.by_place.items() if r.value_mm is None and r.text in OFF_SCALE}

    @property
    def is_full(self) -> bool:
        """Whether every place has been read or marked as blocked."""
        return all(place in self.by_place for place in range(self.round.places))

    @property
    def first_place(self) -> int | None:
        """The first place that was read: what "first again" must come back to."""
        return next(
            (p for p in self.round.order() if p in self.by_place and self.by_place[p].value_mm is not None), None
        )

    @property
    def next_place(self) -> int | None:
        """The cell that waits; `places` is "first again", None when the round is closed or void."""
        if self.validity == "void":
            return None
        waits = (place for place in (*self.round.order(), self.round.places) if place not in self.by_place)
        return next(waits, None)

    @property
    def closing_mm(self) -> float:
        """How far "first again" may differ: the round's own figure, else the rule."""
        if self.round.closing_mm is not None:
            return float(self.round.closing_mm)
        return closing_allowance_mm(indicator_step_mm=float(self.round.indicator.step_mm), limit_mm=self.limit_mm)

    @property
    def came_back_off_mm(self) -> float | None:
        """How far "first again" is from the first reading."""
        again, first = self.by_place.get(self.round.places), self.first_place
        if again is None or again.value_mm is None or first is None:
            return None
        return float(again.value_mm) - float(self.by_place[first].value_mm or 0)

    @property
    def is_void(self) -> bool:
        """Whether the round says nothing: the indicator moved, the work was moved meanwhile, or too little was read."""
        return self.validity == "void"

    @property
    def is_closed(self) -> bool:
        """Whether nothing more is read in this round."""
        return self.validity in ("closed", "void")

    @property
    def stands(self) -> bool:
        """Whether the round was closed and valid."""
        return self.figures is not None

    @property
    def sweep(self) -> Sweep | None:
        """The least-squares answer of a round that is closed and valid."""
        return self.figures.sweep if self.figures else None

    @property
    def cannot_tell(self) -> InvalidInput | None:
        """Why a full round says nothing: too few places, or all on one side."""
        if not self.is_void or not self.is_full:
            return None
        read = [(a, v) for a, v in zip(self.round.angles_deg(), self.values_mm, strict=True) if v is not None]
        try:
            sweep(angles_deg=[a for a, _ in read], readings_mm=[v for _, v in read], surface=self.round.surface)
        except InvalidInput as error:
            return error
        return None

    @property
    def moves(self) -> list[JawMove]:
        """What this round told to move, the larger move first; nothing where the bar is only swept."""
        if self.figures is None or self.way.moved_is == "nothing":
            return []
        return sorted(self.figures.moves, key=lambda move: -move.by_mm)

    def reading_before_mm(self, move: JawMove) -> float | None:
        """The standing reading at the jaw that is tightened."""
        place = round(self.way.places_deg[move.tighten] * self.round.places / 360)
        reading = self.by_place.get(place)
        return None if reading is None or reading.value_mm is None else float(reading.value_mm)

    def reading_after_mm(self, move: JawMove) -> float | None:
        """What the indicator will read there after the move."""
        before = self.reading_before_mm(move)
        if before is None:
            return None
        return reading_after_move_mm(reading_mm=before, surface=self.round.surface, offset_toward_mm=move.by_mm)

    @property
    def total_mm(self) -> float | None:
        """The total reading: highest less lowest of the places read; of flats the larger difference of a pair.

        Two pairs may be unlike (a rectangle), and the zero may be set anew for each: across pairs nothing is said.
        """
        if self.sweep is None or self.round.method != Round.Method.FLATS:
            return self.sweep.total_reading_mm if self.sweep else None
        quarter, values = self.round.places // 4, [value or 0.0 for value in self.values_mm]
        return max(abs(values[at] - values[at + 2 * quarter]) for at in (0, quarter))

    @property
    def off_centre_mm(self) -> float | None:
        """How far the surface's own axis lies off."""
        return self.sweep.eccentricity_mm if self.sweep else None

    @property
    def swing_mm(self) -> float | None:
        """The larger of the swing read and the swing fitted: a peak between two places counts."""
        return self.figures.swing_mm if self.figures else None

    @property
    def expected_mm(self) -> float | None:
        """Run-out to expect once the moves are made: what shape leaves."""
        return self.sweep.expected_total_after_mm if self.sweep else None

    @property
    def within(self) -> bool:
        """Whether this round shows the work true enough for what it is for."""
        return self.figures is not None and self.figures.within


@dataclass
class Truing:
    """The rounds of one truing, oldest first, and where it stands."""

    rounds: list[RoundView] = field(default_factory=list)
    state: TrueState | None = None

    @property
    def open_round(self) -> RoundView | None:
        """The round that is being read."""
        last = self.rounds[-1] if self.rounds else None
        return last if last is not None and last.validity == "open" else None

    @property
    def standing(self) -> RoundView | None:
        """The round whose figures stand: closed, valid, and nothing moved or disturbed since."""
        if self.state is None or self.state.phase != "closed":
            return None
        return self.rounds[-1]

    @property
    def last_valid(self) -> RoundView | None:
        """The newest round that was closed and valid, whether or not something was moved since."""
        return next((view for view in reversed(self.rounds) if view.stands), None)


def rounds_of(setup: SetUp, limits_mm: Mapping[int | None, float]) -> list[RoundView]:
    """All rounds of a set-up, for truing and for the check, oldest first; two queries however many.

    `limits_mm` holds the run-out limit of each bore by its key, and of the truing at None.
    """
    rounds = list(setup.rounds.select_related("indicator"))
    standing = Reading.objects.standing().filter(round__in=rounds) if rounds else []
    by_round: dict[int, list[Reading]] = {}
    for reading in standing:
        by_round.setdefault(reading.round_id, []).append(reading)
    return [RoundView(r, by_round.get(r.pk, []), limits_mm[r.bore_id], setup.way) for r in rounds]


def between_of(setup: SetUp) -> list[Between]:
    """What happened between the rounds of a set-up; one query."""
    return list(Between.objects.standing().filter(setup=setup))


def truing_of(views: Sequence[RoundView], happened: Sequence[Between], limit_mm: float, purpose: str) -> Truing:
    """Replay rounds and what happened between them, in their order.

    Another surface is another truing: what was read on the one says nothing of the other.
    """
    truing = Truing(rounds=list(views))
    for surface, part in groupby(views, key=lambda view: view.round.surface):
        truing.state = _replay(list(part), happened, surface, limit_mm, purpose)
    return truing


def _replay(
    views: Sequence[RoundView], happened: Sequence[Between], surface: str, limit_mm: float, purpose: str
) -> TrueState:  # fmt: skip
    entries: list[Entry] = []
    ends: list[int] = []
    for view in views:
        entries += _entries(view)
        ends.append(len(entries))
        after = (one for one in happened if one.after_round == view.round.number)
        entries += [Moved() if one.kind == Between.Kind.MOVED else Disturbed() for one in after]
    way, last = views[-1].way, views[-1].round
    jaws = None if way.moved_is == "nothing" else dict(way.places_deg)
    work = TrueWork(
        surface="inside" if surface == "inside" else "outside", limit_mm=limit_mm, jaws_deg=jaws, entries=entries,
        indicator_step_mm=float(last.indicator.step_mm), purpose="finished" if purpose == "finished" else "to-bore",
    )  # fmt: skip
    found = true_state(work)
    for place, (view, end) in enumerate(zip(views, ends, strict=True)):
        state = found.states[end]
        view.figures, view.validity = state.figures, state.validity
        # an open round that was given up for the next one
        if place + 1 < len(views) and view.validity == "open":
            view.validity = "void"
    if found.states[-1].validity == "void" and views[-1].validity == "open":
        views[-1].validity = "void"
    views[-1].notes = found.notes
    return found.states[-1]


def _entries(view: RoundView) -> list[Entry]:
    """One round as it is replayed: its places in order, as far as they are read."""
    angles, order = view.round.angles_deg(), view.round.order()
    entries: list[Entry] = [Begin(places_deg=[angles[place] for place in order], closing_mm=view.closing_mm)]
    for place in order:
        reading = view.by_place.get(place)
        if reading is None:
            return entries
        entries.append(Blocked() if reading.value_mm is None else Read(reading_mm=float(reading.value_mm)))
    again = view.by_place.get(view.round.places)
    if again is not None and again.value_mm is not None:
        entries.append(Again(reading_mm=float(again.value_mm)))
    return entries


def runout_of(views: Iterable[RoundView], limit_mm: float) -> RoundView | None:
    """The newest sweep of a finished bore that is closed and valid: judged by its swing."""
    found = None
    for view in views:
        truing_of([view], (), limit_mm, "finished")
        found = view if view.stands else found
    return found

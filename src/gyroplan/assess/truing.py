"""The rounds of a truing, or of a finished bore's sweep, and where they stand: `gyroplan.rounds` decides."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import groupby
from math import degrees

from gyrocore import InvalidInput, JawMove, Method, Note, Sweep, closing_allowance_mm, reading_after_move_mm, sweep
from gyroplan.record import BetweenRecord, BoreRecord, BreakRecord, JobRecord, ReadingRecord, RoundRecord
from gyroplan.rounds import Again, Begin, Blocked, Disturbed, Entry, Figures, Moved, TrueState, TrueWork, true_state
from gyroplan.rounds import Reading as Read

#: A stylus this near to the middle of a break is in it (chosen here: what a ball of some millimetres takes) [deg].
_LEAST_HALF_DEG = 5.0
#: Typed for a reading past the end of the scale, with its side; the place is passed over, and says which way.
OFF_SCALE = {"off+": "off the scale, +", "off-": "off the scale, -"}


@dataclass(frozen=True, slots=True, kw_only=True)
class RoundStanding:
    """One round with its standing readings, and what it says by itself [mm]."""

    round: RoundRecord
    limit_mm: float
    way: Method
    #: What the replay says of this round; None while it is open, or void.
    figures: Figures | None = None
    validity: str = "open"
    notes: tuple[Note, ...] = ()

    @property
    def by_place(self) -> dict[int, ReadingRecord]:
        """The standing reading of each place."""
        return {reading.place: reading for reading in self.round.readings}

    @property
    def values_mm(self) -> list[float | None]:
        """One value a place, None where nothing stands or the place is blocked."""
        standing = self.by_place
        return [standing[place].value_mm if place in standing else None for place in range(self.round.places)]

    @property
    def off_scale(self) -> dict[int, str]:
        """Places where the needle was past the end of the scale, and which way."""
        return {place: r.text for place, r in self.by_place.items() if r.value_mm is None and r.text in OFF_SCALE}

    @property
    def is_full(self) -> bool:
        """Whether every place has been read or marked as blocked."""
        standing = self.by_place
        return all(place in standing for place in range(self.round.places))

    @property
    def first_place(self) -> int | None:
        """The first place that was read: what the closing reading must come back to."""
        standing = self.by_place
        return next((p for p in self.round.order if p in standing and standing[p].value_mm is not None), None)

    @property
    def next_place(self) -> int | None:
        """The cell that waits; `places` is the closing one, None when the round is closed or void."""
        if self.validity == "void":
            return None
        standing = self.by_place
        return next((place for place in (*self.round.order, self.round.places) if place not in standing), None)

    @property
    def closing_mm(self) -> float:
        """How far the closing reading may differ: the round's own figure, else the rule."""
        if self.round.closing_mm is not None:
            return self.round.closing_mm
        return closing_allowance_mm(indicator_step_mm=self.round.indicator_step_mm, limit_mm=self.limit_mm)

    @property
    def came_back_off_mm(self) -> float | None:
        """How far the closing reading is from the first one."""
        standing, first = self.by_place, self.first_place
        again = standing.get(self.round.places)
        if again is None or again.value_mm is None or first is None:
            return None
        return again.value_mm - (standing[first].value_mm or 0.0)

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
        read = [(a, v) for a, v in zip(self.round.angles_deg, self.values_mm, strict=True) if v is not None]
        try:
            sweep(angles_deg=[a for a, _ in read], readings_mm=[v for _, v in read], surface=self.round.swept_as)
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
        return None if reading is None else reading.value_mm

    def reading_after_mm(self, move: JawMove) -> float | None:
        """What the indicator will read there after the move."""
        before = self.reading_before_mm(move)
        if before is None:
            return None
        return reading_after_move_mm(reading_mm=before, surface=self.round.swept_as, offset_toward_mm=move.by_mm)

    @property
    def total_mm(self) -> float | None:
        """The total reading: highest less lowest of the places read; of flats the larger difference of a pair.

        Two pairs may be unlike (a rectangle), and the zero may be set anew for each: across pairs nothing is said.
        """
        if self.sweep is None or self.round.method != "flats":
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


@dataclass(frozen=True, slots=True, kw_only=True)
class Truing:
    """The rounds of one truing, oldest first, and where it stands."""

    rounds: tuple[RoundStanding, ...] = ()
    state: TrueState | None = None
    #: The run-out limit that it is for [mm].
    limit_mm: float = 0.0

    @property
    def open_round(self) -> RoundStanding | None:
        """The round that is being read."""
        last = self.rounds[-1] if self.rounds else None
        return last if last is not None and last.validity == "open" else None

    @property
    def standing(self) -> RoundStanding | None:
        """The round whose figures stand: closed, valid, and nothing moved or disturbed since."""
        if self.state is None or self.state.phase != "closed":
            return None
        return self.rounds[-1]

    @property
    def last_valid(self) -> RoundStanding | None:
        """The newest round that was closed and valid, whether or not something was moved since."""
        return next((view for view in reversed(self.rounds) if view.stands), None)


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
    return _replayed(rounds, happened, limit, way)


def sweeps_of(record: JobRecord, piece: int, place: int) -> tuple[RoundStanding, ...]:
    """Return the sweeps of a finished bore, oldest first, each judged by itself."""
    limit = record.bore_at(place).runout_limit_mm
    rounds = [r for r in record.rounds if r.purpose == "check" and r.piece == piece and r.bore == place]
    return tuple(view for r in rounds for view in _stretch((r,), (), limit, record.setup.way, "finished")[0])


def swept_of(sweeps: Sequence[RoundStanding]) -> RoundStanding | None:
    """The sweep of the finished bore that counts: the newest that is closed and valid."""
    return next((view for view in reversed(sweeps) if view.stands), None)


def _replayed(
    rounds: Sequence[RoundRecord], happened: Sequence[BetweenRecord], limit_mm: float, way: Method
) -> Truing:  # fmt: skip
    """Another surface is another truing: what was read on the one says nothing of the other."""
    views: list[RoundStanding] = []
    state = None
    for _, part in groupby(rounds, key=lambda one: one.surface):
        found, state = _stretch(tuple(part), tuple(happened), limit_mm, way, "to-bore")
        views += found
    return Truing(rounds=tuple(views), state=state, limit_mm=limit_mm)


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
        entries += [Moved() if what.kind == "moved" else Disturbed() for what in after]
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
        entries.append(Blocked() if reading.value_mm is None else Read(reading_mm=reading.value_mm))
    again = standing.get(view.round.places)
    if again is not None and again.value_mm is not None:
        entries.append(Again(reading_mm=again.value_mm))
    return entries


def broken_at(bore: BoreRecord, angle_deg: float) -> BreakRecord | None:
    """The keyway, port or slot of a bore at an angle, as far as its width goes and five degrees at least."""
    for broken in bore.breaks:
        half = max(_LEAST_HALF_DEG, degrees(broken.width_mm / bore.aim_mm))
        if abs((broken.angle_deg - angle_deg + 180) % 360 - 180) <= half:
            return broken
    return None

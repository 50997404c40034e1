"""The rounds of a truing, or of a finished bore's sweep, and where they stand: `gyroplan.rounds` decides."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import degrees

from gyrocore import (
    FourPlaces,
    InvalidInput,
    JawMove,
    Method,
    Note,
    Sweep,
    WallRuns,
    closing_allowance_mm,
    four_places,
    reading_after_move_mm,
    sweep,
)
from gyrocore.checks import TOLERANCE
from gyroplan.record import BoreRecord, BreakRecord, ReadingRecord, RoundRecord
from gyroplan.rounds import Figures

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
    #: What runs along the wall tell, once they are closed and valid; and over how much of the bore that counts [mm].
    runs: WallRuns | None = None
    length_mm: float = 0.0
    #: Whether nothing was moved or disturbed since it was closed.
    holds: bool = False

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
    def counted_mm(self) -> list[float | None]:
        """The values as they count: their sign turned where plus was plunger out, the wanted offset taken off."""
        return [None if v is None else self.round.counted(v, a)
                for v, a in zip(self.values_mm, self.round.angles_deg, strict=True)]  # fmt: skip

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
        standing, order = self.by_place, self.round.order
        if self.round.is_walls:  # each wall has its own zero: the last one's is come back to
            order = order[-len(self.round.depths_mm) :]
        return next((p for p in order if p in standing and standing[p].value_mm is not None), None)

    @property
    def next_place(self) -> int | None:
        """The cell that waits; `places` is the closing one, None when the round is closed or void."""
        if self.validity == "void" or self.round.is_bound:
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
        return self.figures is not None or self.runs is not None or self.round.is_bound

    @property
    def by_circle(self) -> FourPlaces | None:
        """Of four places of a sweep, three read or all: what the circle rule says of the fourth, or of the four."""
        if self.round.places != 4 or self.round.method != "sweep" or self.round.surface == "face":
            return None
        try:
            return four_places(readings_mm=self.values_mm, indicator_step_mm=self.round.indicator_step_mm)
        except InvalidInput:
            return None

    @property
    def sweep(self) -> Sweep | None:
        """The least-squares answer of a round that is closed and valid."""
        return self.figures.sweep if self.figures else None

    @property
    def cannot_tell(self) -> InvalidInput | None:
        """Why a full round says nothing: too few places, or all on one side."""
        if not self.is_void or not self.is_full or self.round.is_walls:
            return None
        read = [(a, v) for a, v in zip(self.round.angles_deg, self.counted_mm, strict=True) if v is not None]
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

    @property
    def told(self) -> list[JawMove]:
        """The moves that the indicator can tell: one under half a division is left alone."""
        return [move for move in self.moves if move.by_mm >= self.round.indicator_step_mm / 2 - TOLERANCE]

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
        sign = self.round.sign
        return sign * reading_after_move_mm(
            reading_mm=sign * before, surface=self.round.swept_as, offset_toward_mm=move.by_mm
        )  # fmt: skip

    @property
    def total_mm(self) -> float | None:
        """The total reading: highest less lowest of the places read; of flats the larger difference of a pair.

        Two pairs may be unlike (a rectangle), and the zero may be set anew for each: across pairs nothing is said.
        """
        if self.sweep is None or self.round.method != "flats":
            return self.sweep.total_reading_mm if self.sweep else None
        quarter, values = self.round.places // 4, [value or 0.0 for value in self.counted_mm]
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
        """Whether this round shows the work true enough for what it is for; of walls, their lean over the bore."""
        if self.runs is not None:
            return self.tilt_mm is not None and self.tilt_mm <= self.limit_mm + TOLERANCE
        if self.round.bound_mm is not None:
            return self.round.bound_mm <= self.limit_mm / 2 + TOLERANCE
        return self.figures is not None and self.figures.within

    @property
    def tilt_mm(self) -> float | None:
        """Of walls: how far the axis leans over the bore's length, as far as these walls see it."""
        if self.runs is None:
            return None
        along = self.runs.tilt_along_mm_m
        tilt = self.runs.tilt_mm_m if along is None else abs(along.tilt_mm_m)
        return None if tilt is None else tilt * self.length_mm / 1000

    @property
    def tilt_angle_deg(self) -> float | None:
        """Of walls: the way the axis leans as it goes in."""
        if self.runs is None:
            return None
        along = self.runs.tilt_along_mm_m
        if along is None:
            return self.runs.tilt_angle_deg
        return along.angle_deg if along.tilt_mm_m >= 0 else (along.angle_deg + 180) % 360


@dataclass(frozen=True, slots=True, kw_only=True)
class Truing:
    """The rounds of one truing, oldest first, and where it stands."""

    rounds: tuple[RoundStanding, ...] = ()
    #: The run-out limit that it is for [mm].
    limit_mm: float = 0.0
    #: The last round of each plane that is read, of the walls too: those of another surface say nothing any more.
    last: tuple[RoundStanding, ...] = ()
    #: Whether the walls decide: the work is set true to them.
    by_walls: bool = False

    @property
    def open_round(self) -> RoundStanding | None:
        """The round that is being read."""
        last = self.rounds[-1] if self.rounds else None
        return last if last is not None and last.validity == "open" else None

    @property
    def standing(self) -> RoundStanding | None:
        """The round whose figures stand: closed, valid, and nothing moved or disturbed since."""
        last = self.rounds[-1] if self.rounds else None
        return last if last is not None and last.holds else None

    @property
    def planes(self) -> tuple[RoundStanding, ...]:
        """The rounds that hold of the planes that are read apart, by their depth: two tell the tilt."""
        found = [one for one in self.last if one.holds and one.round.plane_mm is not None and one.figures is not None]
        return tuple(sorted(found, key=lambda one: one.round.plane_mm or 0.0))

    @property
    def walls(self) -> RoundStanding | None:
        """The runs along the wall that hold."""
        return next((one for one in self.last if one.holds and one.runs is not None), None)

    @property
    def within(self) -> bool:
        """Whether every plane that is read holds, and is true enough; of work set true to its walls, whether they are.

        Where a sweep decides, walls that were run along as well count only while they hold, and as far as they tell.
        """
        walls, sweeps = self.walls, [one for one in self.last if not one.round.is_walls]
        if self.by_walls or not sweeps:
            return walls is not None and walls.within
        leans = walls is not None and walls.tilt_mm is not None and not walls.within
        return not leans and all(one.holds and one.within for one in sweeps)

    @property
    def last_valid(self) -> RoundStanding | None:
        """The newest round that was closed and valid, whether or not something was moved since."""
        return next((view for view in reversed(self.rounds) if view.stands), None)


def swept_of(sweeps: Sequence[RoundStanding]) -> RoundStanding | None:
    """The sweep of the finished bore that counts: the newest that is closed and valid."""
    return next((view for view in reversed(sweeps) if view.stands and not view.round.is_walls), None)


def walls_of(sweeps: Sequence[RoundStanding]) -> RoundStanding | None:
    """The runs along the wall of the finished bore that count: the newest that are closed and valid."""
    return next((view for view in reversed(sweeps) if view.stands and view.runs is not None), None)


def broken_at(bore: BoreRecord, angle_deg: float) -> BreakRecord | None:
    """The keyway, port or slot of a bore at an angle, as far as its width goes and five degrees at least."""
    for broken in bore.breaks:
        half = max(_LEAST_HALF_DEG, degrees(broken.width_mm / bore.aim_mm))
        if abs((broken.angle_deg - angle_deg + 180) % 360 - 180) <= half:
            return broken
    return None

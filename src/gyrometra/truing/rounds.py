"""What a round of readings says: joins the stored readings with the core."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property

from gyrocore import (
    Closing,
    FlatPair,
    FourJawFlats,
    InvalidInput,
    JawMove,
    Method,
    Sweep,
    close_round,
    closing_allowance_mm,
    four_jaw_flats,
    reading_after_move_mm,
    sweep,
)
from gyrometra.jobs.models import SetUp
from gyrometra.truing.models import Reading, Round


@dataclass
class RoundView:
    """One round with its standing readings, worked out."""

    round: Round
    readings: list[Reading]
    limit_mm: float
    way: Method

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
    def is_full(self) -> bool:
        """Whether every place has been read or marked as blocked."""
        return all(place in self.by_place for place in range(self.round.places))

    @property
    def first(self) -> Reading | None:
        """The first reading that is one: what "first again" must come back to."""
        places = (self.by_place.get(place) for place in range(self.round.places))
        return next((reading for reading in places if reading is not None and reading.value_mm is not None), None)

    @property
    def next_place(self) -> int | None:
        """The cell that waits; `places` is "first again", None when the round is closed."""
        for place in range(self.round.places + 1):
            if place not in self.by_place:
                return place
        return None

    @property
    def closing_mm(self) -> float:
        """How far "first again" may differ: the round's own figure, else the rule."""
        if self.round.closing_mm is not None:
            return float(self.round.closing_mm)
        return closing_allowance_mm(indicator_step_mm=float(self.round.indicator.step_mm), limit_mm=self.limit_mm)

    @cached_property
    def closing(self) -> Closing | None:
        """Whether first again came back; None while it is not read."""
        again, first = self.by_place.get(self.round.places), self.first
        if again is None or again.value_mm is None or first is None or first.value_mm is None:
            return None
        return close_round(
            first_mm=float(first.value_mm),
            first_again_mm=float(again.value_mm),
            allowed_mm=self.closing_mm,
        )

    @property
    def is_void(self) -> bool:
        """Whether the indicator moved during the round."""
        return self.closing is not None and not self.closing.holds

    @property
    def is_closed(self) -> bool:
        """Whether all places and first again are read."""
        return self.is_full and self.closing is not None

    @property
    def stands(self) -> bool:
        """Whether the round is closed, not void, and can tell: only such a round decides."""
        known = self.flats if self.round.method == Round.Method.FLATS else self.sweep
        return self.is_closed and not self.is_void and known is not None

    def _swept(self) -> Sweep:
        angles = self.round.angles_deg()
        places = [(a, v) for a, v in zip(angles, self.values_mm, strict=True) if v is not None]
        return sweep(
            angles_deg=[angle for angle, _ in places],
            readings_mm=[value for _, value in places],
            surface=self.round.surface,
            jaws_deg=self.way.places_deg,
            acceptance_mm=self.limit_mm,
        )

    @cached_property
    def sweep(self) -> Sweep | None:
        """The least-squares answer, from three places read."""
        try:
            return self._swept()
        except InvalidInput:
            return None

    @property
    def cannot_tell(self) -> InvalidInput | None:
        """Why a closed round says nothing: too few places, or all on one side."""
        if not self.is_closed or self.sweep is not None:
            return None
        try:
            self._swept()
        except InvalidInput as error:
            return error
        return None

    @cached_property
    def flats(self) -> FourJawFlats | None:
        """Half the differences, pair by pair, where the four flats are read."""
        values = self.values_mm
        step = self.round.places // 4
        at_jaw = [values[jaw * step] for jaw in range(4)]
        if None in at_jaw:
            return None
        one, two, three, four = (float(value or 0) for value in at_jaw)
        first, second, third, fourth = self.way.places
        return four_jaw_flats(
            pairs=[
                FlatPair(jaws=(first, third), readings_mm=(one, three)),
                FlatPair(jaws=(second, fourth), readings_mm=(two, four)),
            ],
            acceptance_mm=self.limit_mm,
            surface=self.round.surface,
        )

    @property
    def moves(self) -> list[JawMove]:
        """What to do at the jaws, the larger move first."""
        if self.way.moved_is == "nothing":
            return []
        if self.round.method == Round.Method.FLATS:
            found = [
                JawMove(slacken=str(p.slacken), tighten=str(p.tighten), by_mm=p.by_mm)
                for p in (self.flats.pairs if self.flats else ())
                if p.slacken is not None
            ]
        else:
            found = list(self.sweep.moves) if self.sweep else []
        return sorted(found, key=lambda move: -move.by_mm)

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
        """The total reading: run-out of the surface as swept."""
        if self.round.method == Round.Method.FLATS:
            return max((abs(p.difference_mm) for p in self.flats.pairs), default=None) if self.flats else None
        return self.sweep.total_reading_mm if self.sweep else None

    @property
    def off_centre_mm(self) -> float | None:
        """How far the surface's own axis lies off."""
        if self.round.method == Round.Method.FLATS:
            if self.flats is None:
                return None
            return float(sum(pair.by_mm**2 for pair in self.flats.pairs) ** 0.5)
        return self.sweep.eccentricity_mm if self.sweep else None

    @property
    def expected_mm(self) -> float | None:
        """Run-out to expect once the moves are made: what shape leaves."""
        if self.round.method == Round.Method.FLATS:
            return 0.0 if self.flats else None
        return self.sweep.expected_total_after_mm if self.sweep else None

    @property
    def within(self) -> bool:
        """Whether this round shows the work true enough."""
        return self.stands and self.total_mm is not None and self.total_mm <= self.limit_mm + 1e-9


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


def last_standing(views: Iterable[RoundView]) -> RoundView | None:
    """The newest round that decides."""
    return next((view for view in reversed(list(views)) if view.stands), None)

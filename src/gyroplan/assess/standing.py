"""Where one bore of one piece stands, and a whole job: all that a page says, found or refused with its reason."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from datetime import date
from typing import TypeVar

from gyroplan.assess.at import AtBore
from gyroplan.assess.bars import BarInWork, bar_of
from gyroplan.assess.check import Checked, Gap, check_of
from gyroplan.assess.features import FeatureChecked, features_of
from gyroplan.assess.passes import Passes, passes_of
from gyroplan.assess.replays import sweeps_of, truing_of
from gyroplan.assess.speeds import Copied, Speeds, copied_of, speeds_of
from gyroplan.assess.truing import RoundStanding, Truing, swept_of
from gyroplan.plan import ROUGHING
from gyroplan.record import BoreRecord, JobRecord, PieceSummary

K = TypeVar("K")
T = TypeVar("T")
#: Piece, and place of the bore along the axis.
Key = tuple[int, int]


@dataclass(frozen=True, slots=True, kw_only=True)
class Boring:
    """The plan of one bore of one piece with its log: passes, bar, speeds."""

    passes: Passes
    bar: BarInWork
    speeds: Speeds
    #: How far off centre the old bore lies as trued; None before that, and where another surface is trued [mm].
    off_centre_mm: float | None
    copied: Copied | None
    #: The thinnest wall once bored to the target; None where the outside is not known [mm].
    wall_left_mm: float | None
    #: The day that roughed work waits for, while it does: before it, no finish pass is set.
    rests_until: date | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Standing:
    """Where one bore of one piece stands."""

    record: JobRecord
    bore: BoreRecord
    piece: int
    truing: Truing
    boring: Boring
    #: Sweeps of the finished bore, oldest first; and the one that counts.
    sweeps: tuple[RoundStanding, ...]
    swept: RoundStanding | None
    check: Checked


def assess(record: JobRecord, piece: int, place: int, today: date) -> Standing:
    """Return where one bore of one piece stands.

    Parameters
    ----------
    record : the job as it is recorded
    piece : which of the pieces, from 1
    place : of the bore along the axis
    today : the shop's date, for what rests and what is overdue

    Returns
    -------
    Standing: each figure found, or refused with its reason [mm]
    """
    return Assessment(record=record, today=today).at(piece, place)


@dataclass(frozen=True, slots=True, kw_only=True)
class Assessment:
    """A whole job assessed: each part is worked out once, when it is asked for, however many bores and pieces."""

    record: JobRecord
    today: date
    _truing: dict[Key, Truing] = field(default_factory=dict, repr=False, compare=False)
    _boring: dict[Key, Boring] = field(default_factory=dict, repr=False, compare=False)
    _sweeps: dict[Key, tuple[RoundStanding, ...]] = field(default_factory=dict, repr=False, compare=False)
    _check: dict[Key, Checked] = field(default_factory=dict, repr=False, compare=False)
    _features: dict[int, tuple[FeatureChecked, ...]] = field(default_factory=dict, repr=False, compare=False)
    _summaries: dict[int, PieceSummary] = field(default_factory=dict, repr=False, compare=False)
    _begun: list[list[int]] = field(default_factory=list, repr=False, compare=False)

    @property
    def begun(self) -> list[int]:
        """Pieces that have anything in their logs."""
        if not self._begun:
            self._begun.append(self.record.begun_pieces)
        return self._begun[0]

    def summary(self, piece: int, work: Callable[[], PieceSummary]) -> PieceSummary:
        """What a piece came to, worked out once; pieces that are not begun are all alike."""
        found = _once(self._summaries, piece if piece in self.begun else 0, work)
        return found if found.piece == piece else replace(found, piece=piece)

    def at(self, piece: int, place: int) -> Standing:
        """All of one bore of one piece."""
        return Standing(
            record=self.record, bore=self.record.bore_at(place, piece), piece=piece, truing=self.truing(piece, place),
            boring=self.boring(piece, place), sweeps=self.sweeps(piece, place), swept=self.swept(piece, place),
            check=self.check(piece, place),
        )  # fmt: skip

    def truing(self, piece: int, place: int) -> Truing:
        """Its truing."""
        return _once(self._truing, (piece, place), lambda: truing_of(self.record, piece, place))

    def boring(self, piece: int, place: int) -> Boring:
        """Its passes, bar and speeds."""
        return _once(self._boring, (piece, place), lambda: self._work_out(piece, place))

    def sweeps(self, piece: int, place: int) -> tuple[RoundStanding, ...]:
        """The sweeps of the finished bore."""
        return _once(self._sweeps, (piece, place), lambda: sweeps_of(self.record, piece, place))

    def swept(self, piece: int, place: int) -> RoundStanding | None:
        """The sweep that counts."""
        return swept_of(self.sweeps(piece, place))

    def features(self, piece: int) -> tuple[FeatureChecked, ...]:
        """Faces, bands, outsides, reliefs and distances of a piece, judged."""
        return _once(self._features, piece, lambda: features_of(self.record, piece, self.today))

    def check(self, piece: int, place: int) -> Checked:
        """Its check."""
        return _once(self._check, (piece, place), lambda: self._judge(piece, place))

    def _judge(self, piece: int, place: int) -> Checked:
        """A bore by what was measured of it; work that is only set true by its truing."""
        found = check_of(self.record, piece, place, self.sweeps(piece, place), self.today)
        if not self.record.setup.only_trued:
            return found
        if self.truing(piece, place).within:
            return replace(found, word="in", missing=())
        return replace(found, word="incomplete", missing=(Gap(code="trued"),))

    def _work_out(self, piece: int, place: int) -> Boring:
        at = AtBore(record=self.record, bore=self.record.bore_at(place, piece), piece=piece)
        off = self._off_centre_mm(piece, place)
        passes = passes_of(at)
        bar, speeds = bar_of(passes), speeds_of(passes, off)
        outside = [diameter for _, diameter in at.bore.outside_mm]
        return Boring(
            passes=passes, bar=bar, speeds=speeds, off_centre_mm=off,
            copied=copied_of(passes, speeds.first_cut.value, bar.stiffness_n_mm),
            wall_left_mm=(min(outside) - at.bore.aim_mm) / 2 if outside else None,
            rests_until=rests_until(passes, self.today),
        )  # fmt: skip

    def _off_centre_mm(self, piece: int, place: int) -> float | None:
        """Only a sweep of the old bore says how far the old bore lies off."""
        truing = self.truing(piece, place)
        off = [one.off_centre_mm for one in truing.last if one.holds and one.off_centre_mm is not None]
        return max(off, default=None) if self.record.setup.reference == "old-bore" else None


def rests_until(passes: Passes, today: date) -> date | None:
    """The day that roughed work waits for, while it does: before it, no finish pass is set."""
    until, state = passes.at.plan.rest_until, passes.state
    if until is None or until <= today or state is None or state.phase != "set" or state.hand is None:
        return None
    return None if state.hand.kind in ROUGHING else until


def _once(known: dict[K, T], key: K, work: Callable[[], T]) -> T:
    if key not in known:
        known[key] = work()
    return known[key]

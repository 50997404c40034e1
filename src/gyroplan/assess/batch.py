"""Pieces of a batch one after the other: whether a size runs away, and what to open so that they match."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore import Drift, MatchSet, PieceSize, drift, match_set
from gyroplan.assess.standing import Assessment
from gyroplan.assess.together import summary_of

#: Settings as near as this are one [mm].
_SET_ALIKE_MM = 0.0005
#: So few pieces say nothing of a drift.
_LEAST = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class PieceMade:
    """A piece whose bore is measured: its mean size [mm], what its last pass was set to, the word of its verdict."""

    piece: int
    mean_mm: float
    word: str
    #: None where its passes are not logged here.
    set_mm: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class SetAlike:
    """Pieces one after the other that were set alike: what is between them the edge and the bar did [mm]."""

    set_mm: float
    pieces: tuple[int, ...]
    spread_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Batch:
    """One bore of all pieces that are measured, in their order."""

    pieces: tuple[PieceMade, ...]
    #: None with fewer than three.
    drift: Drift | None
    #: Runs of pieces that were set alike, in their order; empty where a setting is not known.
    groups: tuple[SetAlike, ...]
    #: Whether the pieces were set to different sizes: the drift is then of what each came out over its setting, and
    #: what the next comes to is for a setting as the last piece had.
    by_setting: bool
    #: Where bores must match, with two or more.
    match: MatchSet | None


def batch_of(job: Assessment, place: int) -> Batch | None:
    """Return the run of one bore over the pieces; None with fewer than two that are measured.

    Notes
    -----
    Pieces are taken as made in the order of their numbers; each counts by the mean of its places, and where they were
    set to different sizes by what it came out over its setting: a setting that follows the wear hides the drift. What
    is to be opened so that they match is told by the limits of the bore, so that nothing is opened past them.
    """
    bore, made = job.record.bore_at(place), list[PieceMade]()
    for piece in job.begun:
        found = next((one for one in summary_of(job, piece).bores if one.name == bore.name), None)
        if found is not None and found.mean_mm is not None:
            set_mm = _set_mm(job, piece, place)
            made.append(PieceMade(piece=piece, mean_mm=found.mean_mm, word=found.word, set_mm=set_mm))
    if len(made) < 2:
        return None
    by_setting, values = _alike_set(made)
    run = drift(values_mm=values, lower_mm=bore.lower_mm, upper_mm=bore.upper_mm) if len(made) >= _LEAST else None
    asked = job.record.setup.match_mm
    match = None if asked is None else match_set(
        pieces=[PieceSize(name=str(one.piece), value_mm=one.mean_mm) for one in made], match_mm=asked,
        lower_mm=bore.lower_mm, upper_mm=bore.upper_mm,
    )  # fmt: skip
    return Batch(pieces=tuple(made), drift=run, match=match, by_setting=by_setting, groups=_groups(made))


def _groups(made: Sequence[PieceMade]) -> tuple[SetAlike, ...]:
    if any(one.set_mm is None for one in made):
        return ()
    runs: list[list[PieceMade]] = []
    for one in made:
        alike = runs and abs((runs[-1][0].set_mm or 0.0) - (one.set_mm or 0.0)) < _SET_ALIKE_MM
        if alike:
            runs[-1].append(one)
        else:
            runs.append([one])
    return tuple(
        SetAlike(set_mm=run[0].set_mm or 0.0, pieces=tuple(one.piece for one in run),
                 spread_mm=max(one.mean_mm for one in run) - min(one.mean_mm for one in run)) for run in runs
    )  # fmt: skip


def _set_mm(job: Assessment, piece: int, place: int) -> float | None:
    """What the last pass of a piece was set to; None where its log is left out, or nothing was cut."""
    if any(one.piece == piece for one in job.record.summaries):
        return None
    return next((cut.set_mm for cut in reversed(job.boring(piece, place).passes.done) if cut.kind != "spring"), None)


def _alike_set(made: Sequence[PieceMade]) -> tuple[bool, list[float]]:
    """The sizes as if each piece had been set as the last one was, and whether that made a difference."""
    last = made[-1].set_mm
    known = [one.set_mm for one in made if one.set_mm is not None]
    if last is None or len(known) < len(made) or max(known) - min(known) < _SET_ALIKE_MM:
        return False, [one.mean_mm for one in made]
    return True, [one.mean_mm + last - (one.set_mm or last) for one in made]

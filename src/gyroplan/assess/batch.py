"""Pieces of a batch one after the other: whether a size runs away, and what to open so that they match."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import Drift, MatchSet, PieceSize, drift, match_set
from gyroplan.assess.standing import Assessment
from gyroplan.assess.together import summary_of

#: So few pieces say nothing of a drift.
_LEAST = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class PieceMade:
    """A piece whose bore is measured: its mean size [mm], and the word of its verdict."""

    piece: int
    mean_mm: float
    word: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Batch:
    """One bore of all pieces that are measured, in their order."""

    pieces: tuple[PieceMade, ...]
    #: None with fewer than three.
    drift: Drift | None
    #: Where bores must match, with two or more.
    match: MatchSet | None


def batch_of(job: Assessment, place: int) -> Batch | None:
    """Return the run of one bore over the pieces; None with fewer than two that are measured.

    Notes
    -----
    Pieces are taken as made in the order of their numbers; each counts by the mean of its places. What is to be
    opened so that they match is told by the limits of the bore, so that nothing is opened past them.
    """
    bore, made = job.record.bore_at(place), list[PieceMade]()
    for piece in job.begun:
        found = next((one for one in summary_of(job, piece).bores if one.name == bore.name), None)
        if found is not None and found.mean_mm is not None:
            made.append(PieceMade(piece=piece, mean_mm=found.mean_mm, word=found.word))
    if len(made) < 2:
        return None
    values = [one.mean_mm for one in made]
    run = drift(values_mm=values, lower_mm=bore.lower_mm, upper_mm=bore.upper_mm) if len(made) >= _LEAST else None
    asked = job.record.setup.match_mm
    match = None if asked is None else match_set(
        pieces=[PieceSize(name=str(one.piece), value_mm=one.mean_mm) for one in made], match_mm=asked,
        lower_mm=bore.lower_mm, upper_mm=bore.upper_mm,
    )  # fmt: skip
    return Batch(pieces=tuple(made), drift=run, match=match)

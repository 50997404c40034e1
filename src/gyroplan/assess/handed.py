"""What one set-up hands on to the next: its bores as they stand, measured where they were cut."""

from __future__ import annotations

from dataclasses import dataclass

from gyroplan.assess.standing import Assessment
from gyroplan.record import BoreRecord


@dataclass(frozen=True, slots=True, kw_only=True)
class Handed:
    """One bore of one piece as it stands: each (depth from the open face, diameter) [mm]."""

    bore: BoreRecord
    piece: int
    rows_mm: tuple[tuple[float, float], ...]
    #: Where the sizes come from: the check, the last size of a pass, or as the bore was found.
    source: str
    #: It was cut and not measured since: its size is not known, and it cannot be handed on.
    unmeasured: bool = False


def handed_on(job: Assessment) -> tuple[Handed, ...]:
    """Every bore of every piece that is begun (of one at least), as the next set-up finds it.

    A bore that was cut is as it was measured last: by the check at each depth, the mean of its directions; else by the
    size after the last pass, given at half its length, for where along the bore it was read is not recorded.
    """
    pieces = job.begun or [1]
    return tuple(_handed(job, piece, bore.place) for piece in pieces for bore in job.record.setup.bores)


def _handed(job: Assessment, piece: int, place: int) -> Handed:
    bore = job.record.bore_at(place, piece)
    check = job.check(piece, place)
    state = job.boring(piece, place).passes.state
    if check.places:
        depths = sorted({one.z_mm for one in check.places})
        at = {z: [one.value_mm for one in check.places if one.z_mm == z] for z in depths}
        rows = tuple((z, sum(sizes) / len(sizes)) for z, sizes in at.items())
        return Handed(bore=bore, piece=piece, rows_mm=rows, source="check")
    if state is None or state.known_from == "found":
        return Handed(bore=bore, piece=piece, rows_mm=bore.found_mm, source="found")
    bored = job.boring(piece, place).passes.at.bored_mm
    left = tuple((z, diameter) for z, diameter in bore.found_mm if z > bored)
    rows = ((bored / 2, state.known_mm), *left)
    return Handed(bore=bore, piece=piece, rows_mm=rows, source="pass", unmeasured=state.known_from != "measured")

"""Two bits on one bar that cut two bores of a line at once."""

from __future__ import annotations

from gyroplan.assess.at import AtBore
from gyroplan.record import BoreRecord

#: Two bits cut two bores at once where the bores stand as far apart as the bits, to this (chosen here: what the
#: overrun takes up) [mm].
PAIR_WITHIN_MM = 2


def pair_of(at: AtBore) -> tuple[str, str] | None:
    """Two bores that the two bits of the picked bar cut at once: as far apart as the bits, and of one size."""
    if at.bar is None or at.bar.bits_apart_mm is None:
        return None
    bores = at.setup.bores
    for number, first in enumerate(bores):
        for second in bores[number + 1 :]:
            if _are_cut_at_once(first, second, at.bar.bits_apart_mm):
                return first.name, second.name
    return None


def _are_cut_at_once(first: BoreRecord, second: BoreRecord, bits_apart_mm: float) -> bool:
    apart = abs(abs(second.start_mm - first.start_mm) - bits_apart_mm)
    return apart <= PAIR_WITHIN_MM and abs(first.aim_mm - second.aim_mm) < 1e-9

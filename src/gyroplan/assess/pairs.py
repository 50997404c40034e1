"""Two bits on one bar that cut two bores of a line at once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyroplan.assess.at import AtBore
from gyroplan.loop import PassCut
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


@dataclass(frozen=True, slots=True, kw_only=True)
class BitApart:
    """How the second bit of a pair cuts against the first [mm]: larger on diameter by, farther out on radius by."""

    larger_mm: float
    out_mm: float


def bit_apart(own: Sequence[PassCut], other: Sequence[PassCut]) -> BitApart | None:
    """Return how the other bit of a matched pair cuts against this one, by the last pass that both were measured after.

    Both cut the same pass in the same stroke, so what the bar springs and what the dial was set to is common: half the
    difference of what came out, less half the difference of what was set, is how the tips stand apart on radius. None
    before both are measured after one pass.
    """
    mine = {cut.number: cut.came_over_mm for cut in own}
    for cut in reversed(other):
        over, alike = cut.came_over_mm, mine.get(cut.number)
        if over is not None and alike is not None:
            return BitApart(larger_mm=over - alike, out_mm=(over - alike) / 2)
    return None


def _are_cut_at_once(first: BoreRecord, second: BoreRecord, bits_apart_mm: float) -> bool:
    apart = abs(abs(second.start_mm - first.start_mm) - bits_apart_mm)
    return apart <= PAIR_WITHIN_MM and abs(first.aim_mm - second.aim_mm) < 1e-9

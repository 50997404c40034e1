"""What stands after an entry: the output of `bore_state`."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import Note, Pass
from gyroplan.loop.setting import Told
from gyroplan.refusal import Refusal

#: A pass that is left is a planned pass.
PassLeft = Pass


@dataclass(frozen=True, slots=True, kw_only=True)
class BoreState:
    """The state of one bore after an entry; sizes are those of the bored hole [mm]."""

    phase: str
    passes_left: tuple[PassLeft, ...]
    #: The number of the pass in hand, in `set`, `cut` and `touch-off`.
    in_hand: int | None
    told: Told | None
    stands_at: float | None
    set_diameter_mm: float | None
    known_mm: float
    known_from: str
    expanded_mm: float | None
    agree: bool | None
    to_come_off_mm: float
    verdict: str | None
    suspect: str | None
    refused: Refusal | None = None

    @property
    def hand(self) -> PassLeft | None:
        """The pass in hand."""
        return self.passes_left[0] if self.in_hand is not None else None


@dataclass(frozen=True, slots=True, kw_only=True)
class BoreStates:
    """One state before the first entry and one after each."""

    states: tuple[BoreState, ...]
    notes: tuple[Note, ...] = ()

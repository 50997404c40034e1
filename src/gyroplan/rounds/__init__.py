"""The state of truing: which round stands, what it says, what to move, and whether the last move did as told."""

from gyroplan.rounds.entries import Again, Begin, Blocked, Disturbed, Entry, Moved, Reading, Undo
from gyroplan.rounds.figures import Figures
from gyroplan.rounds.plan import TrueWork
from gyroplan.rounds.replay import TrueState, TrueStates, true_state

__all__ = [
    "Again", "Begin", "Blocked", "Disturbed", "Entry", "Figures", "Moved", "Reading", "TrueState", "TrueStates",
    "TrueWork", "Undo", "true_state",
]  # fmt: skip

"""The state of the check: every place, every limit, what is missing, and the verdict over all."""

from gyroplan.judge.entries import Depth, Entry, Runout, Size, Undo
from gyroplan.judge.limits import Figure, Limits
from gyroplan.judge.places import Place
from gyroplan.judge.plan import CheckWork
from gyroplan.judge.replay import CheckState, CheckStates, check_state, with_places

__all__ = [
    "CheckState", "CheckStates", "CheckWork", "Depth", "Entry", "Figure", "Limits", "Place", "Runout", "Size", "Undo",
    "check_state", "with_places",
]  # fmt: skip

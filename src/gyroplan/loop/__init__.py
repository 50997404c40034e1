"""The state of the pass in hand: a plan and a log in, what stands and what is to do out."""

from gyroplan.loop.entries import Cut, Entry, Set, Size, Touched, TouchOff, Undo, Zero
from gyroplan.loop.left import Done, share_anew
from gyroplan.loop.plan import BoreInWork, BoreWork, Rules, require_work
from gyroplan.loop.replay import bore_state
from gyroplan.loop.setting import AdvanceWay, DialWay, MicrometerWay, OverBarWay, StepWay, Told, Way
from gyroplan.loop.state import BoreState, BoreStates, PassLeft

__all__ = [
    "AdvanceWay", "BoreInWork", "BoreState", "BoreStates", "BoreWork", "Cut", "DialWay", "Done", "Entry",
    "MicrometerWay", "OverBarWay", "PassLeft", "Rules", "Set", "Size", "StepWay", "Told", "TouchOff", "Touched", "Undo",
    "Way", "Zero", "bore_state", "require_work", "share_anew",
]  # fmt: skip

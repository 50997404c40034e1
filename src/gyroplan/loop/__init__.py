"""The state of the pass in hand: a plan and a log in, what stands and what is to do out."""

from gyroplan.loop.acts import entry_for, plan_entry
from gyroplan.loop.asked import BoreInWork, Rules, first_plan, require_asked
from gyroplan.loop.changes import Act
from gyroplan.loop.entries import Cut, Entry, Planned, Set, Size, Touched, TouchOff, Undo, Zero
from gyroplan.loop.ladder import Ladder, PassAhead, PassCut, ladder_of
from gyroplan.loop.plan import BoreLog, BoreWork, require_work
from gyroplan.loop.replay import Replay, bore_state, replayed
from gyroplan.loop.setting import AdvanceWay, DialWay, MicrometerWay, OverBarWay, StepWay, Told, Way
from gyroplan.loop.state import BoreState, BoreStates, PassLeft

__all__ = [
    "Act", "AdvanceWay", "BoreInWork", "BoreLog", "BoreState", "BoreStates", "BoreWork", "Cut", "DialWay", "Entry",
    "Ladder", "MicrometerWay", "OverBarWay", "PassAhead", "PassCut", "PassLeft", "Planned", "Replay", "Rules", "Set",
    "Size", "StepWay", "Told", "TouchOff", "Touched", "Undo", "Way", "Zero", "bore_state", "entry_for", "first_plan",
    "ladder_of", "plan_entry", "replayed", "require_asked", "require_work",
]  # fmt: skip

"""What a job means: plain Python between the rules of `gyrocore` and the pages, without a web framework.

The three states of the work (`bore_state`, `true_state`, `check_state`) replay a log: what was planned and what was
logged in, what stands now out. Pages, sheets and the command print from them and work out nothing of their own.
"""

from gyroplan.gauges import Believed, Expansions, Gauge, SizeTaken, believed_size
from gyroplan.judge import CheckState, CheckWork, check_state
from gyroplan.loop import BoreState, BoreWork, bore_state
from gyroplan.rounds import TrueState, TrueWork, true_state

__all__ = [
    "Believed", "BoreState", "BoreWork", "CheckState", "CheckWork", "Expansions", "Gauge", "SizeTaken", "TrueState",
    "TrueWork", "believed_size", "bore_state", "check_state", "true_state",
]  # fmt: skip

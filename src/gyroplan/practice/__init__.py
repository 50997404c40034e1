"""The practice bench: simulated work that is read and moved by a learner, and the ways others would have gone."""

from gyroplan.practice.levels import LEVELS, MOVED, Hidden, Level, Part, hidden_of
from gyroplan.practice.paths import (
    PAIRS,
    Advice,
    Step,
    advice,
    centre_after,
    chased,
    expert_path,
    half_rule_path,
)
from gyroplan.practice.run import Act, PracticeRound, Refusal, Run, act, replayed

__all__ = [
    "LEVELS", "MOVED", "PAIRS", "Act", "Advice", "Hidden", "Level", "Part", "PracticeRound", "Refusal", "Run", "Step",
    "act", "advice", "centre_after", "chased", "expert_path", "half_rule_path", "hidden_of", "replayed",
]  # fmt: skip

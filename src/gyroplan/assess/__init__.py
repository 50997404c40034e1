"""What a recorded job means: passes, bar, speeds, rounds, verdicts, and what is next. All that any page says."""

from gyroplan.assess.at import AtBore
from gyroplan.assess.bars import (
    BarInWork,
    BarRow,
    Opening,
    choice_of,
    enters,
    pockets_of,
    reach_of,
    rows_of,
    verdict_of,
)
from gyroplan.assess.bush import BushPlan, BushWork, Seat, Stage, bush_plan, seat_of
from gyroplan.assess.centres import Centres, layout_of, response_at
from gyroplan.assess.check import Checked, Gap, LimitFound, check_of, worst_word
from gyroplan.assess.figure import Figure
from gyroplan.assess.handed import Handed, handed_on
from gyroplan.assess.heads import HoleFit, Holes
from gyroplan.assess.lines import Line, bar_in_line, bores_in_line, line_at
from gyroplan.assess.packing import Packed, Packing, Stacked, packed_from, packing_of
from gyroplan.assess.pairs import pair_of
from gyroplan.assess.passes import Passes, passes_of, require_passes
from gyroplan.assess.setting import Setting, set_by
from gyroplan.assess.sides import SideReach, Sides, reach_into, sides_of
from gyroplan.assess.speeds import PlannedPass, Speeds, cap_of, machine_speed, speeds_of, wanted_speed
from gyroplan.assess.standing import Assessment, Boring, Standing, assess
from gyroplan.assess.steps import STEPS, Next, Station, Steps, in_hand, steps_of
from gyroplan.assess.together import (
    Together,
    alike,
    in_line,
    job_word,
    judged_and_written,
    minutes_of,
    name_of,
    piece_words,
    setup_summary,
    shown_digest,
    signed_verdict,
    summary_of,
    worst_named,
)
from gyroplan.assess.truing import OFF_SCALE, RoundStanding, Truing, broken_at, sweeps_of, swept_of, truing_of
from gyroplan.assess.turning import Turning, turning_of, turns_heavy
from gyroplan.assess.ways import WayFit, ways_of

__all__ = [
    "OFF_SCALE",
    "STEPS",
    "Assessment",
    "AtBore",
    "BarInWork",
    "BarRow",
    "Boring",
    "BushPlan",
    "BushWork",
    "Centres",
    "Checked",
    "Figure",
    "Gap",
    "Handed",
    "HoleFit",
    "Holes",
    "LimitFound",
    "Line",
    "Next",
    "Opening",
    "Packed",
    "Packing",
    "Passes",
    "PlannedPass",
    "RoundStanding",
    "Seat",
    "Setting",
    "SideReach",
    "Sides",
    "Speeds",
    "Stacked",
    "Stage",
    "Standing",
    "Station",
    "Steps",
    "Together",
    "Truing",
    "Turning",
    "WayFit",
    "alike",
    "assess",
    "bar_in_line",
    "bores_in_line",
    "broken_at",
    "bush_plan",
    "cap_of",
    "check_of",
    "choice_of",
    "enters",
    "handed_on",
    "in_hand",
    "in_line",
    "job_word",
    "judged_and_written",
    "layout_of",
    "line_at",
    "machine_speed",
    "minutes_of",
    "name_of",
    "packed_from",
    "packing_of",
    "pair_of",
    "passes_of",
    "piece_words",
    "pockets_of",
    "reach_into",
    "reach_of",
    "require_passes",
    "response_at",
    "rows_of",
    "seat_of",
    "set_by",
    "setup_summary",
    "shown_digest",
    "sides_of",
    "signed_verdict",
    "speeds_of",
    "steps_of",
    "summary_of",
    "sweeps_of",
    "swept_of",
    "truing_of",
    "turning_of",
    "turns_heavy",
    "verdict_of",
    "wanted_speed",
    "ways_of",
    "worst_named",
    "worst_word",
]  # fmt: skip

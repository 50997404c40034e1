"""What a recorded job means: passes, bar, speeds, rounds, verdicts, and what is next. All that any page says."""

from gyroplan.assess.asked import AskedPlaces, asked_places
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
from gyroplan.assess.batch import Batch, batch_of
from gyroplan.assess.bounds import beyond_mate_mm
from gyroplan.assess.bush import (
    BushPlan,
    BushWork,
    Seat,
    ShaftPlan,
    ShaftWork,
    Stage,
    bush_plan,
    seat_of,
    shaft_plan,
)
from gyroplan.assess.causes import Cause, Causes, causes_of
from gyroplan.assess.centred import ASKED, Centring, centring
from gyroplan.assess.centres import Centres, layout_of, response_at
from gyroplan.assess.check import Checked, Gap, LimitFound, check_of, worst_word
from gyroplan.assess.conceded import NotIn, not_in_limits
from gyroplan.assess.damper import DamperSearch, damper_search
from gyroplan.assess.evidence import Evidence, Shown
from gyroplan.assess.features import (
    FeatureChecked,
    FeatureCut,
    FeatureLine,
    asked_of,
    at_centres,
    band_of,
    cut_of,
    face_speed_rpm,
    is_late,
)
from gyroplan.assess.figure import Figure
from gyroplan.assess.habit import SPRING_LEFT, CutSeen, HabitStanding, Raised, cuts_seen, habit_of, touched_at
from gyroplan.assess.handed import Handed, handed_on
from gyroplan.assess.heads import HoleFit, Holes
from gyroplan.assess.here import STEPS, Next, Station, Steps
from gyroplan.assess.level import FaceLevel, Lift, is_by_face, level_of
from gyroplan.assess.line_moves import (
    BearingMoved,
    LineMoves,
    SweptBore,
    is_moved_at_bearings,
    line_moves_of,
    missing_for_moves,
)
from gyroplan.assess.lines import Line, bar_in_line, bores_in_line, line_at
from gyroplan.assess.moved import Tap, moved_by, moved_otherwise, tap_of, told_moves
from gyroplan.assess.noise import Change, Chatter, chatter_of
from gyroplan.assess.oval import Oval, oval_of
from gyroplan.assess.packing import MOST_KINDS, SHIM_MM, Packed, Packing, Stacked, packed_from, packing_of
from gyroplan.assess.pads import Pads, pads_of
from gyroplan.assess.pairs import bit_apart, pair_of
from gyroplan.assess.parts import Parts, parts_of
from gyroplan.assess.passes import Passes, passes_of, require_passes
from gyroplan.assess.reopened import SIZES_TOO, Reopened, reopened_of
from gyroplan.assess.replays import sweeps_of, truing_of
from gyroplan.assess.report import BoreReport, GaugeUsed, ReportRow, report_of
from gyroplan.assess.rings import RINGED
from gyroplan.assess.setting import Setting, set_by
from gyroplan.assess.sides import SideReach, Sides, reach_into, sides_of
from gyroplan.assess.speeds import PlannedPass, Speeds, cap_of, machine_speed, speeds_of, wanted_speed
from gyroplan.assess.sprung import SpringPass, Springs, springs_of
from gyroplan.assess.standing import Assessment, Boring, Standing, assess
from gyroplan.assess.steps import in_hand, stations_of, steps_of
from gyroplan.assess.tilt import Tilt, WallLean, tilt_of, wall_lean_of
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
from gyroplan.assess.truing import OFF_SCALE, RoundStanding, Truing, broken_at, swept_of
from gyroplan.assess.turning import Turning, turning_of, turns_heavy
from gyroplan.assess.way_home import LEAST_ROOM_MM, way_home_of
from gyroplan.assess.ways import WayFit, ways_of

__all__ = [
    "ASKED",
    "LEAST_ROOM_MM",
    "MOST_KINDS",
    "OFF_SCALE",
    "RINGED",
    "SHIM_MM",
    "SIZES_TOO",
    "SPRING_LEFT",
    "STEPS",
    "AskedPlaces",
    "Assessment",
    "AtBore",
    "BarInWork",
    "BarRow",
    "Batch",
    "BearingMoved",
    "BoreReport",
    "Boring",
    "BushPlan",
    "BushWork",
    "Cause",
    "Causes",
    "Centres",
    "Centring",
    "Change",
    "Chatter",
    "Checked",
    "CutSeen",
    "DamperSearch",
    "Evidence",
    "FaceLevel",
    "FeatureChecked",
    "FeatureCut",
    "FeatureLine",
    "Figure",
    "Gap",
    "GaugeUsed",
    "HabitStanding",
    "Handed",
    "HoleFit",
    "Holes",
    "Lift",
    "LimitFound",
    "Line",
    "LineMoves",
    "Next",
    "NotIn",
    "Opening",
    "Oval",
    "Packed",
    "Packing",
    "Pads",
    "Parts",
    "Passes",
    "PlannedPass",
    "Raised",
    "Reopened",
    "ReportRow",
    "RoundStanding",
    "Seat",
    "Setting",
    "ShaftPlan",
    "ShaftWork",
    "Shown",
    "SideReach",
    "Sides",
    "Speeds",
    "SpringPass",
    "Springs",
    "Stacked",
    "Stage",
    "Standing",
    "Station",
    "Steps",
    "SweptBore",
    "Tap",
    "Tilt",
    "Together",
    "Truing",
    "Turning",
    "WallLean",
    "WayFit",
    "alike",
    "asked_of",
    "asked_places",
    "assess",
    "at_centres",
    "band_of",
    "bar_in_line",
    "batch_of",
    "beyond_mate_mm",
    "bit_apart",
    "bores_in_line",
    "broken_at",
    "bush_plan",
    "cap_of",
    "causes_of",
    "centring",
    "chatter_of",
    "check_of",
    "choice_of",
    "cut_of",
    "cuts_seen",
    "damper_search",
    "enters",
    "face_speed_rpm",
    "habit_of",
    "handed_on",
    "in_hand",
    "in_line",
    "is_by_face",
    "is_late",
    "is_moved_at_bearings",
    "job_word",
    "judged_and_written",
    "layout_of",
    "level_of",
    "line_at",
    "line_moves_of",
    "machine_speed",
    "minutes_of",
    "missing_for_moves",
    "moved_by",
    "moved_otherwise",
    "name_of",
    "not_in_limits",
    "oval_of",
    "packed_from",
    "packing_of",
    "pads_of",
    "pair_of",
    "parts_of",
    "passes_of",
    "piece_words",
    "pockets_of",
    "reach_into",
    "reach_of",
    "reopened_of",
    "report_of",
    "require_passes",
    "response_at",
    "rows_of",
    "seat_of",
    "set_by",
    "setup_summary",
    "shaft_plan",
    "shown_digest",
    "sides_of",
    "signed_verdict",
    "speeds_of",
    "springs_of",
    "stations_of",
    "steps_of",
    "summary_of",
    "sweeps_of",
    "swept_of",
    "tap_of",
    "tilt_of",
    "told_moves",
    "touched_at",
    "truing_of",
    "turning_of",
    "turns_heavy",
    "verdict_of",
    "wall_lean_of",
    "wanted_speed",
    "way_home_of",
    "ways_of",
    "worst_named",
    "worst_word",
]

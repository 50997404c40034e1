"""The rules of the job: pure Python, no pages, no database.

Pages reach the core through `gyrometra.bridge`, which imports the names listed here and no deeper.
"""

from gyrocore.catalogue import (
    BarKind,
    Caution,
    Holding,
    Material,
    Method,
    SpeedPair,
    bar_kind,
    bar_kinds,
    cautions,
    held,
    holdings,
    holdings_for,
    material,
    materials,
    method,
    methods,
)
from gyrocore.errors import CoreError, InvalidInput
from gyrocore.formulas.bar_out import BarOut, bar_out, segments_out
from gyrocore.formulas.bar_response import BarResponse, Tool, bar_mass_kg, bar_response, response_at
from gyrocore.formulas.beam import middle_stiffness_n_mm, second_moment_mm4
from gyrocore.formulas.beam_model import STEEL, BarMaterial, BeamModel, Segment, Support, build_beam
from gyrocore.formulas.cutting_force import Cut, CuttingForce, cutting_force
from gyrocore.formulas.heat import ThermalSize, cooling_minutes, thermal_size
from gyrocore.formulas.stability import EdgeInCut, Stability, stability
from gyrocore.formulas.tones import Peak, Tones, spectrum, tones
from gyrocore.judging.agreement import Agreement, Found, agreement, weighted_mm
from gyrocore.judging.bore_form import BoreForm, DiameterReading, Station, StationForm, bore_form
from gyrocore.judging.centre_distance import CentreDistance, centre_distance
from gyrocore.judging.drift import Drift, drift
from gyrocore.judging.gauge_bounds import GaugeBounds, Seen, gauge_bounds
from gyrocore.judging.habit import Foretold, HabitPrior, LearnedHabit, SeenCut, foretold, learned_habit
from gyrocore.judging.line_of_bores import BoreCentre, LineOfBores, line_of_bores
from gyrocore.judging.match_set import MatchSet, PieceSize, ToOpen, match_set
from gyrocore.judging.measurement import GaugeData, Measurement, Warmth, measurement
from gyrocore.judging.next_cut import Habit, NextCut, SetAndMeasured, next_cut
from gyrocore.judging.next_size import ExistingSize, NextSize, SizeRow, next_size
from gyrocore.judging.oversize import OVERSIZE_STEP_IN_MM, OVERSIZE_STEP_MM, Oversize, next_oversizes
from gyrocore.judging.slips import Slip, radius_diameter_slip, size_slips, unit_slip
from gyrocore.judging.verdict import AtMost, Verdict, judge_at_most, verdict
from gyrocore.limits import (
    CommonSize,
    Fit,
    Limits,
    fit,
    fit_of,
    fit_with_part,
    limits_to_suit,
    nearest_common,
    read_limits,
)
from gyrocore.limits.bush import LEAST_WALL_SHARE, BushOutside, bush_outside, require_wall
from gyrocore.make import CALCULATIONS
from gyrocore.notes import Note, note
from gyrocore.planning.balance import Balance, Counterweights, Mass, Weight, balance, counterweights
from gyrocore.planning.bar_choice import BarCandidate, BarChoice, RankedBar, choose_bar
from gyrocore.planning.centres import CentresBar, CentresLayout, WorkOnSaddle, between_centres
from gyrocore.planning.cutter_setting import CutterAdvance, OverBar, cutter_advance, over_bar
from gyrocore.planning.cutting_time import CutTime, cut_time
from gyrocore.planning.dial import Dial, DialMove, head_dial
from gyrocore.planning.elastic import ElasticPasses, elastic_passes, passes_until_round
from gyrocore.planning.faces import AngledFace, FaceTime, angled_face, face_time
from gyrocore.planning.finish import Finish, finish
from gyrocore.planning.head import HeadBar, HeadHole, HeadRange, HoleRange, head_range
from gyrocore.planning.line_bar import BoreInLine, LineBar, LineBarLayout, LineBarRow, line_bar_layout
from gyrocore.planning.line_bar_moves import BearingMove, LineBarMoves, SweptHousing, TrueHousing, line_bar_moves
from gyrocore.planning.line_response import (
    BEARING_CLEAR_MM,
    LineResponse,
    LineResponseRow,
    line_response,
    one_more_bearing_mm,
)
from gyrocore.planning.noise import NamedTone, NamedTones, name_tones
from gyrocore.planning.overhang import BarData, BarSection, Overhang, OverhangLimit, overhang
from gyrocore.planning.packing import PackingPiece, PackingStack, StackedPiece, nearest_stacks, packing
from gyrocore.planning.pass_plan import Pass, PassPlan, PassRules, equal_passes, pass_plan
from gyrocore.planning.passes_left import Cutting, passes_left
from gyrocore.planning.pilot import Guidance, GuidedBore, Pilot, PilotGuide, PilotRow, pilot, pilot_guidance
from gyrocore.planning.pockets import Pocket, Pockets, speeds_in_pockets
from gyrocore.planning.power import Drive, PowerCheck, power_check
from gyrocore.planning.press_fit import Bush, Hub, PressFit, press_fit
from gyrocore.planning.reach import OPENING_SHARE, SPRING_SHARE, FirstCut, Reach, first_cut_depths, reach_needed
from gyrocore.planning.slide import SlideMove, slide_move
from gyrocore.planning.speed import INTERRUPTED_SHARE, Speed, eased_speed_m_min, spindle_speed, surface_speed_m_min
from gyrocore.planning.support_moves import Pivot, SupportMove, SupportMoves, SupportPoint, support_moves
from gyrocore.planning.tuned import TunedPoint, Tuning, tuning
from gyrocore.planning.two_sided import TwoSided, two_sided
from gyrocore.planning.way_home import Free, Narrow, WayHome, way_home
from gyrocore.truing.axis_line import AtZero, AxisAt, AxisLine, Plane, PlaneMove, axis_line
from gyrocore.truing.flats import FlatPair, FourJawFlats, PairMove, four_jaw_flats
from gyrocore.truing.four_places import FourPlaces, four_places
from gyrocore.truing.jaws import JawMove
from gyrocore.truing.rounds import (
    Closing,
    close_round,
    closing_allowance_mm,
    reading_after_move_mm,
)
from gyrocore.truing.smallest_swing import SmallestSwing, smallest_swing
from gyrocore.truing.spindle import SpindleCheck, SpindleReading, spindle_check
from gyrocore.truing.sweep import Harmonic, Sweep, sweep
from gyrocore.truing.taper import TaperCorrection, taper_correction
from gyrocore.truing.walls import AlongWall, TiltAlong, WallRow, WallRuns, WallSide, slope_at, wall_runs
from gyrocore.units import (
    Length,
    Needle,
    clean_text,
    feet_min,
    read_indicator,
    read_length,
    read_needle,
    read_surface_speed,
)
from gyrocore.wording import error_sentence, length_words, sentence

__all__ = [
    "BEARING_CLEAR_MM",
    "CALCULATIONS",
    "INTERRUPTED_SHARE",
    "LEAST_WALL_SHARE",
    "OPENING_SHARE",
    "OVERSIZE_STEP_IN_MM",
    "OVERSIZE_STEP_MM",
    "SPRING_SHARE",
    "STEEL",
    "Agreement",
    "AlongWall",
    "AngledFace",
    "AtMost",
    "AtZero",
    "AxisAt",
    "AxisLine",
    "Balance",
    "BarCandidate",
    "BarChoice",
    "BarData",
    "BarKind",
    "BarMaterial",
    "BarOut",
    "BarResponse",
    "BarSection",
    "BeamModel",
    "BearingMove",
    "BoreCentre",
    "BoreForm",
    "BoreInLine",
    "Bush",
    "BushOutside",
    "Caution",
    "CentreDistance",
    "CentresBar",
    "CentresLayout",
    "Closing",
    "CommonSize",
    "CoreError",
    "Counterweights",
    "Cut",
    "CutTime",
    "CutterAdvance",
    "Cutting",
    "CuttingForce",
    "Dial",
    "DialMove",
    "DiameterReading",
    "Drift",
    "Drive",
    "EdgeInCut",
    "ElasticPasses",
    "ExistingSize",
    "FaceTime",
    "Finish",
    "FirstCut",
    "Fit",
    "FlatPair",
    "Foretold",
    "Found",
    "FourJawFlats",
    "FourPlaces",
    "Free",
    "GaugeBounds",
    "GaugeData",
    "Guidance",
    "GuidedBore",
    "Habit",
    "HabitPrior",
    "Harmonic",
    "HeadBar",
    "HeadHole",
    "HeadRange",
    "Holding",
    "HoleRange",
    "Hub",
    "InvalidInput",
    "JawMove",
    "LearnedHabit",
    "Length",
    "Limits",
    "LineBar",
    "LineBarLayout",
    "LineBarMoves",
    "LineBarRow",
    "LineOfBores",
    "LineResponse",
    "LineResponseRow",
    "Mass",
    "MatchSet",
    "Material",
    "Measurement",
    "Method",
    "NamedTone",
    "NamedTones",
    "Narrow",
    "Needle",
    "NextCut",
    "NextSize",
    "Note",
    "OverBar",
    "Overhang",
    "OverhangLimit",
    "Oversize",
    "PackingPiece",
    "PackingStack",
    "PairMove",
    "Pass",
    "PassPlan",
    "PassRules",
    "Peak",
    "PieceSize",
    "Pilot",
    "PilotGuide",
    "PilotRow",
    "Pivot",
    "Plane",
    "PlaneMove",
    "Pocket",
    "Pockets",
    "PowerCheck",
    "PressFit",
    "RankedBar",
    "Reach",
    "Seen",
    "SeenCut",
    "Segment",
    "SetAndMeasured",
    "SizeRow",
    "SlideMove",
    "Slip",
    "SmallestSwing",
    "Speed",
    "SpeedPair",
    "SpindleCheck",
    "SpindleReading",
    "Stability",
    "StackedPiece",
    "Station",
    "StationForm",
    "Support",
    "SupportMove",
    "SupportMoves",
    "SupportPoint",
    "Sweep",
    "SweptHousing",
    "TaperCorrection",
    "ThermalSize",
    "TiltAlong",
    "ToOpen",
    "Tones",
    "Tool",
    "TrueHousing",
    "TunedPoint",
    "Tuning",
    "TwoSided",
    "Verdict",
    "WallRow",
    "WallRuns",
    "WallSide",
    "Warmth",
    "WayHome",
    "Weight",
    "WorkOnSaddle",
    "agreement",
    "angled_face",
    "axis_line",
    "balance",
    "bar_kind",
    "bar_kinds",
    "bar_mass_kg",
    "bar_out",
    "bar_response",
    "between_centres",
    "bore_form",
    "build_beam",
    "bush_outside",
    "cautions",
    "centre_distance",
    "choose_bar",
    "clean_text",
    "close_round",
    "closing_allowance_mm",
    "cooling_minutes",
    "counterweights",
    "cut_time",
    "cutter_advance",
    "cutting_force",
    "drift",
    "eased_speed_m_min",
    "elastic_passes",
    "equal_passes",
    "error_sentence",
    "face_time",
    "feet_min",
    "finish",
    "first_cut_depths",
    "fit",
    "fit_of",
    "fit_with_part",
    "foretold",
    "four_jaw_flats",
    "four_places",
    "gauge_bounds",
    "head_dial",
    "head_range",
    "held",
    "holdings",
    "holdings_for",
    "judge_at_most",
    "learned_habit",
    "length_words",
    "limits_to_suit",
    "line_bar_layout",
    "line_bar_moves",
    "line_of_bores",
    "line_response",
    "match_set",
    "material",
    "materials",
    "measurement",
    "method",
    "methods",
    "middle_stiffness_n_mm",
    "name_tones",
    "nearest_common",
    "nearest_stacks",
    "next_cut",
    "next_oversizes",
    "next_size",
    "note",
    "one_more_bearing_mm",
    "over_bar",
    "overhang",
    "packing",
    "pass_plan",
    "passes_left",
    "passes_until_round",
    "pilot",
    "pilot_guidance",
    "power_check",
    "press_fit",
    "radius_diameter_slip",
    "reach_needed",
    "read_indicator",
    "read_length",
    "read_limits",
    "read_needle",
    "read_surface_speed",
    "reading_after_move_mm",
    "require_wall",
    "response_at",
    "second_moment_mm4",
    "segments_out",
    "sentence",
    "size_slips",
    "slide_move",
    "slope_at",
    "smallest_swing",
    "spectrum",
    "speeds_in_pockets",
    "spindle_check",
    "spindle_speed",
    "stability",
    "support_moves",
    "surface_speed_m_min",
    "sweep",
    "taper_correction",
    "thermal_size",
    "tones",
    "tuning",
    "two_sided",
    "unit_slip",
    "verdict",
    "wall_runs",
    "way_home",
    "weighted_mm",
]

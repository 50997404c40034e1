"""The rules of the job: pure Python, no pages, no database.

Pages reach the core through `gyrometra.bridge`, which imports the names listed here and no deeper.
"""

from gyrocore.catalogue import (
    BarKind,
    Caution,
    Material,
    bar_kind,
    bar_kinds,
    cautions,
    material,
    materials,
)
from gyrocore.errors import CoreError, InvalidInput
from gyrocore.formulas.cutting_force import Cut, CuttingForce, cutting_force
from gyrocore.formulas.stability import EdgeInCut, Stability, stability
from gyrocore.judging.bore_form import BoreForm, DiameterReading, Station, StationForm, bore_form
from gyrocore.judging.measurement import GaugeData, Measurement, Warmth, measurement
from gyrocore.judging.slips import Slip, radius_diameter_slip, unit_slip
from gyrocore.judging.verdict import AtMost, Verdict, judge_at_most, verdict
from gyrocore.limits import Limits, read_limits
from gyrocore.notes import Note, note
from gyrocore.planning.bar_choice import BarCandidate, BarChoice, RankedBar, choose_bar
from gyrocore.planning.cutting_time import CutTime, cut_time
from gyrocore.planning.dial import Dial, DialMove, head_dial
from gyrocore.planning.finish import Finish, finish
from gyrocore.planning.overhang import BarData, BarSection, Overhang, OverhangLimit, overhang
from gyrocore.planning.pass_plan import Pass, PassPlan, PassRules, pass_plan
from gyrocore.planning.reach import SPRING_SHARE, FirstCut, Reach, first_cut_depths, reach_needed
from gyrocore.planning.speed import Speed, spindle_speed
from gyrocore.truing.flats import FlatPair, FourJawFlats, PairMove, four_jaw_flats
from gyrocore.truing.rounds import (
    Closing,
    close_round,
    closing_allowance_mm,
    reading_after_move_mm,
)
from gyrocore.truing.sweep import Harmonic, JawMove, Sweep, sweep
from gyrocore.units import Length, clean_text, read_indicator, read_length
from gyrocore.wording import error_sentence, length_words, sentence

__all__ = [
    "SPRING_SHARE", "AtMost", "BarCandidate", "BarChoice", "BarData", "BarKind", "BarSection",
    "BoreForm", "Caution", "Closing", "CoreError", "Cut", "CutTime", "CuttingForce", "Dial",
    "DialMove", "DiameterReading", "EdgeInCut", "Finish", "FirstCut", "FlatPair", "FourJawFlats",
    "GaugeData", "Harmonic", "InvalidInput", "JawMove", "Length", "Limits", "Material",
    "Measurement", "Note", "Overhang", "OverhangLimit", "PairMove", "Pass", "PassPlan",
    "PassRules", "RankedBar", "Reach", "Slip", "Speed", "Stability", "Station", "StationForm",
    "Sweep", "Verdict", "Warmth", "bar_kind", "bar_kinds", "bore_form", "cautions", "choose_bar",
    "clean_text", "close_round", "closing_allowance_mm", "cut_time", "cutting_force",
    "error_sentence", "finish", "first_cut_depths", "four_jaw_flats", "head_dial",
    "judge_at_most", "length_words", "material", "materials", "measurement", "note", "overhang",
    "pass_plan", "radius_diameter_slip", "reach_needed", "read_indicator", "read_length", "read_limits",
    "reading_after_move_mm", "sentence", "spindle_speed", "stability", "sweep", "unit_slip",
    "verdict",
]  # fmt: skip

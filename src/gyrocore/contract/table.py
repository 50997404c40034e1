"""The one table: name -> input, function, result. Inputs are made from the functions' own parameters."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from typing_extensions import TypedDict

from gyrocore.choices import DecimalMark, UnitName
from gyrocore.contract.derive import Derived
from gyrocore.errors import InvalidInput
from gyrocore.formulas.bar_out import BarOut, bar_out
from gyrocore.formulas.bar_response import BarResponse, bar_response
from gyrocore.formulas.cutting_force import Cut, CuttingForce, cutting_force
from gyrocore.formulas.heat import ThermalSize, thermal_size
from gyrocore.formulas.stability import EdgeInCut, Stability, require_edge, stability
from gyrocore.formulas.tones import Tones, tones
from gyrocore.judging.agreement import Agreement, agreement
from gyrocore.judging.bore_form import BoreForm, bore_form
from gyrocore.judging.centre_distance import CentreDistance, centre_distance
from gyrocore.judging.drift import Drift, drift
from gyrocore.judging.gauge_bounds import GaugeBounds, gauge_bounds
from gyrocore.judging.habit import LearnedHabit, learned_habit
from gyrocore.judging.line_of_bores import LineOfBores, line_of_bores
from gyrocore.judging.match_set import MatchSet, match_set
from gyrocore.judging.measurement import Measurement, measurement
from gyrocore.judging.next_cut import Habit, NextCut, SetAndMeasured, next_cut
from gyrocore.judging.next_size import NextSize, next_size
from gyrocore.judging.oversize import Oversize, next_oversizes
from gyrocore.judging.verdict import AtMost, Verdict, judge_at_most, verdict
from gyrocore.limits import Fit, Limits, fit, read_limits
from gyrocore.limits.bush import BushOutside, bush_outside
from gyrocore.notes import Note
from gyrocore.planning.balance import Balance, Counterweights, balance, counterweights
from gyrocore.planning.bar_choice import BarChoice, choose_bar
from gyrocore.planning.centres import CentresLayout, between_centres
from gyrocore.planning.cutter_setting import CutterAdvance, OverBar, cutter_advance, over_bar
from gyrocore.planning.cutting_time import CutTime, cut_time
from gyrocore.planning.dial import DialMove, head_dial
from gyrocore.planning.elastic import elastic_passes
from gyrocore.planning.faces import AngledFace, FaceTime, angled_face, face_time
from gyrocore.planning.finish import Finish, finish
from gyrocore.planning.head import HeadRange, head_range
from gyrocore.planning.line_bar import LineBarLayout, line_bar_layout
from gyrocore.planning.line_bar_moves import LineBarMoves, line_bar_moves
from gyrocore.planning.line_response import LineResponse, line_response
from gyrocore.planning.noise import NamedTones, name_tones
from gyrocore.planning.overhang import Overhang, overhang
from gyrocore.planning.packing import PackingStack, packing
from gyrocore.planning.pass_plan import PassPlan, pass_plan
from gyrocore.planning.passes_left import passes_left
from gyrocore.planning.pilot import Guidance, Pilot, pilot, pilot_guidance
from gyrocore.planning.pockets import Pockets, speeds_in_pockets
from gyrocore.planning.power import PowerCheck, power_check
from gyrocore.planning.press_fit import PressFit, press_fit
from gyrocore.planning.reach import FirstCut, Reach, first_cut_depths, reach_needed
from gyrocore.planning.slide import SlideMove, slide_move
from gyrocore.planning.speed import Speed, spindle_speed
from gyrocore.planning.support_moves import SupportMoves, support_moves
from gyrocore.planning.tuned import Tuning, tuning
from gyrocore.planning.two_sided import TwoSided, two_sided
from gyrocore.planning.way_home import WayHome, way_home
from gyrocore.truing.axis_line import AxisLine, axis_line
from gyrocore.truing.flats import FourJawFlats, four_jaw_flats
from gyrocore.truing.four_places import FourPlaces, four_places
from gyrocore.truing.smallest_swing import SmallestSwing, smallest_swing
from gyrocore.truing.spindle import SpindleCheck, spindle_check
from gyrocore.truing.sweep import Sweep, sweep
from gyrocore.truing.taper import TaperCorrection, taper_correction
from gyrocore.truing.walls import WallRuns, wall_runs
from gyrocore.units import Length, read_length


@dataclass(frozen=True, slots=True, kw_only=True)
class Calculation:
    """One entry: how its input is shaped, what works it out, what comes back."""

    summary: str
    #: A model made from the function, or a dataclass that is itself the function's parameter.
    input: type[Any]
    result: type[Any]
    run: Callable[[Any], Any]


#: `pass` is the contract's name for a column and a keyword of Python, so this row is a table of names.
ElasticRowOut = TypedDict("ElasticRowOut", {"pass": int, "left_on_diameter_mm": float, "runout_left_mm": float})


@dataclass(frozen=True, slots=True, kw_only=True)
class ElasticOut:
    """`elastic_passes` with the contract's own names."""

    ratio: float
    rows: tuple[ElasticRowOut, ...]
    notes: tuple[Note, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class OversizesOut:
    """`next_oversizes` as an object."""

    sizes: tuple[Oversize, ...]
    notes: tuple[Note, ...] = ()


# Functions whose parameters are not quite the contract's fields: the same with the contract's own.


def _length(*, text: str, unit: UnitName, decimal_mark: DecimalMark | None = None) -> Length:
    return read_length(text, unit, decimal_mark)


def _limits(*, spec: str, nominal_mm: float | None = None, decimal_mark: DecimalMark | None = None) -> Limits:
    return read_limits(spec, nominal_mm, decimal_mark)


def _force(*, cut: Cut) -> CuttingForce:
    return cutting_force(cut)


def _stability(
    *, stiffness_n_mm: float, damping_ratio: float, natural_frequency_hz: float, depth_mm: float, edge: EdgeInCut,
    speed_range_rpm: tuple[float, float] | None = None,
) -> Stability:  # fmt: skip
    require_edge(edge)
    return stability(
        stiffness_n_mm=stiffness_n_mm, damping_ratio=damping_ratio, natural_frequency_hz=natural_frequency_hz,
        depth_mm=depth_mm, edge=edge, speed_range_rpm=speed_range_rpm,
    )  # fmt: skip


def _next_cut(
    *, history: Sequence[SetAndMeasured], aim_mm: float, lower_mm: float, upper_mm: float, habit: Habit,
    dial_step_mm: float | None = None,
) -> NextCut:  # fmt: skip
    return next_cut(
        history=history, aim_mm=aim_mm, limits_mm=(lower_mm, upper_mm), habit=habit, dial_step_mm=dial_step_mm
    )  # fmt: skip


def _elastic(found: Any) -> ElasticOut:
    rows: tuple[ElasticRowOut, ...] = tuple(
        {"pass": r.number, "left_on_diameter_mm": r.left_on_diameter_mm, "runout_left_mm": r.runout_left_mm}
        for r in found.rows
    )
    return ElasticOut(ratio=found.ratio, rows=rows, notes=found.notes)


def _entry(
    summary: str, result: type[Any], function: Callable[..., Any], *spread: str, names: Mapping[str, str] | None = None,
    out: Callable[[Any], Any] | None = None,
) -> Calculation:  # fmt: skip
    """A function with its input made from it; `spread` and `names` as in `Derived`, `out` rewords its result."""
    made = Derived(function, spread, names)
    run: Callable[[Any], Any] = made.run if out is None else lambda model: out(made.run(model))
    return Calculation(summary=summary, input=made.input, result=result, run=run)


_TOOL = {"position_mm": "tool_position_mm", "mass_kg": "tool_mass_kg"}
_LINE_BAR = {"diameter_mm": "bar_diameter_mm", "length_mm": "bar_length_mm"}

CALCULATIONS: dict[str, Calculation] = {
    "length": _entry("Read a length as people write it.", Length, _length),
    "limits": _entry("Read limits: a class, plus/minus or from-to.", Limits, _limits),
    "fit": _entry("Clearance or interference of a hole and a shaft.", Fit, fit),
    "speed": _entry("Spindle speed, brought to one the machine has.", Speed, spindle_speed),
    "cut_time": _entry("Minutes under feed.", CutTime, cut_time),
    "finish": _entry("Roughness of a feed, or feed for a roughness.", Finish, finish),
    "cutting_force": _entry("Chip, forces, power and torque.", CuttingForce, _force, "cut"),
    "bar_response": _entry(
        "Give, sag and pitch of a bar on its supports.", BarResponse, bar_response, "material", "tool", names=_TOOL
    ),
    "stability": _entry("Depth at which chatter begins.", Stability, _stability, "edge"),
    "overhang": _entry("How far a bar may hang out: rule, bending, chatter.", Overhang, overhang, "data"),
    "choose_bar": _entry("Rank the crib's bars for a bore.", BarChoice, choose_bar),
    "line_bar_layout": _entry(
        "Spans and length of a bar in bearings.", LineBarLayout, line_bar_layout, "bar", names=_LINE_BAR
    ),
    "over_bar": _entry("Micrometer reading across bar and cutter.", OverBar, over_bar),
    "cutter_advance": _entry("Move of a bit along itself.", CutterAdvance, cutter_advance),
    "head_dial": _entry("Turns and divisions of a dial.", DialMove, head_dial, "dial"),
    "head_range": _entry("What a bar in a boring head reaches.", HeadRange, head_range, "bar"),
    "pass_plan": _entry("Share the stock among passes.", PassPlan, pass_plan, "rules"),
    "next_cut": _entry("Where to set the next cut, habit taken off.", NextCut, _next_cut, "habit"),
    "elastic_passes": _entry("What a springy bar leaves, pass by pass.", ElasticOut, elastic_passes, out=_elastic),
    "four_jaw_flats": _entry("Half the difference over opposite jaws.", FourJawFlats, four_jaw_flats),
    "sweep": _entry("Off centre and shape of a swept round surface.", Sweep, sweep),
    "axis_line": _entry("An axis through two planes or more, and what brings it true.", AxisLine, axis_line),
    "spindle_check": _entry("Offset, tilt and play of a spindle.", SpindleCheck, spindle_check),
    "wall_runs": _entry("Lean and taper from runs along the wall.", WallRuns, wall_runs),
    "taper_correction": _entry("Move that takes a taper out.", TaperCorrection, taper_correction),
    "measurement": _entry(
        "Value and uncertainty of repeats at one place.", Measurement, measurement, "gauge", "warmth"
    ),
    "verdict": _entry("In, under, over or too near to call.", Verdict, verdict),
    "bore_form": _entry("Taper, ovality and shape of a bore.", BoreForm, bore_form),
    "line_of_bores": _entry("How far bores lie off one line.", LineOfBores, line_of_bores),
    "thermal_size": _entry("Size of a warm or cold part.", ThermalSize, thermal_size),
    "support_moves": _entry("Lifts of its supports that level a face.", SupportMoves, support_moves),
    "packing": _entry("The stack of packing nearest to a height.", PackingStack, packing),
    "balance": _entry("Unbalance, counterweight and largest speed.", Balance, balance),
    "two_sided": _entry("How deep each side is bored.", TwoSided, two_sided),
    "pilot": _entry("Where a pilot bar can lie within its guides.", Pilot, pilot),
    "line_bar_moves": _entry("Moves of a line bar's bearings on to its housings.", LineBarMoves, line_bar_moves),
    "press_fit": _entry("What pressing a bush into its seat does.", PressFit, press_fit),
    "angled_face": _entry("Measures of a face at an angle.", AngledFace, angled_face),
    "face_time": _entry("Minutes that facing takes.", FaceTime, face_time),
    "agreement": _entry("Whether two ways of measuring one size agree.", Agreement, agreement),
    "gauge_bounds": _entry("Between what a size lies, by what goes and what was read.", GaugeBounds, gauge_bounds),
    "next_size": _entry("The smallest existing part that a bore can be bored for.", NextSize, next_size),
    "match_set": _entry("Whether pieces are alike, and what to open.", MatchSet, match_set),
    "drift": _entry("How a size runs from piece to piece.", Drift, drift),
    "tones": _entry("The strongest tones of a sound.", Tones, tones),
    "name_tones": _entry("What each tone is: the bar, the turns, or other.", NamedTones, name_tones),
    # beyond the contract: the product's own questions
    "four_places": _entry("The missing one of four readings, or whether they fit a circle.", FourPlaces, four_places),
    "smallest_swing": _entry("Where a coaxial indicator swings least along an axis.", SmallestSwing, smallest_swing),
    "counterweights": _entry("Weights at a plate's holes that counter an unbalance.", Counterweights, counterweights),
    "way_home": _entry("How far a bit runs free past the ends of its bore.", WayHome, way_home),
    "slide_move": _entry("Turns and divisions that move a slide.", SlideMove, slide_move),
    "centre_distance": _entry("Distance between two axes over walls or plugs.", CentreDistance, centre_distance),
    "bush_outside": _entry("Limits of a bush's outside from its seat and the fit.", BushOutside, bush_outside),
    "reach_needed": _entry("How far a bar must stand out to bore through.", Reach, reach_needed),
    "bar_out": _entry("A stepped bar standing out of its holder.", BarOut, bar_out, "material"),
    "tuning": _entry("Where the damper of a tuned bar must stand.", Tuning, tuning),
    "speeds_in_pockets": _entry("Speeds at which chatter begins deeper.", Pockets, speeds_in_pockets, "edge"),
    "power_check": _entry("Power and torque of a cut against the machine's.", PowerCheck, power_check),
    "first_cut_depths": _entry("Least and greatest depth of the first pass.", FirstCut, first_cut_depths),
    "passes_left": _entry("What is left to cut, shared anew.", PassPlan, passes_left),
    "line_response": _entry(
        "Sag and deflection of a bar in bearings at every bore.", LineResponse, line_response, "bar", names=_LINE_BAR
    ),
    "between_centres": _entry("Where the bit of a bar between centres stands.", CentresLayout, between_centres),
    "pilot_guidance": _entry("How far off a pilot bar may bore.", Guidance, pilot_guidance),
    "judge_at_most": _entry("A figure against a limit that it may not pass.", AtMost, judge_at_most),
    "learned_habit": _entry("What a bar's next cut comes out over its setting.", LearnedHabit, learned_habit, "prior"),
    "next_oversizes": _entry(
        "The next sizes to bore a spoilt bore to.", OversizesOut, next_oversizes, out=lambda f: OversizesOut(sizes=f)
    ),
}


def calculation(name: str, table: Mapping[str, Calculation] = CALCULATIONS) -> Calculation:
    """The entry of that name; an unknown one is bad input with the field ""."""
    try:
        return table[name]
    except KeyError:
        raise InvalidInput("", "unknown_name", given=name) from None

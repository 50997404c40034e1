"""The one table: name -> input, function, result."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from typing_extensions import TypedDict

from gyrocore.contract import inputs as i
from gyrocore.errors import InvalidInput
from gyrocore.formulas.bar_response import BarResponse, Tool, bar_response
from gyrocore.formulas.beam_model import BarMaterial, Segment, Support
from gyrocore.formulas.cutting_force import Cut, CuttingForce, cutting_force
from gyrocore.formulas.heat import ThermalSize, thermal_size
from gyrocore.formulas.stability import EdgeInCut, Stability, require_edge, stability
from gyrocore.judging.bore_form import BoreForm, DiameterReading, Station, bore_form
from gyrocore.judging.line_of_bores import BoreCentre, LineOfBores, line_of_bores
from gyrocore.judging.measurement import GaugeData, Measurement, Warmth, measurement
from gyrocore.judging.next_cut import Habit, NextCut, SetAndMeasured, next_cut
from gyrocore.judging.verdict import Verdict, verdict
from gyrocore.limits import Fit, Limits, fit, read_limits
from gyrocore.notes import Note
from gyrocore.planning.bar_choice import BarCandidate, BarChoice, choose_bar
from gyrocore.planning.cutter_setting import CutterAdvance, OverBar, cutter_advance, over_bar
from gyrocore.planning.cutting_time import CutTime, cut_time
from gyrocore.planning.dial import Dial, DialMove, head_dial
from gyrocore.planning.elastic import elastic_passes
from gyrocore.planning.finish import Finish, finish
from gyrocore.planning.head import HeadBar, HeadHole, HeadRange, head_range
from gyrocore.planning.line_bar import BoreInLine, LineBar, LineBarLayout, line_bar_layout
from gyrocore.planning.overhang import BarData, BarSection, Overhang, overhang
from gyrocore.planning.pass_plan import PassPlan, PassRules, pass_plan
from gyrocore.planning.speed import Speed, spindle_speed
from gyrocore.truing.flats import FlatPair, FourJawFlats, four_jaw_flats
from gyrocore.truing.sweep import Sweep, sweep
from gyrocore.truing.taper import TaperCorrection, taper_correction
from gyrocore.units import Length, read_length


@dataclass(frozen=True, slots=True, kw_only=True)
class Calculation:
    """One entry: how its input is shaped, what works it out, what comes back."""

    summary: str
    #: A model of `inputs`, or a dataclass that is itself the function's parameter.
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


def _pick(model: i.Input, *names: str) -> dict[str, Any]:
    return {name: getattr(model, name) for name in names}


_EDGE = (
    "kc_mpa", "entering_angle_deg", "nose_radius_mm", "feed_mm_rev", "thrust_ratio",
    "mode_coupling",
)  # fmt: skip


def _limits(m: i.LimitsInput) -> Limits:
    return read_limits(m.spec, m.nominal_mm, m.decimal_mark)


def _length(m: i.LengthInput) -> Length:
    return read_length(m.text, m.unit, m.decimal_mark)


def _force(m: i.CutInput) -> CuttingForce:
    return cutting_force(Cut(**m.model_dump()))


def _stability(m: i.StabilityInput) -> Stability:
    edge = EdgeInCut(**_pick(m, *_EDGE))
    require_edge(edge)
    speeds = None if m.speed_range_rpm is None else (m.speed_range_rpm[0], m.speed_range_rpm[1])
    held = _pick(m, "stiffness_n_mm", "damping_ratio", "natural_frequency_hz", "depth_mm")
    return stability(**held, edge=edge, speed_range_rpm=speeds)


def _bar_response(m: i.BarResponseInput) -> BarResponse:
    return bar_response(
        segments=[Segment(**s.model_dump()) for s in m.segments],
        material=BarMaterial(**_pick(m, "youngs_modulus_gpa", "density_kg_m3")),
        supports=[Support(**s.model_dump()) for s in m.supports],
        tool=Tool(position_mm=m.tool_position_mm, mass_kg=m.tool_mass_kg),
    )


def _overhang(m: i.OverhangInput) -> Overhang:
    data = _pick(m, "rule_ratio", "damping_ratio", "youngs_modulus_gpa", "bearing_spacing_mm")
    return overhang(
        bar=BarSection(**m.bar.model_dump()),
        cut=Cut(**m.cut.model_dump()),
        budget_mm=m.budget_mm,
        needed_mm=m.needed_mm,
        data=BarData(**data),
    )


def _choose_bar(m: i.ChooseBarInput) -> BarChoice:
    rest = _pick(m, "needed_reach_mm", "bore_mm", "chip_clearance_mm", "holder_shanks_mm")
    return choose_bar(candidates=[BarCandidate(**c.model_dump()) for c in m.candidates], **rest)


def _line_bar(m: i.LineBarInput) -> LineBarLayout:
    bar = LineBar(
        diameter_mm=m.bar_diameter_mm, length_mm=m.bar_length_mm, **_pick(m, "rule_ratio", "feed")
    )  # fmt: skip
    bores = [BoreInLine(**b.model_dump()) for b in m.bores]
    return line_bar_layout(bar=bar, bores=bores, bearings_mm=m.bearings_mm)


def _head_range(m: i.HeadRangeInput) -> HeadRange:
    return head_range(
        bar=HeadBar(**_pick(m, "shank_diameter_mm", "tip_projection_mm", "tail_mm")),
        offsets_mm=[HeadHole(**h.model_dump()) for h in m.offsets_mm],
        **_pick(m, "slide_travel_mm", "clearance_mm"),
    )


def _next_cut(m: i.NextCutInput) -> NextCut:
    return next_cut(
        history=[SetAndMeasured(**cut.model_dump()) for cut in m.history],
        limits_mm=(m.lower_mm, m.upper_mm),
        habit=Habit(**_pick(m, "prior_bias_mm", "prior_sd_mm", "reading_sd_mm")),
        **_pick(m, "aim_mm", "dial_step_mm"),
    )


def _elastic(m: i.ElasticPassesInput) -> ElasticOut:
    found = elastic_passes(**m.model_dump())
    rows: tuple[ElasticRowOut, ...] = tuple(
        {"pass": r.number, "left_on_diameter_mm": r.left_on_diameter_mm, "runout_left_mm": r.runout_left_mm}
        for r in found.rows
    )
    return ElasticOut(ratio=found.ratio, rows=rows, notes=found.notes)


def _head_dial(m: i.HeadDialInput) -> DialMove:
    return head_dial(
        **_pick(m, "measured_diameter_mm", "target_diameter_mm", "at_division"),
        dial=Dial(**_pick(m, "division_mm", "divisions_per_turn", "reads")),
    )


def _pass_plan(m: i.PassPlanInput) -> PassPlan:
    values = m.model_dump()
    start, aim = values.pop("start_diameter_mm"), values.pop("aim_diameter_mm")
    return pass_plan(start_diameter_mm=start, aim_diameter_mm=aim, rules=PassRules(**values))


def _flats(m: i.FourJawFlatsInput) -> FourJawFlats:
    pairs = [FlatPair(jaws=(p.jaws[0], p.jaws[1]), readings_mm=(p.readings_mm[0], p.readings_mm[1])) for p in m.pairs]
    return four_jaw_flats(pairs=pairs, acceptance_mm=m.acceptance_mm, surface=m.surface)


def _measurement(m: i.MeasurementInput) -> Measurement:
    gauge = _pick(m, "resolution_mm", "error_limit_mm", "correction_mm", "single_sd_mm")
    warmth = _pick(
        m, "part_temp_c", "instrument_temp_c", "temp_u_c", "part_expansion_um_m_k",
        "instrument_expansion_um_m_k",
    )  # fmt: skip
    return measurement(
        readings_mm=m.readings_mm,
        gauge=GaugeData(**gauge),
        warmth=Warmth(**warmth),
        tolerance_mm=m.tolerance_mm,
    )


def _bore_form(m: i.BoreFormInput) -> BoreForm:
    stations = [
        Station(z_mm=s.z_mm, diameters=tuple(DiameterReading(**d.model_dump()) for d in s.diameters))
        for s in m.stations
    ]
    return bore_form(stations=stations, **_pick(m, "lower_mm", "upper_mm", "significance_mm"))


def _line_of_bores(m: i.LineOfBoresInput) -> LineOfBores:
    datum = None if m.datum is None else (m.datum[0], m.datum[1])
    return line_of_bores(bores=[BoreCentre(**b.model_dump()) for b in m.bores], datum=datum)


def _entry(summary: str, input: type[i.Input], result: type[Any], run: Any) -> Calculation:
    return Calculation(summary=summary, input=input, result=result, run=run)


def _plain(function: Callable[..., Any]) -> Callable[[i.Input], Any]:
    """For a function whose parameters are the input's fields as they stand."""
    return lambda model: function(**model.model_dump())


CALCULATIONS: dict[str, Calculation] = {
    "length": _entry("Read a length as people write it.", i.LengthInput, Length, _length),
    "limits": _entry("Read limits: a class, plus/minus or from-to.", i.LimitsInput, Limits, _limits),
    "fit": _entry("Clearance or interference of a hole and a shaft.", i.FitInput, Fit, _plain(fit)),
    "speed": _entry("Spindle speed, brought to one the machine has.", i.SpeedInput, Speed, _plain(spindle_speed)),
    "cut_time": _entry("Minutes under feed.", i.CutTimeInput, CutTime, _plain(cut_time)),
    "finish": _entry("Roughness of a feed, or feed for a roughness.", i.FinishInput, Finish, _plain(finish)),
    "cutting_force": _entry("Chip, forces, power and torque.", i.CutInput, CuttingForce, _force),
    "bar_response": _entry(
        "Give, sag and pitch of a bar on its supports.", i.BarResponseInput, BarResponse, _bar_response
    ),
    "stability": _entry("Depth at which chatter begins.", i.StabilityInput, Stability, _stability),
    "overhang": _entry("How far a bar may hang out: rule, bending, chatter.", i.OverhangInput, Overhang, _overhang),
    "choose_bar": _entry("Rank the crib's bars for a bore.", i.ChooseBarInput, BarChoice, _choose_bar),
    "line_bar_layout": _entry("Spans and length of a bar in bearings.", i.LineBarInput, LineBarLayout, _line_bar),
    "over_bar": _entry("Micrometer reading across bar and cutter.", i.OverBarInput, OverBar, _plain(over_bar)),
    "cutter_advance": _entry(
        "Move of a bit along itself.", i.CutterAdvanceInput, CutterAdvance, _plain(cutter_advance)
    ),
    "head_dial": _entry("Turns and divisions of a dial.", i.HeadDialInput, DialMove, _head_dial),
    "head_range": _entry("What a bar in a boring head reaches.", i.HeadRangeInput, HeadRange, _head_range),
    "pass_plan": _entry("Share the stock among passes.", i.PassPlanInput, PassPlan, _pass_plan),
    "next_cut": _entry("Where to set the next cut, habit taken off.", i.NextCutInput, NextCut, _next_cut),
    "elastic_passes": _entry("What a springy bar leaves, pass by pass.", i.ElasticPassesInput, ElasticOut, _elastic),
    "four_jaw_flats": _entry("Half the difference over opposite jaws.", i.FourJawFlatsInput, FourJawFlats, _flats),
    "sweep": _entry("Off centre and shape of a swept round surface.", i.SweepInput, Sweep, _plain(sweep)),
    "taper_correction": _entry("Move that takes a taper out.", i.TaperInput, TaperCorrection, _plain(taper_correction)),
    "measurement": _entry(
        "Value and uncertainty of repeats at one place.", i.MeasurementInput, Measurement, _measurement
    ),
    "verdict": _entry("In, under, over or too near to call.", i.VerdictInput, Verdict, _plain(verdict)),
    "bore_form": _entry("Taper, ovality and shape of a bore.", i.BoreFormInput, BoreForm, _bore_form),
    "line_of_bores": _entry("How far bores lie off one line.", i.LineOfBoresInput, LineOfBores, _line_of_bores),
    "thermal_size": _entry("Size of a warm or cold part.", i.ThermalSizeInput, ThermalSize, _plain(thermal_size)),
}


def calculation(name: str, table: Mapping[str, Calculation] = CALCULATIONS) -> Calculation:
    """The entry of that name; an unknown one is bad input with the field ""."""
    try:
        return table[name]
    except KeyError:
        raise InvalidInput("", "unknown_name", given=name) from None

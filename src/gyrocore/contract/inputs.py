"""The JSON inputs of the calculations: names, types and defaults, nothing else.

Bounds are the core functions' own; here only the shape is checked (types, unknown fields).
Field names are public interface: kept, added to, never changed in meaning.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field

Text = Annotated[str, Field(max_length=500)]
BarKindName = Literal["steel", "heavy-metal", "carbide", "damped-steel", "damped-carbide", "line-bar"]
Surface = Literal["outside", "inside"]
Jaw = str | int


def _whole(value: Any) -> Any:
    """JSON knows one kind of number: 2.0 is a whole number."""
    return int(value) if isinstance(value, float) and value.is_integer() else value


Count = Annotated[int, BeforeValidator(_whole)]


class Input(BaseModel):
    """Strict: no unknown fields, no conversions, finite numbers."""

    model_config = ConfigDict(extra="forbid", strict=True, allow_inf_nan=False)


class LengthInput(Input):
    text: Text
    unit: Literal["mm", "in"]
    decimal_mark: Literal[",", "."] | None = None


class LimitsInput(Input):
    spec: Text
    nominal_mm: float | None = None
    decimal_mark: Literal[",", "."] | None = None


class FitInput(Input):
    hole: Text
    shaft: Text
    decimal_mark: Literal[",", "."] | None = None


class SpeedInput(Input):
    diameter_mm: float
    surface_speed_m_min: float
    spindle_speeds_rpm: list[float] | None = None
    max_rpm: float | None = None
    over_percent: float = 0


class CutTimeInput(Input):
    length_mm: float
    feed_mm_rev: float
    rpm: float
    approach_mm: float = 0
    overrun_mm: float = 0
    passes: Count = 1


class FinishInput(Input):
    nose_radius_mm: float
    feed_mm_rev: float | None = None
    ra_um: float | None = None


class CutInput(Input):
    kc11_mpa: float
    mc: float
    depth_mm: float
    feed_mm_rev: float
    entering_angle_deg: float = 90
    nose_radius_mm: float = 0.4
    thrust_ratio: float = 0.5
    surface_speed_m_min: float | None = None
    diameter_mm: float | None = None


class StabilityInput(Input):
    stiffness_n_mm: float
    damping_ratio: float
    natural_frequency_hz: float
    kc_mpa: float
    depth_mm: float
    entering_angle_deg: float = 90
    nose_radius_mm: float = 0.4
    feed_mm_rev: float | None = None
    thrust_ratio: float = 0.5
    mode_coupling: float = 0.1
    speed_range_rpm: Annotated[list[float], Field(min_length=2, max_length=2)] | None = None


class BarInput(Input):
    kind: BarKindName
    diameter_mm: float
    inner_diameter_mm: float = 0


class SegmentInput(Input):
    length_mm: float
    diameter_mm: float
    inner_diameter_mm: float = 0


class SupportInput(Input):
    position_mm: float
    kind: Literal["clamped", "bearing"]
    rotational_stiffness_nm_rad: float | None = None
    stiffness_n_mm: float | None = None


class BarResponseInput(Input):
    segments: list[SegmentInput]
    youngs_modulus_gpa: float = 205
    density_kg_m3: float = 7850
    supports: list[SupportInput]
    tool_position_mm: float
    tool_mass_kg: float = 0


class OverhangInput(Input):
    bar: BarInput
    cut: CutInput
    budget_mm: float
    needed_mm: float | None = None
    rule_ratio: float | None = None
    damping_ratio: float | None = None
    youngs_modulus_gpa: float | None = None
    bearing_spacing_mm: float | None = None


class CandidateInput(Input):
    name: Text
    kind: BarKindName
    diameter_mm: float
    inner_diameter_mm: float = 0
    shank_mm: float
    reach_mm: float
    min_bore_mm: float
    fixed_reach: bool = False


class ChooseBarInput(Input):
    candidates: list[CandidateInput]
    needed_reach_mm: float
    bore_mm: float
    chip_clearance_mm: float
    holder_shanks_mm: list[float] | None = None


class LineBoreInput(Input):
    name: Text
    start_mm: float
    end_mm: float


class LineBarInput(Input):
    bar_diameter_mm: float
    bores: list[LineBoreInput]
    bearings_mm: list[float]
    rule_ratio: float = 7
    bar_length_mm: float | None = None
    feed: Literal["bar", "head"] = "bar"


class OverBarInput(Input):
    bar_diameter_mm: float
    cutting_diameter_mm: float | None = None
    reading_mm: float | None = None


class CutterAdvanceInput(Input):
    measured_diameter_mm: float
    target_diameter_mm: float
    bit_tilt_deg: float = 0


class HeadDialInput(Input):
    measured_diameter_mm: float
    target_diameter_mm: float
    division_mm: float
    reads: Literal["radius", "diameter"] = "radius"
    divisions_per_turn: float
    at_division: float = 0


class HoleInput(Input):
    hole: str | int
    offset_mm: float


class HeadRangeInput(Input):
    shank_diameter_mm: float
    tip_projection_mm: float
    offsets_mm: list[HoleInput]
    slide_travel_mm: float
    clearance_mm: float = 0.5
    tail_mm: float = 0


class PassPlanInput(Input):
    start_diameter_mm: float
    aim_diameter_mm: float
    rough_depth_mm: float
    finish_depth_mm: float
    finish_passes: Count = 2
    min_depth_mm: float = 0.05
    hone_allowance_mm: float = 0
    spring_passes: Count = 0
    test_leave_mm: float | None = None


class SetAndMeasuredInput(Input):
    set_diameter_mm: float
    measured_diameter_mm: float


class NextCutInput(Input):
    history: list[SetAndMeasuredInput]
    aim_mm: float
    lower_mm: float
    upper_mm: float
    prior_bias_mm: float = 0
    prior_sd_mm: float = 0.02
    reading_sd_mm: float = 0.005
    dial_step_mm: float | None = None


class ElasticPassesInput(Input):
    bar_stiffness_n_mm: float
    cutting_stiffness_n_mm: float
    depth_mm: float
    runout_mm: float = 0
    passes: Count = 3


class FlatPairInput(Input):
    jaws: Annotated[list[Jaw], Field(min_length=2, max_length=2)]
    readings_mm: Annotated[list[float], Field(min_length=2, max_length=2)]


class FourJawFlatsInput(Input):
    pairs: list[FlatPairInput]
    acceptance_mm: float
    surface: Surface = "outside"


class SweepInput(Input):
    angles_deg: list[float]
    readings_mm: list[float]
    surface: Surface
    jaws_deg: dict[str, float] | None = None
    orders: Count = 3
    acceptance_mm: float | None = None
    diameter_mm: float | None = None


class TaperInput(Input):
    taper_mm: float
    on: Literal["diameter", "radius"] = "diameter"
    over_mm: float
    lever_mm: float


class MeasurementInput(Input):
    readings_mm: list[float]
    resolution_mm: float
    error_limit_mm: float = 0
    correction_mm: float = 0
    single_sd_mm: float | None = None
    part_temp_c: float = 20
    instrument_temp_c: float = 20
    temp_u_c: float = 0
    part_expansion_um_m_k: float = 11.5
    instrument_expansion_um_m_k: float = 11.5
    tolerance_mm: float | None = None


class VerdictInput(Input):
    value_mm: float
    expanded_mm: float = 0
    lower_mm: float
    upper_mm: float
    rule: Literal["guarded", "simple"] = "guarded"
    guard_factor: float = 1
    aim_mm: float | None = None


class DiameterInput(Input):
    angle_deg: float
    diameter_mm: float


class StationInput(Input):
    z_mm: float
    diameters: list[DiameterInput]


class BoreFormInput(Input):
    stations: list[StationInput]
    lower_mm: float | None = None
    upper_mm: float | None = None
    significance_mm: float = 0.005


class BoreCentreInput(Input):
    name: Text
    z_mm: float
    x_mm: float
    y_mm: float


class LineOfBoresInput(Input):
    bores: list[BoreCentreInput]
    datum: Annotated[list[Text], Field(min_length=2, max_length=2)] | None = None


class ThermalSizeInput(Input):
    diameter_mm: float
    expansion_um_m_k: float
    at_c: float

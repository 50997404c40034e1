"""Every figure that cannot be is refused at its own field, in a sentence that says what was given."""

import json
import string
from typing import Any

import pytest

from gyrocore import (
    Note,
    bar_kind,
    bar_kinds,
    cautions,
    error_sentence,
    length_words,
    material,
    materials,
    method,
    methods,
    note,
    sentence,
)
from gyrocore.contract import run_text
from gyrocore.errors import InvalidInput
from gyrocore.wording import field_words
from gyrocore.wording.sentences import ERRORS, NOTES
from tests.core.test_contract import GOOD

#: Fields that must be over 0, by calculation.
POSITIVE = {
    "limits": ["nominal_mm"],
    "speed": ["diameter_mm", "surface_speed_m_min", "max_rpm"],
    "cut_time": ["length_mm", "feed_mm_rev", "rpm"],
    "finish": ["nose_radius_mm", "ra_um"],
    "cutting_force": ["kc11_mpa", "depth_mm", "feed_mm_rev", "surface_speed_m_min", "diameter_mm"],
    "stability": ["stiffness_n_mm", "natural_frequency_hz", "kc_mpa", "depth_mm", "feed_mm_rev"],
    "overhang": ["budget_mm", "needed_mm", "rule_ratio", "youngs_modulus_gpa"],
    "choose_bar": ["needed_reach_mm", "bore_mm"],
    "head_dial": ["measured_diameter_mm", "target_diameter_mm", "division_mm", "divisions_per_turn"],
    "pass_plan": ["start_diameter_mm", "aim_diameter_mm", "rough_depth_mm", "finish_depth_mm", "min_depth_mm"],
    "four_jaw_flats": ["acceptance_mm"],
    "sweep": ["acceptance_mm", "diameter_mm"],
    "measurement": ["tolerance_mm"],
    "bore_form": ["lower_mm", "upper_mm"],
    "bar_response": ["youngs_modulus_gpa", "density_kg_m3"],
    "line_bar_layout": ["bar_diameter_mm", "rule_ratio", "bar_length_mm"],
    "over_bar": ["bar_diameter_mm", "cutting_diameter_mm"],
    "cutter_advance": ["measured_diameter_mm", "target_diameter_mm"],
    "head_range": ["shank_diameter_mm", "tip_projection_mm"],
    "next_cut": ["aim_mm", "lower_mm", "upper_mm", "prior_sd_mm", "reading_sd_mm", "dial_step_mm"],
    "elastic_passes": ["bar_stiffness_n_mm", "cutting_stiffness_n_mm", "depth_mm"],
    "taper_correction": ["over_mm"],
    "thermal_size": ["diameter_mm"],
}
#: Fields that may be 0 but not under it.
NOT_NEGATIVE = {
    "speed": ["over_percent"],
    "cut_time": ["approach_mm", "overrun_mm"],
    "cutting_force": ["mc", "nose_radius_mm", "thrust_ratio"],
    "stability": ["nose_radius_mm", "thrust_ratio", "mode_coupling"],
    "choose_bar": ["chip_clearance_mm"],
    "pass_plan": ["hone_allowance_mm"],
    "measurement": ["resolution_mm", "error_limit_mm", "single_sd_mm", "temp_u_c", "part_expansion_um_m_k"],
    "verdict": ["expanded_mm"],
    "bore_form": ["significance_mm"],
    "bar_response": ["tool_mass_kg"],
    "head_range": ["slide_travel_mm", "clearance_mm", "tail_mm"],
    "elastic_passes": ["runout_mm"],
    "thermal_size": ["expansion_um_m_k"],
}


def cases(table: dict[str, list[str]]) -> list[tuple[str, str]]:
    return [(name, field) for name, fields in table.items() for field in fields]


def refused(name: str, field: str, value: Any) -> dict[str, str]:
    answer, is_result = run_text(name, json.dumps({**GOOD[name], field: value}))
    assert not is_result, answer
    found: dict[str, str] = answer["error"]
    return found


@pytest.mark.parametrize(("name", "field"), cases(POSITIVE))
def test_must_be_over_zero(name: str, field: str) -> None:
    for value in (0, -1.5):
        error = refused(name, field, value)
        assert error["field"] == field
        assert "over 0" in error["message"]
        assert str(value) in error["message"]


@pytest.mark.parametrize(("name", "field"), cases(NOT_NEGATIVE))
def test_must_not_be_negative(name: str, field: str) -> None:
    error = refused(name, field, -0.5)
    assert (error["field"], "0 or more" in error["message"]) == (field, True)


@pytest.mark.parametrize(
    ("name", "field", "value"),
    [
        ("stability", "damping_ratio", 1),
        ("stability", "damping_ratio", 0),
        ("stability", "entering_angle_deg", 180),
        ("cutting_force", "entering_angle_deg", 0),
        ("cutting_force", "mc", 1),
        ("overhang", "damping_ratio", 1.2),
        ("verdict", "guard_factor", 1.1),
        ("verdict", "upper_mm", 71),
        ("head_dial", "at_division", 100),
        ("cut_time", "passes", 0),
        ("cut_time", "passes", 1.5),
        ("pass_plan", "spring_passes", -1),
        ("sweep", "orders", 0),
        ("sweep", "surface", "top"),
        ("speed", "spindle_speeds_rpm", []),
        ("length", "unit", "furlong"),
    ],
)
def test_other_bounds(name: str, field: str, value: Any) -> None:
    assert refused(name, field, value)["field"] == field


@pytest.mark.parametrize(
    ("name", "path", "change"),
    [
        ("speed", "spindle_speeds_rpm.1", {"spindle_speeds_rpm": [100, -1]}),
        ("choose_bar", "candidates.0.reach_mm",
         {"candidates": [{**GOOD["choose_bar"]["candidates"][0], "reach_mm": 0}]}),
        ("choose_bar", "holder_shanks_mm.0", {"holder_shanks_mm": [0]}),
        ("bore_form", "stations.0.diameters.0.diameter_mm",
         {"stations": [{"z_mm": 1, "diameters": [{"angle_deg": 0, "diameter_mm": 0}]}]}),
        ("bore_form", "stations.0.diameters", {"stations": [{"z_mm": 1, "diameters": []}]}),
        ("overhang", "bar.inner_diameter_mm", {"bar": {"kind": "steel", "diameter_mm": 40, "inner_diameter_mm": 40}}),
        ("overhang", "bar.kind", {"bar": {"kind": "wood", "diameter_mm": 40}}),
        ("sweep", "jaws_deg", {"jaws_deg": {"1": 0, "2": 90, "3": 180}}),
        ("sweep", "jaws_deg", {"jaws_deg": {"1": 0, "2": 0.1, "3": 180, "4": 180.1}}),
        ("limits", "nominal_mm", {"spec": "H7", "nominal_mm": 501}),
    ],
)  # fmt: skip
def test_paths_lead_to_the_place(name: str, path: str, change: dict[str, Any]) -> None:
    answer, is_result = run_text(name, json.dumps({**GOOD[name], **change}))
    assert not is_result
    assert answer["error"]["field"] == path


def test_whole_numbers_may_be_written_with_a_point() -> None:
    answer, is_result = run_text("cut_time", json.dumps({**GOOD["cut_time"], "passes": 2.0}))
    assert is_result
    assert answer["minutes"] == pytest.approx(2 * answer["minutes_per_pass"])


def test_a_field_given_twice_is_refused() -> None:
    answer, is_result = run_text("verdict", '{"value_mm": 1, "value_mm": 2, "lower_mm": 0, "upper_mm": 3}')
    assert not is_result
    assert answer["error"]["field"] == "value_mm"


def test_sentences_are_worded_in_the_readers_unit() -> None:
    remark = note("chatter_in_hand", limit_mm=2.54)
    assert sentence(remark) == "Chatter begins at 2.54 mm deep."
    assert sentence(remark, "in") == "Chatter begins at 0.1 in deep."
    error = InvalidInput("overrun_mm", "overrun_past_room", given=25.4, allowed=12.7)
    assert "1 in past the far end" in error_sentence(error, "in")
    assert "25.4 mm past the far end" in error_sentence(error)
    assert error_sentence(InvalidInput("bar.overhang_mm", "not_positive", given=-1.0), what="Reach").startswith("Reach")


def test_words_of_lengths_and_fields() -> None:
    assert length_words(15.875) == "15.875"
    assert length_words(15.875, "in") == "0.625"
    assert length_words(-0.0000001) == "0"
    assert length_words(72, digits=2) == "72.00"
    assert field_words("segments.0.inner_diameter_mm") == "inner diameter"


@pytest.mark.parametrize("code", sorted(NOTES))
def test_every_note_can_be_worded(code: str) -> None:
    names = {name for _, name, _, _ in string.Formatter().parse(NOTES[code]) if name}
    text = sentence(Note(code, tuple((name, 1.0) for name in names)))
    assert text.endswith((".", ":")) or text[-1].isalnum()
    assert "{" not in text


@pytest.mark.parametrize("code", sorted(ERRORS))
def test_every_refusal_can_be_worded(code: str) -> None:
    names = {name for _, name, _, _ in string.Formatter().parse(ERRORS[code]) if name} - {"given", "allowed", "What"}
    text = error_sentence(InvalidInput("depth_mm", code, given=1.0, allowed=2.0, **dict.fromkeys(names, 3.0)))
    assert "{" not in text
    assert text[0] == text[0].upper()


def test_catalogue_entries_are_whole_and_say_their_source() -> None:
    assert set(bar_kinds()) == {"steel", "heavy-metal", "carbide", "damped-steel", "damped-carbide", "line-bar"}
    assert (bar_kind("steel").rule_ratio, bar_kind("damped-carbide").youngs_modulus_gpa) == (4, 600)
    assert len({m.hatch for m in materials().values()}) == 5
    for entry in [*materials().values(), *bar_kinds().values()]:
        assert entry.source
    for found in materials().values():
        assert set(found.speed_m_min) == {"carbide", "hss"}
        assert all(pair.rough < pair.finish for pair in found.speed_m_min.values())
    with pytest.raises(InvalidInput):
        material("cheese")


def test_cautions_appear_where_they_bite() -> None:
    def codes(step: str, key: str) -> list[str]:
        return [c.code for c in cautions(method="lathe-bar", step=step, material_key=key)]

    assert codes("true", "steel") == ["chuck_key", "indicator_out"]
    assert "dust" in codes("bore", "grey-iron")
    assert "dust" not in codes("bore", "steel")
    assert codes("cuts", "steel") == ["unbalanced"]


def test_each_way_of_boring_says_who_turns_and_names_its_places() -> None:
    turning = {key: way.turns for key, way in methods().items()}
    assert turning == {
        "lathe-bar": "work", "head": "bar", "line": "bar", "stand": "bar", "centres": "bar", "pilot": "bar",
    }  # fmt: skip
    lathe, head = method("lathe-bar"), method("head")
    assert [lathe.place_name(angle) for angle in (0, 45, 90, 315, 360, 30)] == [
        "jaw 1",
        "1-2",
        "jaw 2",
        "4-1",
        "jaw 1",
        "30°",
    ]
    assert head.places_deg == {"back": 0, "right": 90, "front": 180, "left": 270}
    for way in methods().values():
        assert way.machines
        assert method(way.bars).bars == way.bars, "the bars of the crib are made for a way of their own"
        assert cautions(method=way.key, step="true", material_key="steel")
    with pytest.raises(InvalidInput):
        method("by hand")

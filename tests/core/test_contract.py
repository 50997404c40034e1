"""The command of the core contract, as a script would use it."""

import json
import re
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import gyrocore
from gyrocore.contract import CALCULATIONS, run_text, schema
from gyrocore.wording.sentences import ERRORS, NOTES

NAMES = [
    "length", "limits", "fit", "speed", "cut_time", "finish", "cutting_force", "bar_response", "stability",
    "overhang", "choose_bar", "line_bar_layout", "over_bar", "cutter_advance", "head_dial", "head_range",
    "pass_plan", "next_cut", "elastic_passes", "four_jaw_flats", "sweep", "axis_line", "spindle_check", "wall_runs",
    "taper_correction", "measurement",
    "verdict", "bore_form", "line_of_bores", "thermal_size", "support_moves", "packing", "balance", "two_sided",
    "pilot", "line_bar_moves", "press_fit", "angled_face", "face_time",
    "agreement", "gauge_bounds", "next_size", "match_set", "drift", "tones", "name_tones",
]  # fmt: skip

GOOD: dict[str, dict[str, Any]] = {
    "length": {"text": "2 11/16 in", "unit": "mm"},
    "limits": {"spec": "72 H7"},
    "fit": {"hole": "72 H7", "shaft": "72 g6"},
    "bar_response": {"segments": [{"length_mm": 1000, "diameter_mm": 60}], "tool_position_mm": 500,
                     "tool_mass_kg": 0.2, "youngs_modulus_gpa": 205, "density_kg_m3": 7850,
                     "supports": [{"position_mm": 0, "kind": "bearing"}, {"position_mm": 1000, "kind": "bearing"}]},
    "line_bar_layout": {"bar_diameter_mm": 60, "bores": [{"name": "H1", "start_mm": 0, "end_mm": 80}],
                        "bearings_mm": [-80, 200], "rule_ratio": 7, "bar_length_mm": 500},
    "over_bar": {"bar_diameter_mm": 60, "cutting_diameter_mm": 88.2},
    "cutter_advance": {"measured_diameter_mm": 71.2, "target_diameter_mm": 71.6, "bit_tilt_deg": 30},
    "head_range": {"shank_diameter_mm": 16, "tip_projection_mm": 11, "slide_travel_mm": 20,
                   "offsets_mm": [{"hole": "1", "offset_mm": 0}, {"hole": 2, "offset_mm": 15}],
                   "clearance_mm": 0.5, "tail_mm": 0},
    "next_cut": {"history": [{"set_diameter_mm": 71.2, "measured_diameter_mm": 71.21}], "aim_mm": 72.015,
                 "lower_mm": 72, "upper_mm": 72.03, "prior_sd_mm": 0.02, "reading_sd_mm": 0.005,
                 "dial_step_mm": 0.01},
    "elastic_passes": {"bar_stiffness_n_mm": 9000, "cutting_stiffness_n_mm": 1000, "depth_mm": 0.2,
                       "runout_mm": 0.1, "passes": 3},
    "axis_line": {"planes": [{"z_mm": 0, "offset_x_mm": 0.02, "offset_y_mm": 0},
                             {"z_mm": 100, "offset_x_mm": 0.05, "offset_y_mm": 0.01}], "adjust_z_mm": [0, 200],
                  "report_z_mm": [50]},
    "spindle_check": {"near": {"distance_mm": 50, "total_reading_mm": 0.008, "high_angle_deg": 0},
                      "far": {"distance_mm": 250, "total_reading_mm": 0.024, "high_angle_deg": 30},
                      "tool_length_mm": 350, "push_mm": 0.004, "pull_mm": -0.006},
    "wall_runs": {"sides": [{"angle_deg": 0, "readings": [{"z_mm": 0, "reading_mm": 0},
                                                          {"z_mm": 100, "reading_mm": -0.03}]},
                            {"angle_deg": 180, "readings": [{"z_mm": 0, "reading_mm": 0},
                                                            {"z_mm": 100, "reading_mm": 0.01}]}]},
    "taper_correction": {"taper_mm": 0.2, "over_mm": 150, "lever_mm": 380},
    "line_of_bores": {"bores": [{"name": "H1", "z_mm": 0, "x_mm": 0, "y_mm": 0},
                                {"name": "H2", "z_mm": 300, "x_mm": 0.01, "y_mm": 0},
                                {"name": "H3", "z_mm": 600, "x_mm": 0, "y_mm": 0.01}], "datum": ["H1", "H3"]},
    "thermal_size": {"diameter_mm": 100, "expansion_um_m_k": 10.5, "at_c": 35},
    "speed": {"diameter_mm": 70, "surface_speed_m_min": 70, "spindle_speeds_rpm": [100, 300]},
    "cut_time": {"length_mm": 140, "feed_mm_rev": 0.2, "rpm": 280},
    "finish": {"nose_radius_mm": 0.4, "ra_um": 1.6},
    "cutting_force": {"kc11_mpa": 1100, "mc": 0.25, "depth_mm": 0.5, "feed_mm_rev": 0.2},
    "stability": {"stiffness_n_mm": 1e4, "damping_ratio": 0.02, "natural_frequency_hz": 150, "kc_mpa": 1500,
                  "depth_mm": 0.5},
    "overhang": {"bar": {"kind": "steel", "diameter_mm": 40}, "budget_mm": 0.0075,
                 "cut": {"kc11_mpa": 1100, "mc": 0.25, "depth_mm": 0.5, "feed_mm_rev": 0.2}},
    "choose_bar": {"candidates": [{"name": "7", "kind": "steel", "diameter_mm": 40, "shank_mm": 40,
                                   "reach_mm": 180, "min_bore_mm": 44}],
                   "needed_reach_mm": 165, "bore_mm": 68.4, "chip_clearance_mm": 5},
    "head_dial": {"measured_diameter_mm": 68.4, "target_diameter_mm": 69.4, "division_mm": 0.02,
                  "divisions_per_turn": 100},
    "pass_plan": {"start_diameter_mm": 68.4, "aim_diameter_mm": 72.015, "rough_depth_mm": 0.5,
                  "finish_depth_mm": 0.2},
    "four_jaw_flats": {"pairs": [{"jaws": ["1", "3"], "readings_mm": [0.1, 0.04]}], "acceptance_mm": 0.02},
    "sweep": {"angles_deg": [0, 90, 180, 270], "readings_mm": [0.03, 0, -0.03, 0], "surface": "outside"},
    "measurement": {"readings_mm": [72.01, 72.011], "resolution_mm": 0.001},
    "verdict": {"value_mm": 72.01, "lower_mm": 72, "upper_mm": 72.03},
    "bore_form": {"stations": [{"z_mm": 10, "diameters": [{"angle_deg": 0, "diameter_mm": 72.01}]}]},
    "support_moves": {"points": [{"name": "a", "x_mm": 0, "y_mm": 0}, {"name": "b", "x_mm": 200, "y_mm": 0},
                                 {"name": "c", "x_mm": 0, "y_mm": 300}], "tilt_x_mm_m": 0.5, "tilt_y_mm_m": 0.1,
                      "screw_pitch_mm": 1.5},
    "packing": {"pieces": [{"name": "20", "height_mm": 20, "count": 2}, {"name": "5", "height_mm": 5}],
                "target_mm": 44},
    "balance": {"masses": [{"name": "lug", "mass_kg": 2, "radius_mm": 150, "angle_deg": 90}],
                "counter_radius_mm": 120, "rpm": 300, "force_limit_n": 200},
    "two_sided": {"length_mm": 200, "reach_a_mm": 120, "reach_b_mm": 100},
    "pilot": {"guides": [{"z_mm": 0, "clearance_mm": 0.02}, {"z_mm": 200, "clearance_mm": 0.02}],
              "at_z_mm": [100, 300]},
    "line_bar_moves": {"housings": [{"name": "a", "z_mm": 0, "off_x_mm": 0.1, "off_y_mm": 0},
                                    {"name": "b", "z_mm": 500, "off_x_mm": 0.3, "off_y_mm": 0, "droop_mm": 0.02}],
                       "bearings_mm": [-100, 600], "datum": ["a", "b"]},
    "press_fit": {"bush": {"outside_mm": 80, "inside_mm": 70}, "hub": {"outside_mm": 120}, "interference_mm": 0.05,
                  "length_mm": 60},
    "angled_face": {"angle_deg": 45, "inner_diameter_mm": 30, "outer_diameter_mm": 34, "deepen_mm": 0.1},
    "face_time": {"outer_diameter_mm": 200, "feed_mm_rev": 0.1, "surface_speed_m_min": 80, "max_rpm": 1000},
    "agreement": {"first": {"value_mm": 72.01, "expanded_mm": 0.003},
                  "second": {"value_mm": 72.016, "expanded_mm": 0.004}},
    "gauge_bounds": {"seen": [{"kind": "go", "size_mm": 72, "expanded_mm": 0.002}, {"kind": "no-go", "size_mm": 72.03}],
                     "lower_mm": 72, "upper_mm": 72.03},
    "next_size": {"bore_mm": 72.06, "sizes": [{"name": "+0.5", "diameter_mm": 72.5}], "play_mm": 0.02,
                  "least_cut_mm": 0.05, "outside_mm": 90, "least_wall_mm": 6},
    "match_set": {"pieces": [{"name": "1", "value_mm": 55.004}, {"name": "2", "value_mm": 55.012}], "match_mm": 0.005,
                  "lower_mm": 55, "upper_mm": 55.03},
    "drift": {"values_mm": [55.02, 55.018, 55.017], "lower_mm": 55, "upper_mm": 55.03},
    "tones": {"samples": [((n * 37) % 100) / 100 for n in range(256)], "rate_hz": 8000, "count": 2, "least_hz": 30},
    "name_tones": {"peaks_hz": [212.0], "spindle_rpm": 280, "natural_frequency_hz": 200,
                   "spindle_speeds_rpm": [180, 280, 355]},
}  # fmt: skip

#: The product's own questions, beyond the contract.
BEYOND: dict[str, dict[str, Any]] = {
    "four_places": {"readings_mm": [0.03, 0.01, -0.01, None], "indicator_step_mm": 0.001},
    "smallest_swing": {"at_mm": [0, 0.1, 0.2], "swings_mm": [0.26, 0.1077, 0.18868]},
    "counterweights": {"unbalance_kg_mm": 300, "angle_deg": 90, "radius_mm": 120, "holes": 8, "step_kg": 0.5},
    "way_home": {"start_mm": 0, "end_mm": 80, "cut_diameter_mm": 90,
                 "others": [{"name": "H2", "start_mm": 400, "end_mm": 480, "size_mm": 87.6}]},
    "slide_move": {"distance_mm": 150, "division_mm": 0.02, "divisions_per_turn": 200, "backlash_divisions": 6},
    "centre_distance": {"reading_mm": 68.985, "over": "near-walls", "first_mm": 90.012, "second_mm": 72.015},
    "bush_outside": {"seat_smallest_mm": 62.012, "seat_largest_mm": 62.018, "least_mm": 0.025, "most_mm": 0.055},
    "reach_needed": {"bore_length_mm": 140, "overrun_mm": 5, "clear_mm": 20},
    "bar_out": {"segments": [{"length_mm": 165, "diameter_mm": 40}]},
    "tuning": {"points": [{"overhang_mm": 240, "turns": 2.5}], "overhang_mm": 240, "stands_turns": 2},
    "speeds_in_pockets": {"stiffness_n_mm": 2500, "damping_ratio": 0.03, "natural_frequency_hz": 60, "depth_mm": 2,
                          "kc_mpa": 1000, "spindle_speeds_rpm": [450, 900]},
    "power_check": {"cut": {"kc11_mpa": 1100, "mc": 0.25, "depth_mm": 2, "feed_mm_rev": 0.2, "diameter_mm": 72,
                            "surface_speed_m_min": 70}, "drive": {"power_w": 3000}, "bits": 2},
    "first_cut_depths": {"cut_diameter_mm": 69, "found_mm": [68.4, 68.5], "off_centre_mm": 0.02},
    "passes_left": {"cutting": {"known_diameter_mm": 71.2, "done": ["rough"], "lower_mm": 72},
                    "aim_diameter_mm": 72.015,
                    "rules": {"rough_depth_mm": 0.5, "finish_depth_mm": 0.2}},
    "line_response": {"bar_diameter_mm": 60, "bores": [{"name": "H1", "start_mm": 0, "end_mm": 80, "closed": False}],
                      "bearings_mm": [-80, 200], "radial_n": 100},
    "between_centres": {"work": {"length_mm": 260, "bored_from_mm": 20, "bored_to_mm": 180, "overrun_mm": 6},
                        "bar": {"length_mm": 600, "driver_mm": 45, "tail_mm": 25}},
    "pilot_guidance": {"guides_mm": [0, 200], "play_mm": 0.02,
                       "bores": [{"name": "H1", "start_mm": 60, "end_mm": 120}]},
    "judge_at_most": {"found_mm": 0.01, "allowed_mm": 0.02, "expanded_mm": 0.002, "rule": "guarded"},
    "learned_habit": {"seen": [{"off_mm": 0.01, "model_mm": -0.004}, {"off_mm": 0.012}], "model_mm": -0.002,
                      "bias_sd_mm": 0.02, "keeps": 0.9},
    "next_oversizes": {"target_mm": 72.015, "largest_mm": 72.06, "least_depth_mm": 0.05},
}  # fmt: skip


def command(*arguments: str, text: str = "") -> subprocess.CompletedProcess[str]:
    return subprocess.run([sys.executable, "-m", "gyrocore", *arguments], input=text, capture_output=True,  # noqa: S603
                          text=True, check=False)  # fmt: skip


def test_list_names_every_calculation() -> None:
    lines = command("--list").stdout.splitlines()
    names = [line.split()[0] for line in lines]
    assert names == [*NAMES, *BEYOND, "bore_state", "true_state", "check_state"]
    assert list(CALCULATIONS) == [*NAMES, *BEYOND]


@pytest.mark.parametrize("name", [*NAMES, *BEYOND])
def test_good_input_and_its_schema(name: str) -> None:
    values = {**GOOD, **BEYOND}[name]
    answer, is_result = run_text(name, json.dumps(values))
    assert is_result, answer
    described = schema(name)
    assert set(answer) == set(described["output"]["properties"])
    assert set(values) <= set(described["input"]["properties"])
    assert all(isinstance(note, str) for note in answer.get("notes", []))
    assert name in BEYOND or "notes" in answer


@pytest.mark.parametrize("name", NAMES)
def test_every_field_refuses_what_it_cannot_be(name: str) -> None:
    for field in GOOD[name]:
        for bad in (None, True, {"x": 1}, float("nan"), [], -1, "a" * 600):
            answer, is_result = run_text(name, json.dumps({**GOOD[name], field: bad}))
            if not is_result:
                assert set(answer["error"]) == {"field", "message"}
                assert "Traceback" not in answer["error"]["message"]
            json.dumps(answer, allow_nan=False)


def test_exit_codes_and_paths() -> None:
    bad = command("overhang", text=json.dumps({**GOOD["overhang"], "bar": {"kind": "steel", "diameter_mm": 0}}))
    assert bad.returncode == 2
    assert json.loads(bad.stdout)["error"]["field"] == "bar.diameter_mm"
    assert command("speed", text="{").returncode == 2
    assert json.loads(command("speed", text="[1]").stdout)["error"]["field"] == ""
    unknown = command("nothing", text="{}")
    assert (unknown.returncode, json.loads(unknown.stdout)["error"]["field"]) == (2, "")
    assert command("verdict", text=json.dumps(GOOD["verdict"])).returncode == 0


def test_lines_go_on_past_a_bad_one() -> None:
    good = json.dumps(GOOD["verdict"])
    found = command("verdict", "--lines", text=f'{good}\n\n{{"value_mm": "x"}}\n[]\n{good}\n')
    rows = [json.loads(line) for line in found.stdout.splitlines()]
    assert found.returncode == 0
    assert ["error" in row for row in rows] == [False, True, True, False]


def test_inputs_are_the_functions_own_parameters() -> None:
    """Names, defaults and choices come from the functions: what a function learns, its JSON knows."""
    line = schema("line_bar_layout")["input"]
    assert {"bar_diameter_mm", "bar_length_mm", "rule_ratio", "feed", "bores", "bearings_mm"} == set(line["properties"])
    assert line["properties"]["feed"] == {"default": "bar", "enum": ["bar", "head"], "title": "Feed", "type": "string"}
    assert "closed" in line["$defs"]["BoreInLine"]["properties"]
    assert "thickest_mm" in schema("choose_bar")["input"]["$defs"]["BarCandidate"]["properties"]
    held = {"diameter_mm": 40, "kind": "brass"}
    answer, _ = run_text("overhang", json.dumps({**GOOD["overhang"], "bar": held}))
    assert answer["error"]["field"] == "bar.kind"
    twice, _ = run_text("power_check", json.dumps(BEYOND["power_check"]))
    once, _ = run_text("power_check", json.dumps({**BEYOND["power_check"], "bits": 1}))
    assert twice["power_w"] == pytest.approx(2 * once["power_w"])
    odd, _ = run_text("four_jaw_flats", json.dumps(
        {"pairs": [{"jaws": [1, "3"], "readings_mm": [0.1, 0.04]}], "acceptance_mm": 0.02}
    ))  # fmt: skip
    assert "error" not in odd


@settings(max_examples=60, deadline=None)
@given(st.sampled_from(NAMES), st.data())
def test_extreme_numbers_never_break_it(name: str, data: st.DataObject) -> None:
    fields = [field for field, value in GOOD[name].items() if isinstance(value, int | float)]
    if not fields:
        return
    field = data.draw(st.sampled_from(fields))
    value = data.draw(st.sampled_from([1e308, 1e-308, 1e200, -1e308, 0, 1e-12, 10**400]))
    answer, _ = run_text(name, json.dumps({**GOOD[name], field: value}))
    json.dumps(answer, allow_nan=False)


def test_every_code_has_a_sentence() -> None:
    """A code used in the core without a sentence would be a traceback at the machine."""
    text = "\n".join(p.read_text() for p in Path(gyrocore.__file__).parent.rglob("*.py"))
    for code in re.findall(r"\bnote\(\s*\"(\w+)\"", text):
        assert code in NOTES, code
    for code in re.findall(r"InvalidInput\(\s*[^,()]+(?:\([^)]*\))?,\s*\"(\w+)\"", text):
        assert code in ERRORS, code

"""The stations and the next action of a job in words: codes with millimetres become sentences in the reader's unit."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.utils import timezone

from gyrometra.bridge.units import Units
from gyroplan.assess import Gap

VERDICT_WORDS = {
    "in": "In limits", "metal-left": "Metal left", "over": "Over", "not-proven": "Not proven",
    "incomplete": "Incomplete",
}  # fmt: skip

_LINES = {
    "measure_first": "measure the bore", "work": "{start} to {wanted}", "no_bar": "no bar yet",
    "no_bearings": "no bearings yet", "bearings_wrong": "bearings do not fit", "line": "on {count} bearings",
    "line_over": "fails on {count} bearings", "line_over_advice": "on {count} bearings, past advice",
    "line_may_chatter": "on {count} bearings, may chatter",
    "line_no_cutter": "on {count} bearings, no cutter", "no_head": "no boring head yet", "no_hole": "no hole reaches",
    "centres_wrong": "does not fit", "centres_short": "bar of {reach} needed", "centres": "bit at {reach}",
    "centres_no_cutter": "bit at {reach}, no cutter", "centres_over": "do not run",
    "no_cutter": "{reach} out, no cutter", "bar": "{reach} out", "bar_over_advice": "{reach} out, {over} past the rule",
    "bar_may_chatter": "{reach} out, may chatter",
    "bar_over_limit": "{reach} out, do not run", "no_cuts": "not planned", "cuts": "{count} passes, {minutes:.0f} min",
    "not_trued": "not trued yet", "trued": "centre offset {offset}",
    "trued_plane": "true in one plane, {offset}", "truing": "{offset} off, limit {limit}",
    "true_moved": "moved, read it again",
    "true_reading": "being read", "trued_planes": "true in {count} planes, {offset}",
    "trued_by": "by {how}, ±{offset}", "centred_by": "by {how} ±{offset}, sweep it",
    "plane_waits": "not true in every plane", "wall_trued": "leans {lean}",
    "wall_leans": "leans {lean}, limit {limit}",
    "bored": "bored, Ø{size}", "not_bored": "not begun", "settling": "settling till {day}",
    "boring_set": "pass {number} of {count}, to set", "boring_cut": "pass {number} of {count}, cutting",
    "boring_measure": "pass {number} of {count}, measure", "boring_touch_off": "pass {number}, touch off",
    "bored_over": "Ø{size}, {excess} over",
    "not_cut": "nothing to cut", "only_trued": "set true within {limit}",
    "not_measured": "not measured", "measured_before": "measure anew", "verdict": "{word}", "signed": "{word}, signed",
}  # fmt: skip

#: code -> (words, figure, what stands behind the figure)
_NEXTS = {
    "measure_first": ("Measure the bore as it is", "Ø ?", ""),
    "choose_bar": ("Choose a bar that reaches", "{reach}", "{unit}"),
    "choose_head": ("Choose the boring head", "", ""),
    "no_hole_reaches": ("No hole of the head reaches: another bar or head", "", ""),
    "choose_line_bar": ("Choose the line bar", "", ""),
    "longer_bar": ("A longer bar between centres", "{reach}", "{unit}"),
    "stand_bearings": ("Stand the bearings", "", ""),
    "one_more_bearing": ("Put bearing {count} at", "{at}", "{unit}"),
    "line_does_not_hold": ("The bar is too weak: thicker, or nearer bearings", "", ""),
    "fix_reach": ("The reach does not fit", "", ""),
    "bring_bar_in": ("Do not run: bring the bar in", "{reach}", "{unit} out"),
    "give_cap": ("Give the max rpm, it turns unbalanced", "", ""),
    "choose_cutter": ("Choose the cutter", "", ""),
    "begin_truing": ("Sweep the work, round {number}", "", ""),
    "read_walls": ("Run along the walls, round {number}", "", ""),
    "take_lean_out": ("Take the lean out, over the bore", "{value}", "{unit}"),
    "tap_it": ("Tap it true in the plane at {at}", "{value}", "{unit}"),
    "finish_round": ("Read {places} places", "Round {number}", ""),
    "move_jaws": ("Slacken jaw {slacken}, tighten jaw {tighten}", "{value}", "{unit}"),
    "move_it": ("Move {what} to the {to}", "{value}", "{unit}"),
    "lift_it": ("Lift at {what}", "{value}", "{unit}"),
    "move_bearing": ("Bearing {number} {way}", "{value}", "{unit}"),
    "guides_swing": ("The bar swings in its guides: closer bushes, or measure", "{value}", "{unit}"),
    "rested": ("Rested: finish it now", "", ""),
    "settling": ("Settling till", "{day}", ""),
    "begin_boring": ("Begin boring", "", ""),
    "bore_to": ("Pass {number}, set to", "Ø{diameter}", "{unit}"),
    "cut_pass": ("Pass {number} is set: cut it", "Ø{diameter}", "{unit}"),
    "touch_off": ("Tool touched: touch the wall off again", "", ""),
    "over_stop": ("Over: stop, on diameter", "{value}", "{unit} over"),
    "measure_pass": ("Measure after pass {number}", "Ø{diameter}", "set"),
    "measure": ("Measure: {what}", "Ø ?", ""),
    "feature": ("{name}: {word}", "", ""),
    "sign": ("In limits: sign off", "", ""),
    "way_metal-left": ("Metal left, on diameter", "{value}", "{unit}"),
    "way_not-proven": ("Not proven: measure finer", "", ""),
    "way_over": ("Over: see the ways forward", "", ""),
    "way_incomplete": ("Finish measuring", "", ""),
    "signed": ("Signed by {who}", "", ""),
    "closed": ("Closed: {reason}", "", ""),
    "setup_closed": ("Set-up {setup} was given up: {reason}", "", ""),
    "go_on_in": ("In limits here: go on with set-up {setup}", "", ""),
}


_GAPS = {
    "depth_near": "a depth near the open face",
    "depth_between": "a depth in the middle",
    "depth_far": "a depth near the far end",
    "depth_anywhere": "a depth",
    "directions": "{directions} at one depth of each",
    "runout": "run-out of the finished bore",
    "shoulder": "depth of the shoulder",
    "repeat": "a second reading where the gauge's repeatability is not known",
    "second_readings": "a second reading at {count} places: inspection is critical",
    "finer_gauge": "a finer gauge: it must read a tenth of the tolerance",
    "gauge_overdue": "{name} is past its check date",
    "tapers_contradict": "the taper by sizes and the run along the wall cannot both be true: read both again",
    "plug_contradicts": "the plug and what was read cannot both be true: try and measure again",
    "plug_sees_no_form": "{name}: a plug does not see it, read sizes",
    "bores_in_line": "bores in line",
    "trued": "a round that shows it true enough",
    "before_welded": "every size anew: it was welded after the {count} that were read",
    "before_heated": "every size anew: it was heated after the {count} that were read",
}
_DIRECTIONS = {1: "a direction", 2: "a second direction, 45° or more away,", 3: "three directions, 45° or more apart,"}


def gap_words(gap: Gap) -> str:
    """Something that keeps a verdict incomplete."""
    return _GAPS[gap.code].format(count=gap.count, name=gap.name, directions=_DIRECTIONS.get(gap.count, ""))


def _worded(values: dict[str, Any], units: Units) -> dict[str, Any]:
    words: dict[str, Any] = {"unit": units.label}
    for name, value in values.items():
        if name.endswith("_mm"):
            along = name in ("reach_mm", "over_mm", "at_mm")
            shown = "" if value is None else (units.length(value) if along else units.planned(value))
            words[name[:-3]] = shown
        elif name == "wanted":
            words[name] = units.limits(**value)
        elif name == "what":
            words[name] = value if isinstance(value, str) else gap_words(Gap(**value))
        elif name == "day":
            words[name] = f"{date.fromisoformat(value):%a %d %b}"
        elif name == "word":
            words[name] = VERDICT_WORDS[value]
        else:
            words[name] = value
    return words


def line_words(station: dict[str, Any], units: Units) -> str:
    """The line under a step's name."""
    return _of(station["values"]) + _LINES[station["code"]].format(**_worded(station["values"], units))


def _of(values: dict[str, Any]) -> str:
    parts = [f"piece {values['piece']}"] if "piece" in values else []
    parts += [values["of"]] if "of" in values else []
    words = ", ".join(parts)
    return f"{words[:1].upper()}{words[1:]}: " if words else ""


def _query(values: dict[str, Any]) -> str:
    """The bore and the piece that the next action is at."""
    parts = [f"bore={values['place']}"] if "place" in values else []
    parts += [f"piece={values['piece']}"] if "piece" in values else []
    return f"?{'&'.join(parts)}" if parts else ""


def next_words(found: dict[str, Any], units: Units) -> dict[str, str]:
    """The next action for the bench: words, figure, unit."""
    rested = found["code"] == "settling" and date.fromisoformat(found["values"]["day"]) <= timezone.localdate()
    words, figure, behind = _NEXTS["rested" if rested else found["code"]]
    values = _worded(found["values"], units)
    values.setdefault("value", "")
    return {
        "step": found["step"],
        "query": _query(found["values"]),
        "words": _of(found["values"]) + words.format(**values),
        "figure": figure.format(**values),
        "behind": behind.format(**values),
    }

"""A machine's checks as they are shown: the rail, the drawings, the plates, the table."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from typing import Any

from gyrocore import sentence
from gyrodraw import (
    Scene,
    SpindleDrawn,
    TrendDrawn,
    TrendPoint,
    high_spots,
    spindle_scene,
    spot,
    spot_between,
    trend_chart,
)
from gyrometra.bridge.units import Units
from gyrometra.health.models import CHANGED, MachineCheck
from gyrometra.health.queries import CheckStanding
from gyroplan.machine import KINDS, Effect, effects_of, limited_mm, spindle_of

#: State of a check -> its mark and its words.
_MARKS = {"in": "in", "soon": "advice", "late": "near", "over": "over", "changed": "near", "none": "wait"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Reach:
    """For what the figures are worked out: the tool's length, the bore's, and which part turns."""

    tool_mm: float
    bore_mm: float
    bar_turns: bool
    centres_mm: float | None = None


def state_words(one: CheckStanding, units: Units, today: date) -> str:
    """One line of a check: its figure, its limit, when it was read, what waits."""
    if one.health.last is None or one.value_mm is None or one.health.due is None:
        return "not checked"
    figure = f"{units.small(one.value_mm)} {units.label}"
    limit = "" if one.limit_mm is None else f", limit {units.small(one.limit_mm)}"
    day = f"{one.health.last.day:%d %b %Y}"
    waits = {
        "over": f"{day}: over its limit", "changed": f"{day}: {_changed_since(one)} since",
        "late": f"due since {one.health.due:%d %b %Y}", "soon": f"due {one.health.due:%d %b}", "in": day,
    }[one.health.state]  # fmt: skip
    return f"{figure}{limit}, {waits}"


def _changed_since(one: CheckStanding) -> str:
    return next((row.changed for row in reversed(one.health.points) if row.value_mm is None), "changed")


def rail_of(standing: Mapping[str, CheckStanding], here: str, units: Units, today: date) -> list[dict[str, Any]]:
    """The checks as stations."""
    return [
        {"key": key, "number": number, "name": one.kind.label, "line": state_words(one, units, today),
         "mark": _MARKS[one.health.state], "here": key == here, "done": one.health.state in ("in", "soon")}
        for number, (key, one) in enumerate(standing.items(), 1)
    ]  # fmt: skip


def effect_of(one: CheckStanding, reach: Reach) -> Effect | None:
    """What the last check means for the bore that is asked about."""
    if one.last is None:
        return None
    return effects_of(
        one.kind.key, one.last.values, bar_turns=reach.bar_turns, tool_mm=reach.tool_mm, bore_mm=reach.bore_mm,
        centres_mm=reach.centres_mm,
    )  # fmt: skip


def effect_words(one: CheckStanding, reach: Reach, units: Units) -> str:
    """The effect as a sentence."""
    effect = effect_of(one, reach)
    return "" if effect is None else sentence(effect.says, units.unit)


def bands_of(one: CheckStanding, reach: Reach, units: Units) -> list[tuple[str, Scene]]:
    """The drawings over the rail: a spindle's test bar and high spots; every check's run over the years."""
    if one.kind.key == "spindle" and one.last is not None:
        drawn = _spindle_drawn(one, one.last, reach, units)
        return [("healthview", spindle_scene(drawn, 620, 254)), ("healthspots", high_spots(drawn, 218))]
    return [("healthwide", trend_of(one, units, width=960, height=300)), ("healthsmall", trend_of(one, units))]


def _spindle_drawn(one: CheckStanding, row: MachineCheck, reach: Reach, units: Units) -> SpindleDrawn:
    v = row.values
    near = spot(v["near_mm"], v["near_tir_mm"], v["near_deg"], f"{units.small(v['near_tir_mm'])} TIR")
    far = spot(v["far_mm"], v["far_tir_mm"], v["far_deg"], f"{units.small(v['far_tir_mm'])} TIR")
    limit = one.limit_mm
    return SpindleDrawn(
        near=near, far=far, tool=spot_between(near, far, reach.tool_mm), tool_words=units.length(reach.tool_mm),
        limit_mm=limit, limit_words="" if limit is None else f"limit {units.small(limit)}", planned=units.small,
    )  # fmt: skip


def trend_of(one: CheckStanding, units: Units, width: float = 470, height: float = 230) -> Scene:
    """The run of a check's figure over the years."""
    points = [
        TrendPoint(day=p.day, value_mm=p.value_mm,
                   words=p.changed if p.value_mm is None else units.small(p.value_mm))
        for p in one.health.points
    ]  # fmt: skip
    limit, reaches = one.limit_mm, one.health.reaches
    words = "" if limit is None else f"limit {units.small(limit)}"
    return trend_chart(
        TrendDrawn(
            title=f"{one.kind.label}: {one.kind.figure}, {units.label}", points=points, limit_mm=limit,
            limit_words=words,
            reaches=reaches, reaches_words="" if reaches is None else f"{reaches:%b %Y}",
        ),
        width, height,
    )  # fmt: skip


def plates_of(one: CheckStanding, reach: Reach, units: Units, today: date) -> list[dict[str, Any]]:
    """The figures beside the chart: the check's own, what it means for the bore, when it is due."""
    plates = [_own_plate(one, reach, units), _effect_plate(one, reach, units), _due_plate(one, units, today)]
    return [plate for plate in plates if plate]


#: A tilt is told over so much, as shops say it: 300 mm, a foot [mm].
_TOLD_OVER = {"mm": 300.0, "in": 304.8}


def _own_plate(one: CheckStanding, reach: Reach, units: Units) -> dict[str, Any]:
    row = one.last
    if row is None or one.value_mm is None:
        return {"label": one.kind.figure.capitalize(), "number": "", "governs": "Missing:", "reason": "a check of it"}
    if one.kind.key == "spindle":
        found = spindle_of(row.values, reach.tool_mm)
        nose = units.small(2 * found.nose_eccentricity_mm)
        over = _TOLD_OVER[units.unit]
        return {"label": f"Run-out (TIR) at the tool, {units.length(reach.tool_mm)} out",
                "number": units.small(found.total_reading_at_tool_mm), "unit": units.label,
                "words": [f"tilt {units.small(found.tilt_mm_m * over / 1000)} over {units.length(over)}"],
                "governs": "Of offset and tilt:", "reason": f"the offset at the nose alone gives {nose}"}  # fmt: skip
    return {"label": one.kind.figure.capitalize(), "number": units.small(one.value_mm), "unit": units.label,
            "words": [limit_words(one, units)], "mark": _limit_mark(one),
            "governs": "Read:", "reason": typed_words(row, units)}  # fmt: skip


def limit_words(one: CheckStanding, units: Units) -> str:
    """What is allowed of it."""
    return "no limit set" if one.limit_mm is None else f"limit {units.small(one.limit_mm)}"


def _limit_mark(one: CheckStanding) -> str:
    if one.limit_mm is None or one.value_mm is None:
        return ""
    return "in" if one.value_mm <= one.limit_mm else "over"


def _effect_plate(one: CheckStanding, reach: Reach, units: Units) -> dict[str, Any]:
    effect = effect_of(one, reach)
    if effect is None:
        return {}
    number = "" if effect.figure_mm is None else units.small(effect.figure_mm)
    turns = "the bar turns" if reach.bar_turns else "the work turns"
    label = f"On a bore {units.length(reach.bore_mm)} long: {effect.is_on}" if number else "On a bore"
    return {"label": label, "number": number or "0", "unit": units.label, "words": [turns],
            "governs": "What it does:", "reason": sentence(effect.says, units.unit)}  # fmt: skip


def _due_plate(one: CheckStanding, units: Units, today: date) -> dict[str, Any]:
    health = one.health
    if health.last is None or health.due is None:
        return {}
    rises = "" if health.reaches is None else f"; rising, at its limit by {health.reaches:%b %Y}"
    fine = "in limits" if one.limit_mm is not None else "no limit set"
    again = f"{_changed_since(one)} since: check it again"
    words = {"over": "over its limit", "late": "past its day", "soon": "due soon", "in": fine, "changed": again,
             "none": ""}[health.state]  # fmt: skip
    return {"label": "Next check", "number": f"{health.due:%d %b %Y}", "unit": "", "mark": _MARKS[health.state],
            "words": [words], "is_day": True, "governs": f"Every {one.every_days} days:",
            "reason": f"last on {health.last.day:%d %b %Y}{rises}"}  # fmt: skip


def typed_words(row: MachineCheck, units: Units) -> str:
    """What was read, as it was typed: in microns, tenths or millionths where the shop types so."""
    said: list[str] = []
    for asked in KINDS[row.kind].asked:
        if asked.kind == "angle":
            said[-1] += f" at {row.values[asked.name]:g}°"
            continue
        typed = row.typed.get(asked.name)
        text = typed["text"] if typed else units.small(row.values[asked.name])
        bare = typed is not None and not any(one.isalpha() or one in '"µ' for one in text)
        said.append(f"{text} {typed['unit']}" if bare and typed and typed["unit"] != units.unit else text)
    return ", ".join(said)


def table_of(one: CheckStanding, units: Units) -> list[dict[str, Any]]:
    """The entries, newest first."""
    found = []
    for row in reversed(one.rows):
        changed = row.kind == CHANGED
        found.append({
            "row": row, "is_changed": changed,
            "words": row.get_changed_display() if changed else typed_words(row, units),
            "figure": "" if changed else units.small(limited_mm(one.kind.key, row.values)),
        })  # fmt: skip
    return found

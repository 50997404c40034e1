"""The Bar band: overhung, in bearings, between centres."""

from __future__ import annotations

from itertools import pairwise

from gyrodraw import (
    BarLayer,
    CentresLayer,
    LineLayer,
    RulerLimit,
    SagCurve,
    Scene,
    SpanRuler,
    bar_band,
    centres_band,
    line_band,
)
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.scene import bands, housing, outside_mm, part_of
from gyrometra.steps.work.scene import work_scenes
from gyroplan.assess import Line
from gyroplan.plan import BarVerdict, Limit


def line_scenes(page: JobPage) -> list[tuple[str, Scene]]:
    """The Bar band of a bar in bearings."""
    layer = _line_layer(page)
    return bands(lambda width: line_band(layer, width))


def _line_layer(page: JobPage) -> LineLayer:
    units, bar, plan = page.units, page.at.bar, page.at.plan
    line, better = page.bar.line.value, page.bar.better_line
    shown = better if better is not None and (line is None or not line.holds or not line.layout.ok) else line
    new = [place for place in shown.bearings_mm if place not in line.bearings_mm] if shown and line else []
    bores = sorted(page.bores, key=lambda bore: bore.start_mm)
    return LineLayer(
        housings=[housing(bore, units) for bore in bores],
        bearings_mm=list(line.bearings_mm) if line else sorted(plan.bearings_mm),
        proposed_mm=new[0] if new else None,
        bar_mm=bar.diameter_mm if bar else 0.0,
        bar_length_mm=bar.length_mm if bar else 0.0,
        bar_words=f"{bar.name} Ø{units.plain(bar.diameter_mm)} x {units.length(bar.length_mm)}" if bar else "",
        hatch=page.record.material.hatch,
        spans=_spans(shown, page) if shown else [],
        sags=_sags(line, shown, page),
        gaps=[(a.start_mm, b.start_mm, units.length(b.start_mm - a.start_mm)) for a, b in pairwise(bores)],
    )


def _spans(line: Line, page: JobPage) -> list[SpanRuler]:
    units, allowed = page.units, line.layout.rows[0].allowed_mm
    found = []
    for left, right in pairwise(line.bearings_mm):
        over = right - left - 2 * allowed
        words = f"{units.length(right - left)}, {units.length(-over)} in hand"
        if over > 0:
            words = f"{units.length(right - left)}, {units.length(over)} over {units.length(2 * allowed)}, advice"
        state = "advice" if over > 0 else "ok"
        found.append(SpanRuler(left_mm=left, right_mm=right, allowed_mm=allowed, words=words, state=state))
    return found


def _sags(line: Line | None, shown: Line | None, page: JobPage) -> list[SagCurve]:
    curves = []
    for one in [line] if shown is line else [line, shown]:
        if one is None:
            continue
        inside = (one.bearings_mm[0], one.bearings_mm[-1])
        deepest = max((abs(down) for z, down in one.response.curve if inside[0] <= z <= inside[1]), default=0.0)
        words = f"{page.units.planned(deepest)} at worst on {len(one.bearings_mm)}"
        role = "sprung" if one is shown else "sag-over"
        curves.append(SagCurve(points=one.response.curve, bearings_mm=one.bearings_mm, words=words, role=role))
    return curves


def centres_scenes(page: JobPage) -> list[tuple[str, Scene]]:
    """The Bar band of a bar between centres."""
    found, bar, plan, units = page.bar.centres.value, page.at.bar, page.at.plan, page.units
    if found is None or bar is None:
        return work_scenes(page)
    layout = found.layout
    reaches = "the bar is too short: no place for the bit"
    if layout.bit_to_mm is not None:
        reaches = f"bit from {units.length(layout.bit_from_mm)} to {units.length(layout.bit_to_mm)} are OK"
    layer = CentresLayer(
        bar_mm=found.bar_mm, bar_length_mm=found.bar_length_mm, driver_mm=plan.driver_mm,
        tail_mm=plan.tail_mm, work_length_mm=found.work.length_mm, bored_from_mm=found.work.bored_from_mm,
        bored_to_mm=found.work.bored_to_mm, overrun_mm=found.work.overrun_mm, outside_mm=outside_mm(page.bore),
        bore_mm=page.bore.aim_mm, hatch=page.record.material.hatch, bit_mm=found.bit_mm,
        bit_from_mm=layout.bit_from_mm, bit_to_mm=layout.bit_to_mm,
        bar_words=f"{bar.name} Ø{units.plain(bar.diameter_mm)}",
        bit_words="" if found.bit_mm is None else units.length(found.bit_mm),
        travel_words=f"the saddle travels {units.length(layout.travel_mm)}", range_words=reaches,
        length_words=units.length(found.bar_length_mm),
    )  # fmt: skip
    return bands(lambda width: centres_band(layer, width))


def bar_scenes(page: JobPage) -> list[tuple[str, Scene]]:
    """The Bar band; without a bar the work alone."""
    units, bar, out, held = page.units, page.at.bar, page.bar.out_mm, page.record.setup.way.bar_in
    if held == "bearings":
        return line_scenes(page) if bar is not None else work_scenes(page)
    if bar is None or out is None:
        return work_scenes(page)
    if held == "centres":
        return centres_scenes(page)
    head = page.at.plan.head
    holder = {"head": f"{head.name if head else 'boring head'}, face", "spindle": "spindle of the stand, face"}
    found = page.bar.overhung.value
    spring = page.bar.deflection.spring_mm if page.bar.deflection else None
    layer = BarLayer(
        diameter_mm=bar.diameter_mm,
        overrun_mm=page.at.bored_mm + page.at.overrun_mm - page.bore.length_mm,
        clear_mm=page.at.plan.clear_mm,
        bar_words=f"{bar.name} · {bar.made_of.label} Ø{units.plain(bar.diameter_mm)}",
        reach_words=units.length(out),
        part_words=(
            units.length(page.at.overrun_mm),
            units.length(page.at.bored_mm),
            units.length(out - page.at.bored_mm - page.at.overrun_mm),
        ),
        spring_mm=spring,
        spring_words=f"deflects {units.small(spring)}, drawn x 1000" if spring is not None else "",
        limits=[_ruler(limit, found, page) for limit in reversed(found.limits) if limit.criterion in _NAMES]
        if found
        else [],
        centre_mm=page.bore.aim_mm / 2 - (bar.tip_mm or 0.0) if held == "head" else 0.0,
        holder=holder.get(held, "bar holder, on the cross-slide"),
        out_mm=out if bar.is_fixed else None, carrier=bar.carrier,
    )  # fmt: skip
    part = part_of(page.record.material, page.bore)
    return bands(lambda width: bar_band(part, layer, width))


_NAMES = {"rule": "Rule of thumb", "deflection": "Deflection", "chatter": "Chatter"}


def _ruler(limit: Limit, found: BarVerdict, page: JobPage) -> RulerLimit:
    units, needed = page.units, page.bar.out_mm or 0.0
    at = limit.at_mm
    state, words, figure = "ok", "sets no limit", ""
    if at is not None:
        figure = units.limit(at)
        over = needed - at
        stops = limit.criterion == "deflection" or (limit.criterion == "chatter" and needed > (_certain(found) + 1e-9))
        state = "ok" if over <= 1e-9 else "hard" if stops else "advice"
        words = f"{units.limit(-over)} in hand" if over <= 1e-9 else f"{units.length(over)} past"
    says = found.by or found.governing
    return RulerLimit(
        name=_NAMES[limit.criterion],
        at_mm=at,
        figure=figure,
        words=words,
        detail=_detail(limit, page),
        state=state,
        governs=limit.criterion == says and at is not None,
    )


def _certain(found: BarVerdict) -> float:
    return found.limit("certain").at_mm or float("inf")


def _detail(limit: Limit, page: JobPage) -> str:
    """What stands behind a limit, in a few words."""
    units = page.units
    bar, worst = page.at.bar, page.bar.deflection
    if limit.criterion == "rule" and bar is not None:
        return f"{bar.made_of.rule_ratio:g} x D, advice"
    if limit.criterion == "deflection":
        if worst is None:
            return ""
        return f"deflects {units.small(worst.spring_mm)} of {units.fine(round(worst.load.budget_mm, 5))}"
    return f"pass {limit.number} may begin to chatter"

"""From a job's figures to the scenes of its bands: worded in the reader's unit, drawn by gyrodraw."""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise

from gyrocore import Material
from gyrodraw import (
    BarLayer,
    Broken,
    CentresLayer,
    DialFace,
    Housing,
    Labels,
    LineLayer,
    Part,
    RulerLimit,
    SagCurve,
    Scene,
    Shell,
    SpanRuler,
    WallPoint,
    Walls,
    bar_band,
    centres_band,
    check_band,
    convergence_chart,
    cuts_band,
    dial_face,
    line_band,
    strip_line,
    strip_section,
    work_band,
)
from gyrometra.bridge.units import Units
from gyrometra.jobs.models import Interruption, Job
from gyrometra.jobs.records import bore_record
from gyrometra.steps.page import JobPage
from gyroplan.assess import Checked, Line, RoundStanding
from gyroplan.judge import Place
from gyroplan.plan import BarVerdict, Limit
from gyroplan.record import BoreRecord, BreakRecord

#: Widths a band is drawn for; the style sheet shows the one that fits.
WIDTHS = {"wide": 1280.0, "middle": 760.0, "narrow": 390.0}


def bands(draw: Callable[[float], Scene]) -> list[tuple[str, Scene]]:
    """The same band at each width."""
    return [(name, draw(width)) for name, width in WIDTHS.items()]


def part_of(material: Material, bore: BoreRecord, *, words: bool = False) -> Part:
    """The work round one bore, as it is drawn; with what breaks its wall where its words have room."""
    return Part(
        length_mm=bore.length_mm,
        found=list(bore.found_mm),
        aim_mm=bore.aim_mm,
        outside=list(bore.outside_mm),
        hatch=material.hatch,
        shoulder=bore.ends == "shoulder",
        breaks=[_broken(broken) for broken in bore.breaks] if words else (),
    )


def _broken(broken: BreakRecord) -> Broken:
    """A keyway or a slot is a groove, as deep as half its width (drawn so: its depth is not asked)."""
    groove = broken.kind in (Interruption.Kind.KEYWAY, Interruption.Kind.SLOT)
    return Broken(
        start_mm=broken.from_mm, end_mm=broken.to_mm, groove_mm=broken.width_mm / 2 if groove else None,
        words=f"{Interruption.Kind(broken.kind).label} at {broken.angle_deg:g}°",
    )  # fmt: skip


def labels_of(page: JobPage) -> Labels:
    """The figures of the work drawing."""
    bore, units, start, wall = page.bore, page.units, page.at.start_mm, page.boring.wall_left_mm
    nominal = bore.aim_mm if bore.nominal_mm is None else bore.nominal_mm
    as_written = bore.nominal_mm is not None and page.wanted_words == bore.wanted
    return Labels(
        length=units.length(bore.length_mm),
        now=f"Ø{units.planned(start)}" if start else "Ø ?",
        wanted=f"Ø{bore.wanted}" if as_written else f"Ø{units.planned(nominal)}",
        upper=units.signed(bore.upper_mm - nominal),
        lower=units.signed(bore.lower_mm - nominal),
        wall=f"{units.plain(wall)} wall left" if wall is not None else "",
        stations=[(units.length(z), units.planned(diameter)) for z, diameter in bore.found_mm],
    )


def work_scenes(page: JobPage) -> list[tuple[str, Scene]]:
    """The Work band."""
    part, labels = part_of(page.at.material, page.bore, words=True), labels_of(page)
    return bands(lambda width: work_band(part, labels, width))


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
        housings=[_housing(bore, units) for bore in bores],
        bearings_mm=list(line.bearings_mm) if line else sorted(plan.bearings_mm),
        proposed_mm=new[0] if new else None,
        bar_mm=bar.diameter_mm if bar else 0.0,
        bar_length_mm=bar.length_mm if bar else 0.0,
        bar_words=f"{bar.name} Ø{units.plain(bar.diameter_mm)} x {units.length(bar.length_mm)}" if bar else "",
        hatch=page.at.material.hatch,
        spans=_spans(shown, page) if shown else [],
        sags=_sags(line, shown, page),
        gaps=[(a.start_mm, b.start_mm, units.length(b.start_mm - a.start_mm)) for a, b in pairwise(bores)],
    )


def _housing(bore: BoreRecord, units: Units) -> Housing:
    words = units.limits(bore.wanted, bore.wanted_unit, bore.lower_mm, bore.upper_mm)
    return Housing(
        name=bore.name, start_mm=bore.start_mm, end_mm=bore.end_mm, outside_mm=_outside_mm(bore), bore_mm=bore.aim_mm,
        words=f"Ø{words}",
    )  # fmt: skip


def _outside_mm(bore: BoreRecord) -> float:
    """How thick it is drawn round a bore."""
    return max((diameter for _, diameter in bore.outside_mm), default=bore.aim_mm * 1.5)


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
        bored_to_mm=found.work.bored_to_mm, overrun_mm=found.work.overrun_mm, outside_mm=_outside_mm(page.bore),
        bore_mm=page.bore.aim_mm, hatch=page.at.material.hatch, bit_mm=found.bit_mm,
        bit_from_mm=layout.bit_from_mm, bit_to_mm=layout.bit_to_mm,
        bar_words=f"{bar.name} Ø{units.plain(bar.diameter_mm)}",
        bit_words="" if found.bit_mm is None else units.length(found.bit_mm),
        travel_words=f"the saddle travels {units.length(layout.travel_mm)}", range_words=reaches,
        length_words=units.length(found.bar_length_mm),
    )  # fmt: skip
    return bands(lambda width: centres_band(layer, width))


def strip_scene(job: Job) -> Scene:
    """The work at strip size; of several bores, all of them with the bar."""
    bores = [bore_record(bore) for bore in job.setup.bores.all()]
    if len(bores) > 1:
        return strip_line([_housing(bore, Units()) for bore in bores], 0.6 * bores[0].aim_mm)
    return strip_section(part_of(job.material.data, bores[0]))


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
        overrun_mm=page.at.overrun_mm,
        clear_mm=page.at.plan.clear_mm,
        bar_words=f"{bar.name} · {bar.made_of.label} Ø{units.plain(bar.diameter_mm)}",
        reach_words=units.length(out),
        part_words=(
            units.length(page.at.overrun_mm),
            units.length(page.bore.length_mm),
            units.length(out - page.bore.length_mm - page.at.overrun_mm),
        ),
        spring_mm=spring,
        spring_words=f"deflects {units.small(spring)}, drawn x 1000" if spring is not None else "",
        limits=[_ruler(limit, found, page) for limit in reversed(found.limits) if limit.criterion in _NAMES]
        if found
        else [],
        centre_mm=page.bore.aim_mm / 2 - (bar.tip_mm or 0.0) if held == "head" else 0.0,
        holder=holder.get(held, "bar holder, on the cross-slide"),
        out_mm=out if bar.is_fixed else None,
    )
    part = part_of(page.at.material, page.bore)
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


def cuts_scenes(page: JobPage) -> list[tuple[str, Scene]]:
    """The Cuts band."""
    units = page.units
    done = {cut.number for cut in page.passes.done}
    shells = [
        Shell(
            number=row.cut.number,
            depth_mm=row.cut.depth_mm,
            kind=row.cut.kind,
            depth=units.planned(row.cut.depth_mm),
            feed=units.plain(row.feed_mm_rev),
            size=f"Ø{units.planned(row.cut.diameter_mm)}",
            done=row.cut.number in done,
        )
        for row in page.speeds.planned
    ]
    if not shells:
        return work_scenes(page)
    part, length = part_of(page.at.material, page.bore), units.length(page.bore.length_mm)
    return bands(lambda width: cuts_band(part, shells, length, width))


def face_scene(view: RoundStanding, units: Units, *, small: bool = False) -> Scene:
    """The dial face of one round; circle and arrow only where it is closed and valid."""
    inside = view.round.surface == "inside"
    values = view.values_mm
    known = [v for v in values if v is not None]
    mean = sum(known) / len(known) if known else 0.0
    outward = [None if v is None else (mean - v if inside else v - mean) for v in values]
    found = view.sweep
    moves = {}
    for move in view.moves if view.stands else ():
        moves[move.slacken] = ("slacken", "slacken")
        moves[move.tighten] = ("tighten", units.planned(move.by_mm))
    face = DialFace(
        angles_deg=view.round.angles_deg,
        outward_mm=outward,
        words=["" if v is None else units.signed(v) for v in values],
        limit_mm=view.limit_mm,
        offset_mm=(found.offset_x_mm, found.offset_y_mm) if found else None,
        offset_words=units.planned(found.eccentricity_mm) if found else "",
        moves=moves,
        places=view.way.places,
        jaws=view.way.set_by == "dial",
        seen_from=view.way.seen_from,
    )
    return dial_face(face, 390, 320) if small else dial_face(face)


def empty_face(page: JobPage, *, small: bool = False) -> Scene:
    """Before the first round: the work in its holding, with the places that will be read."""
    way, count = page.record.setup.way, 8
    face = DialFace(
        angles_deg=[360 * n / count for n in range(count)], outward_mm=[None] * count, words=[""] * count,
        limit_mm=page.truing.limit_mm, offset_mm=None, offset_words="", moves={}, places=way.places,
        jaws=way.set_by == "dial", seen_from=way.seen_from,
    )  # fmt: skip
    return dial_face(face, 390, 320) if small else dial_face(face)


def chart_scene(page: JobPage) -> Scene | None:
    """Convergence of the centre offset, round by round, against what boring allows."""
    units = page.units
    closed = [view for view in page.truing.rounds if view.stands and view.off_centre_mm is not None]
    if not closed:
        return None
    limit, unit_mm = page.truing.limit_mm / 2, 1.0 if units.unit == "mm" else 25.4
    rows = [
        (v.round.number, (v.off_centre_mm or 0.0) / unit_mm, units.planned(v.off_centre_mm or 0.0), False)
        for v in closed[-6:]
    ]  # fmt: skip
    return convergence_chart(rows, limit / unit_mm, f"limit {units.planned(limit)}", None)


def check_scenes(page: JobPage, angles: tuple[float, float]) -> list[tuple[str, Scene]]:
    """The Check band: walls against limits."""
    units, judged, bore = page.units, page.judged, page.bore
    wall = Walls(
        length_mm=bore.length_mm,
        lower_mm=bore.lower_mm,
        upper_mm=bore.upper_mm,
        guard_mm=judged.expanded_mm,
        lower_words=f"{units.lowest(bore.lower_mm)} bottom limit",
        upper_words=f"{units.highest(bore.upper_mm)} top limit",
        first=[_point(p, judged, units) for p in judged.places if p.angle_deg == angles[0]],
        second=[_point(p, judged, units) for p in judged.places if p.angle_deg == angles[1]],
        names=(f"Ø at {angles[0]:.0f}°", f"Ø at {angles[1]:.0f}°"),
        hatch=page.at.material.hatch,
        depths=[(z, units.length(z)) for z in judged.stations_mm],
    )
    return bands(lambda width: check_band(wall, width))


def _point(place: Place, judged: Checked, units: Units) -> WallPoint:
    step = min(one.gauge.resolution_mm for one in judged.sizes_at(place))
    return WallPoint(
        z_mm=place.z_mm, value_mm=place.value_mm, words=units.measured(place.value_mm, step), verdict=place.verdict
    )

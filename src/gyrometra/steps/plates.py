"""Dial plates and rows of the steps: results as words in the reader's unit, each with its because."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import datetime
from typing import Any

from gyrocore import DialMove, Speed, bar_kind, sentence
from gyrodraw import Scene, dial_scale, lever_gate
from gyrometra.bridge.units import Units, to_decimal
from gyrometra.cutting.ledger import Ledger, PassRow
from gyrometra.inspection.judged import FormLine, Judged, Place
from gyrometra.jobs.reckon import Reckoning
from gyrometra.steps import progress, scenes
from gyrometra.steps.page import JobPage
from gyrometra.truing.rounds import RoundView


@dataclass(frozen=True, kw_only=True)
class Because:
    """Formula, inputs and source behind a figure."""

    formula: str
    inputs: Sequence[tuple[str, str]]
    source: str


@dataclass(frozen=True, kw_only=True)
class Plate:
    """One dial plate. Without a number it shows a bar and says what is missing."""

    label: str
    number: str = ""
    unit: str = ""
    prefix: str = ""
    scene: Scene | None = None
    words: Sequence[str] = ()
    governs: str = ""
    reason: str = ""
    state: str = "plain"
    because: Because | None = None


@dataclass(frozen=True, kw_only=True)
class RailStop:
    """One station of the step rail."""

    step: str
    number: int
    name: str
    line: str
    state: str
    here: bool


def rail(page: JobPage, here: str) -> list[RailStop]:
    """The step rail of a job."""
    return [
        RailStop(
            step=station.step,
            number=place + 1,
            name=progress.NAMES[station.step],
            line=progress.line_words(asdict(station), page.units),
            state=station.state,
            here=station.step == here,
        )
        for place, station in enumerate(progress.stations(page))
    ]


def ghost_rail() -> list[RailStop]:
    """The rail of a job that is not made yet."""
    return [
        RailStop(step=step, number=n + 1, name=progress.NAMES[step], line="", state="todo", here=n == 0)
        for n, step in enumerate(progress.STEPS)
    ]


# ---------------------------------------------------------------- Work


def work(page: JobPage) -> list[Plate]:
    """Stock, first cut, limits."""
    units, reckoning = page.units, page.reckoning
    bore = page.job.setup.bore
    start = reckoning.start_mm
    if start is None:
        missing = "the bore as found, one size or more"
        return [Plate(label="Stock to remove, on diameter", governs="Missing:", reason=missing)]
    stock = bore.aim_mm - start
    plates = [
        Plate(
            label="Stock to remove, on diameter",
            number=units.planned(stock),
            unit=units.label,
            words=(f"{units.planned(stock / 2)} on radius", f"aim {units.planned(bore.aim_mm)}, the middle"),
            governs="Smallest size found governs:",
            reason=f"{units.planned(start)}",
            because=Because(
                formula="stock = middle of the limits - smallest size found",
                inputs=[
                    ("middle of the limits", f"{units.planned(bore.aim_mm)} {units.label}"),
                    ("smallest found", f"{units.planned(start)} {units.label}"),
                ],
                source="Limits: ISO 286-1 where a class is given.",
            ),
        )
    ]
    plates.append(_first_cut(reckoning, units))
    plates.append(_wall(reckoning, units))
    return plates


def _first_cut(reckoning: Reckoning, units: Units) -> Plate:
    found = reckoning.first_cut
    if found is None or reckoning.passes is None:
        return Plate(label="First cut, deepest", governs="Missing:", reason="a pass plan that holds")
    trued = reckoning.off_centre_mm is not None
    why = "as trued" if trued else "half the run-out limit, before truing"
    first = reckoning.passes.passes[0].diameter_mm
    return Plate(
        label="First cut, deepest",
        number=units.planned(found.largest_mm),
        unit=f"{units.label} radial",
        words=(f"shallowest {units.planned(found.smallest_mm)}", f"bores to Ø{units.planned(first)}"),
        governs="Off centre:",
        reason=f"{units.planned(found.off_centre_mm)}, {why}",
        state="warn" if found.smallest_mm <= 0 else "plain",
        because=Because(
            formula="(cut - largest)/2 - off centre to (cut - smallest)/2 + off centre",
            inputs=[
                ("first cut", f"Ø{units.planned(first)}"),
                ("off centre", f"{units.planned(found.off_centre_mm)}, {why}"),
                *((sentence(n, units.unit), "") for n in found.notes),
            ],
            source="Derived: two circles whose centres lie off centre apart.",
        ),
    )


def _wall(reckoning: Reckoning, units: Units) -> Plate:
    wall = reckoning.wall_left_mm
    if wall is None:
        return Plate(label="Wall left", words=("drawn as a broken wall",), governs="Outside not given:",
                     reason="optional")  # fmt: skip
    return Plate(
        label="Wall left, thinnest",
        number=units.planned(wall),
        unit=units.label,
        governs="Smallest outside governs:",
        reason="less the middle of the limits, halved",
    )


# ---------------------------------------------------------------- Bar


@dataclass(frozen=True, kw_only=True)
class BarRow:
    """A bar of the crib in the list."""

    pk: int
    words: str
    gripped: str
    stiffness: str
    spring: str
    usable: bool
    picked: bool
    tag: str
    reason: str


def bar_rows(page: JobPage) -> list[BarRow]:
    """The crib's bars: usable first; each that will not do with its reason."""
    reckoning, units = page.reckoning, page.units
    choice = reckoning.choice
    if choice is None:
        return []
    by_name = {bar.name: bar for bar in page.bars}
    rows = []
    for ranked in choice.ranked:
        bar = by_name[ranked.name]
        push = abs(reckoning.force.radial_n) if reckoning.force else None
        spring = push / ranked.tip_stiffness_n_mm if push is not None else None
        tags = [
            tag
            for tag, name in (("rule picks it", choice.by_rule), ("stiffest", choice.by_stiffness))
            if name == ranked.name
        ]
        rows.append(
            BarRow(
                pk=bar.pk,
                words=f"{bar.name} · {bar_kind(bar.kind).label} Ø{units.plain(bar.diameter_mm)} x "
                f"{units.length(bar.length_mm)}",
                gripped=units.length(float(bar.length_mm) - ranked.overhang_mm),
                stiffness=f"{ranked.tip_stiffness_n_mm / 1000:.1f}",
                spring="" if spring is None else units.planned(spring),
                usable=ranked.usable,
                picked=reckoning.bar is not None and reckoning.bar.pk == bar.pk,
                tag=", ".join(tags),
                reason=" ".join(sentence(reason, units.unit) for reason in ranked.reasons),
            )
        )
    return rows


def bar(page: JobPage) -> list[Plate]:
    """Overhang, spring, hard limit."""
    reckoning, units = page.reckoning, page.units
    if reckoning.reach is None:
        return [Plate(label="Hang the bar out", governs="Missing:", reason="a reach that fits")]
    reach = reckoning.reach.reach_mm
    return [_hang_out(page, reach), _spring(page), _heaviest(reckoning, units)]


def _hang_out(page: JobPage, reach: float) -> Plate:
    units, found, picked = page.units, page.reckoning.overhang, page.reckoning.bar
    base: dict[str, Any] = {"label": "Hang the bar out", "number": units.length(reach), "unit": units.label}
    if picked is None:
        return Plate(**base, words=("pick a bar from the list",), governs="Reach governs:",
                     reason="bore, past the end, clear of the holder")  # fmt: skip
    if found is None:
        return Plate(**base, words=("holder face to cutter point",), governs="1 of 2 missing:",
                     reason="the cutter; bar is in")  # fmt: skip
    hard = found.hard_limit_mm
    state, governs = "plain", f"{_CRITERION[found.governing]} governs:"
    in_hand = found.safe_overhang_mm - reach
    reason = f"{units.length(in_hand)} in hand of {units.length(found.safe_overhang_mm)}"
    if found.exceeded == ("rule",):
        state, governs = "warn", "Advice governs:"
        reason = f"{units.length(-in_hand)} over. Hard limit {units.length(hard or 0)}"
    elif found.exceeded:
        state, governs = "bad", f"Do not run. {_CRITERION[found.exceeded[-1]]}:"
        reason = f"{units.length(reach - (hard or 0))} past the hard limit of {units.length(hard or 0)}"
    stays = units.length(float(picked.length_mm) - reach)
    return Plate(
        **base,
        scene=dial_scale(reach if units.unit == "mm" else reach / 25.4 * 10),
        words=("holder face to cutter point", f"{stays} stays in the clamp"),
        governs=governs,
        reason=reason,
        state=state,
        because=Because(
            formula="rule: ratio x D; deflection: |radial| L^3 / (3 E I) = budget; "
            "chatter: b (t o cos^2 K + m) kc = 2 k z (1 + z)",
            inputs=[
                *((_CRITERION[x.criterion], units.length(x.overhang_mm) if x.overhang_mm else "sets no limit")
                  for x in found.limits),
                ("allowed spring, on radius", f"{units.planned(page.reckoning.budget_mm)} {units.label}"),
                *((sentence(n, units.unit), "") for n in found.notes),
            ],
            source="Rule: shop practice. Bending: Euler-Bernoulli. Chatter: oriented one-mode limit.",
        ),
    )  # fmt: skip


_CRITERION = {"rule": "Rule of thumb", "deflection": "Deflection", "chatter": "Chatter"}


def _spring(page: JobPage) -> Plate:
    units, reckoning = page.units, page.reckoning
    spring, force = scenes.spring_mm(page), reckoning.force
    if spring is None or force is None:
        return Plate(label="Spring at the cutter", governs="Missing:", reason="bar and cutter")
    over = spring > reckoning.budget_mm
    own = reckoning.plan.budget_mm is not None
    return Plate(
        label="Spring, on radius",
        number=units.planned(spring),
        unit=units.label,
        words=(f"allowed {units.planned(reckoning.budget_mm)}", f"push {force.radial_n:.0f} N"),
        governs="Allowed:",
        reason="your own figure" if own else "a quarter of the size tolerance",
        state="bad" if over else "plain",
        because=Because(
            formula="spring = |radial force| L^3 / (3 E I)",
            inputs=[
                ("radial force", f"{force.radial_n:.1f} N"),
                ("specific force kc", f"{force.kc_mpa:.0f} MPa"),
                ("chip thickness", f"{force.chip_thickness_mm:.3f} mm"),
            ],
            source="Kienzle on the chord of the edge; Euler-Bernoulli cantilever.",
        ),
    )


def _heaviest(reckoning: Reckoning, units: Units) -> Plate:
    cut, force = reckoning.heaviest_cut, reckoning.force
    if cut is None or force is None:
        return Plate(label="Heaviest cut", governs="Missing:", reason="the cutter")
    return Plate(
        label="Heaviest cut, radial",
        number=units.planned(cut.depth_mm),
        unit=units.label,
        words=(f"feed {units.plain(cut.feed_mm_rev)} a turn", f"cutting force {force.tangential_n:.0f} N"),
        governs="Pass plan governs:",
        reason=f"{reckoning.material.label}, kc1.1 {reckoning.material.kc11_mpa:.0f} MPa",
        because=Because(
            formula="kc = kc1.1 h^-mc, Fc = kc a f",
            inputs=[("kc1.1", f"{cut.kc11_mpa:.0f} MPa"), ("mc", f"{cut.mc:g}")],
            source=reckoning.material.source,
        ),
    )


# ---------------------------------------------------------------- Cuts


@dataclass(frozen=True, kw_only=True)
class PassLine:
    """One pass in the list."""

    number: int
    kind: str
    depth: str
    size: str
    dial: str
    at: str
    rpm: str
    feed: str
    minutes: str
    measure: bool


def dial_words(move: DialMove, units: Units) -> str:
    """Turns and divisions, with the direction."""
    count = abs(move.odd_divisions)
    parts = [f"{abs(move.turns)} turn{'s' if abs(move.turns) != 1 else ''}"] if move.turns else []
    parts.append(f"{count:.1f} div".replace(".0 div", " div"))
    way = "out" if move.divisions >= 0 else "back"
    return f"{' + '.join(parts)} {way}"


def pass_rows(page: JobPage) -> list[PassLine]:
    """The passes with their dials."""
    units = page.units
    return [
        PassLine(
            number=row.cut.number,
            kind=row.cut.kind,
            depth=units.planned(row.cut.depth_mm),
            size=units.planned(row.cut.diameter_mm),
            dial=dial_words(row.dial, units) if row.cut.depth_mm else "leave the dial",
            at=f"{row.dial.set_to_division:.1f}".removesuffix(".0"),
            rpm=f"{row.rpm:.0f}" if row.rpm else "",
            feed=units.plain(row.feed_mm_rev),
            minutes=f"{row.time.minutes:.1f}" if row.time else "",
            measure=row.cut.measure_after,
        )
        for row in page.reckoning.planned
    ]


def cut_totals(page: JobPage) -> dict[str, Any]:
    """Under the list: total time, roughness, notes."""
    reckoning, units = page.reckoning, page.units
    ra = reckoning.finish_of(float(reckoning.plan.finish_feed_mm_rev))
    rough = reckoning.finish_of(float(reckoning.plan.rough_feed_mm_rev))
    return {
        "minutes": f"{reckoning.minutes:.1f}" if reckoning.minutes else "",
        "ra": f"{ra.ra_um:.2f}" if ra else "",
        "ra_rough": f"{rough.ra_um:.1f}" if rough else "",
        "notes": [sentence(n, units.unit) for n in (reckoning.passes.notes if reckoning.passes else ())],
    }


def cuts(page: JobPage) -> list[Plate]:
    """Roughing speed, finishing speed, first cut on the dial."""
    reckoning = page.reckoning
    return [
        _speed_plate("Spindle, roughing", reckoning.rough_speed, "rough", page),
        _speed_plate("Spindle, finishing", reckoning.finish_speed, "finish", page),
        _first_dial(page),
    ]


def _speed_plate(label: str, speed: Speed | None, stage: str, page: JobPage) -> Plate:
    reckoning, units = page.reckoning, page.units
    if speed is None:
        needs = "the cutter" if reckoning.cutter is None else "a pass of this kind"
        return Plate(label=label, governs="Missing:", reason=needs)
    lever = reckoning.machine.lever_for(speed.set_rpm)
    wanted = reckoning.surface_speed(stage) or 0.0
    over = speed.set_rpm > speed.exact_rpm * (1 + 1e-9)
    words = (
        f"lever {lever} = {speed.set_rpm:.0f} rpm" if lever else f"{speed.set_rpm:.0f} rpm",
        f"{100 * (speed.set_rpm / speed.exact_rpm - 1):.1f} % over" if over else "",
    )
    return Plate(
        label=label,
        number=f"{speed.set_rpm:.0f}",
        unit="rpm",
        scene=lever_gate([s.lever for s in reckoning.machine.speeds.all()], lever) if lever else None,
        words=[word for word in words if word],
        governs=_speed_governor(speed, reckoning),
        reason=f"{wanted:g} m/min asks {speed.exact_rpm:.0f}",
        because=Because(
            formula="n = 1000 v / (pi D), then the machine's next speed down, never over the cap",
            inputs=[
                ("surface speed", f"{wanted:g} m/min"),
                ("at this speed", f"{speed.surface_speed_at_set_m_min:.1f} m/min"),
                ("four-times rule says", f"{speed.rule_of_thumb_rpm:.0f} rpm"),
                *((sentence(n, units.unit), "") for n in speed.notes),
            ],
            source=f"Speed: {reckoning.material.source}.",
        ),
    )


def _speed_governor(speed: Speed, reckoning: Reckoning) -> str:
    code = speed.notes[0].code
    if code == "cap_governs":
        return f"Cap of {reckoning.cap_rpm:.0f} governs:"
    return "Slowest speed, still over:" if code == "slowest_is_over" else "Cutter governs:"


def _first_dial(page: JobPage) -> Plate:
    reckoning, units = page.reckoning, page.units
    if not reckoning.planned:
        return Plate(label="First cut, bore to", governs="Missing:", reason="the bore as found")
    row = reckoning.planned[0]
    return _dial_plate("First cut, bore to", row.dial, row.cut.diameter_mm, page, "from touch", units)


def _dial_plate(
    label: str, move: DialMove, diameter_mm: float, page: JobPage, start: str, units: Units
) -> Plate:
    dial = page.reckoning.machine.dial
    worth = f"1 div {units.plain(move.division_on_diameter_mm)} on Ø"
    return Plate(
        label=label,
        number=units.planned(diameter_mm),
        prefix="Ø",
        scene=dial_scale(move.set_to_division, per_turn=dial.divisions_per_turn),
        words=(f"{dial_words(move, units)}, {start}", f"set to {move.set_to_division:.1f}; {worth}"),
        governs=f"Dial reads {dial.reads}:",
        reason=f"{units.planned(2 * move.radial_mm)} on diameter, {units.planned(move.radial_mm)} on radius",
        because=Because(
            formula="divisions = (wanted - measured) / (division on diameter)",
            inputs=[
                ("one division", f"{units.plain(dial.division_mm)} {units.label} on {dial.reads}"),
                ("divisions a turn", f"{dial.divisions_per_turn:g}"),
                *((sentence(n, units.unit), "") for n in move.notes),
                ("approach", "from the small side, winding outward; past the mark: a turn back and up again"),
            ],
            source="Derived: half the difference of diameters is the radial move.",
        ),
    )


# ---------------------------------------------------------------- True


@dataclass(frozen=True, kw_only=True)
class Cell:
    """One place of the reading line."""

    place: int
    name: str
    value: str
    was: str
    active: bool


@dataclass(frozen=True, kw_only=True)
class MoveWords:
    """One pair of jaws: what to do, how much, what to read after."""

    slacken: str
    tighten: str
    amount: str
    before: str
    after: str


@dataclass(frozen=True, kw_only=True)
class RoundLine:
    """One closed round in the list."""

    number: int
    total: str
    off: str
    towards: str
    state: str


def place_name(place: int, places: int) -> str:
    """`jaw 1` at a jaw, `1-2` between; clock places by angle where there are twelve."""
    angle = 360 * place / places
    if angle % 90 == 0:
        return f"jaw {int(angle // 90) + 1}"
    if places == 8:
        first = int(angle // 90) + 1
        return f"{first}-{first % 4 + 1}"
    return f"{angle:.0f}°"


def towards_words(angle_deg: float) -> str:
    """The jaw, or the two jaws, that an offset points to."""
    nearest = round(angle_deg / 45) % 8
    first = nearest // 2 + 1
    return f"jaw {first}" if nearest % 2 == 0 else f"{first}-{first % 4 + 1}"


def cells(view: RoundView, before: RoundView | None, units: Units) -> list[Cell]:
    """The reading line of a round, with the last round's values."""
    was = before.values_mm if before and before.round.places == view.round.places else None
    found, active = [], view.next_place
    for place, value in enumerate(view.values_mm):
        old = was[place] if was else None
        found.append(
            Cell(
                place=place,
                name=place_name(place, view.round.places),
                value="" if value is None else units.signed(value),
                was="" if old is None else f"was {units.signed(old)}",
                active=place == active,
            )
        )
    again = view.by_place.get(view.round.places)
    found.append(
        Cell(
            place=view.round.places,
            name="first again",
            value=units.signed(again.value_mm) if again else "",
            was="",
            active=active == view.round.places,
        )
    )
    return found


def moves_words(view: RoundView, units: Units) -> list[MoveWords]:
    """What to do at the jaws."""
    return [
        MoveWords(
            slacken=move.slacken,
            tighten=move.tighten,
            amount=units.planned(move.by_mm),
            before=_signed(view.reading_before_mm(move), units),
            after=_signed(view.reading_after_mm(move), units),
        )
        for move in view.moves
    ]


def _signed(value: float | None, units: Units) -> str:
    return "" if value is None else units.signed(value)


def round_lines(views: Sequence[RoundView], units: Units) -> list[RoundLine]:
    """Closed rounds, oldest first."""
    lines = []
    for view in views:
        if not view.is_closed:
            continue
        angle = view.sweep.offset_angle_deg if view.sweep else 0.0
        lines.append(
            RoundLine(
                number=view.round.number,
                total=_planned(view.total_mm, units),
                off=_planned(view.off_centre_mm, units),
                towards=towards_words(angle),
                state="void" if view.is_void else "in" if view.within else "over",
            )
        )
    return lines


def _planned(value: float | None, units: Units) -> str:
    return "" if value is None else units.planned(value)


def round_initial(views: Sequence[RoundView]) -> dict[str, Any]:
    """The next round is like the last."""
    if not views:
        return {}
    last = views[-1].round
    return {"method": last.method, "places": last.places, "indicator": last.indicator_id}


def true(page: JobPage) -> dict[str, Any]:
    """All that the True page prints."""
    units, views = page.units, page.rounds
    current = views[-1] if views else None
    open_round = current if current and not current.is_closed else None
    earlier = [v for v in views if v is not open_round]
    decided = page.trued
    shown = open_round if open_round and len(open_round.by_place) >= 3 else (earlier[-1] if earlier else open_round)
    return {
        "open_round": open_round,
        "cells": cells(open_round, earlier[-1] if earlier else None, units) if open_round else [],
        "shown": shown,
        "face": scenes.face_scene(shown, units) if shown else None,
        "face_small": scenes.face_scene(shown, units, small=True) if shown else None,
        "chart": scenes.chart_scene(page),
        "lines": round_lines(views, units)[-6:],
        "decided": decided,
        "moves": moves_words(decided, units) if decided and not decided.within else [],
        "expected": _planned(decided.expected_mm, units) if decided else "",
        "total": _planned(shown.total_mm, units) if shown else "",
        "off": _planned(shown.off_centre_mm, units) if shown else "",
        "limit": units.planned(page.job.setup.bore.runout_limit_mm),
        "round_notes": [
            sentence(n, units.unit)
            for n in [*(shown.sweep.notes if shown and shown.sweep else ()),
                      *(shown.closing.notes if shown and shown.closing else ())]
        ],
        "half_rule": units.planned((shown.total_mm or 0) / 2) if shown and shown.total_mm else "",
    }  # fmt: skip


# ---------------------------------------------------------------- Bore


@dataclass(frozen=True, kw_only=True)
class LedgerLine:
    """One pass of the ledger."""

    number: int
    kind: str
    wanted: str
    dialled: str
    came: str
    spread: str
    off: str
    state: str
    remark: str
    slip: str
    is_now: bool


def bore(page: JobPage) -> dict[str, Any]:
    """All that the Bore page prints."""
    units, ledger = page.units, page.ledger
    current = ledger.current
    lines = [_ledger_line(row, row is current, units) for row in ledger.rows]
    return {
        "ledger": ledger,
        "current": current,
        "lines": lines,
        "bands": scenes.bore_scenes(page),
        "plates": _bore_plates(page, ledger, current),
        "settled": current is not None and current.set_entry is not None,
        "last_set": next((r for r in reversed(ledger.rows) if r.set_entry is not None), None),
    }


def _ledger_line(row: PassRow, now: bool, units: Units) -> LedgerLine:
    cut = row.planned.cut
    gauge = row.sizes[0].gauge if row.sizes else None
    step = float(gauge.resolution_mm) if gauge else 0.001
    off = row.off_mm
    remark = f"{row.remark.get_sound_display()}, {row.remark.get_look_display()}" if row.remark else ""
    return LedgerLine(
        number=cut.number,
        kind=cut.kind,
        wanted=units.planned(cut.diameter_mm),
        dialled=f"{float(row.set_entry.divisions or 0):.1f} div" if row.set_entry else "",
        came=units.measured(row.came_mm, step) if row.came_mm is not None else "",
        spread=f"spread {units.measured(row.spread_mm, step)}" if row.spread_mm else "",
        off="" if off is None else "on size" if abs(off) < step else
        f"{units.measured(abs(off), step)} {'large' if off > 0 else 'small'}",
        state="" if off is None else "ok" if abs(off) < step else "warn",
        remark=remark,
        slip=_slip_words(row, units),
        is_now=now,
    )  # fmt: skip


def _slip_words(row: PassRow, units: Units) -> str:
    if row.slip is None:
        return ""
    return (
        f"The change came out {row.slip.kind} of what was commanded: was the dial taken for "
        f"{'diameter' if row.slip.kind == 'twice' else 'radius'}? "
        f"As read, it would be {units.planned(row.slip.likely_mm)}; what was typed stays."
    )


def _bore_plates(page: JobPage, ledger: Ledger, current: PassRow | None) -> list[Plate]:
    units = page.units
    known, aim = ledger.known_size_mm, page.job.setup.bore.aim_mm
    plates = []
    if current is not None:
        move = ledger.next_move(current)
        label = f"Pass {current.planned.cut.number}, bore to"
        plates.append(
            _dial_plate(label, move, current.planned.cut.diameter_mm, page, "from where it stands", units)
        )
    if known is not None:
        left = aim - known
        measured = any(row.came_mm is not None for row in ledger.rows)
        plates.append(
            Plate(
                label="Left to the aim, on diameter",
                number=units.planned(left),
                unit=units.label,
                words=(f"aim {units.planned(aim)}", f"now {units.planned(known)}"),
                governs="Last measured size:" if measured else "As found:",
                reason=units.planned(known),
            )
        )
    if current is not None and current.planned.rpm:
        rpm = current.planned.rpm
        lever = page.reckoning.machine.lever_for(rpm)
        plates.append(
            Plate(
                label="Spindle",
                number=f"{rpm:.0f}",
                unit="rpm",
                words=(f"lever {lever}" if lever else "", f"feed {units.plain(current.planned.feed_mm_rev)} a turn"),
                governs="One lever for the group:",
                reason="roughing" if current.planned.is_roughing else "finishing",
            )
        )
    return plates


def cut_values(page: JobPage, kind: str, cleaned: Mapping[str, Any], text: str) -> dict[str, Any]:
    """What a cutting-log entry stores beside the form's values."""
    base = {"client_id": cleaned["client_id"], "source": cleaned["source"]}
    if kind == "guard":
        return base
    if kind == "remark":
        return {**base, "number": cleaned["number"], "sound": cleaned["sound"], "look": cleaned["look"]}
    if kind == "size":
        return {**base, "number": cleaned["number"], "value_mm": cleaned["value_mm"],
                "gauge": cleaned["gauge"], "text": text.strip()[:60]}  # fmt: skip
    row = next((r for r in page.ledger.rows if r.planned.cut.number == cleaned["number"]), None)
    if row is None:
        return {**base, "number": cleaned["number"]}
    move = page.ledger.next_move(row)
    return {
        **base,
        "number": cleaned["number"],
        "value_mm": to_decimal(row.planned.cut.diameter_mm),
        "change_mm": to_decimal(2 * move.radial_mm),
        "divisions": round(move.divisions, 3),
    }


# ---------------------------------------------------------------- Check


@dataclass(frozen=True, kw_only=True)
class CheckCell:
    """One place of the grid."""

    value: str
    verdict: str
    doubt: str


@dataclass(frozen=True, kw_only=True)
class FormWords:
    """Form or run-out against its limit."""

    name: str
    found: str
    allowed: str
    state: str
    words: str


def check(page: JobPage) -> dict[str, Any]:
    """All that the Check page prints."""
    units, judged = page.units, page.judged
    angles = _two_angles(judged)
    rounds = judged.runout_rounds
    current = rounds[-1] if rounds else None
    open_round = current if current and not current.is_closed else None
    return {
        "judged": judged,
        "angles": angles,
        "grid": _grid(judged, units),
        "depths": [units.length(z) for z in judged.stations_mm],
        "form_lines": [_form_words(line, units) for line in judged.lines],
        "hints": [sentence(h, units.unit) for h in (judged.form.hints if judged.form else ())],
        "doubt": units.planned(judged.expanded_mm),
        "verdict": verdict_plate(page),
        "open_round": open_round,
        "cells": cells(open_round, None, units) if open_round else [],
        "suggested": _next_place(judged),
        "room": _room(judged, units),
        "history": [
            {"z": units.length(r.z_mm), "angle": f"{r.angle_deg:.0f}°", "who": r.by.username, "at": r.at,
             "value": units.measured(r.value_mm, r.gauge.resolution_mm), "gauge": r.gauge.name}
            for r in judged.readings[-6:]
        ],
    }  # fmt: skip


def _two_angles(judged: Judged) -> tuple[float, float]:
    angles = sorted({angle for _, angle in judged.places})
    first = angles[0] if angles else 0.0
    second = next((a for a in angles if a != first), 90.0)
    return first, second


def _grid(judged: Judged, units: Units) -> list[tuple[str, list[CheckCell | None]]]:
    rows = []
    for angle in sorted({angle for _, angle in judged.places}):
        row: list[CheckCell | None] = []
        for z in judged.stations_mm:
            place = judged.places.get((z, angle))
            row.append(_cell(place, units) if place else None)
        rows.append((f"{angle:.0f}°", row))
    return rows


def _cell(place: Place, units: Units) -> CheckCell:
    value = place.measured.value_mm if place.measured else 0.0
    step = float(place.readings[-1].gauge.resolution_mm)
    return CheckCell(
        value=units.measured(value, step),
        verdict=place.verdict.verdict if place.verdict else "",
        doubt=units.planned(place.measured.expanded_mm) if place.measured else "",
    )


def _form_words(line: FormLine, units: Units) -> FormWords:
    if line.judged is not None:
        state = {"in": "in", "over": "over"}.get(line.judged.verdict, "near")
        words = {"in": "In limits", "over": "Over", "near": "Not proven"}[state]
    else:
        state = "idle"
        words = "no limit asked" if line.allowed_mm is None and line.found_mm is not None else "not measured"
    return FormWords(
        name=line.name,
        found=_planned(line.found_mm, units),
        allowed=_planned(line.allowed_mm, units),
        state=state,
        words=words,
    )


def _next_place(judged: Judged) -> dict[str, str]:
    """The first place that a verdict still needs: two ends and the middle, two directions."""
    length = float(judged.setup.bore.length_mm)
    depths = [round(length * share) for share in (1 / 7, 1 / 2, 6 / 7)]
    known = judged.stations_mm
    if len(known) >= len(depths):
        depths = [round(z, 6) for z in known]  # type: ignore[misc]
    for angle in (0.0, 90.0):
        for z in depths:
            if (float(z), angle) not in judged.places:
                return {"z": f"{z:g}", "angle": f"{angle:.0f}"}
    return {"z": f"{depths[0]:g}", "angle": "0"}


def _room(judged: Judged, units: Units) -> str:
    if judged.deciding is None:
        return ""
    smallest, largest = judged.deciding
    low = smallest.verdict.room_low_mm if smallest.verdict else 0.0
    high = largest.verdict.room_high_mm if largest.verdict else 0.0
    return f"{units.planned(low)} over the bottom limit, {units.planned(high)} under the top"


@dataclass(frozen=True, kw_only=True)
class VerdictPlate:
    """The verdict: word, shape, one line of reason, and every way forward."""

    word: str
    title: str
    reason: str
    ways: Sequence[tuple[str, str, bool]]
    number: str = ""
    number_label: str = ""


def verdict_plate(page: JobPage) -> VerdictPlate:
    """The verdict plate of a bore."""
    word = page.judged.word
    title = progress.VERDICT_WORDS[word]
    reason, ways, number, label = _REASONS[word](page)
    return VerdictPlate(word=word, title=title, reason=reason, ways=ways, number=number, number_label=label)


Reason = tuple[str, Sequence[tuple[str, str, bool]], str, str]


def _extremes(page: JobPage) -> tuple[Place, Place]:
    found = page.judged.deciding
    if found is None:
        raise LookupError("no place is measured")
    return found


def _reason_in(page: JobPage) -> Reason:
    units = page.units
    smallest, largest = _extremes(page)
    low, high = (p.measured.value_mm if p.measured else 0.0 for p in (smallest, largest))
    count = len(page.judged.places)
    return (
        f"All {count} places, {units.planned(low)} to {units.planned(high)}, each by its own doubt.",
        [("Sign off", "the lead signs; nothing changes after", True)], "", "",
    )  # fmt: skip


def _reason_left(page: JobPage) -> Reason:
    units = page.units
    smallest, largest = _extremes(page)
    aim = page.job.setup.bore.aim_mm
    middle = sum(p.measured.value_mm for p in (smallest, largest) if p.measured) / 2
    left = aim - middle
    least = page.reckoning.rules.min_depth_mm
    can_cut = left / 2 >= least
    ways = [
        ("Finish cut", f"{units.planned(left)} on diameter" if can_cut else
         f"no: {units.planned(left / 2)} on radius, the edge needs {units.planned(least)}", can_cut),
        ("Hone", f"{units.planned(left)} on diameter, then measure again", True),
        ("Accept as it is", "no: the smallest place is under the bottom limit", False),
    ]  # fmt: skip
    low = smallest.measured.value_mm if smallest.measured else 0.0
    return f"The smallest place is {units.planned(low)}.", ways, units.planned(left), "Metal left, on diameter"


def _reason_over(page: JobPage) -> Reason:
    units = page.units
    over_lines = [line.name.lower() for line in page.judged.lines if line.judged and line.judged.verdict == "over"]
    ways = [
        ("Ring or bush", "bore out and fit one, where the wall allows", True),
        ("Next oversize", "where a mating part of that size exists", True),
        ("Accept as it is", "no: past the limit by more than the doubt", False),
    ]
    if over_lines:
        return f"{', '.join(over_lines).capitalize()} over its limit.", ways, "", ""
    _, largest = _extremes(page)
    high = largest.measured.value_mm if largest.measured else 0.0
    room = largest.verdict.room_high_mm if largest.verdict else 0.0
    words = f"The largest place is {units.planned(high)}."
    return words, ways, units.planned(-room), "Over the top limit by"


def _reason_near(page: JobPage) -> Reason:
    judged, units = page.judged, page.units
    near = [p for p in judged.places.values() if p.verdict and p.verdict.verdict.startswith("undecided")]
    forms = [line.name.lower() for line in judged.lines if line.judged and line.judged.verdict == "undecided-high"]
    what = f"{len(near)} of {len(judged.places)} places" if near else ", ".join(forms)
    ways: list[tuple[str, str, bool]] = [
        ("Measure again", "more repeats at these places shrink the doubt", True),
        ("Finer gauge", f"the doubt is {units.planned(judged.expanded_mm)}; a smaller error limit would prove it", True),
        ("Accept as it is", "no: not proven", False),
    ]
    return f"{what[:1].upper()}{what[1:]} too near a limit to call.", ways, units.planned(judged.expanded_mm), "Doubt, either side"


def _reason_missing(page: JobPage) -> Reason:
    missing = page.judged.missing
    return (f"Missing: {missing[0]}.", [("Measure", what, True) for what in missing], "", "")


_REASONS = {
    "in": _reason_in, "metal-left": _reason_left, "over": _reason_over, "not-proven": _reason_near,
    "incomplete": _reason_missing,
}  # fmt: skip


def signed_verdict(page: JobPage, at: datetime) -> dict[str, Any]:
    """What is frozen under the lead's name: verdict, deciding sizes, doubt, form, run-out."""
    judged = page.judged
    smallest, largest = _extremes(page)
    return {
        "word": judged.word,
        "at": at.isoformat(),
        "rule": "guarded",
        "smallest_mm": smallest.measured.value_mm if smallest.measured else None,
        "largest_mm": largest.measured.value_mm if largest.measured else None,
        "expanded_mm": judged.expanded_mm,
        "lower_mm": float(page.job.setup.bore.lower_mm),
        "upper_mm": float(page.job.setup.bore.upper_mm),
        "lines": [
            {"name": line.name, "found_mm": line.found_mm, "allowed_mm": line.allowed_mm} for line in judged.lines
        ],
    }

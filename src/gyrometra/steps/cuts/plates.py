"""Plates and rows of Cuts: speeds, passes, the first dial."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from gyrocore import INTERRUPTED_SHARE, Speed, sentence
from gyrodraw import lever_gate
from gyrometra.bridge.units import Units
from gyrometra.jobs.models import Interruption
from gyrometra.steps.cuts.depth import depth_plate
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import Because, Plate
from gyrometra.steps.shared.setting import at_words, setting_column, setting_plate, setting_words, stands_words
from gyroplan.assess import Figure, PlannedPass, minutes_of, pockets_of
from gyroplan.loop import AdvanceWay, DialWay


@dataclass(frozen=True, kw_only=True)
class PassLine:
    """One pass in the list."""

    number: str
    kind: str
    depth: str
    size: str
    dial: str
    at: str
    rpm: str
    feed: str
    minutes: str
    measure: bool
    done: bool
    #: What it measured; empty where it was not measured.
    came: str = ""


def pass_rows(page: JobPage) -> list[PassLine]:
    """The passes with their settings; a long run of equal roughing stands on one line.

    Only where each is set by the same move: a reading over the bar, a step gauge or a micrometer differs from pass to
    pass, and each is told.
    """
    rows: list[PassLine] = []
    alike = isinstance(page.passes.by.way, DialWay | AdvanceWay)
    for bundle in bundles(page.speeds.planned):
        together = alike and len(bundle) >= BUNDLE
        rows += [_pass_line(bundle, page)] if together else [_pass_line([row], page) for row in bundle]
    return rows


#: So many equal passes in a run stand together; fewer are listed one by one.
BUNDLE = 5
BREAKS = dict(Interruption.Kind.choices)
#: So many speeds in pockets are named.
MOST_POCKETS = 6


def bundles(planned: Sequence[PlannedPass]) -> list[list[PlannedPass]]:
    """Runs of equal passes that nothing is measured between."""
    runs: list[list[PlannedPass]] = []
    for row in planned:
        last = runs[-1][-1] if runs else None
        if last is not None and not last.cut.measure_after and _alike(last, row):
            runs[-1].append(row)
        else:
            runs.append([row])
    return runs


def _alike(one: PlannedPass, other: PlannedPass) -> bool:
    same_depth = abs(one.cut.depth_mm - other.cut.depth_mm) < 1e-9
    return one.cut.kind == other.cut.kind == "rough" and same_depth and not other.cut.measure_after


def _pass_line(rows: Sequence[PlannedPass], page: JobPage) -> PassLine:
    units, first, last = page.units, rows[0], rows[-1]
    setting = _setting_words(first, page)
    times = [row.time.minutes for row in rows if row.time]
    many = len(rows) > 1
    return PassLine(
        number=f"{first.cut.number} to {last.cut.number}" if many else str(first.cut.number),
        kind=first.cut.kind,
        depth=units.planned(first.cut.depth_mm),
        size=f"{units.planned(first.cut.diameter_mm)} to {units.planned(last.cut.diameter_mm)}" if many
        else units.planned(last.cut.diameter_mm),
        dial=f"{setting}, each" if many else setting,
        at=at_words(last.setting),
        rpm=f"{first.rpm:.0f}" if first.rpm else "",
        feed=units.plain(first.feed_mm_rev),
        minutes=f"{sum(times):.1f}" if times else "",
        measure=last.cut.measure_after,
        done=last.cut.number <= len(page.passes.done),
        came=_came(last.cut.number, page),
    )  # fmt: skip


def _came(number: int, page: JobPage) -> str:
    cut = next((one for one in page.passes.done if one.number == number), None)
    return "" if cut is None or cut.measured_mm is None else page.units.planned(cut.measured_mm)


def _setting_words(row: PlannedPass, page: JobPage) -> str:
    """The setting of a pass: told, as it stands where it is set, or left."""
    state = page.passes.state
    if row.setting.told is None and row.cut.kind != "spring" and state and state.stands_at is not None:
        return f"set, stands at {stands_words(row.setting.way, state.stands_at, page.units)}"
    return setting_words(row.setting, page.units)


def cut_totals(page: JobPage) -> dict[str, Any]:
    """Under the list: total time, roughness, notes."""
    units, ra, rough = page.units, page.speeds.finish_left, page.speeds.rough_left
    return {
        "minutes": f"{page.speeds.minutes:.1f}" if page.speeds.minutes else "",
        **_batch(page),
        "ra": f"{ra.ra_um:.2f}" if ra else "",
        "ra_rough": f"{rough.ra_um:.1f}" if rough else "",
        "column": setting_column(page),
        "copied": _copied_words(page),
        "has_dial": isinstance(page.passes.by.way, DialWay),
        "power": _power_words(page),
        "pockets": _pocket_words(page),
        "interrupted": _interrupted_words(page),
        "notes": [sentence(n, units.unit) for n in (page.passes.plan.value.notes if page.passes.plan.value else ())],
    }


def _copied_words(page: JobPage) -> str:
    """How soon an eccentric or oval hole is bored round: the bar copies a share of its swing at each pass."""
    found = page.boring.copied
    if found is None or page.passes.done:
        return ""
    units, limit = page.units, page.units.fine(page.bore.runout_limit_mm)
    return (
        f"The first cut swings {units.planned(found.swing_mm)} round the wall; each pass leaves "
        f"{100 * found.share:.1f} % of it, so pass {found.round_at} is within {limit}."
    )


def _power_words(page: JobPage) -> str:
    """The hardest pass against the machine's drive."""
    found, drive = page.speeds.power.value, page.at.machine.drive
    if found is None or drive is None:
        return ""
    torque = f", torque {found.torque_nm:.0f} N m" + (f" of {drive.torque_nm:.0f}" if drive.torque_nm else "")
    return (
        f"Heaviest pass: {found.power_w / 1000:.2f} of {drive.power_w / 1000:g} kW at the spindle{torque}; "
        f"power allows {page.units.about(found.deepest_mm, 3)} deep."
    )


def _pocket_words(page: JobPage) -> str:
    """Which of the machine's speeds lie between chatter lobes."""
    found, frequency, units = pockets_of(page.passes, page.bar).value, page.bar.frequency_hz, page.units
    if found is None or frequency is None:
        return ""
    words = f"Natural frequency {frequency:.0f} Hz. "
    if found.least_limit_mm is None:
        return f"{words}No depth up to ten times this cut chatters at any speed."
    speeds = ", ".join(
        f"{p.speed_rpm:.0f} rpm {_to_depth(p.limit_depth_mm, units)}" for p in found.pockets[:MOST_POCKETS]
    )
    begins = f"At the worst speed chatter begins at {units.about(found.least_limit_mm)} deep. "
    return f"{words}{begins}{sentence(found.notes[0], units.unit)}" + (f" {speeds}." if speeds else "")


def _to_depth(limit_mm: float | None, units: Units) -> str:
    return "at no depth of use" if limit_mm is None else f"from {units.about(limit_mm)} deep"


def _interrupted_words(page: JobPage) -> str:
    breaks = [BREAKS[broken.kind] for broken in page.bore.breaks]
    if not breaks:
        return ""
    return (
        f"Interrupted by {', '.join(breaks)}: speeds are {100 * INTERRUPTED_SHARE:.0f} % of the material's, since the "
        "edge is struck at every turn. Your own figure overrides it."
    )


@dataclass(frozen=True, kw_only=True)
class ProvenRow:
    """A surface speed that cut well: the field it fills, and the figure."""

    field: str
    value: str
    words: str


def proven_rows(page: JobPage) -> list[ProvenRow]:
    """Speeds that ran quiet and clean in this material with this cutter, the newest of each stage."""
    rows = []
    for found in page.proven:
        stage = "rough" if found.is_roughing else "finish"
        own = page.at.plan.rough_speed_m_min if stage == "rough" else page.at.plan.finish_speed_m_min
        speed = page.units.surface_speed(round(found.speed_m_min))
        if own is not None and page.units.surface_speed(round(own)) == speed:
            continue
        rows.append(
            ProvenRow(field=f"{stage}_speed_m_min", value=speed,
                      words=f"{speed}, {'roughing' if found.is_roughing else 'finishing'}: quiet and clean at "
                            f"Ø{page.units.planned(found.diameter_mm)}, {found.rpm:.0f} rpm in {found.job}")
        )  # fmt: skip
    return rows


def _batch(page: JobPage) -> dict[str, str]:
    """All bores of the piece, and of all pieces, in hours where that reads better; under feed only."""
    total, pieces, several = minutes_of(page.assessment, page.piece), page.job.quantity, page.is_several
    if not total or (not several and pieces == 1):
        return {"job_time": "", "batch_time": ""}
    return {
        "job_time": _time_words(total) if several else "",
        "batch_time": f"{_time_words(total * pieces)} for {pieces} pieces" if pieces > 1 else "",
    }


def _time_words(minutes: float) -> str:
    return f"{minutes:.0f} min" if minutes < 120 else f"{minutes / 60:.1f} h"


def cuts(page: JobPage) -> list[Plate]:
    """Roughing speed, finishing speed, first setting; the depth stop of a counterbore."""
    plates = [
        _speed_plate("Spindle, roughing", page.speeds.rough, "rough", page),
        _speed_plate("Spindle, finishing", page.speeds.finish, "finish", page),
        first_dial(page),
    ]
    return [*plates, depth_plate(page)] if page.bore.ends == "shoulder" else plates


def spindle_plate(page: JobPage) -> Plate:
    """The roughing speed, else the finishing speed where nothing is roughed."""
    if page.speeds.rough.value is None and page.speeds.finish.value is not None:
        return _speed_plate("Spindle", page.speeds.finish, "finish", page)
    return _speed_plate("Spindle", page.speeds.rough, "rough", page)


_SPEED_NEEDS = {
    "cutter": "the cutter", "pass": "a pass of this kind",
    "cap": "max rpm: how fast may it turn unbalanced? Give it here, or on the machine's card",
}  # fmt: skip


def _speed_plate(label: str, figure: Figure[Speed], stage: str, page: JobPage) -> Plate:
    units, speed = page.units, figure.value
    if speed is None:
        return Plate(label=label, governs="Missing:", reason=_SPEED_NEEDS.get(figure.missing, "a speed that fits"))
    lever = page.at.machine.lever_for(speed.set_rpm)
    wanted = page.speeds.wanted(stage) or 0.0
    over = speed.set_rpm > speed.exact_rpm * (1 + 1e-9)
    weak = (
        page.speeds.power.value
        if stage == "rough" and page.speeds.power.value and not page.speeds.power.value.holds
        else None
    )
    words = (
        f"lever {lever} = {speed.set_rpm:.0f} rpm" if lever else f"{speed.set_rpm:.0f} rpm",
        f"{100 * (speed.set_rpm / speed.exact_rpm - 1):.1f} % over" if over else "",
    )
    return Plate(
        label=label,
        number=f"{speed.set_rpm:.0f}",
        unit="rpm",
        scene=lever_gate([s.lever for s in page.at.machine.speeds], lever) if lever else None,
        words=[word for word in words if word],
        governs=f"Do not run. {weak.governs.capitalize()}:" if weak else _speed_governor(speed, page),
        reason=f"{100 * weak.share:.0f} % of the machine's; {units.about(weak.deepest_mm, 3)} deep is the most"
        if weak
        else f"{units.surface_speed(wanted)} asks {speed.exact_rpm:.0f}",
        state="bad" if weak else "plain",
        because=Because(
            formula="n = 1000 v / (pi D), then the machine's next speed down, never over the cap",
            inputs=[
                ("surface speed", units.surface_speed(wanted)),
                ("at this speed", units.surface_speed(speed.surface_speed_at_set_m_min)),
                ("four-times rule says", f"{speed.rule_of_thumb_rpm:.0f} rpm"),
                *(_power_inputs(page) if stage == "rough" else ()),
                *((sentence(n, units.unit), "") for n in speed.notes),
            ],
            source=f"Speed: {page.record.material.source}.",
        ),
    )


def _power_inputs(page: JobPage) -> list[tuple[str, str]]:
    """Power and torque behind the roughing speed, with their formula; nothing where the drive is not known."""
    found, drive = page.speeds.power.value, page.at.machine.drive
    if found is None or drive is None:
        return []
    most = f" of {drive.torque_nm:.0f}" if drive.torque_nm else ""
    return [
        ("power = kc a f v / 60", f"{found.power_w:.0f} of {drive.power_w:.0f} W"),
        ("torque = kc a f D / 2000", f"{found.torque_nm:.1f}{most} N m"),
        *((sentence(n, page.units.unit), "") for n in found.notes),
    ]  # fmt: skip


def _speed_governor(speed: Speed, page: JobPage) -> str:
    code = speed.notes[0].code
    if code == "cap_governs":
        return f"Limited by max rpm {page.speeds.cap_rpm:.0f}:"
    return "Slowest speed, still over:" if code == "slowest_is_over" else "Limited by the cutter:"


def first_dial(page: JobPage) -> Plate:
    if not page.speeds.planned:
        return Plate(label="First cut, bore to", governs="Missing:", reason="the bore as found")
    state, done = page.passes.state, len(page.passes.done)
    if state is not None and state.phase == "over":
        return Plate(
            label="Over: stop", number=page.units.planned(page.passes.over_mm), unit=page.units.label,
            governs="On diameter:", reason="past the top limit; see Bore", state="bad",
        )  # fmt: skip
    if done >= len(page.speeds.planned):
        return Plate(label="Every pass is cut", governs="Bored:", reason=f"Ø{page.units.planned(page.passes.known_mm)}")
    following = page.speeds.planned[done]
    label = f"Pass {following.cut.number}, bore to" if done else "First cut, bore to"
    if following.setting.told is None and following.cut.kind != "spring":
        stands = stands_words(following.setting.way, state.stands_at if state else None, page.units)
        return Plate(label=label, number=page.units.planned(following.cut.diameter_mm), prefix="Ø",
                     words=(f"stands at {stands}" if stands else "is set",), governs="Set:",
                     reason="cut it, then measure" if following.cut.measure_after else "cut it")  # fmt: skip
    return setting_plate(label, following.setting, page, "from here" if done else "from touch")

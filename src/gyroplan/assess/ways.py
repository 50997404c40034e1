"""The methods of boring for this work side by side: which the shop's machines and bars allow, how stiff, how long."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from gyrocore import BEARING_CLEAR_MM, InvalidInput, Method, cut_time, line_bar_layout, methods
from gyroplan.assess.at import AtBore
from gyroplan.assess.bars import enters, reach_of
from gyroplan.assess.centres import layout_of, response_at
from gyroplan.assess.figure import found_or_refused
from gyroplan.assess.lines import bar_in_line, bores_in_line, response_of
from gyroplan.assess.passes import Passes
from gyroplan.assess.speeds import machine_speed, wanted_speed
from gyroplan.record import BarRecord, MachineRecord


@dataclass(frozen=True, slots=True, kw_only=True)
class WayFit:
    """One method: whether the shop can do it here, with what, how stiff and how long."""

    way: Method
    machines: tuple[str, ...]
    #: The crib's bars for it, and how many of them fit and reach.
    bars: int
    fitting: int
    #: several, machine, bar, fit; empty where it can be done.
    reason: str
    #: At the cutter, of the stiffest bar that fits; None where it is not known [N/mm].
    stiffness_n_mm: float | None
    #: All passes under feed on the quickest machine; None where it is not known.
    minutes: float | None


def ways_of(passes: Passes, machines: Sequence[MachineRecord], crib: Sequence[BarRecord]) -> list[WayFit]:
    """Return all methods of boring, with the reason where one cannot be done."""
    minutes = {machine.name: _minutes(passes, machine) for machine in machines}
    return [_way(passes.at, way, machines, crib, minutes) for way in methods().values()]


def _way(
    at: AtBore, way: Method, machines: Sequence[MachineRecord], crib: Sequence[BarRecord],
    minutes: dict[str, float | None],
) -> WayFit:  # fmt: skip
    able = [machine for machine in machines if machine.kind in way.machines]
    bars = [bar for bar in crib if bar.method == way.bars]
    fits = [bar for bar in bars if enters(at, bar) and reaches(at, bar, way, able)]
    reason = _reason(at, way, able, bars, fits)
    times = [minutes[machine.name] for machine in able]
    stiff = [found for found in (_stiffness(at, way, bar) for bar in fits) if found is not None]
    return WayFit(
        way=way, machines=tuple(machine.name for machine in able), bars=len(bars), fitting=len(fits), reason=reason,
        stiffness_n_mm=max(stiff, default=None) if not reason else None,
        minutes=min((time for time in times if time is not None), default=None) if not reason else None,
    )  # fmt: skip


def _reason(
    at: AtBore, way: Method, able: Sequence[MachineRecord], bars: Sequence[BarRecord], fits: Sequence[BarRecord]
) -> str:
    if at.setup.is_several and not way.several:
        return "several"
    if not able:
        return "machine"
    if not bars:
        return "bar"
    return "fit" if at.start_mm is not None and not fits else ""


def reaches(at: AtBore, bar: BarRecord, way: Method, machines: Sequence[MachineRecord]) -> bool:
    """Whether a bar reaches through the bore, past all bores with its stroke, or past both ends on some machine."""
    if way.bar_in == "bearings":
        return _covers(at, bar, way)
    if way.bar_in == "centres":
        return any(_stands_between(at, bar, machine) for machine in machines)
    reach = reach_of(at).value
    return reach is None or bar.reach_mm >= reach.reach_mm - 1e-9


def _bearings(at: AtBore, way: Method) -> tuple[float, ...]:
    """Where the bearings stand; where this method is not the one planned, one on either side of the line."""
    if at.setup.method == way.key and len(at.plan.bearings_mm) >= 2:
        return at.plan.bearings_mm
    first, last = min(bore.start_mm for bore in at.setup.bores), max(bore.end_mm for bore in at.setup.bores)
    return (first - BEARING_CLEAR_MM, last + BEARING_CLEAR_MM)


def _covers(at: AtBore, bar: BarRecord, way: Method) -> bool:
    try:
        layout = line_bar_layout(
            bar=bar_in_line(bar), bores=bores_in_line(at, _bearings(at, way)), bearings_mm=_bearings(at, way)
        )  # fmt: skip
    except InvalidInput:
        return False
    return bar.length_mm >= layout.least_bar_length_mm - 1e-9


def _stands_between(at: AtBore, bar: BarRecord, machine: MachineRecord) -> bool:
    try:
        on = replace(at, record=replace(at.record, setup=replace(at.setup, machine=machine)))
        return layout_of(on, bar).ok
    except InvalidInput:
        return False


def _stiffness(at: AtBore, way: Method, bar: BarRecord) -> float | None:
    """At the cutter: as it would stand out, at the softest bore of the line, or in the middle between its centres."""
    if way.bar_in == "bearings":
        response = found_or_refused(lambda: response_of(at, bar, _bearings(at, way))).value
        rows = response.rows if response else ()
        return min((row.stiffness_n_mm for row in rows if row.stiffness_n_mm), default=None)
    if way.bar_in == "centres":
        return response_at(bar, bar.length_mm / 2).stiffness_n_mm
    reach = reach_of(at).value
    out = bar.reach_mm if bar.is_fixed else reach.reach_mm if reach else None
    if out is None or out > bar.reach_mm + 1e-9:
        return None
    found = found_or_refused(lambda: bar.stands_out(out)).value
    return found.response.stiffness_n_mm if found else None


def _minutes(passes: Passes, machine: MachineRecord) -> float | None:
    """All passes of this bore at the speeds that this machine has under its cap, under feed."""
    at, total = passes.at, 0.0
    cap = min((one for one in (machine.unbalanced_max_rpm, at.plan.max_rpm) if one), default=None)
    wanted = {stage: wanted_speed(at, stage) for stage in ("rough", "finish")}
    for cut in passes.every:
        speed = wanted["rough" if cut.kind in ("rough", "test") else "finish"]
        if speed is None or not machine.speeds:
            return None
        found = machine_speed(machine, cut.diameter_mm, speed, cap)
        time = cut_time(
            length_mm=at.bored_mm, feed_mm_rev=at.feed_of(cut), rpm=found.set_rpm, overrun_mm=at.overrun_mm
        )  # fmt: skip
        total += time.minutes
    return total or None

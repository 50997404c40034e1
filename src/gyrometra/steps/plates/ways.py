"""The ways of boring that the shop's machines allow for this work, side by side."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from gyrocore import Method, cut_time, method, methods, middle_stiffness_n_mm, second_moment_mm4
from gyrometra.crib.models import Bar, Machine
from gyrometra.jobs.reckon import machine_speed
from gyrometra.steps.page import JobPage


@dataclass(frozen=True, kw_only=True)
class WayRow:
    """One way: who holds the axis, what is trued, and whether the shop can do it here."""

    key: str
    label: str
    axis: str
    trued: str
    faults: str
    can: bool
    picked: bool
    words: str
    #: Stiffest bar that enters, and time under feed at the speeds of the machine; empty where not known.
    compare: str


def ways(page: JobPage) -> list[WayRow]:
    """All ways, with the reason where one cannot be done."""
    machines = list(Machine.objects.filter(retired=False).prefetch_related("speeds"))
    times = {machine.pk: _minutes(machine, page) for machine in machines}
    return [_way(way, machines, times, page) for way in methods().values()]


def _way(way: Method, machines: list[Machine], times: Mapping[int, float | None], page: JobPage) -> WayRow:
    able = [machine for machine in machines if machine.kind in way.machines]
    bars = [bar for bar in page.bars if bar.method == way.bars]
    reason = _cannot(way, able, bars, page)
    fits = _fitting(bars, page)
    longest = f", {len(fits)} of {len(bars)} bars fit and reach" if page.reckoning.start_mm else ""
    return WayRow(
        key=way.key, label=way.label, axis=way.axis, trued=way.trued, faults=way.faults, can=not reason,
        picked=way.key == page.job.setup.method,
        words=reason or f"on {', '.join(machine.name for machine in able)}{longest}",
        compare="" if reason else _compare(way, [times[machine.pk] for machine in able], fits, page),
    )  # fmt: skip


def _compare(way: Method, times: Sequence[float | None], fits: list[Bar], page: JobPage) -> str:
    """Stiffness of the stoutest bar that enters, and how long all passes take on the quickest machine."""
    parts = []
    stiffest = max((_stiffness(way, bar, page) for bar in fits), default=0.0)
    if stiffest > 0:
        figure = f"{stiffest / 1000:.1f}" if stiffest < 100_000 else "over 100"
        parts.append(f"{figure} N/µm with the stiffest")
    known = [minutes for minutes in times if minutes is not None]
    if known:
        parts.append(f"{min(known):.0f} min cutting time")
    return ", ".join(parts)


def _stiffness(way: Method, bar: Bar, page: JobPage) -> float:
    """At the cutter: as it would stand out, or in the middle between its ends."""
    reach = page.reckoning.reach
    if way.bar_in in ("bearings", "centres"):
        bending = 1000 * bar.material.youngs_modulus_gpa * second_moment_mm4(float(bar.diameter_mm))
        return middle_stiffness_n_mm(bending, float(bar.length_mm))
    out = bar.reach_mm if bar.is_fixed else reach.reach_mm if reach else None
    if out is None or out > bar.reach_mm + 1e-9:
        return 0.0
    return bar.stands_out(out).response.stiffness_n_mm or 0.0


def _minutes(machine: Machine, page: JobPage) -> float | None:
    """All passes of this bore at the speeds that this machine has under its cap, under feed."""
    reckoning, total = page.reckoning, 0.0
    caps = [float(cap) for cap in (machine.unbalanced_max_rpm, reckoning.plan.max_rpm) if cap]
    for row in reckoning.planned:
        speed = reckoning.surface_speed("rough" if row.is_roughing else "finish")
        if speed is None:
            return None
        found = machine_speed(machine, row.cut.diameter_mm, speed, min(caps, default=None))
        time = cut_time(length_mm=float(page.bore.length_mm), feed_mm_rev=row.feed_mm_rev, rpm=found.set_rpm,
                        overrun_mm=reckoning.overrun_mm)  # fmt: skip
        total += time.minutes
    return total or None


def _cannot(way: Method, able: list[Machine], bars: list[Bar], page: JobPage) -> str:
    if len(page.bores) > 1 and not way.several:
        return f"bores one bore at a set-up; there are {len(page.bores)} in line"
    if not able:
        kinds = " or ".join(str(Machine.Kind(kind).label) for kind in way.machines)
        return f"the crib has no {kinds}"
    if not bars:
        return "the crib has no bar for it"
    if page.reckoning.start_mm is not None and not _fitting(bars, page):
        return "no bar for it fits and reaches"
    return ""


def _fitting(bars: list[Bar], page: JobPage) -> list[Bar]:
    return [bar for bar in bars if _enters(bar, page) and _reaches(bar, page)]


def _enters(bar: Bar, page: JobPage) -> bool:
    start = page.reckoning.start_mm
    return start is not None and float(bar.min_bore_mm) <= start


def _reaches(bar: Bar, page: JobPage) -> bool:
    """A bar that is held at one end reaches through the bore; one held at both has its own lay-out to say."""
    reach = page.reckoning.reach
    held_at_both = method(bar.method).bar_in in ("bearings", "centres")
    return held_at_both or reach is None or bar.reach_mm >= reach.reach_mm - 1e-9

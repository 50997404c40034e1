"""The ways of boring that the shop's machines allow for this work, side by side."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import Method, methods
from gyrometra.crib.models import Bar, Machine
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


def ways(page: JobPage) -> list[WayRow]:
    """All ways, with the reason where one cannot be done."""
    machines = list(Machine.objects.filter(retired=False).values_list("kind", "name"))
    return [_way(way, machines, page) for way in methods().values()]


def _way(way: Method, machines: list[tuple[str, str]], page: JobPage) -> WayRow:
    able = [name for kind, name in machines if kind in way.machines]
    bars = [bar for bar in page.bars if bar.method == way.key]
    reason = _cannot(way, able, bars, page)
    fits = _fitting(bars, page)
    longest = f", {len(fits)} of {len(bars)} bars enter the bore" if page.reckoning.start_mm else ""
    return WayRow(
        key=way.key, label=way.label, axis=way.axis, trued=way.trued, faults=way.faults, can=not reason,
        picked=way.key == page.job.setup.method, words=reason or f"on {', '.join(able)}{longest}",
    )  # fmt: skip


def _cannot(way: Method, able: list[str], bars: list[Bar], page: JobPage) -> str:
    if len(page.bores) > 1 and not way.several:
        return f"bores one bore at a set-up; there are {len(page.bores)} in line"
    if not able:
        kinds = " or ".join(str(Machine.Kind(kind).label) for kind in way.machines)
        return f"the crib has no {kinds}"
    if not bars:
        return "the crib has no bar for it"
    if page.reckoning.start_mm is not None and not _fitting(bars, page):
        return "no bar for it enters the bore"
    return ""


def _fitting(bars: list[Bar], page: JobPage) -> list[Bar]:
    start = page.reckoning.start_mm
    return [bar for bar in bars if start is not None and float(bar.min_bore_mm) <= start]

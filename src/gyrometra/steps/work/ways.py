"""The methods of boring that the shop's machines allow for this work, side by side."""

from __future__ import annotations

from dataclasses import dataclass

from gyrometra.crib.models import Machine
from gyrometra.crib.records import machine_record
from gyrometra.steps.page import JobPage
from gyroplan.assess import WayFit, ways_of


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
    """All methods, with the reason where one cannot be done."""
    rows = Machine.objects.filter(retired=False).prefetch_related("speeds")
    machines = [page.record.setup.machine] if page.is_signed else [machine_record(one) for one in rows]
    return [_row(found, page) for found in ways_of(page.passes, machines, page.crib_bars)]


def _row(found: WayFit, page: JobPage) -> WayRow:
    way = found.way
    longest = f", {found.fitting} of {found.bars} bars fit and reach" if page.at.start_mm else ""
    return WayRow(
        key=way.key, label=way.label, axis=way.axis, trued=way.trued, faults=way.faults, can=not found.reason,
        picked=way.key == page.record.setup.method,
        words=_reason_words(found, page) or f"on {', '.join(found.machines)}{longest}",
        compare=", ".join(_compared(found)),
    )  # fmt: skip


def _reason_words(found: WayFit, page: JobPage) -> str:
    kinds = " or ".join(str(Machine.Kind(kind).label) for kind in found.way.machines)
    return {
        "": "",
        "several": f"bores one bore at a set-up; there are {len(page.bores)} in line",
        "machine": f"the crib has no {kinds}",
        "bar": "the crib has no bar for it",
        "fit": "no bar for it fits and reaches",
    }[found.reason]


def _compared(found: WayFit) -> list[str]:
    """Stiffness of the stiffest bar that fits, and how long all passes take on the quickest machine."""
    parts = []
    if found.stiffness_n_mm:
        figure = f"{found.stiffness_n_mm / 1000:.1f}" if found.stiffness_n_mm < 100_000 else "over 100"
        parts.append(f"{figure} N/µm with the stiffest")
    return [*parts, f"{found.minutes:.0f} min cutting time"] if found.minutes is not None else parts

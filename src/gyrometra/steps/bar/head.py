"""Plate and rows of a boring head: which hole, and what it reaches."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import error_sentence, sentence
from gyrometra.bridge.units import Units
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import Because, Plate
from gyroplan.assess import HoleFit, Holes


@dataclass(frozen=True, kw_only=True)
class HoleRow:
    """One hole in the list."""

    hole: str
    reaches: str
    least_hole: str
    state: str
    words: str


def hole_rows(page: JobPage) -> list[HoleRow]:
    """The head's holes, nearest the axis first."""
    holes = page.bar.holes.value
    return [] if holes is None else [_row(row, row is holes.picked, page) for row in holes.rows]


def _row(row: HoleFit, picked: bool, page: JobPage) -> HoleRow:
    units = page.units
    reaches = least = ""
    if row.smallest_mm is not None and row.largest_mm is not None and row.least_hole_mm is not None:
        reaches = f"Ø{units.planned(row.smallest_mm)} to {units.planned(row.largest_mm)}"
        least = f"Ø{units.planned(row.least_hole_mm)}"
    state = "pick" if picked else "ok" if row.will_do else "out"
    return HoleRow(
        hole=row.hole, reaches=reaches, least_hole=least, state=state,
        words=_reason(row, page, units) or ("use this one" if picked else "OK, farther out"),
    )  # fmt: skip


def _reason(row: HoleFit, page: JobPage, units: Units) -> str:
    start = page.at.start_mm
    return {
        "": "",
        "touches": "the heel touches over the whole travel",
        "short": "does not reach the finished size",
        "wide": "cannot reach down to the first cut",
        "tight": f"the hole there now, Ø{units.planned(start) if start else '?'}, is too small for its heel",
    }[row.reason]


def hole_plate(page: JobPage) -> Plate:
    """Which hole the bar goes into."""
    label = "Put the bar into hole"
    figure, units, plan = page.bar.holes, page.units, page.at.plan
    found = figure.value
    if found is None:
        missing = "the boring head" if figure.missing == "head" else "a bar for it"
        why = missing if figure.refused is None else error_sentence(figure.refused, units.unit)
        return Plate(label=label, governs="Missing:" if figure.refused is None else "Refused:", reason=why)
    picked = found.picked
    because = Because(
        formula="tip cuts at x + t; heel sweeps |x| + d/2 and must stay under it by the clearance",
        inputs=[
            (
                "tip from the bar's own centre",
                units.plain(page.at.bar.tip_mm or 0) if page.at.bar else "",
            ),
            ("stands out behind the axis", units.plain(page.at.bar.tail_mm) if page.at.bar else ""),
            ("room behind the heel", units.plain(plan.head.clearance_mm) if plan.head else ""),
            ("slide travel", units.plain(plan.head.slide_travel_mm) if plan.head else ""),
            *((sentence(n, units.unit), "") for n in found.notes),
        ],
        source="Derived from the circles that tip and heel sweep.",
    )
    if picked is None and found.changes:
        return _changing(label, found, because)
    if picked is None:
        return Plate(label=label, governs="Do not run. No hole reaches:", reason="another bar, or another head",
                     state="bad", because=because)  # fmt: skip
    reaches = f"Ø{units.planned(picked.smallest_mm or 0)} to {units.planned(picked.largest_mm or 0)}"
    return Plate(
        label=label,
        number=picked.hole,
        words=(f"reaches {reaches}", f"needs a hole of Ø{units.planned(picked.least_hole_mm or 0)} first"),
        governs="Hole nearest the centre:",
        reason="the hole nearest the axis that reaches every size",
        because=because,
    )


def _changing(label: str, found: Holes, because: Because) -> Plate:
    """No hole does for every pass: which hole for which passes, and what a change asks for."""
    parts = [f"{hole}: pass {first}" + (f" to {last}" if last != first else "") for first, last, hole in found.changes]
    return Plate(
        label=label, number=", then ".join(dict.fromkeys(hole for _, _, hole in found.changes)),
        words=tuple(parts), governs="No hole reaches every size:",
        reason="after the change the tip stands anew: touch off, and measure the pass before", state="warn",
        because=because,
    )  # fmt: skip

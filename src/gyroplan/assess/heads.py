"""A bar in a boring head: which hole reaches every size of the plan."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore import Note, head_range
from gyroplan.assess.figure import Figure, found_or_refused
from gyroplan.assess.passes import Passes


@dataclass(frozen=True, slots=True, kw_only=True)
class HoleFit:
    """One hole: what it reaches, and why it will not do here; `reason` is empty where it does [mm]."""

    hole: str
    smallest_mm: float | None
    largest_mm: float | None
    least_hole_mm: float | None
    #: touches, short, wide, tight; empty where every size of the plan can be cut from it.
    reason: str

    @property
    def will_do(self) -> bool:
        """Whether every size of the plan can be cut from this hole."""
        return not self.reason


@dataclass(frozen=True, slots=True, kw_only=True)
class Holes:
    """The holes of a head, nearest the axis first."""

    rows: tuple[HoleFit, ...]
    notes: tuple[Note, ...]
    #: Where no hole does for all passes: each stretch of passes with its hole, (first, last, hole); empty where even
    #: changing holes does not reach them all.
    changes: tuple[tuple[int, int, str], ...] = ()

    @property
    def picked(self) -> HoleFit | None:
        """The hole to use: the one nearest the axis that does, for it swings least."""
        return next((row for row in self.rows if row.will_do), None)


def holes_of(passes: Passes) -> Figure[Holes]:
    """Every hole against the first and the last size of the plan, and the hole that is there now."""
    bar, head = passes.at.bar, passes.at.plan.head
    if head is None:
        return Figure(missing="head")
    if bar is None or bar.tip_mm is None:
        return Figure(missing="bar")
    found = found_or_refused(
        lambda: head_range(
            bar=bar.head_bar,
            offsets_mm=list(head.holes),
            slide_travel_mm=head.slide_travel_mm,
            clearance_mm=head.clearance_mm,
        )
    )
    if found.value is None:
        return Figure(refused=found.refused)
    sizes = [cut.diameter_mm for cut in passes.every]
    rows = tuple(
        HoleFit(
            hole=str(row.hole), smallest_mm=row.smallest_mm, largest_mm=row.largest_mm,
            least_hole_mm=row.least_hole_mm,
            reason=_reason(sizes, passes.at.start_mm, row.smallest_mm, row.largest_mm, row.least_hole_mm),
        )
        for row in found.value.ranges
    )  # fmt: skip
    whole = any(row.will_do for row in rows)
    changes = (
        () if whole else _changes([(cut.number, cut.diameter_mm) for cut in passes.every], rows, passes.at.start_mm)
    )
    return Figure(Holes(rows=rows, notes=found.value.notes, changes=changes))


def _changes(
    cuts: Sequence[tuple[int, float]], rows: Sequence[HoleFit], start_mm: float | None
) -> tuple[tuple[int, int, str], ...]:
    """Each pass from the hole nearest the axis that reaches it, staying in one hole as long as it does."""
    found: list[tuple[int, int, str]] = []
    hole, there = "", start_mm
    for number, size in cuts:
        able = [row.hole for row in rows if not _reason([size], there, row.smallest_mm, row.largest_mm,
                                                        row.least_hole_mm)]  # fmt: skip
        if not able:
            return ()
        hole = hole if hole in able else able[0]
        if found and found[-1][2] == hole:
            found[-1] = (found[-1][0], number, hole)
        else:
            found.append((number, number, hole))
        there = size
    return tuple(found)


def _reason(
    sizes: Sequence[float], start_mm: float | None, smallest: float | None, largest: float | None, least: float | None
) -> str:
    if smallest is None or largest is None or least is None:
        return "touches"
    if sizes and max(sizes) > largest + 1e-9:
        return "short"
    if sizes and min(sizes) < smallest - 1e-9:
        return "wide"
    return "tight" if start_mm is not None and start_mm < least - 1e-9 else ""

"""What a bar in a boring head can reach, hole by hole, before its heel or tail touches."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore.checks import (
    TOLERANCE,
    require_finite,
    require_not_negative,
    require_positive,
    require_unique,
)
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

Hole = str | int


@dataclass(frozen=True, slots=True, kw_only=True)
class HeadHole:
    """A hole of the head: how far its centre lies off the spindle's axis with the slide home [mm]."""

    hole: Hole
    offset_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class HeadBar:
    """A bar for a head: shank, tip from its own centre, what stands out behind the axis [mm]."""

    shank_diameter_mm: float
    tip_projection_mm: float
    tail_mm: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class HoleRange:
    """Diameters one hole reaches, None where nothing fits, and the hole needed before the smallest cut [mm]."""

    hole: Hole
    smallest_mm: float | None
    largest_mm: float | None
    least_hole_mm: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class HeadRange:
    """One row a hole, in the order given."""

    ranges: tuple[HoleRange, ...]
    notes: tuple[Note, ...] = ()


def head_range(
    *, bar: HeadBar, offsets_mm: Sequence[HeadHole], slide_travel_mm: float, clearance_mm: float = 0.5
) -> HeadRange:
    """Return what a bar in a boring head reaches from each of the head's holes.

    Parameters
    ----------
    bar : shank and tip over 0, tail 0 or more [mm]
    offsets_mm : the holes, each name once, offsets either side of the axis [mm]
    slide_travel_mm : how far the slide moves out, 0 or more [mm]
    clearance_mm : room wanted behind the heel, on radius, 0 or more [mm]

    Returns
    -------
    HeadRange: diameters [mm], None where the heel or tail would touch over the whole travel

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds, with the hole's place in the list.

    Notes
    -----
    The bar's centre stands x off the axis, x from the hole's offset to offset + travel. The tip cuts at
    radius x + t; everything else sweeps s = max(|x| + d/2, tail) and must stay under x + t by the clearance c:
    tail + c - t <= x, and (d/2 + c - t)/2 <= x where t >= d/2 + c; with less tip than d/2 + c nothing fits.

    References
    ----------
    Derived here from the circles that tip, heel and tail sweep.

    Examples
    --------
    >>> bar = HeadBar(shank_diameter_mm=16, tip_projection_mm=11)
    >>> head_range(bar=bar, offsets_mm=[HeadHole(hole="1", offset_mm=0)], slide_travel_mm=20).ranges[0].largest_mm
    62
    """
    _require(bar, offsets_mm, slide_travel_mm, clearance_mm)
    rows = [_hole_range(bar, hole, slide_travel_mm, clearance_mm) for hole in offsets_mm]
    return HeadRange(ranges=tuple(rows), notes=_notes(bar, offsets_mm, rows, clearance_mm))


def _require(bar: HeadBar, holes: Sequence[HeadHole], travel_mm: float, clearance_mm: float) -> None:
    require_positive(shank_diameter_mm=bar.shank_diameter_mm, tip_projection_mm=bar.tip_projection_mm)
    if not holes:
        raise InvalidInput("offsets_mm", "empty")
    for place, hole in enumerate(holes):
        require_finite(**{f"offsets_mm.{place}.offset_mm": hole.offset_mm})
    require_unique("offsets_mm.*.hole", [hole.hole for hole in holes])
    require_not_negative(slide_travel_mm=travel_mm, clearance_mm=clearance_mm, tail_mm=bar.tail_mm)


def least_centre_mm(bar: HeadBar, clearance_mm: float) -> float | None:
    """Return the least distance of the bar's centre from the axis at which only the tip touches.

    Parameters
    ----------
    bar : shank, tip and tail [mm]
    clearance_mm : room wanted behind the heel, 0 or more [mm]

    Returns
    -------
    centre from the axis, negative is the far side; None where the tip stands out too little [mm]

    References
    ----------
    Derived in `head_range`.

    Examples
    --------
    >>> least_centre_mm(HeadBar(shank_diameter_mm=16, tip_projection_mm=11), 0.5)
    -1.25
    """
    heel = bar.shank_diameter_mm / 2 + clearance_mm - bar.tip_projection_mm
    if heel > TOLERANCE:
        return None
    return max(heel / 2, bar.tail_mm + clearance_mm - bar.tip_projection_mm)


def _hole_range(bar: HeadBar, hole: HeadHole, travel_mm: float, clearance_mm: float) -> HoleRange:
    least, out = least_centre_mm(bar, clearance_mm), hole.offset_mm + travel_mm
    if least is None or least > out + TOLERANCE:
        return HoleRange(hole=hole.hole, smallest_mm=None, largest_mm=None, least_hole_mm=None)
    centre = min(max(hole.offset_mm, least), out)
    sweep = max(abs(centre) + bar.shank_diameter_mm / 2, bar.tail_mm)
    return HoleRange(
        hole=hole.hole,
        smallest_mm=2 * (centre + bar.tip_projection_mm),
        largest_mm=2 * (out + bar.tip_projection_mm),
        least_hole_mm=2 * (sweep + clearance_mm),
    )


def _notes(bar: HeadBar, holes: Sequence[HeadHole], rows: Sequence[HoleRange], clearance_mm: float) -> tuple[Note, ...]:
    least = least_centre_mm(bar, clearance_mm)
    if least is None:
        needed = bar.shank_diameter_mm / 2 + clearance_mm
        return (note("heel_always_touches", tip_mm=bar.tip_projection_mm, needed_mm=needed),)
    tail_governs = bar.tail_mm + clearance_mm - bar.tip_projection_mm >= least - TOLERANCE and bar.tail_mm > 0
    part = "tail" if tail_governs else "heel"
    notes = []
    for hole, row in zip(holes, rows, strict=True):
        if row.smallest_mm is None:
            notes.append(note("hole_touches", hole=hole.hole, part=part))
        elif hole.offset_mm < least - TOLERANCE:
            notes.append(note("hole_touches_under", hole=hole.hole, part=part, smallest_mm=row.smallest_mm))
    return (*notes, note("least_hole_first"))

"""A pilot bar that runs in bores already cut: how far off its play lets a new bore lie."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from gyrocore.checks import TOLERANCE, require_finite, require_not_negative
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note
from gyrocore.planning.line_bar import BoreInLine


@dataclass(frozen=True, slots=True, kw_only=True)
class Guidance:
    """How far off the guides' axis each new bore may come, and the most the bar may lean in its guides."""

    rows: tuple[GuidedBore, ...]
    lean_mm_m: float
    worst_mm: float
    notes: tuple[Note, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class GuidedBore:
    """One bore: the most its axis may lie off at the worse of its ends, on radius [mm]."""

    bore: str
    off_mm: float


def pilot_guidance(*, guides_mm: Sequence[float], play_mm: float, bores: Sequence[BoreInLine]) -> Guidance:
    """Return how far off its guides' axis a pilot bar may bore.

    Parameters
    ----------
    guides_mm : places where the bar is guided, two or more different ones [mm]
    play_mm : bore of the guide less the bar, on diameter, 0 or more [mm]
    bores : the new bores along the same axis [mm]

    Returns
    -------
    Guidance [mm], [mm/m]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    The bar may lie anywhere within its play: off by half the play at each guide. A straight bar between the
    outermost two, a distance S apart, is off at z by at most play/2 (|1 - s| + |s|), s = (z - z1) / S: half the
    play between the guides, growing past them. The lean is play / S. Bending comes on top.

    References
    ----------
    Derived here: a straight line held within a gap at two places.

    Examples
    --------
    >>> bore = BoreInLine(name="new", start_mm=200, end_mm=300)
    >>> found = pilot_guidance(guides_mm=[0, 200], play_mm=0.02, bores=[bore])
    >>> round(found.rows[0].off_mm, 6), round(found.lean_mm_m, 6)
    (0.02, 0.1)
    """
    require_not_negative(play_mm=play_mm)
    require_finite(**{f"guides_mm.{place}": at for place, at in enumerate(guides_mm)})
    if not bores:
        raise InvalidInput("bores", "empty")
    first, last = min(guides_mm, default=0.0), max(guides_mm, default=0.0)
    if last - first <= TOLERANCE:
        raise InvalidInput("guides_mm", "two_bearings", given=len(guides_mm), count=len(guides_mm))
    span = last - first
    rows = []
    for bore in bores:
        ends = [(z - first) / span for z in (bore.start_mm, bore.end_mm)]
        off = play_mm / 2 * max(abs(1 - s) + abs(s) for s in ends)
        rows.append(GuidedBore(bore=bore.name, off_mm=off))
    worst = max(row.off_mm for row in rows)
    return Guidance(
        rows=tuple(rows),
        lean_mm_m=1000 * play_mm / span,
        worst_mm=worst,
        notes=(note("pilot_proves", off_mm=2 * worst),),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class PilotGuide:
    """A place where the bar is guided: bore of the guide less the bar, on diameter [mm]."""

    z_mm: float
    clearance_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PilotRow:
    """How far the bar's axis can lie from the guides' line at one place, on radius [mm]."""

    z_mm: float
    off_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Pilot:
    """Where a straight bar can lie within guides of unlike play, and the most it can lean."""

    rows: tuple[PilotRow, ...]
    lean_mm_m: float
    notes: tuple[Note, ...] = ()


def pilot(*, guides: Sequence[PilotGuide], at_z_mm: Sequence[float]) -> Pilot:
    """Return how far off its guides' line a pilot bar can lie at any place.

    Parameters
    ----------
    guides : two or more, at different places; clearance 0 or more, on diameter [mm]; a long guide is two, its ends
    at_z_mm : places along the axis [mm]

    Returns
    -------
    Pilot [mm], [mm/m]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    The greatest |y(z)| over straight lines with |y| <= clearance / 2 in every guide. A linear programme of two unknowns
    is decided by two of its bounds: it is the least, over all pairs of guides, of what that pair alone would allow,
    c1/2 |1 - s| + c2/2 |s| with s = (z - z1) / (z2 - z1). The lean alike: the least of (c1 + c2) / (2 |z2 - z1|).
    Bending of the bar comes on top.

    References
    ----------
    Derived here, by the theorem of linear programming that an optimum lies at a corner.

    Examples
    --------
    >>> ends = [PilotGuide(z_mm=0, clearance_mm=0.02), PilotGuide(z_mm=200, clearance_mm=0.02)]
    >>> [round(row.off_mm, 4) for row in pilot(guides=ends, at_z_mm=[100, 300]).rows]
    [0.01, 0.02]
    """
    if len(guides) < 2:
        raise InvalidInput("guides", "two_guides", given=len(guides), allowed=2)
    for place, one in enumerate(guides):
        require_finite(**{f"guides.{place}.z_mm": one.z_mm})
        require_not_negative(**{f"guides.{place}.clearance_mm": one.clearance_mm})
        if any(abs(one.z_mm - other.z_mm) <= TOLERANCE for other in guides[:place]):
            raise InvalidInput(f"guides.{place}.z_mm", "repeated", given=one.z_mm)
    if not at_z_mm:
        raise InvalidInput("at_z_mm", "empty")
    require_finite(**{f"at_z_mm.{place}": z for place, z in enumerate(at_z_mm)})
    first, second = np.triu_indices(len(guides), 1)
    places = np.array([one.z_mm for one in guides])
    halves = np.array([one.clearance_mm / 2 for one in guides])
    apart = places[second] - places[first]
    lean = float(np.min((halves[first] + halves[second]) / np.abs(apart)))

    def off(z_mm: float) -> float:
        share = (z_mm - places[first]) / apart
        return float(np.min(halves[first] * np.abs(1 - share) + halves[second] * np.abs(share)))

    rows = tuple(PilotRow(z_mm=z, off_mm=off(z)) for z in at_z_mm)
    worst = max(row.off_mm for row in rows)
    return Pilot(rows=rows, lean_mm_m=1000 * lean, notes=(note("pilot_proves", off_mm=2 * worst),))

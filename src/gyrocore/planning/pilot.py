"""A pilot bar that runs in bores already cut: how far off its play lets a new bore lie."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

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

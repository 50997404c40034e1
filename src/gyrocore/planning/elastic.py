"""What a springy bar leaves behind, pass after pass without new infeed."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, isfinite, log

from gyrocore.checks import require_not_negative, require_positive, require_whole
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

#: More passes than anyone runs; a longer list would only be noughts.
MOST_PASSES = 1000
#: Past this many passes a bore never gets round.
_NEVER = 1e6


@dataclass(frozen=True, slots=True, kw_only=True)
class ElasticRow:
    """After this pass: metal still left on diameter, and run-out still in the bore [mm]."""

    number: int
    left_on_diameter_mm: float
    runout_left_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ElasticPasses:
    """The share each pass leaves, and the passes."""

    ratio: float
    rows: tuple[ElasticRow, ...]
    notes: tuple[Note, ...] = ()


def elastic_passes(
    *,
    bar_stiffness_n_mm: float,
    cutting_stiffness_n_mm: float,
    depth_mm: float,
    runout_mm: float = 0.0,
    passes: int = 3,
) -> ElasticPasses:
    """Return what is left on the bore after each pass of a bar that gives way.

    Parameters
    ----------
    bar_stiffness_n_mm : at the cutter, over 0 [N/mm]
    cutting_stiffness_n_mm : radial force per mm of depth, over 0 [N/mm]
    depth_mm : the first infeed, on radius, over 0 [mm]
    runout_mm : full swing of the rough hole, 0 or more [mm]
    passes : from 1 to 1000

    Returns
    -------
    ElasticPasses: left on diameter and run-out left [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    The bar at k_b and the cut at k_c share the infeed like two springs in line: a pass leaves
    ratio = k_c / (k_b + k_c) of what it meets. With no new infeed after the first, depth x ratio^n is
    left on the radius, and the swing of a rough hole shrinks by the same ratio. Force is taken as
    proportional to depth; near the edge's least depth it no longer is, and the edge rubs.

    References
    ----------
    Derived here: two springs in series (the copying of errors in turning).

    Examples
    --------
    >>> found = elastic_passes(bar_stiffness_n_mm=9000, cutting_stiffness_n_mm=1000, depth_mm=0.2)
    >>> [round(row.left_on_diameter_mm, 4) for row in found.rows]
    [0.04, 0.004, 0.0004]
    """
    require_positive(
        bar_stiffness_n_mm=bar_stiffness_n_mm, cutting_stiffness_n_mm=cutting_stiffness_n_mm, depth_mm=depth_mm
    )
    require_not_negative(runout_mm=runout_mm)
    require_whole(1, passes=passes)
    if passes > MOST_PASSES:
        raise InvalidInput("passes", "too_many", given=passes, allowed=MOST_PASSES)
    ratio = cutting_stiffness_n_mm / (bar_stiffness_n_mm + cutting_stiffness_n_mm)
    rows = tuple(
        ElasticRow(number=n, left_on_diameter_mm=2 * depth_mm * ratio**n, runout_left_mm=runout_mm * ratio**n)
        for n in range(1, passes + 1)
    )
    return ElasticPasses(ratio=ratio, rows=rows, notes=(note("each_pass_leaves", percent=100 * ratio),))


def passes_until_round(*, ratio: float, runout_mm: float, allowed_mm: float) -> int:
    """Return how many passes bring a rough hole's run-out down to what is allowed.

    Parameters
    ----------
    ratio : share that each pass leaves, over 0 and under 1
    runout_mm : full swing of the rough hole, 0 or more [mm]
    allowed_mm : run-out allowed in the finished bore, over 0 [mm]

    Returns
    -------
    passes, 1 at least

    References
    ----------
    The law of `elastic_passes`: ratio^n x run-out <= allowed, the least whole n.

    Examples
    --------
    >>> passes_until_round(ratio=0.1, runout_mm=0.6, allowed_mm=0.02)
    2
    """
    require_positive(allowed_mm=allowed_mm, ratio=ratio)
    require_not_negative(runout_mm=runout_mm)
    if ratio >= 1:
        raise InvalidInput("ratio", "not_under", given=ratio, allowed=1)
    if runout_mm * ratio <= allowed_mm:
        return 1
    # ratio^n runout <= allowed; the nearest whole n is held against the law itself, since logarithms round
    wanted = log(allowed_mm / runout_mm) / log(ratio)
    if not isfinite(wanted) or wanted > _NEVER:
        raise InvalidInput("ratio", "never_round", given=ratio)
    count = max(1, ceil(wanted) - 1)
    while runout_mm * ratio**count > allowed_mm:
        count += 1
    return count

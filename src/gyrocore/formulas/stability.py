"""Regenerative chatter: at which depth a bar of given stiffness begins to chatter."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from math import ceil, floor

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq, minimize_scalar

from gyrocore.checks import (
    TOLERANCE,
    require_not_negative,
    require_open_between,
    require_positive,
)
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

Array = NDArray[np.float64]
#: Depths looked at between nothing and the deepest; the load is smooth between them.
_GRID = 1500
_MOST_POCKETS = 10_000


@dataclass(frozen=True, slots=True, kw_only=True)
class EdgeInCut:
    """What decides how strongly an edge excites the bar, but for the depth."""

    kc_mpa: float
    entering_angle_deg: float = 90.0
    nose_radius_mm: float = 0.4
    feed_mm_rev: float | None = None
    thrust_ratio: float = 0.5
    mode_coupling: float = 0.1


@dataclass(frozen=True, slots=True, kw_only=True)
class Stability:
    """Where chatter begins, and the speeds between its lobes."""

    limit_depth_mm: float | None
    stable: bool
    margin: float | None
    pocket_speeds_rpm: tuple[float, ...]
    notes: tuple[Note, ...] = ()


def chatter_load_n_mm(depth_mm: Array, edge: EdgeInCut) -> Array:
    """Return how hard cuts of these depths excite the bar.

    Parameters
    ----------
    depth_mm : radial depths, over 0 [mm]
    edge : the edge in its cut

    Returns
    -------
    load [N/mm], one for each depth; a depth chatters where it reaches 2 k z (1 + z)

    Notes
    -----
    b (thrust_ratio o cos^2 Ke + mode_coupling) kc with chip width b and chord angle Ke as in
    `cutting_force`, and o the overlap of successive turns, 1 - f / (b |cos Ke|) held to 0..1.

    References
    ----------
    The oriented one-mode limit of regenerative chatter (Tlusty): b_lim = 2 k z (1 + z) / K;
    overlap and mode-coupling share are chosen here (core contract, `stability`).

    Examples
    --------
    >>> float(chatter_load_n_mm(np.array([1.0]), EdgeInCut(kc_mpa=1000, nose_radius_mm=0)).round(6)[0])
    100.0
    """
    angle, r = np.radians(edge.entering_angle_deg), edge.nose_radius_mm
    arc_depth = r * (1 - np.cos(angle))
    along = r * np.sin(angle) + (depth_mm - arc_depth) * np.cos(angle) / np.sin(angle)
    if r > 0:
        on_arc = depth_mm <= arc_depth
        chord = np.sqrt(np.maximum(2 * depth_mm * r - depth_mm**2, 0))
        along = np.where(on_arc, chord, along)
    width = np.hypot(depth_mm, along)
    cosine = along / width
    share = edge.thrust_ratio * _overlap(np.abs(along), edge.feed_mm_rev) * cosine**2
    return np.asarray(width * (share + edge.mode_coupling) * edge.kc_mpa, dtype=np.float64)


def _overlap(along_mm: Array, feed_mm_rev: float | None) -> Array:
    """Overlap of successive turns; b |cos Ke| is the edge's extent along the axis."""
    if feed_mm_rev is None:
        return np.ones_like(along_mm)
    safe = np.where(along_mm > 0, along_mm, np.inf)
    return np.where(along_mm > 0, np.clip(1 - feed_mm_rev / safe, 0, 1), 0.0)


def _depths(deepest_mm: float, edge: EdgeInCut) -> Array:
    angle = np.radians(edge.entering_angle_deg)
    kink = edge.nose_radius_mm * (1 - np.cos(angle))
    grid = np.concatenate([np.linspace(0, deepest_mm, _GRID)[1:], np.geomspace(1e-7, 1, 400) * deepest_mm, [kink]])
    return np.unique(grid[(grid > 0) & (grid <= deepest_mm)])


@lru_cache(maxsize=1024)  # the same cuts are asked of every bar of a list
def peak_chatter_load_n_mm(depth_mm: float, edge: EdgeInCut) -> float:
    """Return the greatest chatter load of any depth from nothing up to `depth_mm` [N/mm].

    Parameters
    ----------
    depth_mm : over 0 [mm]
    edge : the edge in its cut

    Returns
    -------
    load [N/mm]

    References
    ----------
    `chatter_load_n_mm`; the load is not monotonic in depth, so the greatest is searched.

    Examples
    --------
    >>> peak_chatter_load_n_mm(2.0, EdgeInCut(kc_mpa=1000, nose_radius_mm=0)).__round__(6)
    200.0
    """
    depths = _depths(depth_mm, edge)
    loads = chatter_load_n_mm(depths, edge)
    best = float(loads.max())
    for place in _crests(loads):
        best = max(best, _crest(depths, place, edge)[1])
    return best


def _crests(loads: Array) -> list[int]:
    inner = np.flatnonzero((loads[1:-1] >= loads[:-2]) & (loads[1:-1] >= loads[2:])) + 1
    return [int(place) for place in inner]


def _crest(depths: Array, place: int, edge: EdgeInCut) -> tuple[float, float]:
    """Depth and load of the crest about a grid place, refined between its neighbours."""
    found = minimize_scalar(
        lambda a: -float(chatter_load_n_mm(np.array([a]), edge)[0]),
        bounds=(float(depths[place - 1]), float(depths[place + 1])),
        method="bounded",
        options={"xatol": 1e-12},
    )
    at_grid = float(chatter_load_n_mm(depths[place : place + 1], edge)[0])
    if -float(found.fun) >= at_grid:
        return float(found.x), -float(found.fun)
    return float(depths[place]), at_grid


def first_chattering_depth_mm(deepest_mm: float, edge: EdgeInCut, threshold_n_mm: float) -> float | None:
    """Return the smallest depth whose chatter load reaches the threshold.

    Parameters
    ----------
    deepest_mm : the search ends here [mm]
    edge : the edge in its cut
    threshold_n_mm : 2 k z (1 + z) [N/mm]

    Returns
    -------
    depth [mm], or None where no depth up to the deepest chatters

    References
    ----------
    `chatter_load_n_mm`.

    Examples
    --------
    >>> first_chattering_depth_mm(5, EdgeInCut(kc_mpa=1000, nose_radius_mm=0), 100).__round__(6)
    1.0
    """

    def excess(depth: float) -> float:
        return float(chatter_load_n_mm(np.array([depth]), edge)[0]) - threshold_n_mm

    depths = _depths(deepest_mm, edge)
    loads = chatter_load_n_mm(depths, edge)
    reached = np.flatnonzero(loads >= threshold_n_mm - TOLERANCE)
    last = int(reached[0]) if reached.size else len(depths) - 1
    for place in _crests(loads):
        if place > last:
            break
        top, load = _crest(depths, place, edge)
        if load >= threshold_n_mm and top < float(depths[last]):
            return _root(excess, float(depths[place - 1]), top)
    if not reached.size:
        return None
    return _root(excess, float(depths[last - 1]) if last else 1e-12 * deepest_mm, float(depths[last]))


def _root(excess: Callable[[float], float], low: float, high: float) -> float:
    if excess(low) >= 0:
        return low
    if excess(high) <= 0:
        return high
    return float(brentq(excess, low, high, xtol=1e-13, rtol=1e-13))


def stability(
    *,
    stiffness_n_mm: float,
    damping_ratio: float,
    natural_frequency_hz: float,
    depth_mm: float,
    edge: EdgeInCut,
    speed_range_rpm: tuple[float, float] | None = None,
) -> Stability:
    """Return the depth at which chatter begins, and the speeds between its lobes.

    Parameters
    ----------
    stiffness_n_mm : at the cutter, radially, over 0 [N/mm]
    damping_ratio : over 0, under 1
    natural_frequency_hz : over 0 [Hz]
    depth_mm : radial depth asked about, over 0 [mm]
    edge : the edge in its cut
    speed_range_rpm : least and most speed for the pockets, ends count [rpm]

    Returns
    -------
    Stability: depth [mm], speeds [rpm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Process damping at low speed is left out, which errs on the safe side. Pockets: 60 fn / j.

    References
    ----------
    `chatter_load_n_mm`.

    Examples
    --------
    >>> edge = EdgeInCut(kc_mpa=1000, nose_radius_mm=0)
    >>> stability(stiffness_n_mm=2500, damping_ratio=0.02, natural_frequency_hz=200,
    ...           depth_mm=0.5, edge=edge).limit_depth_mm.__round__(6)
    1.02
    """
    require_positive(stiffness_n_mm=stiffness_n_mm)
    require_open_between(0, 1, damping_ratio=damping_ratio)
    require_positive(natural_frequency_hz=natural_frequency_hz, kc_mpa=edge.kc_mpa, depth_mm=depth_mm)
    require_edge(edge)
    pockets = _pockets(natural_frequency_hz, speed_range_rpm)
    threshold = 2 * stiffness_n_mm * damping_ratio * (1 + damping_ratio)
    limit = first_chattering_depth_mm(10 * depth_mm, edge, threshold)
    load = float(chatter_load_n_mm(np.array([depth_mm]), edge)[0])
    stable = load < threshold - TOLERANCE
    return Stability(
        limit_depth_mm=limit,
        stable=stable,
        margin=None if limit is None else limit / depth_mm,
        pocket_speeds_rpm=pockets,
        notes=_stability_notes(limit, stable, depth_mm),
    )


def require_edge(edge: EdgeInCut) -> None:
    """Refuse an edge that cannot be: angle, nose, feed, thrust or mode coupling."""
    require_open_between(0, 180, entering_angle_deg=edge.entering_angle_deg)
    require_not_negative(nose_radius_mm=edge.nose_radius_mm)
    require_positive(feed_mm_rev=edge.feed_mm_rev)
    require_not_negative(thrust_ratio=edge.thrust_ratio, mode_coupling=edge.mode_coupling)


def _pockets(frequency_hz: float, speeds: tuple[float, float] | None) -> tuple[float, ...]:
    if speeds is None:
        return tuple(60 * frequency_hz / j for j in range(1, 13))
    least, most = speeds
    if least <= 0:
        raise InvalidInput("speed_range_rpm.0", "not_positive", given=least, allowed=0)
    if most < least:
        raise InvalidInput("speed_range_rpm.1", "not_over_first", given=most, allowed=least)
    first = max(1, ceil(60 * frequency_hz / most - TOLERANCE))
    last = floor(60 * frequency_hz / least + TOLERANCE)
    if last - first > _MOST_POCKETS:
        raise InvalidInput("speed_range_rpm.0", "too_many_pockets", given=least, allowed=_MOST_POCKETS)
    return tuple(60 * frequency_hz / j for j in range(first, last + 1))


def _stability_notes(limit: float | None, stable: bool, depth_mm: float) -> tuple[Note, ...]:
    notes = [note("no_process_damping")]
    if limit is None:
        notes.insert(0, note("no_chatter_to", deepest_mm=10 * depth_mm))
    elif stable and limit < depth_mm:
        notes.insert(0, note("shallower_chatters", limit_mm=limit, depth_mm=depth_mm))
    elif stable:
        notes.insert(0, note("chatter_in_hand", limit_mm=limit))
    else:
        notes.insert(0, note("chatters", limit_mm=limit, depth_mm=depth_mm))
    return tuple(notes)

"""Where a finished bore is measured: ends and middle, directions by what may be wrong, blocked places left out."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import product
from math import degrees

from gyroplan.assess.check import Checked
from gyroplan.record import BoreRecord

#: Both ends and the middle, as shares of the length; of a short bore with a taper limit its two ends.
_SHARES, _SHORT_TWO, _SHORT_ONE = (1 / 7, 1 / 2, 6 / 7), (1 / 4, 3 / 4), (1 / 2,)
#: Directions round half a turn by how many are asked: those of two jaws' lobes lie 90 apart, of three 60.
_ANGLES = {1: (0.0,), 2: (0.0, 90.0), 3: (0.0, 60.0, 120.0)}
#: A direction is turned in such steps to miss what breaks the wall [deg]; an end of a gauge's foot needs so much metal
#: either side (chosen here) [mm].
_TURNED_BY_DEG, _FOOT_MM = 5.0, 2.0
#: A depth is moved by up to this share of the length, in so many steps (chosen here): it stays in its own third.
_MOVED_SHARE, _MOVED_STEPS = 1 / 10, 8
#: As often is each place read where inspection is critical, or a repeat is asked.
_AGAIN = 2

At = tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class AskedPlaces:
    """Where is measured (depth, direction), the place whose turn it is, and why the directions lie so [mm], [deg]."""

    places: tuple[At, ...]
    now: At
    #: Left out: the wall is broken there.
    blocked: tuple[At, ...] = ()
    #: The directions are turned so far to miss what breaks the wall.
    turned_deg: float = 0.0
    #: Three directions are read because three jaws may have sprung it to three lobes.
    for_jaws: bool = False


def asked_places(checked: Checked, holding: str, rounded: Callable[[float], float] = round) -> AskedPlaces:
    """Return where a bore is measured, and which place is next.

    Parameters
    ----------
    checked : the bore with what was read so far
    holding : how the work is held while it is bored, by the catalogue's key
    rounded : brings a depth to one that a person reads off easily [mm]

    Notes
    -----
    A diameter is blocked where either of its ends meets a port, keyway or slot. The directions are turned together by
    what leaves the fewest blocked; a depth at which one still is moves within its own third; what is blocked even then
    is left out. What is asked does not change with what was read, but for depths: once every zone was measured, the
    depths are those that were.

    References
    ----------
    Chosen here after the asked depths and directions of `check_state` (core contract): these are the least.
    """
    bore, work = checked.bore, checked.work
    count = work.directions
    for_jaws = count == 2 and holding == "three-jaw"
    base = _ANGLES[3 if for_jaws else min(count, 3)]
    usual = _usual_depths(checked, rounded)
    angles, turned = _turned(bore, usual, base)
    if checked.state.coverage.depths_missing:
        depths = [_moved(bore, z, angles, rounded) for z in usual]
    else:
        depths = list(checked.stations_mm)
    every = [(z, angle) for angle in angles for z in depths]
    free = tuple(at for at in every if not is_blocked(bore, *at)) or tuple(every)
    blocked = tuple(at for at in every if at not in free)
    return AskedPlaces(
        places=free, now=_next(checked, free), blocked=blocked, turned_deg=turned, for_jaws=for_jaws
    )  # fmt: skip


def is_blocked(bore: BoreRecord, z_mm: float, angle_deg: float) -> bool:
    """Whether an end of a diameter meets a place where the wall is broken, or so near it that the foot slips in."""
    for one in bore.breaks:
        if not one.from_mm - _FOOT_MM <= z_mm <= one.to_mm + _FOOT_MM:
            continue
        half = degrees((one.width_mm + 2 * _FOOT_MM) / bore.aim_mm)
        apart = abs((one.angle_deg - angle_deg + 90) % 180 - 90)
        if apart <= half:
            return True
    return False


def _usual_depths(checked: Checked, rounded: Callable[[float], float]) -> list[float]:
    """Where is asked, as far as nothing breaks the wall."""
    work = checked.work
    shares = (_SHORT_TWO if work.taper_limit_mm is not None else _SHORT_ONE) if work.is_short else _SHARES
    return [rounded(checked.bore.length_mm * share) for share in shares]


def _turned(
    bore: BoreRecord, depths: Sequence[float], base: tuple[float, ...]
) -> tuple[tuple[float, ...], float]:  # fmt: skip
    """The directions turned by what leaves the fewest places blocked."""
    apart = 180.0 / len(base)

    def blocked(turn: float) -> tuple[int, float]:
        return sum(is_blocked(bore, z, angle + turn) for z, angle in product(depths, base)), turn

    _, turn = min(blocked(step * _TURNED_BY_DEG) for step in range(int(apart / _TURNED_BY_DEG)))
    return tuple(angle + turn for angle in base), turn


def _moved(bore: BoreRecord, z_mm: float, angles: Sequence[float], rounded: Callable[[float], float]) -> float:
    """The nearest depth of the same third at which every direction is free; as it was where there is none."""
    most = bore.length_mm * _MOVED_SHARE
    steps = sorted(range(-_MOVED_STEPS, _MOVED_STEPS + 1), key=abs)
    for step in steps:
        moved = rounded(z_mm + most * step / _MOVED_STEPS)
        if not any(is_blocked(bore, moved, angle) for angle in angles):
            return moved
    return z_mm


def _next(checked: Checked, places: Sequence[At]) -> At:
    """The first place that lacks a reading; once all are there, the first."""
    again = checked.work.inspection == "critical" or "repeat" in checked.state.missing
    for times in range(_AGAIN if again else 1):
        for z, angle in places:
            place = checked.place(z, angle)
            if place is None or len(checked.sizes_at(place)) <= times:
                return z, angle
    return places[0]

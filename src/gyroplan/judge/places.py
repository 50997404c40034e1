"""Places measured: a depth and a direction with all its readings by all its gauges, and the verdict on each."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

from gyrocore import verdict
from gyrocore.checks import TOLERANCE
from gyroplan.gauges import Believed, GaugeValue, SizeTaken, believed_size
from gyroplan.judge.entries import Depth, Size
from gyroplan.judge.plan import CheckWork

#: Directions closer than this say little apart (contract, `check_state`).
APART_DEG = 45.0
_HALF_TURN = 180.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """One depth in one direction: what is believed of it, and its verdict [mm], [deg]."""

    z_mm: float
    angle_deg: float
    value_mm: float
    expanded_mm: float
    verdict: str
    agree: bool | None
    #: Some gauge read once, and how well it repeats is not known.
    unrepeated: bool


def places_of(work: CheckWork, sizes: Sequence[Size]) -> tuple[Place, ...]:
    """Return every measured place, by depth and then by direction."""
    groups: list[tuple[float, float, list[SizeTaken]]] = []
    for size in sizes:
        z, angle = size.z_mm, modulo_half_turn(size.angle_deg)
        found = next((g for g in groups if _same(g[0], z) and _same(g[1], angle)), None)
        if found is None:
            groups.append((z, angle, [size.taken]))
        else:
            found[2].append(size.taken)
    return tuple(_place(work, *group) for group in sorted(groups, key=lambda g: (g[0], g[1])))


def modulo_half_turn(angle_deg: float) -> float:
    """A diameter read at 180 degrees is the one read at 0."""
    turned = angle_deg % _HALF_TURN
    return 0.0 if _HALF_TURN - turned <= TOLERANCE else turned


def _same(one: float, other: float) -> bool:
    return abs(one - other) <= TOLERANCE


def _place(work: CheckWork, z_mm: float, angle_deg: float, taken: Sequence[SizeTaken]) -> Place:
    found = believed_size(taken, work.gauges, work.expansions)
    return Place(
        z_mm=z_mm,
        angle_deg=angle_deg,
        value_mm=found.value_mm,
        expanded_mm=found.expanded_mm,
        verdict=judge(found, work.lower_mm, work.upper_mm, work.rule),
        agree=found.agree,
        unrepeated=found.unrepeated,
    )


def shoulder_of(work: CheckWork, depths: Sequence[Depth]) -> tuple[Believed, str] | None:
    """Return the depth of the shoulder and its verdict; None where it was not measured."""
    if not depths or work.depth_lower_mm is None or work.depth_upper_mm is None:
        return None
    found = believed_size([depth.taken for depth in depths], work.gauges, work.expansions)
    return found, judge(found, work.depth_lower_mm, work.depth_upper_mm, work.rule)


def judge(found: Believed, lower_mm: float, upper_mm: float, rule: str) -> str:
    """Return `in`, `under`, `over` or `undecided`.

    Gauges that contradict each other decide nothing, unless each alone says over, or each under; a single reading
    whose repeatability is not known proves nothing in.
    """
    if found.agree is False:
        words = {_word(one, lower_mm, upper_mm, rule) for one in found.by_gauge}
        return words.pop() if words in ({"over"}, {"under"}) else "undecided"
    word = _word(found, lower_mm, upper_mm, rule)
    return "undecided" if word == "in" and found.unrepeated else word


def _word(found: Believed | GaugeValue, lower_mm: float, upper_mm: float, rule: str) -> str:
    called = verdict(
        value_mm=found.value_mm, expanded_mm=found.expanded_mm, lower_mm=lower_mm, upper_mm=upper_mm, rule=rule
    )  # fmt: skip
    return "undecided" if called.verdict.startswith("undecided") else called.verdict


def has_directions(places: Sequence[Place], z_mm: float, asked: int) -> bool:
    """Whether so many directions at one depth are far enough apart from each other."""
    angles = [place.angle_deg for place in places if _same(place.z_mm, z_mm)]
    return any(
        all(_apart(one, other) >= APART_DEG - TOLERANCE for one, other in combinations(some, 2))
        for some in combinations(angles, asked)
    )


def _apart(one: float, other: float) -> float:
    difference = abs(one - other) % _HALF_TURN
    return min(difference, _HALF_TURN - difference)


def depths_of(places: Sequence[Place]) -> list[float]:
    """The depths that were measured, from the open face in."""
    found: list[float] = []
    for place in places:
        if not found or not _same(found[-1], place.z_mm):
            found.append(place.z_mm)
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class Coverage:
    """Whether the places say something of the whole bore."""

    #: Where a depth is asked and lacks a place: near, between, far, anywhere.
    zones_missing: tuple[str, ...]
    directions_missing: bool
    #: Depths that have the directions asked.
    full_depths: tuple[float, ...]

    @property
    def depths_missing(self) -> bool:
        """Whether some depth that is asked lacks a place."""
        return bool(self.zones_missing)

    @property
    def is_complete(self) -> bool:
        """Depths and directions are all there."""
        return not (self.depths_missing or self.directions_missing)


def coverage_of(work: CheckWork, places: Sequence[Place]) -> Coverage:
    """Return what depths and directions are missing."""
    depths = depths_of(places)
    full = tuple(z for z in depths if has_directions(places, z, work.directions))
    zones = _zones(work, depths)
    return Coverage(
        zones_missing=tuple(name for name, zone, least in zones if len(zone) < least),
        directions_missing=any(
            sum(z in full for z in zone) < min(least, len(zone)) for _, zone, least in zones if zone
        ),
        full_depths=full,
    )  # fmt: skip


def _zones(work: CheckWork, depths: Sequence[float]) -> list[tuple[str, list[float], int]]:
    """Where depths are asked, and how many: both ends and between, or anywhere in a short bore."""
    if work.is_short:
        return [("anywhere", list(depths), 2 if work.taper_limit_mm is not None else 1)]
    near, far = work.length_mm / 4, 3 * work.length_mm / 4
    return [
        ("near", [z for z in depths if z <= near + TOLERANCE], 1),
        ("between", [z for z in depths if near + TOLERANCE < z < far - TOLERANCE], 1),
        ("far", [z for z in depths if z >= far - TOLERANCE], 1),
    ]

"""How others would have gone: an expert by the solver, and the rule of half the swing; and where a learner chased."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, cos, degrees, hypot, radians, sin

from gyrocore import Sweep, sweep
from gyroplan.practice.levels import Hidden, Level, Part, hidden_of
from gyroplan.practice.run import Run

#: Nobody goes on longer.
_MOST_MOVES = 6
#: Places across from each other, along 0 and along 90 degrees.
PAIRS = (("1", "3"), ("2", "4"))
#: A move smaller than this is none [mm].
_LEAST_MM = 1e-4
Vector = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Step:
    """One move of a path: what was moved by how much, and the centre that is left after it [mm]."""

    parts: tuple[Part, ...]
    left_mm: float
    centre_mm: Vector


def _read(level: Level, hidden: Hidden, plane: int) -> tuple[list[float], list[float]]:
    """A round read without a slip, to the division."""
    z, step = level.planes_mm[plane], level.step_mm
    pairs = [(angle, hidden.work.reading_mm(angle, z)) for angle in level.angles_deg]
    read = [(angle, round(value / step) * step) for angle, value in pairs if value is not None]
    return [angle for angle, _ in read], [value for _, value in read]


def _solved(level: Level, hidden: Hidden, plane: int) -> Sweep:
    angles, readings = _read(level, hidden, plane)
    surface = "inside" if level.inside else "outside"
    return sweep(angles_deg=angles, readings_mm=readings, surface=surface, orders=2 if level.places > 4 else 1)


def _toward(vector: Vector, what: str) -> tuple[Part, ...]:
    """A move split along the two pairs."""
    pairs = zip(vector, PAIRS, strict=True)
    return tuple((what, names[0] if by > 0 else names[1], abs(by)) for by, names in pairs if abs(by) > _LEAST_MM)


def _moved(level: Level, hidden: Hidden, parts: Sequence[Part]) -> Hidden:
    for part in parts:
        hidden = hidden.after(level, part)
    return hidden


def expert_path(level: Level, seed: int) -> tuple[Step, ...]:
    """By the solver: all of the offset each time, more where a pair was seen to follow less; every plane."""
    hidden = hidden_of(level, seed)
    steps: list[Step] = []
    follow: Vector = (1.0, 1.0)
    while len(steps) < _MOST_MOVES and hidden.worst_mm(level) > level.centre_limit_mm:
        if level.moved == "bearings":
            parts = _at_bearings(level, hidden)
            hidden = _moved(level, hidden, parts)
        else:
            parts, hidden, follow = _at_jaws(level, hidden, follow)
        steps.append(Step(parts, hidden.worst_mm(level), hidden.work.axis_at(level.planes_mm[0])))
    return tuple(steps)


@dataclass(frozen=True, slots=True)
class Advice:
    """What a learner's own rounds tell: how far the worst plane lies off [mm], and what an expert would move."""

    parts: tuple[Part, ...]
    left_mm: float


def advice(run: Run) -> Advice | None:
    """Return the next move from the last valid round in each plane since the last move; None while one lacks.

    Jaws centre the plane nearest to them; a tap takes the rest of the lean out at the other; a bearing goes after its
    own housing. References: `gyroplan.assess.tilt_of`, `gyrocore.line_bar_moves`; here without their uncertainty.
    """
    level = run.level
    planes: dict[int, Vector] = {}
    for one in run.since_move:
        found = one.found(level)
        if found is not None:
            planes[one.plane] = (found.offset_x_mm, found.offset_y_mm)
    if len(planes) < len(level.planes_mm) or run.open_round is not None:
        return None
    worst = max(hypot(*off) for off in planes.values())
    if level.moved == "bearings":
        return Advice(sum((_toward(off, f"bearing {n + 1}") for n, off in sorted(planes.items())), ()), worst)
    inner, outer = planes[len(level.planes_mm) - 1], planes[0]
    parts = _toward((-inner[0], -inner[1]), "jaw")
    if level.moved == "jaws-and-tap":
        parts += _toward((inner[0] - outer[0], inner[1] - outer[1]), "tap")
    return Advice(parts, worst)


def _at_bearings(level: Level, hidden: Hidden) -> tuple[Part, ...]:
    """Each bearing after its own housing: the bar goes where the housing lies."""
    parts: tuple[Part, ...] = ()
    for plane in (0, 1):
        found = _solved(level, hidden, plane)
        parts += _toward((found.offset_x_mm, found.offset_y_mm), f"bearing {plane + 1}")
    return parts


def _at_jaws(level: Level, hidden: Hidden, follow: Vector) -> tuple[tuple[Part, ...], Hidden, Vector]:
    """The jaws at the plane nearest to them, the rest of the lean by a tap at the other."""
    plane = len(level.planes_mm) - 1
    found = _solved(level, hidden, plane)
    before = (found.offset_x_mm, found.offset_y_mm)
    wanted = (-before[0] / follow[0], -before[1] / follow[1])
    parts = _toward(wanted, "jaw")
    hidden = _moved(level, hidden, parts)
    after = _solved(level, hidden, plane)
    follow = _seen(follow, before, (after.offset_x_mm, after.offset_y_mm), wanted)
    if len(level.planes_mm) > 1:
        outer = _solved(level, hidden, 0)
        tap = _toward((-outer.offset_x_mm, -outer.offset_y_mm), "tap")
        hidden, parts = _moved(level, hidden, tap), parts + tap
    return parts, hidden, follow


def _seen(follow: Vector, before: Vector, after: Vector, wanted: Vector) -> Vector:
    """How much of a turn each pair followed, where it was turned enough to tell."""
    found = list(follow)
    for place in (0, 1):
        if abs(wanted[place]) > _TELLS_MM:
            found[place] = min(1.0, max(0.3, (after[place] - before[place]) / wanted[place]))
    return found[0], found[1]


#: Turned by less, a pair does not tell how much it follows [mm].
_TELLS_MM = 0.05


def half_rule_path(level: Level, seed: int) -> tuple[Step, ...]:
    """By half the swing at the place that reads highest, in one plane: right only for true round work.

    References: the classic rule; an oval swings too, so that the rule follows it.
    """
    hidden, steps = hidden_of(level, seed), []
    for _ in range(_MOST_MOVES):
        if hidden.worst_mm(level) <= level.centre_limit_mm:
            break
        angles, readings = _read(level, hidden, 0)
        half = (max(readings) - min(readings)) / 2
        high = angles[readings.index(max(readings))]
        # inside, the needle is pushed in where the work lies away from
        sign = 1 if level.inside else -1
        x, y = sign * half * cos(radians(high)), sign * half * sin(radians(high))
        if half <= level.step_mm:
            break
        # of a bar in bearings the outer one alone is moved, and the other way: the bar goes, not the work
        parts = _toward((-x, -y), "bearing 1") if level.moved == "bearings" else _toward((x, y), "jaw")
        hidden = _moved(level, hidden, parts)
        steps.append(Step(parts, hidden.worst_mm(level), hidden.work.axis_at(level.planes_mm[0])))
    return tuple(steps)


def chased(run: Run, seed: int) -> list[tuple[int, str]]:
    """The moves that made it no better, and why: by number from 1, as a code.

    `oval`: the high of the oval was taken for the centre; `misread`: a reading of the round before was typed wrong;
    `worse`: for another reason.
    """
    found, before = [], hidden_of(run.level, seed).worst_mm(run.level)
    for number, move in enumerate(run.moves, 1):
        if move.left_mm > 0.9 * before and before > run.level.centre_limit_mm:
            found.append((number, _why(run, number)))
        before = move.left_mm
    return found


def _why(run: Run, number: int) -> str:
    last = run.moves[number - 1]
    read = run.rounds[: last.after_round]
    if read and read[-1].misread:
        return "misread"
    x = sum(by * cos(radians(_DEG[jaw])) for _, jaw, by in last.parts)
    y = sum(by * sin(radians(_DEG[jaw])) for _, jaw, by in last.parts)
    angle = degrees(atan2(y, x))
    along = abs((angle - run.hidden.work.oval_deg + 90) % 180 - 90)
    across = abs((angle - run.hidden.work.oval_deg) % 180 - 90)
    return "oval" if run.level.oval_mm and hypot(x, y) > 0 and min(along, across) < 25 else "worse"


_DEG = {"1": 0.0, "2": 90.0, "3": 180.0, "4": 270.0}


def centre_after(run: Run, seed: int) -> list[Vector]:
    """Where the centre lay at the start and after each move, in the outer plane [mm]."""
    hidden = hidden_of(run.level, seed)
    points = [hidden.work.axis_at(run.level.planes_mm[0])]
    for move in run.moves:
        hidden = _moved(run.level, hidden, move.parts)
        points.append(hidden.work.axis_at(run.level.planes_mm[0]))
    return points

"""A round taken apart: centre offset, oval and the rest as rings of one exaggeration, and one turn as a curve."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from gyrodraw.scene import Point, Scene, around

_STEPS = [5 * n for n in range(72)]
#: A ring of a part has this radius; what stands out is drawn from it.
_RING = 58.0


@dataclass(frozen=True, slots=True, kw_only=True)
class RingPart:
    """One part: what it is called, its figure, what is said of it; how far it stands out at an angle [mm]."""

    title: str
    figure: str
    says: str
    more: str
    outward_mm: Callable[[float], float]
    blue: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class PartsDrawn:
    """The parts side by side; `allowed_mm` is the centre offset that is allowed, `offset_mm` where the centre lies."""

    parts: Sequence[RingPart]
    offset_mm: tuple[float, float]
    allowed_mm: float
    #: The way the places run: -1 where the work is seen from the other end.
    turn: int = 1


def parts_scene(drawn: PartsDrawn, width: float = 520, height: float = 328) -> Scene:
    """Three rings at one exaggeration, dashed where nothing stands out, with a sum sign before each."""
    said = "; ".join(f"{one.title} {one.figure}, {one.says}" for one in drawn.parts)
    scene = Scene(width, height, f"What the readings consist of: {said}")
    largest = max([abs(one.outward_mm(a)) for one in drawn.parts for a in _STEPS] + [drawn.allowed_mm, 1e-6])
    factor, step = 0.42 * _RING / largest, width / len(drawn.parts)
    for place, one in enumerate(drawn.parts):
        centre = (step * (place + 0.5) + 8, height * 0.42)
        scene.text((centre[0], 26), one.title, "label", "middle")
        scene.text((centre[0] - step / 2 - 4, centre[1] + 10), "+" if place else "=", "sum", "middle")
        _ring(scene, one, centre, factor, drawn.turn)
        if one.blue:
            _allowed(scene, drawn, centre, factor)
        scene.text((centre[0], height - 62), one.figure, "part-blue" if one.blue else "part", "middle")
        scene.text((centre[0], height - 38), one.says, "figure-small", "middle")
        scene.text((centre[0], height - 18), one.more, "small", "middle")
    return scene


def _ring(scene: Scene, part: RingPart, centre: Point, factor: float, turn: int) -> None:
    reach = _RING + 26
    scene.lines([((centre[0] - reach, centre[1]), (centre[0] + reach, centre[1])),
                 ((centre[0], centre[1] - reach), (centre[0], centre[1] + reach))], "axis")  # fmt: skip
    scene.circle(centre, _RING, "hidden")
    points = [around(centre, _RING + part.outward_mm(a) * factor, turn * a) for a in _STEPS]
    scene.poly(points, "best-fit" if part.blue else "profile", closed=True)


def _allowed(scene: Scene, drawn: PartsDrawn, centre: Point, factor: float) -> None:
    """The disc in which the centre may lie, and where it lies."""
    scene.circle(centre, max(drawn.allowed_mm * factor, 3.0), "limit-ring")
    x, y = drawn.offset_mm
    scene.circle((centre[0] + drawn.turn * y * factor, centre[1] - x * factor), 4.5, "dot-blue")


@dataclass(frozen=True, slots=True, kw_only=True)
class OneTurn:
    """One turn at the indicator [mm]: what was read, the curves through it, the band that is allowed."""

    angles_deg: Sequence[float]
    read_mm: Sequence[float]
    as_read: Callable[[float], float]
    offset: Callable[[float], float]
    oval: Callable[[float], float]
    allowed_mm: float
    #: The names of the places along the axis, by angle; and of the levels of the grid.
    names: Sequence[tuple[float, str]]
    level_words: Callable[[float], str]


def one_turn(turn: OneTurn, width: float = 824, height: float = 158) -> Scene:
    """The swing of one turn drawn out: the curve read, the offset in it, the oval in it, against the band allowed."""
    scene = Scene(width, height, "One turn: as read, the centre offset in it and the oval in it")
    left, right, top, bottom = 62.0, width - 22, 14.0, height - 28
    every = [5.0 * n for n in range(73)]
    largest = max([abs(v) for v in turn.read_mm] + [abs(turn.as_read(a)) for a in every] + [1.25 * turn.allowed_mm])

    def x(angle: float) -> float:
        return left + angle / 360 * (right - left)

    def y(value: float) -> float:
        return (top + bottom) / 2 - value / largest * (bottom - top) / 2

    scene.rect((left, y(turn.allowed_mm)), (right, y(-turn.allowed_mm)), "limit-zone")
    for level in (turn.allowed_mm, 0.0, -turn.allowed_mm):
        scene.line((left, y(level)), (right, y(level)), "limit-line" if level else "grid")
        scene.text((left - 8, y(level) + 5), turn.level_words(level), "small", "end")
    for angle, name in turn.names:
        scene.text((x(angle), height - 8), name, "label", "middle" if angle < 360 else "end")
    for curve, role in ((turn.oval, "turn-oval"), (turn.offset, "best-fit"), (turn.as_read, "profile")):
        scene.poly([(x(a), y(curve(a))) for a in every], role)
    for angle, value in zip((*turn.angles_deg, 360.0), (*turn.read_mm, turn.read_mm[0]), strict=True):
        scene.circle((x(angle), y(value)), 4.5, "place")
    return scene

"""The Check step: measured walls against the limits, deviations enlarged."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrodraw.hatch import hatch
from gyrodraw.scene import Point, Scene


@dataclass(frozen=True, slots=True, kw_only=True)
class WallPoint:
    """One measured place: depth and size in mm, its words and its verdict."""

    z_mm: float
    value_mm: float
    words: str
    verdict: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Walls:
    """Limits, guard band and the measured walls in two directions."""

    length_mm: float
    lower_mm: float
    upper_mm: float
    guard_mm: float
    lower_words: str
    upper_words: str
    first: Sequence[WallPoint]
    second: Sequence[WallPoint]
    names: tuple[str, str]
    hatch: str
    depths: Sequence[tuple[float, str]]


def check_band(walls: Walls, width: float) -> Scene:
    """The Check step's band: one direction above the axis, the other below."""
    narrow = width < 600
    height = 372.0
    scene = Scene(width, height, "Measured walls against the limits")
    left, right = (16.0, width - 16.0) if narrow else (190.0, width - 120.0)
    axis = 178.0
    scale = _scale(walls)
    for points, name, up in ((walls.first, walls.names[0], True), (walls.second, walls.names[1], False)):
        _wall(scene, walls, points, name, up, _Frame(left, right, axis, scale, narrow))
    scene.line((12, axis), (width - 12, axis), "axis")
    for z, words in walls.depths:
        x = _x(walls, z, left, right)
        scene.line((x, axis - 14), (x, axis + 14), "narrow")
        scene.circle((x, axis), 4, "dot")
        scene.text((x + 7, axis - 6), words, "label")
    if not narrow:
        scene.text((24, axis + 22), "depths from the face", "label")
    scene.text((12, height - 6), f"deviation of size drawn x {2 * scale:.0f}", "small")
    return scene


#: The limits lie this far apart on the sheet.
_BAND = 62.0


def _scale(walls: Walls) -> float:
    return _BAND / (walls.upper_mm - walls.lower_mm)


def _x(walls: Walls, z: float, left: float, right: float) -> float:
    return right - 24 - z / walls.length_mm * (right - left - 48)


@dataclass(frozen=True, slots=True)
class _Frame:
    """Where the walls stand on the sheet."""

    left: float
    right: float
    axis: float
    scale: float
    narrow: bool


def _wall(scene: Scene, walls: Walls, points: Sequence[WallPoint], name: str, up: bool, frame: _Frame) -> None:
    left, right, axis, scale, narrow = frame.left, frame.right, frame.axis, frame.scale, frame.narrow
    sign = -1.0 if up else 1.0
    base = axis + sign * 84

    def y(size: float) -> float:
        away = max(-26.0, min((size - walls.lower_mm) * scale, _BAND + 26))
        return base + sign * away

    low, high, guard = y(walls.lower_mm), y(walls.upper_mm), walls.guard_mm * scale
    scene.rect((left, low), (right, high), "accept")
    edge = high + sign * 22
    box = (left, min(edge, high), right, max(edge, high))
    hatch(scene, box, walls.hatch)
    for at in (low, high):
        if guard > 0:
            scene.rect((left, at - min(guard, 26)), (right, at + min(guard, 26)), "guard")
        scene.line((left - 8, at), (right + 8, at), "limit")
    if not narrow:
        scene.text((left - 14, low + 5), walls.lower_words, "deviation-ink", "end")
        scene.text((left - 14, high + 5), walls.upper_words, "deviation-ink", "end")
        scene.text((right + 14, (low + high) / 2 + 5), name, "figure")
    else:
        scene.text((right, low - sign * 8 + (0 if up else 8)), name, "small", "end")
    spots = [(_x(walls, p.z_mm, left, right), y(p.value_mm)) for p in points]
    if len(spots) > 1:
        scene.poly(sorted(spots), "wall")
    for spot, point in zip(spots, points, strict=True):
        judged_mark(scene, spot, point.verdict)
        tone = {"in": "measured", "over": "measured-bad", "under": "measured-blue"}.get(point.verdict, "measured-warn")
        scene.text((spot[0], axis + sign * 48 + 6), point.words, tone, "middle")


def judged_mark(scene: Scene, at: Point, verdict: str) -> None:
    """Shapes speak with the colour: ring in, half diamond undecided, square over, open blue ring under."""
    x, y = at
    if verdict == "in":
        scene.circle(at, 6, "place")
    elif verdict == "under":
        scene.circle(at, 7, "mark-under")
    elif verdict == "over":
        scene.rect((x - 7, y - 7), (x + 7, y + 7), "mark-over")
        scene.lines([((x - 4, y - 4), (x + 4, y + 4)), ((x + 4, y - 4), (x - 4, y + 4))], "mark-cross")
    else:
        scene.poly([(x, y - 9), (x + 9, y), (x, y + 9), (x - 9, y)], "mark-near-half", closed=True)
        scene.poly([(x, y - 9), (x, y + 9), (x - 9, y)], "mark-near", closed=True)

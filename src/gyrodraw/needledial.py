"""The face of a linked indicator's dial; its hand is turned by the page."""

from __future__ import annotations

from math import cos, radians, sin

from gyrodraw.scene import Point, Scene

#: Divisions a turn, and of how many a figure stands at.
_DIVISIONS, _FIGURED = 100, 10


def needle_dial(divisions: str, size: float = 176) -> Scene:
    """A dial of a hundred divisions, 0 at the top, plus clockwise; `divisions` says what one is."""
    scene = Scene(size, size, f"Dial of the indicator, one division {divisions}")
    middle, rim = size / 2, size / 2 - 4
    scene.circle((middle, middle), rim, "disc-open")
    long: list[tuple[Point, Point]] = []
    short: list[tuple[Point, Point]] = []
    for tick in range(_DIVISIONS):
        inner = rim - (12 if tick % _FIGURED == 0 else 9 if tick % 5 == 0 else 5)
        pair = (_at(middle, rim, tick), _at(middle, inner, tick))
        (long if tick % _FIGURED == 0 else short).append(pair)
    scene.lines(long, "outline")
    scene.lines(short, "narrow")
    for tick in range(0, _DIVISIONS, _FIGURED):
        x, y = _at(middle, rim - 24, tick)
        scene.text((x, y + 5), str(min(tick, _DIVISIONS - tick)), "tick-figure", "middle")
    scene.text((middle, middle + 36), divisions, "tick-figure", "middle")
    return scene


def _at(middle: float, radius: float, tick: float) -> Point:
    angle = radians(360 * tick / _DIVISIONS)
    return middle + radius * sin(angle), middle - radius * cos(angle)

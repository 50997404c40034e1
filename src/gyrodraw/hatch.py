"""Section hatching at 45 degrees by material; one phase over the whole part."""

from __future__ import annotations

from math import ceil, floor

from gyrodraw.scene import Point, Scene

Box = tuple[float, float, float, float]


def hatch(scene: Scene, box: Box, kind: str) -> None:
    """Hatch an upright box (left, top, right, bottom): iron, steel, bronze, aluminium or plastic."""
    if kind == "steel":
        scene.lines(_rising(box, 14, 0), "hatch")
        scene.lines(_rising(box, 14, 4), "hatch")
    elif kind == "bronze":
        scene.lines(_rising(box, 18, 0), "hatch")
        scene.lines(_rising(box, 18, 9), "hatch-broken")
    elif kind == "aluminium":
        scene.lines(_rising(box, 14, 0), "hatch")
        scene.lines(_falling(box, 14), "hatch-broken")
    elif kind == "plastic":
        scene.lines(_rising(box, 16, 0), "hatch")
        scene.lines(_falling(box, 16), "hatch")
    else:
        scene.lines(_rising(box, 9, 0), "hatch")


def _rising(box: Box, spacing: float, phase: float) -> list[tuple[Point, Point]]:
    """Lines x + y = c, clipped to the box."""
    left, top, right, bottom = box
    lines = []
    for n in range(ceil((left + top - phase) / spacing), floor((right + bottom - phase) / spacing) + 1):
        c = n * spacing + phase
        a = max(left, c - bottom)
        b = min(right, c - top)
        if b - a > 0.5:
            lines.append(((a, c - a), (b, c - b)))
    return lines


def _falling(box: Box, spacing: float) -> list[tuple[Point, Point]]:
    """Lines x - y = c, clipped to the box."""
    left, top, right, bottom = box
    lines = []
    for n in range(ceil((left - bottom) / spacing), floor((right - top) / spacing) + 1):
        c = n * spacing
        a, b = max(left, c + top), min(right, c + bottom)
        if b - a > 0.5:
            lines.append(((a, a - c), (b, b - c)))
    return lines

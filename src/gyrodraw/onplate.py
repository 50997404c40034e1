"""Work on a plate over a pivot or on supports, seen in section: what its walls are read along, what tips it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrodraw.hatch import hatch
from gyrodraw.scene import Point, Scene


@dataclass(frozen=True, slots=True, kw_only=True)
class OnPlateDrawn:
    """The work with its axis upright [mm]: depths that are read count from the open face, at the top."""

    length_mm: float
    bore_mm: float
    outside_mm: float
    depths_mm: Sequence[float]
    #: The circle of the supports; None where none is known.
    supports_mm: float | None
    #: Whether it tips over a pivot in the middle of them.
    pivot: bool
    #: The two sides that are cut through, left and right.
    sides: tuple[str, str]
    hatch: str = "iron"


def on_plate_scene(work: OnPlateDrawn, width: float = 300, height: float = 316) -> Scene:
    """A full section to scale; the plate, its screws and the pivot are not to scale in their height."""
    scene = Scene(width, height, f"Section through {work.sides[0]} and {work.sides[1]}, the open face up")
    wide = max(work.outside_mm, work.supports_mm or 0.0)
    top, room = 52.0, (width - 48, height - 52 - 92)
    scale = min(room[0] / wide, room[1] / work.length_mm)
    middle, foot = width / 2, top + work.length_mm * scale
    outer, inner = work.outside_mm / 2 * scale, work.bore_mm / 2 * scale
    for sign in (-1, 1):
        a, b = sorted((middle + sign * inner, middle + sign * outer))
        hatch(scene, (a, top, b, foot), work.hatch)
        scene.rect((a, top), (b, foot), "outline")
        scene.line((middle + sign * inner, top), (middle + sign * inner, foot), "wall")
        for depth in work.depths_mm:
            scene.circle((middle + sign * inner, top + depth * scale), 4.5, "place")
    scene.line((middle - inner, top), (middle + inner, top), "narrow")
    _under(scene, work, (middle, foot), (outer, None if work.supports_mm is None else work.supports_mm / 2 * scale))
    scene.line((middle, 8), (middle, height - 34), "axis")
    _indicator(scene, (middle, top), inner, work.depths_mm[0] * scale)
    scene.text((middle, height - 10), f"section, {work.sides[0]} to {work.sides[1]}, to scale", "label", "middle")
    return scene


def _under(scene: Scene, work: OnPlateDrawn, foot: Point, reach: tuple[float, float | None]) -> None:
    """The plate, a screw or support at each side, and the pivot in the middle."""
    (middle, y), (outer, out) = foot, reach
    edge = max(outer, 0.0 if out is None else out) + 14
    scene.rect((middle - edge, y), (middle + edge, y + 18), "outline")
    hatch(scene, (middle - edge, y, middle + edge, y + 18), "iron")
    if out is not None:
        for sign in (-1, 1):
            x = middle + sign * out
            scene.rect((x - 9, y - 8), (x + 9, y), "outline")
            scene.lines([((x - 4, y), (x - 4, y + 30)), ((x + 4, y), (x + 4, y + 30))], "narrow")
    if work.pivot:
        scene.poly([(middle, y + 18), (middle - 10, y + 34), (middle + 10, y + 34)], "outline", closed=True)
        scene.text((middle + 14, y + 31), "pivot", "small")
    scene.line((middle - edge - 8, y + 34), (middle + edge + 8, y + 34), "phantom")


def _indicator(scene: Scene, open_face: Point, inner: float, depth: float) -> None:
    """From the spindle down to the first place that is read."""
    x, y = open_face
    scene.poly([(x, 10), (x + inner * 0.5, y - 22), (x + inner - 3, y + depth)], "narrow-blue")
    scene.circle((x + inner * 0.5, y - 26), 11, "narrow-blue")
    scene.circle((x + inner - 3, y + depth), 3.5, "dot-blue")

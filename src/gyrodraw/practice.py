"""The practice bench: the work in its chuck under the stylus, and the ways that were gone to the centre."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot, log10

from gyrodraw.scene import Point, Scene, around

Vector = tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class ChuckDrawn:
    """The work turned so that a place lies under the stylus; places that are read, those that wait, the jaws' names."""

    places: int
    at: int
    read: frozenset[int]
    jaws: tuple[str, str, str, str] = ("1", "2", "3", "4")
    are_jaws: bool = True
    inside: bool = True
    seen_from: str = "to scale, the error is hidden"


def chuck_scene(drawn: ChuckDrawn, size: float = 300) -> Scene:
    """The chuck from the front, the stylus at the top; the work and its jaws turn under it."""
    scene = Scene(size, size + 26, f"Place {drawn.at + 1} of {drawn.places} lies under the stylus")
    middle: Point = (size / 2, size / 2)
    outer = size / 2 - 46
    turned = -360 * drawn.at / drawn.places
    scene.circle(middle, outer + 40, "phantom")
    scene.circle(middle, outer, "outline")
    ring = outer
    if drawn.inside:
        ring = outer * 0.7
        scene.circle(middle, ring, "outline")
    for name, angle in zip(drawn.jaws, (0, 90, 180, 270), strict=True):
        x, y = around(middle, outer + 20, angle + turned)
        if drawn.are_jaws:
            scene.rect((x - 16, y - 15), (x + 16, y + 15), "jaw")
        scene.text((x, y + 7), name, "jaw-number" if drawn.are_jaws else "figure", "middle")
    for place in range(drawn.places):
        x, y = around(middle, ring, 360 * place / drawn.places + turned)
        role = "disc" if place == drawn.at else "place-solid" if place in drawn.read else "place"
        scene.circle((x, y), 9 if place == drawn.at else 6, role)
    top = middle[1] - ring
    scene.line((middle[0], top + 8 if drawn.inside else top - 8), (middle[0] + 30, middle[1] + 26), "pointer")
    scene.circle((middle[0] + 30, middle[1] + 26), 7, "place")
    scene.text((4, size + 20), drawn.seen_from, "small")
    return scene


@dataclass(frozen=True, slots=True, kw_only=True)
class PathDrawn:
    """One way to the centre [mm], the start first: a role for its line, one for its places, its name."""

    points: Sequence[Vector]
    line: str
    place: str
    name: str


def paths_scene(paths: Sequence[PathDrawn], limit_mm: float, limit_words: str, size: float = 300) -> Scene:
    """Centre offsets move by move on a scale of decades, so that the last hundredths are seen; the limit is green."""
    scene = Scene(size, size + 26, "Centre offset, move by move")
    middle: Point = (size / 2, size / 2)
    largest = max([hypot(*point) for path in paths for point in path.points] + [10 * limit_mm])
    least = limit_mm / 8
    rim = size / 2 - 12

    def radius(off: float) -> float:
        return rim * max(0.0, log10(max(off, least) / least) / log10(largest / least))

    def at(point: Vector) -> Point:
        off = max(hypot(*point), 1e-12)
        # 0 degrees, jaw 1, at the top
        return middle[0] + radius(off) * point[1] / off, middle[1] - radius(off) * point[0] / off

    scene.circle(middle, rim, "outline")
    scene.circle(middle, radius(limit_mm), "limit-zone")
    scene.circle(middle, radius(limit_mm), "limit-ring")
    for decade in (one for one in (0.03, 0.1, 0.3) if limit_mm < one < largest):
        corner = radius(decade) * 0.71
        scene.circle(middle, radius(decade), "grid")
        scene.text((middle[0] + corner + 3, middle[1] + corner + 12), f"{decade:g}", "small")
    scene.lines([((middle[0] - rim, middle[1]), (middle[0] + rim, middle[1])),
                 ((middle[0], middle[1] - rim), (middle[0], middle[1] + rim))], "axis")  # fmt: skip
    for path in paths:
        _path(scene, path, [at(point) for point in path.points])
    start = at(paths[0].points[0])
    scene.circle(start, 6, "place")
    anchor = "end" if start[0] > middle[0] else "start"
    scene.text((start[0] + (-10 if anchor == "end" else 10), start[1] - 8), "start", "label", anchor)
    scene.text((4, size + 20), f"scale of decades, mm; green: {limit_words}", "small")
    return scene


def _path(scene: Scene, path: PathDrawn, spots: Sequence[Point]) -> None:
    if len(spots) > 1:
        scene.poly(spots, path.line)
    for spot in spots[1:]:
        scene.circle(spot, 5, path.place)

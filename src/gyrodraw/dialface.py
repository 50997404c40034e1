"""The True step: end view with readings, best-fit circle, limit ring, off-centre arrow, jaws."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import cos, hypot, pi, sin

from gyrodraw.scene import Point, Scene, around


@dataclass(frozen=True, slots=True, kw_only=True)
class DialFace:
    """What is drawn of one round; readings in mm outward from the bore's own mean."""

    angles_deg: Sequence[float]
    outward_mm: Sequence[float | None]
    words: Sequence[str]
    limit_mm: float
    offset_mm: tuple[float, float] | None
    offset_words: str
    moves: Mapping[str, tuple[str, str]]
    #: The four places from 0 degrees clockwise; jaws are drawn as jaws, other places by their names.
    places: tuple[str, str, str, str] = ("1", "2", "3", "4")
    jaws: bool = True
    seen_from: str = "seen from the tailstock"


def dial_face(face: DialFace, width: float = 460, height: float = 372) -> Scene:
    """The dial face: 0 degrees (jaw 1, or the first place) at the top, clockwise."""
    scene = Scene(width, height, f"End view {face.seen_from} with the readings round the work")
    centre = (width / 2, height / 2)
    outer = min(width / 2 - 72, height / 2 - 40)
    ring = outer * 0.86
    factor = _factor(face, outer - ring)
    scene.circle(centre, outer, "outline")
    band = min(face.limit_mm / 2 * factor, ring * 0.3)
    scene.circle(centre, ring + band, "limit-ring")
    scene.circle(centre, max(ring - band, 2), "limit-hole")
    scene.lines(
        [((centre[0] - outer - 14, centre[1]), (centre[0] + outer + 14, centre[1])),
         ((centre[0], centre[1] - outer - 8), (centre[0], centre[1] + outer + 8))],
        "axis",
    )  # fmt: skip
    if face.jaws:
        _jaws(scene, face, centre, outer)
    else:
        _places(scene, face, centre, outer)
    _profile(scene, face, centre, ring, factor)
    _centre(scene, face, centre, ring, factor)
    scene.text((6, 16), f"drawn x {factor:.0f}", "small")
    scene.text((6, height - 8), face.seen_from, "small")
    return scene


def _factor(face: DialFace, room: float) -> float:
    """Pixels for a millimetre: larger as the error shrinks, so that it is always seen."""
    known = [abs(v) for v in face.outward_mm if v is not None]
    size = max([face.limit_mm / 2, *known])
    return room * 0.9 / size


def _jaws(scene: Scene, face: DialFace, centre: Point, outer: float) -> None:
    for name, angle in zip(face.places, (0, 90, 180, 270), strict=True):
        x, y = around(centre, outer + 14, angle)
        scene.rect((x - 15, y - 15), (x + 15, y + 15), "jaw")
        scene.text((x, y + 7), name, "jaw-number", "middle")
        if name in face.moves:
            _move(scene, face.moves[name], (x, y), angle, centre)


def _places(scene: Scene, face: DialFace, centre: Point, outer: float) -> None:
    """Where there are no jaws: the names of the four places outside the ring."""
    top, right, bottom, left = face.places
    x, y = centre
    scene.text((x, y - outer - 10), top, "figure", "middle")
    scene.text((x, y + outer + 24), bottom, "figure", "middle")
    scene.text((x + outer + 18, y + 6), right, "figure")
    scene.text((x - outer - 18, y + 6), left, "figure", "end")


def _move(scene: Scene, move: tuple[str, str], jaw: Point, angle: int, centre: Point) -> None:
    """An open arrow slackens, a solid one tightens; words beside it."""
    action, words = move
    inward = action == "tighten"
    upright = angle in (0, 180)
    x, y = (jaw[0] + 36, jaw[1]) if upright else (jaw[0], jaw[1] - 36)
    sign_x, sign_y = {0: (0, 1), 90: (-1, 0), 180: (0, -1), 270: (1, 0)}[angle]
    direction = (sign_x, sign_y) if inward else (-sign_x, -sign_y)
    _block_arrow(scene, (x, y), direction, "move-solid" if inward else "move-open")
    if upright:
        scene.text((x + 18, y + 6), words, "move-words")
    else:
        anchor = "end" if angle == 90 else "start"
        edge = (centre[0] * 2 - 4) if angle == 90 else 4
        scene.text((edge, y - 18), words, "move-words", anchor)


def _block_arrow(scene: Scene, at: Point, direction: tuple[int, int], role: str) -> None:
    dx, dy = direction
    shape = [(14, 0), (2, 11), (2, 5), (-14, 5), (-14, -5), (2, -5), (2, -11)]
    points = [(at[0] + u * dx - v * dy, at[1] + u * dy + v * dx) for u, v in shape]
    scene.poly(points, role, closed=True)


def _profile(scene: Scene, face: DialFace, centre: Point, ring: float, factor: float) -> None:
    points = []
    for angle, value, words in zip(face.angles_deg, face.outward_mm, face.words, strict=True):
        if value is None:
            scene.circle(around(centre, ring, angle), 3, "place-empty")
            continue
        point = around(centre, ring + value * factor, angle)
        points.append(point)
        if words and len(face.angles_deg) <= 8:
            x, y = around(centre, ring * (0.58 if angle % 90 == 0 else 0.63), angle)
            scene.text((x, y + 5), words, "reading", "middle")
    if len(points) > 2:
        whole = len(points) == len(face.angles_deg)
        scene.poly(points, "profile", closed=whole)
    for point in points:
        scene.circle(point, 4.5, "place")


def _centre(scene: Scene, face: DialFace, centre: Point, ring: float, factor: float) -> None:
    if face.offset_mm is None:
        return
    along, across = face.offset_mm
    size = hypot(along, across)
    steps = [n * 2 * pi / 72 for n in range(72)]
    circle = [
        (
            centre[0] + ring * sin(t) + across * factor,
            centre[1] - ring * cos(t) - along * factor,
        )
        for t in steps
    ]
    scene.poly(circle, "best-fit", closed=True)
    scene.circle(centre, 4, "dot")
    if size > 0:
        length = max(ring * 0.32, min(size * factor, ring * 0.42))  # too small to be seen, it tells the way alone
        tip = (centre[0] + across / size * length, centre[1] - along / size * length)
        scene.line(centre, tip, "off-centre")
        scene.arrow(tip, centre, "arrowhead-blue")
    below = 24 if along >= 0 else -14
    scene.text((centre[0], centre[1] + below), face.offset_words, "off-words", "middle")

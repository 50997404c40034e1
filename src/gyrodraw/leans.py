"""An axis that leans: the walls as they were read beside each other, and the axis through two planes in the section."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, radians, sin

from gyrodraw.hatch import hatch
from gyrodraw.scene import Scene


@dataclass(frozen=True, slots=True, kw_only=True)
class WallColumn:
    """One wall: its name, its readings by depth as they stand out from the first [mm], None where it was skipped."""

    name: str
    out_mm: Sequence[float | None]


@dataclass(frozen=True, slots=True, kw_only=True)
class WallsDrawn:
    """All walls at the same depths, worded; `lean` is said under them, empty while nothing is known."""

    depths_mm: Sequence[float]
    depth_words: Sequence[str]
    columns: Sequence[WallColumn]
    lean: str = ""


def walls_scene(walls: WallsDrawn, width: float, height: float) -> Scene:
    """Each wall a column: dashed where a true wall would stand, a line through the readings, both at one exaggeration.

    A reading that stands out to the right leans to the right; walls that lean alike are tilt, walls that part taper.
    """
    scene = Scene(width, height, f"The walls as read. {walls.lean}".strip())
    top, bottom, left = 62.0, height - 62.0, 66.0
    low, high = min(walls.depths_mm), max(walls.depths_mm)
    step = (width - left - 20) / len(walls.columns)
    largest = max([abs(v) for one in walls.columns for v in one.out_mm if v is not None] + [1e-3])
    across = 0.36 * step / largest

    def y(depth_mm: float) -> float:
        return top + (depth_mm - low) / max(high - low, 1e-9) * (bottom - top)

    scene.text((8, 20), "depth", "label")
    scene.text((left, 20), "the walls as read", "label")
    for depth, words in zip(walls.depths_mm, walls.depth_words, strict=True):
        scene.line((left - 6, y(depth)), (width - 12, y(depth)), "grid")
        scene.text((left - 12, y(depth) + 6), words, "figure", "end")
    for place, column in enumerate(walls.columns):
        x = left + step * (place + 0.5)
        scene.line((x, top - 10), (x, bottom + 8), "hidden")
        scene.text((x, top - 18), column.name, "figure", "middle")
        points = [(x + out * across, y(depth)) for depth, out in zip(walls.depths_mm, column.out_mm, strict=True)
                  if out is not None]  # fmt: skip
        if len(points) > 1:
            scene.poly(points, "profile")
        for point in points:
            scene.circle(point, 5, "place")
    scene.text(
        (8, height - 12), f"drawn {across / ((bottom - top) / max(high - low, 1e-9)):.0f}:1 across", "label-blue"
    )
    if walls.lean:
        scene.text((width / 2 + 20, height - 34), walls.lean, "figure-blue", "middle")
    return scene


@dataclass(frozen=True, slots=True, kw_only=True)
class LeanPlace:
    """One of the four places round the work, and what is done there; empty for nothing."""

    name: str
    words: str


def leans_to(places: Sequence[LeanPlace], angle_deg: float | None, words: str, seen: str) -> Scene:
    """The work from its open face: an arrow the way its axis leans as it goes in, the supports with their lifts."""
    scene = Scene(420.0, 330.0, f"leans {words}; " + ", ".join(f"{one.name} {one.words}".strip() for one in places))
    x, y, r = 210.0, 150.0, 62.0
    scene.rect((x - 104, y - 104), (x + 104, y + 104), "outline")
    scene.circle((x, y), r, "wall")
    scene.line((x - 124, y), (x + 124, y), "axis")
    scene.line((x, y - 124), (x, y + 124), "axis")
    for place, one in enumerate(places):
        angle = radians(90 * place)
        at = (x + 84 * sin(angle), y - 84 * cos(angle))
        scene.circle(at, 11, "place")
        beside = (x + (124 if place % 2 else 16) * (-1 if place == 3 else 1), at[1] + (22 if place % 2 else 6))
        anchor = "end" if place == 3 else "start"
        scene.text((beside[0], beside[1] - (18 if one.words else 0)), one.name, "label", anchor)
        if one.words:
            scene.text(beside, one.words, "move-words", anchor)
    if angle_deg is not None:
        turned = radians(angle_deg)
        tip = (x + 0.8 * r * sin(turned), y - 0.8 * r * cos(turned))
        scene.line((x, y), tip, "off-centre")
        scene.arrow(tip, (x, y), "arrowhead-blue")
        low = cos(turned) >= 0
        scene.text((x, y + (30 if low else -16)), words, "off-words", "middle")
    scene.text((210, 318), seen, "label", "middle")
    return scene


@dataclass(frozen=True, slots=True, kw_only=True)
class PlaneMark:
    """A plane: its letter, depth and its centre's offset in the drawn direction [mm], worded; None while not read."""

    letter: str
    depth_mm: float
    off_mm: float | None
    words: str
    here: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class AxisDrawn:
    """The bore from its open face, its planes, and how its axis leans over it, worded."""

    length_mm: float
    bore_mm: float
    planes: Sequence[PlaneMark]
    lean: str
    apart: str
    #: Before the first round: whether jaws hold its inner end, and on which surface an indicator stands at each plane.
    held: bool = False
    read_on: str = ""
    #: The outside of the work, and the hatch of its material; unknown it is a broken line at no measure.
    outside_mm: float | None = None
    hatch: str = "iron"


def axis_scene(axis: AxisDrawn, width: float, height: float) -> Scene:
    """A full section of the bore to scale, its axis through the planes exaggerated; the open face at the right."""
    scene = Scene(width, height, f"Axis through the planes. {axis.lean}".strip())
    middle, left, right = height * 0.5, 24.0, width - 40.0
    # what stands on it and what holds it want room above
    widest = axis.outside_mm or 1.3 * axis.bore_mm
    scale = min((right - left) / axis.length_mm, (0.6 if axis.read_on else 0.66) * height / widest)
    half, outer = axis.bore_mm / 2 * scale, widest / 2 * scale
    face = (left + right + axis.length_mm * scale) / 2
    ends = (face - axis.length_mm * scale, face)

    def x(depth_mm: float) -> float:
        return face - depth_mm * scale

    _section(scene, axis, ends, middle, (half, outer))
    if axis.held:
        _jaws_in_section(scene, ends, middle, outer)
    scene.line((6, middle), (width - 6, middle), "axis")
    known = [one for one in axis.planes if one.off_mm is not None]
    largest = max([abs(one.off_mm or 0.0) for one in known] + [1e-3])
    across = 0.6 * half / largest
    if len(known) > 1:
        a, b = known[0], known[-1]
        slope = ((b.off_mm or 0.0) - (a.off_mm or 0.0)) / (b.depth_mm - a.depth_mm)

        def lean(depth_mm: float) -> float:
            return middle - ((a.off_mm or 0.0) + slope * (depth_mm - a.depth_mm)) * across

        scene.line((x(0), lean(0)), (x(axis.length_mm), lean(axis.length_mm)), "sprung")
    for one in axis.planes:
        at = (x(one.depth_mm), middle)
        if axis.read_on in ("outside", "inside"):
            _stands_on(scene, at, half if axis.read_on == "inside" else outer, face, inside=axis.read_on == "inside")
        _plane(scene, one, at, (half, outer), across)
    drawn = f"; axis drawn {across / scale:.0f}:1" if known else ""
    scene.text((24, height - 10), f"full section, to scale{drawn}", "label-blue")
    if axis.lean:
        scene.text((24, 22), axis.lean, "figure")
    scene.text((width - 12, height - 10 if axis.read_on else 22), axis.apart, "label", "end")
    return scene


def _plane(scene: Scene, one: PlaneMark, at: tuple[float, float], walls: tuple[float, float], across: float) -> None:
    """A plane: where its centre lies, once it is known, and its letter under it, to be touched."""
    (x, middle), (half, outer) = at, walls
    scene.line((x, middle - half), (x, middle + half), "hidden")
    if one.off_mm is not None:
        y = middle - one.off_mm * across
        scene.circle((x, y), 5, "place-solid")
        scene.text((x, y - 12 if one.off_mm >= 0 else y + 24), one.words, "figure-blue", "middle")
    scene.circle((x, middle + outer + 22), 15, "disc" if one.here else "disc-open")
    scene.text((x, middle + outer + 28), one.letter, "disc-number" if one.here else "disc-open-number", "middle")
    scene.target((x, middle + outer + 22), 44, f"plane-{one.letter}")


def _section(
    scene: Scene, axis: AxisDrawn, ends: tuple[float, float], middle: float, walls: tuple[float, float]
) -> None:
    """The walls of the bore, hatched where the outside is known, and both ends."""
    half, outer = walls
    for sign in (-1, 1):
        near, far = middle + sign * half, middle + sign * outer
        if axis.outside_mm is not None:
            hatch(scene, (ends[0], min(near, far), ends[1], max(near, far)), axis.hatch)
        scene.line((ends[0], near), (ends[1], near), "wall")
        scene.line((ends[0], far), (ends[1], far), "hidden" if axis.outside_mm is None else "outline")
    scene.lines([((at, middle - outer), (at, middle + outer)) for at in ends], "outline")


def _jaws_in_section(scene: Scene, ends: tuple[float, float], middle: float, outer: float) -> None:
    """Two of the jaws on the outside at the inner end, and the face of the chuck behind it; not to scale."""
    left, grip = ends[0], min(34.0, 0.22 * (ends[1] - ends[0]))
    for sign in (-1, 1):
        near, far = middle + sign * outer, middle + sign * (outer + 28)
        scene.poly([(left - 12, near), (left + grip, near), (left + grip, far), (left - 12, far)], "phantom")
    scene.line((left - 12, middle - outer - 28), (left - 12, middle + outer + 28), "phantom")


def _stands_on(scene: Scene, at: tuple[float, float], half: float, face: float, *, inside: bool) -> None:
    """An indicator at a plane: on the outside from above, in the bore on an arm from the open face."""
    x, middle = at
    if inside:
        arm = middle - 0.35 * half
        scene.poly([(face + 30, arm), (x, arm), (x, middle - half + 2)], "narrow-blue")
        scene.circle((x, middle - half + 5), 4, "dot-blue")
        return
    top = middle - half
    scene.line((x, top), (x, top - 16), "narrow-blue")
    scene.circle((x, top - 28), 12, "narrow-blue")
    scene.line((x, top - 28), (x, top - 37), "narrow-blue")
    scene.circle((x, top - 3), 3, "dot-blue")

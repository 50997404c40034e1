"""Setting up drawn: depths from two sides, packing under an axis, a plate with its heavy side and its weights."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, radians, sin

from gyrodraw.scene import Point, Scene


@dataclass(frozen=True, slots=True, kw_only=True)
class SideBar:
    """How deep one side is bored, of how much it could [mm]; its letter and its words."""

    letter: str
    depth_mm: float
    reach_mm: float
    words: str


def sides_ruler(length_mm: float, first: SideBar, second: SideBar | None, width: float) -> Scene:
    """The bore from end to end, the first side from the right, the second from the left, at one scale."""
    scene = Scene(width, 116.0, f"{first.words}; {second.words if second else 'one side'}")
    left, right = 60.0, width - 60.0
    scale = (right - left) / length_mm
    scene.lines([((x, 8), (x, 108)) for x in (left, right)], "narrow")
    _side(scene, first, (right, 22.0), -scale, (left, right))
    if second is not None:
        _side(scene, second, (left, 68.0), scale, (left, right))
    return scene


def _side(scene: Scene, one: SideBar, at: Point, scale: float, ends: tuple[float, float]) -> None:
    x, y = at
    tone = "a" if one.letter == "A" else "b"
    tip = x + one.depth_mm * scale
    reached = min(max(x + one.reach_mm * scale, ends[0] - 50), ends[1] + 50)
    scene.rect((min(x, tip), y), (max(x, tip), y + 14), f"letter-{tone}")
    if abs(reached - x) > abs(tip - x) + 1:
        scene.rect((min(tip, reached), y + 2), (max(tip, reached), y + 12), "in-hand")
    scene.line((tip, y - 5), (tip, y + 19), "tick")
    scene.text((x + (-6 if scale < 0 else 6), y + 32), one.words, "label", "end" if scale < 0 else "start")


@dataclass(frozen=True, slots=True, kw_only=True)
class StackPiece:
    """One piece of packing, and its name with its height."""

    height_mm: float
    words: str


def stack_view(pieces: Sequence[StackPiece], foot_mm: float, axis_mm: float, words: tuple[str, str, str]) -> Scene:
    """The axis over the table, to scale in height: packing, the work's foot, its axis; `words` are the heights."""
    scene = Scene(380.0, 250.0, f"axis {words[0]} over the table, {words[1]} of packing, {words[2]} of work")
    base, top = 226.0, 26.0
    scale = (base - top) / max(axis_mm, sum(one.height_mm for one in pieces) + foot_mm)
    y = base
    for place, one in enumerate(pieces):
        upper = y - max(one.height_mm * scale, 3.0)
        scene.rect((96, y), (176, upper), "turned")
        scene.rect((96, y), (176, upper), "narrow-blue")
        level = min(y, base - 18 * place) - 2
        scene.poly([(96, (y + upper) / 2), (88, level - 5)], "narrow")
        scene.text((84, level), one.words, "small", "end")
        y = upper
    stacked = base - sum(one.height_mm for one in pieces) * scale
    axis = stacked - foot_mm * scale
    scene.rect((90, stacked), (182, stacked - 12), "outline")
    scene.poly([(116, stacked - 12), (116, axis), (156, axis), (156, stacked - 12)], "outline")
    scene.circle((136, axis), 13, "place")
    scene.line((60, base), (330, base), "wall")
    scene.line((106, axis), (330, axis), "axis")
    for x, (low, high), text in ((216, (base, stacked), words[1]), (216, (stacked, axis), words[2]),
                                 (300, (base, base - axis_mm * scale), words[0])):  # fmt: skip
        scene.line((x, low), (x, high), "narrow")
        scene.line((x - 6, high), (x + 6, high), "narrow")
        scene.text((x + 8, (low + high) / 2 + 5), text, "figure")
    return scene


@dataclass(frozen=True, slots=True, kw_only=True)
class OnPlate:
    """Something on the plate: how far out as a share of the plate, where clockwise from the mark, its words."""

    share: float
    angle_deg: float
    words: str
    is_weight: bool = False


def plate_view(things: Sequence[OnPlate], holes: int | None, hole_share: float, light_deg: float | None) -> Scene:
    """A faceplate from the tailstock, the mark at the top: masses, the holes, the weights, the light side."""
    scene = Scene(380.0, 300.0, "faceplate, " + ", ".join(one.words for one in things))
    centre, radius = (190.0, 152.0), 120.0

    def at(share: float, angle: float) -> Point:
        turn = radians(angle)
        return centre[0] + radius * share * sin(turn), centre[1] - radius * share * cos(turn)

    scene.circle(centre, radius, "outline")
    scene.lines([((centre[0] - 132, centre[1]), (centre[0] + 132, centre[1])),
                 ((centre[0], centre[1] - 132), (centre[0], centre[1] + 132))], "axis")  # fmt: skip
    scene.poly([(190, 30), (184, 16), (196, 16)], "support", closed=True)
    scene.text((202, 22), "mark", "small")
    for n in range(holes or 0):
        scene.circle(at(hole_share, 360 * n / (holes or 1)), 3.5, "place-empty")
    if light_deg is not None:
        tip = at(0.96, light_deg)
        scene.line(at(0.2, light_deg), tip, "off-centre")
        scene.arrow(tip, centre, "arrowhead-blue")
    for one in things:
        x, y = at(one.share, one.angle_deg)
        if one.is_weight:
            scene.rect((x - 9, y - 9), (x + 9, y + 9), "cutter")
        else:
            scene.circle((x, y), 9, "place-solid")
        right = x >= centre[0]
        scene.text((x + (13 if right else -13), y + 5), one.words, "chart-figure", "start" if right else "end")
    return scene

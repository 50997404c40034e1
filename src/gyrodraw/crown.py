"""The crown of a machine's own dial, as it will stand when the cutter is set: the target under the index."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, cos, floor, radians, sin

from gyrodraw.scene import Point, Scene

#: The window shows so many divisions; a longer move draws the whole ring.
WINDOW = 26.0
_LONGEST_IN_WINDOW = 24.0
#: About the target this much of the rim is kept clear of other numbers [deg].
_CLEAR_DEG, _BESIDE_DEG = 50.0, 24.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Crown:
    """A dial: what stands under its mark now, what will, and how it is turned (divisions outward)."""

    stands: float
    target: float
    divisions: float
    per_turn: float
    #: Numbers rise or fall as the cutter goes outward.
    rises: bool = True
    stands_words: str = ""
    target_words: str = ""


@dataclass(frozen=True, slots=True)
class _Rim:
    """Where a number lies on the rim, the target at the top; clockwise is rising numbers."""

    centre: Point
    radius: float
    degrees: float

    def at(self, off: float, inside: float = 0.0) -> Point:
        """The point `off` divisions past the target, so far inside the rim."""
        angle = radians(off * self.degrees)
        r = self.radius - inside
        return self.centre[0] + r * sin(angle), self.centre[1] - r * cos(angle)


def dial_crown(crown: Crown) -> Scene:
    """Draw the crown: the window about the target, or the whole ring where the move is long."""
    long = abs(crown.divisions) > _LONGEST_IN_WINDOW
    scene = Scene(352, 196, f"dial from {crown.stands_words} to {crown.target_words}")
    if long:
        _ring(scene, crown)
    else:
        _window(scene, crown)
    return scene


def _window(scene: Scene, crown: Crown) -> None:
    rim = _Rim((176.0, 296.0), 226.0, 80.0 / WINDOW)
    _arc(scene, rim, -WINDOW / 2, WINDOW / 2, 0.0, "outline")
    _arc(scene, rim, -WINDOW / 2, WINDOW / 2, 58.0, "narrow")
    for off in (-WINDOW / 2, WINDOW / 2):
        scene.line(rim.at(off), rim.at(off, 58), "narrow")
    start = -crown.divisions if crown.rises else crown.divisions
    if abs(start) > 1e-9:
        _wedge(scene, rim, max(-WINDOW / 2, min(WINDOW / 2, start)), 0.0)
    _ticks(scene, rim, crown, -WINDOW / 2, WINDOW / 2, 1, 5)
    _index(scene, rim, crown)
    if abs(start) > 1e-9:
        _from(scene, rim, crown, start)


def _ring(scene: Scene, crown: Crown) -> None:
    rim = _Rim((176.0, 116.0), 70.0, 360.0 / crown.per_turn)
    scene.circle(rim.centre, rim.radius, "outline")
    scene.circle(rim.centre, rim.radius - 30, "narrow")
    step = _step(crown.per_turn)
    _ticks(scene, rim, crown, -crown.per_turn / 2, crown.per_turn / 2 - 1e-9, step / 2, step)
    _index(scene, rim, crown)
    rest = (-crown.divisions if crown.rises else crown.divisions) % crown.per_turn
    start = rest if rest <= crown.per_turn / 2 else rest - crown.per_turn
    if abs(start) > 1e-9:
        scene.line(rim.at(start, -5), rim.at(start, 32), "stands")
        beside = max(abs(start), _CLEAR_DEG / rim.degrees) * (1 if start > 0 else -1)
        x, y = rim.at(beside, -20)
        scene.text((x, y + 5), crown.stands_words, "figure", "end" if x < rim.centre[0] else "start")


def _step(per_turn: float) -> float:
    """A round number of divisions between figures: about ten a turn."""
    return next(step for step in (1, 2, 5, 10, 20, 25, 50, 100, 200, 500) if per_turn / step <= 12)


def _arc(scene: Scene, rim: _Rim, start: float, end: float, inside: float, role: str) -> None:
    count = max(2, ceil(abs(end - start) * rim.degrees / 2))
    points = [rim.at(start + (end - start) * n / count, inside) for n in range(count + 1)]
    scene.poly(points, role)


def _wedge(scene: Scene, rim: _Rim, start: float, end: float) -> None:
    """What is turned through: washed, with an arrow along the rim to the target."""
    count = max(2, ceil(abs(end - start) * rim.degrees / 2))
    outer = [rim.at(start + (end - start) * n / count, 1) for n in range(count + 1)]
    inner = [rim.at(end - (end - start) * n / count, 57) for n in range(count + 1)]
    scene.poly([*outer, *inner], "turned", closed=True)
    tip = -0.9 if start < 0 else 0.9
    if abs(start) > 2.4:
        _arc(scene, rim, start * 0.86, tip * 1.5, -14, "turning")
        scene.arrow(rim.at(tip, -14), rim.at(tip * 2, -14), "arrowhead-blue")


def _ticks(
    scene: Scene, rim: _Rim, crown: Crown, first: float, last: float, step: float, figure_step: float
) -> None:  # fmt: skip
    """Marks at whole steps; figures at every `figure_step`, but not under the mark or where the dial stands."""
    start = -crown.divisions if crown.rises else crown.divisions
    for n in range(ceil((crown.target + first) / step), floor((crown.target + last) / step) + 1):
        number = n * step
        off = number - crown.target
        is_figure = abs(number / figure_step - round(number / figure_step)) < 1e-9
        depth = 16.0 if is_figure else 9.0
        scene.line(rim.at(off), rim.at(off, depth), "narrow")
        near_start = abs(start) > 1e-9 and abs(off - start) * rim.degrees < 3.4
        if is_figure and abs(off) * rim.degrees > 3.4 and not near_start:
            x, y = rim.at(off, 34 if rim.radius > 100 else 22)
            scene.text((x, y + 5), f"{number % crown.per_turn:g}", "tick-figure", "middle")


def _index(scene: Scene, rim: _Rim, crown: Crown) -> None:
    x, y = rim.at(0)
    scene.poly([(x, y), (x - 9, y - 18), (x + 9, y - 18)], "pointer-head", closed=True)
    scene.line((x, y), rim.at(0, 24 if rim.radius > 100 else 18), "pointer")
    scene.text((x, y - 26), crown.target_words, "dial-target", "middle")


def _from(scene: Scene, rim: _Rim, crown: Crown, start: float) -> None:
    """Where the dial stands now: a hollow stroke with its number beside the rim's end."""
    held = max(-WINDOW / 2, min(WINDOW / 2, start))
    scene.line(rim.at(held, -6), rim.at(held, 30), "stands")
    if abs(start) * rim.degrees > 9:
        # close to the target its number has no room above the rim: it stands under the band
        x, y = rim.at(held, -30 if abs(held) * rim.degrees > _BESIDE_DEG else 76)
        anchor = "start" if x < 40 else "end" if x > 312 else "middle"
        scene.text((max(4.0, min(348.0, x)), y + 2), crown.stands_words, "figure", anchor)

"""A boring bar from the side: its parts, the cutter at its end, how far it can stand out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from gyrodraw.scene import Scene


@dataclass(frozen=True, slots=True, kw_only=True)
class BarSide:
    """A bar as it lies [mm]; steps from the cutter's end, each (length, diameter). `reach_mm` None: in bearings."""

    length_mm: float
    diameter_mm: float
    reach_mm: float | None
    steps_mm: Sequence[tuple[float, float]] = ()
    bore_mm: float = 0.0

    def parts(self) -> list[tuple[float, float, float]]:
        """Each (from, to, diameter), the rest at the bar's own diameter."""
        found, at = [], 0.0
        for length, diameter in self.steps_mm:
            found.append((at, min(at + length, self.length_mm), diameter))
            at += length
        if at < self.length_mm:
            found.append((at, self.length_mm, self.diameter_mm))
        return found


def bar_side(bar: BarSide, scale: float) -> Scene:
    """The bar at a list's size, so many units a millimetre: all bars of a list at one scale, a long one broken off."""
    scene = Scene(216.0, 44.0, "the bar from the side, to the scale of this list")
    room = 196.0 / scale
    if bar.length_mm <= room:
        _draw(scene, bar, 10.0, 22.0, scale)
        return scene
    _draw(scene, replace(bar, length_mm=room - 8 / scale), 10.0, 22.0, scale)
    x, half = 10.0 + 196 - 8, bar.diameter_mm / 2 * scale + 3
    scene.poly([(x - 4, 22 - half), (x + 2, 22 - half / 3), (x - 4, 22 + half / 3), (x + 2, 22 + half)], "wall")
    return scene


def bar_view(bar: BarSide, words: tuple[str, str, str, str]) -> Scene:
    """The bar beside its fields; words are its length, its diameter, how far it can stand out, what is clamped."""
    scene = Scene(760.0, 190.0, f"bar {words[1]}, {words[0]} long, can stand out {words[2] or 'in bearings'}")
    thick = max(d for _, _, d in bar.parts())
    scale = min(600 / bar.length_mm, 84 / thick)
    left, axis = 60.0, 96.0
    _draw(scene, bar, left, axis, scale)
    right = left + bar.length_mm * scale
    half = thick / 2 * scale
    scene.dimension((left, 34), (right, 34), words[0])
    scene.lines([((x, 28), (x, axis - half - 4)) for x in (left, right)], "narrow")
    scene.text((right + 12, axis + 6), words[1], "figure")
    if bar.reach_mm is not None:
        clamp = left + bar.reach_mm * scale
        scene.dimension((left, axis + half + 34), (clamp, axis + half + 34), words[2], role="narrow-blue")
        scene.poly([(right, axis - half - 8), (clamp, axis - half - 8), (clamp, axis + half + 8),
                    (right, axis + half + 8)], "phantom")  # fmt: skip
        if (right - clamp) > 90:
            scene.text(((clamp + right) / 2, axis + half + 34), words[3], "label", "middle")
    return scene


def _draw(scene: Scene, bar: BarSide, left: float, axis: float, scale: float) -> None:
    right = left + bar.length_mm * scale
    for a, b, diameter in bar.parts():
        half = max(diameter / 2 * scale, 2.5)
        scene.rect((left + a * scale, axis - half), (left + b * scale, axis + half), "bar")
    if bar.bore_mm:
        half = bar.bore_mm / 2 * scale
        scene.lines(
            [((left, axis - half), (right, axis - half)), ((left, axis + half), (right, axis + half))], "hidden"
        )
    scene.line((left - 8, axis), (right + 8, axis), "axis")
    half = max(bar.parts()[0][2] / 2 * scale, 2.5)
    if bar.reach_mm is not None:
        tip = [
            (left - 4, axis - half - 4),
            (left + 4, axis - half - 4),
            (left + 8, axis - half + 4),
            (left, axis - half + 4),
        ]
        scene.poly(tip, "cutter", closed=True)
        x = left + bar.reach_mm * scale
        scene.line((x, axis - half - 8), (x, axis + half + 8), "hidden")

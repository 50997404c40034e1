"""Work that is only set true: the stock in half section, with the surface that is read."""

from __future__ import annotations

from dataclasses import dataclass

from gyrodraw.hatch import hatch
from gyrodraw.scene import Scene


@dataclass(frozen=True, slots=True, kw_only=True)
class Stock:
    """The surface that is read: how long, how large, whether it is a hole [mm]; its figures already worded."""

    length_mm: float
    size_mm: float
    inside: bool
    hatch: str
    length: str
    size: str
    letter: str = ""


#: Drawn round a hole whose outside is not known, as a share of the hole; broken off.
_AROUND = 1.5


def stock_band(stock: Stock, width: float) -> Scene:
    """The stock above its axis, the surface that is read heavy, its size at the left."""
    scene = Scene(width, 300, f"The work in half section, {stock.size}, only set true")
    outer = stock.size_mm * (_AROUND if stock.inside else 1.0)
    inner = stock.size_mm if stock.inside else 0.0
    axis_y, top = 214.0, 54.0
    scale = min((axis_y - top) / (outer / 2), (width - 240) / stock.length_mm)
    left, right = width / 2 - stock.length_mm * scale / 2, width / 2 + stock.length_mm * scale / 2
    high, low, wall = axis_y - outer / 2 * scale, axis_y - inner / 2 * scale, axis_y - stock.size_mm / 2 * scale
    hatch(scene, (left, high, right, low), stock.hatch)
    scene.poly([(left, low), (left, high), (right, high), (right, low)], "outline")
    scene.line((left, wall), (right, wall), "wall")
    for x in (left, right):
        scene.line((x, 18), (x, high - 3), "narrow")
    scene.dimension((left, 26), (right, 26), stock.length)
    x = left - 40
    scene.line((x - 8, wall), (left - 3, wall), "narrow")
    scene.line((x, wall), (x, axis_y + 8), "narrow")
    scene.arrow((x, wall), (x, axis_y))
    scene.text((x, axis_y + 28), stock.size, "figure", "middle")
    scene.line((12, axis_y), (width - 12, axis_y), "axis")
    if width > 600:
        scene.text((24, 286), "half section, to scale", "label")
    words = "heavy line: the surface that is read"
    scene.text((width - 24, 286), words, "label", "end")
    return scene

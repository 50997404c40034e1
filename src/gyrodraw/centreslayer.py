"""The Bar step of a bar between centres: the bar, the bit, and the work at both ends of its travel."""

from __future__ import annotations

from dataclasses import dataclass

from gyrodraw.hatch import hatch
from gyrodraw.scene import Scene


@dataclass(frozen=True, slots=True, kw_only=True)
class CentresLayer:
    """All that the band shows, in mm from the driver's centre, with its words."""

    bar_mm: float
    bar_length_mm: float
    driver_mm: float
    tail_mm: float
    work_length_mm: float
    bored_from_mm: float
    bored_to_mm: float
    overrun_mm: float
    outside_mm: float
    bore_mm: float
    hatch: str
    bit_mm: float | None
    bit_from_mm: float
    bit_to_mm: float | None
    bar_words: str
    bit_words: str
    travel_words: str
    range_words: str
    length_words: str


@dataclass(frozen=True, slots=True)
class _Sheet:
    scene: Scene
    left: float
    scale: float
    axis_y: float

    def x(self, z_mm: float) -> float:
        return self.left + z_mm * self.scale

    def y(self, diameter_mm: float) -> float:
        return self.axis_y - diameter_mm / 2 * self.scale


def centres_band(layer: CentresLayer, width: float) -> Scene:
    """The Bar band: true scale, the work drawn where the cut begins, dashed where it ends."""
    narrow = width < 600
    height = 372
    scene = Scene(width, height, f"{layer.bar_words} between centres, bit at {layer.bit_words}")
    room = width - (70 if narrow else 220)
    scale = min(room / layer.bar_length_mm, 78 / (layer.outside_mm / 2))
    sheet = _Sheet(scene, (width - layer.bar_length_mm * scale) / 2, scale, 150.0)
    _work(sheet, layer)
    _bar(sheet, layer)
    scene.line((8, sheet.axis_y), (width - 8, sheet.axis_y), "axis")
    below = sheet.axis_y + max(layer.outside_mm / 2 * scale, 24) + 24
    _figures(sheet, layer, below, narrow=narrow)
    scene.text((16, height - 12), "to scale; dashed: where the work ends its travel", "label")
    return scene


def _places(layer: CentresLayer) -> tuple[float, float] | None:
    """Where the work's driver end stands when the cut begins and when it ends."""
    if layer.bit_mm is None:
        return None
    return (
        layer.bit_mm - layer.bored_from_mm + layer.overrun_mm,
        layer.bit_mm - layer.bored_to_mm - layer.overrun_mm,
    )


def _work(sheet: _Sheet, layer: CentresLayer) -> None:
    places = _places(layer)
    at = places[0] if places else layer.driver_mm
    scene, inner, outer = sheet.scene, layer.bore_mm / 2 * sheet.scale, layer.outside_mm / 2 * sheet.scale
    left, right = sheet.x(at), sheet.x(at + layer.work_length_mm)
    for top, bottom in ((-outer, -inner), (inner, outer)):
        box = (left, sheet.axis_y + top, right, sheet.axis_y + bottom)
        if box[3] - box[1] > 1:
            hatch(scene, box, layer.hatch)
        scene.rect((left, sheet.axis_y + top), (right, sheet.axis_y + bottom), "outline")
    if places:
        left, right = sheet.x(places[1]), sheet.x(places[1] + layer.work_length_mm)
        scene.rect((left, sheet.axis_y - outer), (right, sheet.axis_y + outer), "phantom")


def _bar(sheet: _Sheet, layer: CentresLayer) -> None:
    scene, r = sheet.scene, layer.bar_mm / 2 * sheet.scale
    end = sheet.x(layer.bar_length_mm)
    scene.rect((sheet.x(0), sheet.axis_y - r), (end, sheet.axis_y + r), "bar")
    for x, way in ((sheet.x(0), -1), (end, 1)):
        scene.poly([(x + way * -10, sheet.axis_y), (x + way * 16, sheet.axis_y - 14),
                    (x + way * 16, sheet.axis_y + 14)], "support", closed=True)  # fmt: skip
    carrier = max(10.0, layer.driver_mm * sheet.scale - 6)
    scene.rect((sheet.x(0) + 2, sheet.axis_y - r - 10), (sheet.x(0) + carrier, sheet.axis_y + r + 10), "phantom")
    if layer.bit_mm is not None:
        x, tip = sheet.x(layer.bit_mm), sheet.y(layer.bore_mm)
        scene.poly([(x, tip), (x + 7, tip + 6), (x + 7, sheet.axis_y + r), (x - 7, sheet.axis_y + r), (x - 7, tip + 6)],
                   "cutter", closed=True)  # fmt: skip


def _figures(sheet: _Sheet, layer: CentresLayer, top: float, *, narrow: bool) -> None:
    scene = sheet.scene
    scene.dimension((sheet.x(0), 30), (sheet.x(layer.bar_length_mm), 30), layer.length_words)
    if layer.bit_mm is not None:
        x = sheet.x(layer.bit_mm)
        scene.line((x, sheet.axis_y + layer.bar_mm / 2 * sheet.scale + 3), (x, top + 15), "narrow-blue")
        scene.dimension((sheet.x(0), top + 10), (x, top + 10), layer.bit_words, role="narrow-blue")
    if layer.bit_to_mm is not None:
        left, right = sheet.x(layer.bit_from_mm), max(sheet.x(layer.bit_to_mm), sheet.x(layer.bit_from_mm) + 3)
        scene.rect((left, top + 26), (right, top + 36), "in-hand")
        scene.text((16, top + 56), layer.range_words, "words-ok")
    else:
        scene.text((16, top + 56), layer.range_words, "words-bad")
    scene.text((16, top + 78), layer.travel_words, "label")
    scene.text((16, 62) if narrow else (sheet.x(layer.bar_length_mm), 62), layer.bar_words, "figure",
               "start" if narrow else "end")  # fmt: skip

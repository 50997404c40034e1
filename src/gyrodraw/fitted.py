"""A bush beside its seat: both in half section at one scale, and their zones, the interference enlarged."""

from __future__ import annotations

from dataclasses import dataclass

from gyrodraw.hatch import hatch
from gyrodraw.scene import Scene


@dataclass(frozen=True, slots=True, kw_only=True)
class BushLayer:
    """Sizes in mm, and their figures as words."""

    hub_mm: float
    seat_mm: float
    depth_mm: float
    inside_mm: float
    length_mm: float
    outside_mm: float
    hub_hatch: str
    bush_hatch: str
    seat_words: str
    outside_words: str
    inside_words: str
    length_words: str
    #: The zones: seat from, to; bush from, to; each with its two words.
    seat_zone_mm: tuple[float, float]
    bush_zone_mm: tuple[float, float]
    zone_words: tuple[str, str, str, str]
    gap_words: tuple[str, str]
    unsure_mm: float
    what: str = "bush"
    #: A flange that stays outside the seat: how thick, how large, its figure as words.
    flange: tuple[float, float, str] | None = None

    @property
    def is_solid(self) -> bool:
        """Whether it has no bore: cut lengthwise it is left white."""
        return self.inside_mm == 0


def bush_band(layer: BushLayer, width: float) -> Scene:
    """Seat and bush at the left, their zones at the right; on a narrow sheet the zones under them."""
    narrow = width < 600
    title = f"Seat {layer.seat_words}, {layer.what} {layer.outside_words} outside"
    title += "" if layer.is_solid else f", {layer.inside_words} bore"
    scene = Scene(width, 496.0 if narrow else 332.0, title)
    _half_view(scene, layer, narrow)
    _zones(scene, layer, (24.0, width - 24.0, 366.0, 462.0) if narrow else (width * 0.56, width - 24.0, 60.0, 270.0))
    return scene


def _half_view(scene: Scene, layer: BushLayer, narrow: bool) -> None:
    axis, top, left = 262.0, 52.0, 20.0 if narrow else 40.0
    room = (scene.width - 150 if narrow else scene.width * 0.5 - 170) / (
        layer.depth_mm * 1.5 + layer.length_mm + (layer.flange[0] if layer.flange else 0)
    )
    greatest = max(layer.hub_mm, layer.flange[1] if layer.flange else 0)
    scale = min((axis - top) / (greatest / 2), room)
    y = {name: axis - getattr(layer, f"{name}_mm") / 2 * scale for name in ("hub", "seat", "inside", "outside")}
    inner = axis - layer.inside_mm / 2 * scale
    behind, face = left + 0.5 * layer.depth_mm * scale, left + 1.5 * layer.depth_mm * scale
    hatch(scene, (left, y["hub"], face, y["seat"]), layer.hub_hatch)
    if layer.is_solid:
        behind = left
    else:
        hatch(scene, (left, y["seat"], behind, inner), layer.hub_hatch)
    scene.poly([(left, axis), (left, y["hub"]), (face, y["hub"]), (face, axis)], "outline")
    scene.poly([(face, y["seat"]), (behind, y["seat"]), (behind, inner), (left, inner)], "wall")
    start = face + (30 if narrow else 96)
    end = start + layer.length_mm * scale
    if not layer.is_solid:
        hatch(scene, (start, y["outside"], end, inner), layer.bush_hatch)
    scene.rect((start, y["outside"]), (end, inner), "narrow-blue")
    last = _flange(scene, layer, (end, inner, axis), scale)
    scene.lines([((start, inner), (start, axis)), ((last, inner), (last, axis))], "narrow-blue")
    scene.line((12, axis), (last + 20, axis), "axis")
    scene.text((face - 6, y["seat"] + 22), layer.seat_words, "figure", "end")
    scene.text(((start + end) / 2, y["outside"] - 10), layer.outside_words, "figure-blue", "middle")
    between = (y["outside"] + axis) / 2 if layer.is_solid else (inner + axis) / 2
    scene.text(((start + end) / 2, between + 6), layer.inside_words, "figure-blue", "middle")
    scene.dimension((start, axis + 30), (end, axis + 30), layer.length_words, role="narrow-blue")
    scene.text((left, axis + 54), "half section, to scale", "label")


def _flange(scene: Scene, layer: BushLayer, at: tuple[float, float, float], scale: float) -> float:
    """The flange past the bush's end, over its bore; returns where the part ends."""
    end, inner, axis = at
    if layer.flange is None:
        return end
    thick, large, words = layer.flange
    last, top = end + thick * scale, axis - large / 2 * scale
    hatch(scene, (end, top, last, inner), layer.bush_hatch)
    scene.rect((end, top), (last, inner), "narrow-blue")
    scene.text(((end + last) / 2, top - 8), words, "figure-blue", "middle")
    return last


def _zones(scene: Scene, layer: BushLayer, box: tuple[float, float, float, float]) -> None:
    left, right, top, bottom = box
    low = min(layer.seat_zone_mm[0] - layer.unsure_mm, layer.bush_zone_mm[0])
    span = max(layer.bush_zone_mm[1] - low, layer.seat_zone_mm[1] + layer.unsure_mm - low, 1e-6)

    def y(size_mm: float) -> float:
        return bottom - (size_mm - low) / span * (bottom - top)

    wide = (right - left) * 0.26
    seat, bush = left + 40, right - wide - 96
    a, b = layer.seat_zone_mm
    if layer.unsure_mm:
        scene.rect((seat, y(b + layer.unsure_mm)), (seat + wide, y(a - layer.unsure_mm)), "guard")
    scene.rect((seat, y(b)), (seat + wide, min(y(a), y(b) + 3) if a == b else y(a)), "accept")
    scene.text((seat + wide / 2, y(low) + 20), "seat", "label", "middle")
    c, d = layer.bush_zone_mm
    scene.rect((bush, y(d)), (bush + wide, y(c)), "turned")
    scene.lines([((bush - 8, y((c + d) / 2)), (bush + wide + 8, y((c + d) / 2)))], "wanted-heavy")
    scene.text((bush + wide / 2, y(d) - 8), f"{layer.what} outside", "label-blue", "middle")
    apart = y(c) - y(d) >= 20
    for size, words in ((d, layer.zone_words[3]), *([(c, layer.zone_words[2])] if apart else [])):
        scene.text((bush + wide + 12, y(size) + 6), words, "figure-blue")
    seat_words = " to ".join(dict.fromkeys(layer.zone_words[:2]))
    if y(b) < y(c):  # what goes in is smaller: its gap is drawn beside the seat, the seat's figures over it
        scene.text((seat, y(b) - 8), seat_words, "figure")
    else:
        scene.text((seat + wide + 8, y(a) + 6), seat_words, "figure")
    for x, (p, q), words in ((bush - 26, (b + layer.unsure_mm, c), layer.gap_words[0]),
                             (left + 12, (a - layer.unsure_mm, d), layer.gap_words[1])):  # fmt: skip
        scene.line((x, y(p)), (x, y(q)), "narrow")
        for size in (p, q):
            scene.line((x - 6, y(size)), (x + 6, y(size)), "narrow")
        scene.text((x + 8, (y(p) + y(q)) / 2 + 5), words, "figure")
    drawn = (bottom - top) / span
    scene.text((right, top - 30), f"zones drawn {drawn:.0f}:1", "label", "end")

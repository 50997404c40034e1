"""The Bar step: the bar in the bore, reach, and the bar ruler with its limits."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrodraw.scene import Scene
from gyrodraw.section import Part, View, draw_axis, draw_wanted, draw_work


@dataclass(frozen=True, slots=True, kw_only=True)
class RulerLimit:
    """One limit on the ruler: where it lies and its words."""

    name: str
    at_mm: float | None
    figure: str
    words: str
    detail: str
    state: str
    governs: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class BarLayer:
    """The bar as it stands in the work, in mm, with its words."""

    diameter_mm: float
    overrun_mm: float
    clear_mm: float
    bar_words: str
    reach_words: str
    part_words: tuple[str, str, str]
    spring_mm: float | None
    spring_words: str
    limits: Sequence[RulerLimit]
    #: How far the bar's own centre lies off the axis: a boring head swings it there.
    centre_mm: float = 0.0
    holder: str = "bar holder, on the cross-slide"
    #: What stands out beyond the reach needed: a head's bar has a reach of its own.
    out_mm: float | None = None
    #: The bar that carries the head, (length, diameter): none where the head sits in the spindle.
    carrier: tuple[float, float] | None = None

    @property
    def in_head(self) -> bool:
        """Whether a boring head holds it: drawn to the axis, the bar swung out."""
        return self.out_mm is not None

    def reach_mm(self, part: Part) -> float:
        """Holder face to cutter point."""
        if self.out_mm is not None:
            return self.out_mm
        return part.length_mm + self.overrun_mm + self.clear_mm


#: Spring is drawn this many times too large.
SPRING_DRAWN = 1000


def bar_band(part: Part, layer: BarLayer, width: float) -> Scene:
    """The Bar step's band."""
    narrow = width < 600
    height = 404 if narrow else 372
    reach = layer.reach_mm(part)
    scene = Scene(width, height, f"{layer.bar_words} in the bore, {layer.reach_words} out")
    axis_y = 168.0 if narrow else 190.0
    view = _view(scene, part, layer, width, axis_y)
    holder = view.x(-layer.clear_mm)
    draw_work(view, part)
    draw_wanted(view, part)
    if layer.in_head:
        holder = view.x(part.length_mm + layer.overrun_mm - reach)
        _head(view, layer, _head_face(view, layer, holder), width)
    if layer.carrier is not None:
        _carrier(view, layer, holder, width)
    _bar(view, part, layer, _head_face(view, layer, holder), width)
    draw_axis(view, 8, width - 8)
    _reach_dimensions(view, part, layer, holder)
    top = max(axis_y + layer.diameter_mm / 2 * view.scale + 16, axis_y + 40)
    scene.dimension((holder - reach * view.scale, top + 10), (holder, top + 10), layer.reach_words,
                    role="narrow-blue", above=5)  # fmt: skip
    _ruler(view, layer, holder, reach, top + 24, width)
    if not layer.in_head:
        scene.drag_scale = view.scale
    return scene


def _view(scene: Scene, part: Part, layer: BarLayer, width: float, axis_y: float) -> View:
    reach = layer.reach_mm(part)
    longest = max([reach, *(limit.at_mm for limit in layer.limits if limit.at_mm is not None)])
    longest = min(longest, 1.6 * reach)
    narrow = width < 600
    room = width - (60 if narrow else 660 if width > 900 else 350)
    scale = min(room / longest, (axis_y - 56) / (part.greatest_mm / 2), 84 / (layer.diameter_mm / 2))
    right = 40 if narrow else 500 if width > 900 else 210
    holder = width - right
    clear = reach - part.length_mm - layer.overrun_mm
    return View(scene, axis_y, holder - clear * scale, scale)


def _head(view: View, layer: BarLayer, holder: float, width: float) -> None:
    """The head's body behind its face, about the spindle's axis."""
    body = min(max(60.0, 2.2 * layer.diameter_mm * view.scale), view.axis_y - 60)
    deep = 90 if layer.carrier is None else 34
    view.scene.poly(
        [(min(width - 14, holder + deep), view.axis_y - body), (holder, view.axis_y - body),
         (holder, view.axis_y + body / 3), (min(width - 14, holder + deep), view.axis_y + body / 3)],
        "phantom",
    )  # fmt: skip


def _head_face(view: View, layer: BarLayer, holder: float) -> float:
    """Where the bar with the cutter begins: at the spindle, or at the head on the end of another bar."""
    return holder if layer.carrier is None else holder - layer.carrier[0] * view.scale


def _carrier(view: View, layer: BarLayer, holder: float, width: float) -> None:
    """The bar that carries the head, from behind the head's body into the spindle's nose."""
    if layer.carrier is None:
        return
    half = layer.carrier[1] / 2 * view.scale
    left = min(_head_face(view, layer, holder) + 34, holder)
    right = min(width - 14, holder + 60)
    view.scene.poly([(left, view.axis_y - half), (right, view.axis_y - half), (right, view.axis_y + half),
                     (left, view.axis_y + half)], "bar", closed=True)  # fmt: skip
    view.scene.poly([(right, view.axis_y - half - 18), (holder, view.axis_y - half - 18),
                     (holder, view.axis_y + half + 18), (right, view.axis_y + half + 18)], "phantom")  # fmt: skip


def _bar(view: View, part: Part, layer: BarLayer, holder: float, width: float) -> None:
    scene, r = view.scene, layer.diameter_mm / 2 * view.scale
    wall = view.y(part.aim_mm)
    axis_y = view.axis_y - layer.centre_mm * view.scale
    tip = view.x(part.length_mm + layer.overrun_mm)
    shank = min(width - 14, holder + (max(60, 4 * r) if layer.carrier is None else 24))
    scene.poly(
        [(tip + 4, axis_y - r), (shank, axis_y - r), (shank, axis_y + r), (tip + 4, axis_y + r),
         (tip, axis_y + r - 4), (tip, axis_y - r + 4)],
        "bar", closed=True,
    )  # fmt: skip
    scene.poly(
        [(tip, wall), (tip + 16, axis_y - r), (tip + 2, axis_y - r), (tip - 3, wall + 4)],
        "cutter", closed=True,
    )  # fmt: skip
    if not layer.in_head:
        scene.poly(
            [(shank, axis_y - r - 22), (holder, axis_y - r - 22), (holder, axis_y + r + 14),
             (shank, axis_y + r + 14)],
            "phantom",
        )  # fmt: skip
    if width > 900:
        above = 8.0 if layer.carrier is None else layer.carrier[1] / 2 * view.scale + 8
        beside = (shank + 14, min(axis_y + 12, view.axis_y - above)) if layer.in_head else (holder + 12, axis_y - 8)
        scene.text((beside[0], beside[1] - 20 if layer.in_head else axis_y - r - 6), layer.holder, "label")
        scene.text(beside, layer.bar_words, "figure")
    if layer.spring_mm is not None and width >= 600:
        _spring(view, layer, tip, holder, r)


def _spring(view: View, layer: BarLayer, tip: float, holder: float, r: float) -> None:
    """The sprung centre line: a cantilever's shape, drawn a thousand times too large."""
    end = min((layer.spring_mm or 0) * SPRING_DRAWN * view.scale, 0.8 * r)
    base = view.axis_y - layer.centre_mm * view.scale
    points = []
    for n in range(25):
        u = n / 24
        points.append((holder + (tip - holder) * u, base + end * (3 * u * u - u**3) / 2))
    view.scene.poly(points, "sprung")
    room = view.axis_y + 20 if layer.in_head else base + r - 8
    view.scene.text(((tip + holder) / 2, room), layer.spring_words, "label-blue", "middle")


def _reach_dimensions(view: View, part: Part, layer: BarLayer, holder: float) -> None:
    scene, y = view.scene, 26.0
    cutter = view.x(part.length_mm + layer.overrun_mm)
    far = max(view.x(part.length_mm), cutter)  # a side that ends within the bore ends where the cutter stops
    top = view.y(part.greatest_mm)
    for x, foot in (
        (cutter, view.y(part.aim_mm)),
        (far, top),
        (view.face_x, top),
        (holder, view.axis_y - 60),
    ):
        scene.line((x, y - 6), (x, max(foot - 3, y)), "narrow")
    overrun, length, clear = layer.part_words
    scene.dimension((far, y), (view.face_x, y), length)
    scene.line((view.face_x, y), (holder, y), "narrow")
    scene.text(((view.face_x + holder) / 2, y - 6), clear, "figure", "middle")
    if layer.overrun_mm >= 0:
        scene.line((cutter - 14, y), (far, y), "narrow")
        scene.text((cutter - 4, y - 6), overrun, "figure", "end")


def _ruler(view: View, layer: BarLayer, holder: float, reach: float, top: float, width: float) -> None:
    """One bar a limit: the used length, then what is in hand or over, a tick at the limit; broken off at the edge."""
    narrow = width < 600
    step = 40 if narrow else 26
    for place, limit in enumerate(layer.limits):
        y = top + step * place + (18 if narrow else 0)
        used = holder - reach * view.scale
        scene = view.scene
        reached = None if limit.at_mm is None else holder - limit.at_mm * view.scale
        edge = 8.0 if narrow else 30 + 9.6 * len(limit.figure) + 8.2 * len(limit.words)
        end = used if reached is None else max(reached, min(edge, used))
        body = "ruler-governs" if limit.governs else "ruler"
        scene.rect((max(used, end), y), (holder, y + 9), body)
        if end < used:
            scene.rect((end, y), (used, y + 9), "in-hand")
        elif end > used:
            scene.rect((used, y), (end, y + 9), f"over-{limit.state}")
        if reached is not None and reached < end:
            scene.lines([((end + dx - 3, y + 13), (end + dx + 3, y - 4)) for dx in (5, 11)], "narrow")
        elif reached is not None:
            scene.line((reached, y - 4), (reached, y + 13), "tick-governs" if limit.governs else "tick")
        _ruler_words(scene, limit, holder, min(end, used), y, width)


def _ruler_words(scene: Scene, limit: RulerLimit, holder: float, left: float, y: float, width: float) -> None:
    tone = {"ok": "ok", "advice": "warn", "hard": "bad"}[limit.state]
    if width < 600:
        scene.text((12, y - 5), f"{limit.name} {limit.figure}", "ruler-name")
        scene.text((width - 12, y - 5), limit.words, f"words-{tone}", "end")
        return
    scene.text((left - 10, y + 10), limit.figure, "ruler-figure", "end")
    scene.text((left - 18 - 9.6 * len(limit.figure), y + 10), limit.words, f"words-{tone}", "end")
    scene.text((holder + 14, y + 10), limit.name, "ruler-governing" if limit.governs else "ruler-name")
    if width > 900:
        scene.text((holder + 128, y + 10), limit.detail, "label-blue" if limit.governs else "label")
        if limit.governs:
            scene.rect((width - 118, y - 6), (width - 20, y + 16), "tag")
            scene.text((width - 69, y + 10), "LIMITED BY", "tag-words", "middle")

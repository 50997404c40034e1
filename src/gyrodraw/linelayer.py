"""The Bar step of a line job: bores and bearings in full section, spans, sag."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrodraw.hatch import hatch
from gyrodraw.scene import Scene


@dataclass(frozen=True, slots=True, kw_only=True)
class Housing:
    """One bore in line, in mm from the open face of the first."""

    name: str
    start_mm: float
    end_mm: float
    outside_mm: float
    bore_mm: float
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class SpanRuler:
    """The span between two bearings: what the rule allows, and its words."""

    left_mm: float
    right_mm: float
    allowed_mm: float
    words: str
    state: str


@dataclass(frozen=True, slots=True, kw_only=True)
class SagCurve:
    """The sagged line on one set of bearings [mm], worst first in words."""

    points: Sequence[tuple[float, float]]
    bearings_mm: Sequence[float]
    words: str
    role: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LineLayer:
    """All that the band shows."""

    housings: Sequence[Housing]
    bearings_mm: Sequence[float]
    proposed_mm: float | None
    bar_mm: float
    bar_length_mm: float
    bar_words: str
    hatch: str
    spans: Sequence[SpanRuler]
    sags: Sequence[SagCurve]
    gaps: Sequence[tuple[float, float, str]]


#: Sag is drawn this many times too large, at most; less where it would leave its lane.
SAG_DRAWN = 1000


@dataclass(frozen=True, slots=True)
class _Sheet:
    scene: Scene
    left: float
    origin_mm: float
    scale: float
    axis_y: float

    def x(self, z_mm: float) -> float:
        return self.left + (z_mm - self.origin_mm) * self.scale

    def half(self, diameter_mm: float) -> float:
        return diameter_mm / 2 * self.scale


def line_band(layer: LineLayer, width: float) -> Scene:
    """The band of a bar in bearings."""
    narrow = width < 600
    scene = Scene(width, 404 if narrow else 372, f"{layer.bar_words} through {len(layer.housings)} bores in line")
    sheet = _sheet(scene, layer, width)
    _bearings(sheet, layer)
    for housing in layer.housings:
        _housing(sheet, housing, layer)
    _bar(sheet, layer, width)
    scene.line((8, sheet.axis_y), (width - 8, sheet.axis_y), "axis")
    _dimensions(sheet, layer)
    bottom = sheet.axis_y + max(sheet.half(h.outside_mm) for h in layer.housings) + 30
    lane = _spans(sheet, layer, bottom, width)
    _sag(sheet, layer, lane, scene.height - 12, width)
    if not narrow:
        scene.text((24, 22), "full section, to scale", "label")
        if sheet.half(layer.bar_mm) < 16:
            scene.text((width - 24, 16), layer.bar_words, "label", "end")
    return scene


def _sheet(scene: Scene, layer: LineLayer, width: float) -> _Sheet:
    ends = [*layer.bearings_mm, *(h.start_mm for h in layer.housings), *(h.end_mm for h in layer.housings)]
    middle = (min(ends) + max(ends)) / 2
    shown = max(layer.bar_length_mm, max(ends) - min(ends) + 40)
    margin = 16.0 if width < 600 else 60.0
    tallest = max(h.outside_mm for h in layer.housings)
    scale = min((width - 2 * margin) / shown, 116 / tallest)
    axis_y = 64 + tallest / 2 * scale + (18 if width >= 600 else 6)
    return _Sheet(scene, width / 2 - shown / 2 * scale, middle - shown / 2, scale, axis_y)


def _housing(sheet: _Sheet, housing: Housing, layer: LineLayer) -> None:
    scene, outer, inner = sheet.scene, sheet.half(housing.outside_mm), sheet.half(housing.bore_mm)
    left, right = sheet.x(housing.start_mm), sheet.x(housing.end_mm)
    for top, bottom in ((-outer, -inner), (inner, outer)):
        box = (left, sheet.axis_y + top, right, sheet.axis_y + bottom)
        hatch(scene, box, layer.hatch)
        scene.rect(box[:2], box[2:], "outline")
    for y in (-inner, inner):
        scene.line((left, sheet.axis_y + y), (right, sheet.axis_y + y), "wanted")
    scene.text(((left + right) / 2, sheet.axis_y - outer - 8), housing.name, "measured", "middle")


def _bearings(sheet: _Sheet, layer: LineLayer) -> None:
    scene, r = sheet.scene, sheet.half(layer.bar_mm)
    foot = sheet.axis_y + max(sheet.half(h.outside_mm) for h in layer.housings)
    places = [(place, "bearing", f"{n + 1}") for n, place in enumerate(sorted(layer.bearings_mm))]
    if layer.proposed_mm is not None:
        places.append((layer.proposed_mm, "bearing-new", f"{len(places) + 1}"))
    for place, role, name in places:
        x = sheet.x(place)
        half = 12 if scene.width >= 600 else 6
        scene.rect((x - half, sheet.axis_y - r - half), (x + half, sheet.axis_y + r + half), role)
        scene.poly(
            [(x - 0.75 * half, sheet.axis_y + r + half), (x + 0.75 * half, sheet.axis_y + r + half),
             (x + 1.3 * half, max(foot, sheet.axis_y + r + half + 4)),
             (x - 1.3 * half, max(foot, sheet.axis_y + r + half + 4))],
            role, closed=True,
        )  # fmt: skip
        if scene.width < 600:
            continue
        scene.text((x, sheet.axis_y - r - 18), name, "label-blue" if role == "bearing-new" else "label", "middle")
    scene.line((sheet.x(sheet.origin_mm), foot), (scene.width - sheet.x(sheet.origin_mm), foot), "phantom")


def _bar(sheet: _Sheet, layer: LineLayer, width: float) -> None:
    scene, r = sheet.scene, sheet.half(layer.bar_mm)
    left = sheet.x(sheet.origin_mm) if layer.bar_length_mm else 20.0
    right = left + max(layer.bar_length_mm * sheet.scale, 40)
    scene.rect((left, sheet.axis_y - r), (right, sheet.axis_y + r), "bar")
    first = layer.housings[0]
    tip = sheet.x(first.start_mm) + 10
    scene.rect((tip, sheet.axis_y - sheet.half(first.bore_mm)), (tip + 9, sheet.axis_y - r), "cutter")
    if r >= 16:
        gap = max(layer.gaps, key=lambda g: g[1] - g[0], default=(first.end_mm, first.end_mm, ""))
        middle = sheet.x((gap[0] + gap[1]) / 2)
        scene.text((middle, sheet.axis_y - min(6.0, r / 3)), layer.bar_words, "figure", "middle")


def _dimensions(sheet: _Sheet, layer: LineLayer) -> None:
    """Face to face along the axis, above the work."""
    scene, y = sheet.scene, 40.0
    starts = sorted({h.start_mm for h in layer.housings})
    top = sheet.axis_y - max(sheet.half(h.outside_mm) for h in layer.housings)
    for start in starts:
        scene.line((sheet.x(start), y - 5), (sheet.x(start), top - 26), "narrow")
    for left, right, words in layer.gaps:
        scene.dimension((sheet.x(left), y), (sheet.x(right), y), words)
    if scene.width > 600:
        _wanted(sheet, layer, y)


def _wanted(sheet: _Sheet, layer: LineLayer, y: float) -> None:
    """What the bores must become: once for all where they are alike, else over each."""
    words = [housing.words for housing in layer.housings]
    last = layer.housings[-1]
    if len(set(words)) == 1:
        many = f"{len(words)} x " if len(words) > 1 else ""
        sheet.scene.text((sheet.x(last.end_mm) + 14, y - 6), f"{many}{words[0]}", "figure-blue")
        return
    for housing in layer.housings:
        sheet.scene.text((sheet.x(housing.end_mm) + 8, y + 22), housing.words, "label-blue")


def _spans(sheet: _Sheet, layer: LineLayer, top: float, width: float) -> float:
    """One bar a span: its length, then what is in hand of twice the rule, or over it."""
    scene, narrow = sheet.scene, width < 600
    step = 36 if narrow else 24
    if not narrow:
        scene.text((24, top + 10), "spans", "ruler-name")
    longest = max((span.right_mm - span.left_mm for span in layer.spans), default=0.0)
    for place, span in enumerate(layer.spans):
        y = top + place * step + (16 if narrow else 0)
        left, right = sheet.x(span.left_mm), sheet.x(span.right_mm)
        limit = left + 2 * span.allowed_mm * sheet.scale
        governs = span.right_mm - span.left_mm == longest
        scene.rect((left, y), (min(right, limit), y + 10), "ruler-governs" if governs else "ruler")
        if limit > right:
            scene.rect((right, y), (min(limit, width - 8), y + 10), "in-hand")
        else:
            scene.rect((limit, y), (right, y + 10), "over-advice")
        if limit < width - 8:
            scene.line((limit, y - 4), (limit, y + 14), "tick-governs" if governs else "tick")
        _span_words(scene, span, (left, max(right, min(limit, width - 8)), y), width)
    return top + len(layer.spans) * step + 26


def _span_words(scene: Scene, span: SpanRuler, at: tuple[float, float, float], width: float) -> None:
    """Beside the bar where there is room, else before it."""
    left, end, y = at
    tone = f"words-{ {'ok': 'ok', 'advice': 'warn', 'hard': 'bad'}[span.state] }"
    room = 8.2 * len(span.words)
    if width < 600:
        scene.text((12, y - 4), span.words, tone)
    elif end + 12 + room < width - 8:
        scene.text((end + 12, y + 10), span.words, tone)
    elif left - 12 - room > 80:
        scene.text((left - 12, y + 10), span.words, tone, "end")
    else:
        scene.text(((left + end) / 2, y + 25), span.words, tone, "middle")


def _sag(sheet: _Sheet, layer: LineLayer, top: float, bottom: float, width: float) -> None:
    """The sagged centre lines, exaggerated; each says by how much."""
    scene, room = sheet.scene, bottom - top - 18
    deepest = max((down for curve in layer.sags for _, down in curve.points), default=0.0)
    if not layer.sags or deepest <= 0 or room < 10:
        return
    factor = min(SAG_DRAWN, room / (deepest * sheet.scale))
    shown = _round_down(factor)
    if width >= 600:
        scene.text((24, top + 4), "sag", "ruler-name")
        scene.text((24, top + 20), f"x {shown:g}", "label")
    for place, curve in enumerate(layer.sags):
        inside = [(z, d) for z, d in curve.points if curve.bearings_mm[0] <= z <= curve.bearings_mm[-1]]
        inside = inside or list(curve.points)  # two bearings that stand closer than the curve is drawn
        scene.poly([(sheet.x(z), top + d * sheet.scale * shown) for z, d in inside], curve.role)
        deep = max(inside, key=lambda point: abs(point[1]))
        is_shown = curve.role == "sprung"
        x, y = sheet.x(deep[0]), top + deep[1] * sheet.scale * shown + 15
        if width < 600:
            x, y = width / 2, top + deepest * sheet.scale * shown + 26 + 18 * place
        elif is_shown:
            y = top - 7
        scene.text((x, min(y, bottom + 6)), curve.words, "label-blue" if is_shown else "words-bad", "middle")
    for stand in sorted({s for curve in layer.sags for s in curve.bearings_mm}):
        x = sheet.x(stand)
        scene.poly([(x, top + 1), (x - 6, top + 11), (x + 6, top + 11)], "support", closed=True)


def _round_down(factor: float) -> float:
    """A drawn factor people can say: 1, 2 or 5 times a power of ten."""
    step = 1.0
    while step * 10 <= factor:
        step *= 10
    return max(part * step for part in (1, 2, 5) if part * step <= factor or part == 1)


def strip_line(housings: Sequence[Housing], bar_mm: float) -> Scene:
    """A line job at strip size: its bores in section, the bar through them."""
    scene = Scene(124, 62, f"{len(housings)} bores in line, in section")
    first, last = min(h.start_mm for h in housings), max(h.end_mm for h in housings)
    tallest = max(h.outside_mm for h in housings)
    scale = min(96 / (last - first), 44 / tallest)
    left, axis_y = 62 - (last - first) / 2 * scale, 31.0
    for housing in housings:
        x, end = left + (housing.start_mm - first) * scale, left + (housing.end_mm - first) * scale
        outer = max(housing.outside_mm / 2 * scale, 10.0)
        inner = max(housing.bore_mm / 2 * scale, 5.0)
        for top, bottom in ((-outer, -inner), (inner, outer)):
            scene.rect((x, axis_y + top), (max(end, x + 6), axis_y + bottom), "outline")
    r = max(bar_mm / 2 * scale, 2.5)
    scene.rect((6, axis_y - r), (118, axis_y + r), "bar")
    scene.line((2, axis_y), (122, axis_y), "axis")
    return scene

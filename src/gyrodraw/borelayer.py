"""The Bore step's band: the bar in the work, the wall enlarged, and under a rule the one ladder of passes."""

from __future__ import annotations

from dataclasses import dataclass

from gyrodraw.hatch import hatch
from gyrodraw.passline import PassLine, draw_pass_line
from gyrodraw.scene import Scene
from gyrodraw.section import Part, View, draw_axis, draw_wanted, draw_work, fit


@dataclass(frozen=True, slots=True, kw_only=True)
class Detail:
    """The wall enlarged: what this pass takes and what it leaves, on radius [mm]; words in the reader's unit."""

    depth_mm: float
    left_mm: float
    depth_words: str
    left_words: str
    nose_mm: float
    nose_words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class InBore:
    """What is in the bore: the bar at the face or on its way, a gauge, or nothing."""

    #: bar, cutting, gauge.
    what: str
    bar_mm: float | None
    words: str
    length_words: str
    size_words: str = ""
    size_state: str = "ink"
    note_words: str = ""


def bore_band(part: Part, inside: InBore, line: PassLine, detail: Detail | None, width: float) -> Scene:
    """Draw the band at one width."""
    narrow = width < 600
    # without the detail beside it the room over a slender part is left out
    spare = 0.0 if narrow or detail is not None else _spare(part, width)
    scene = Scene(width, 212.0 if narrow else 340.0 - spare, f"Bore: {inside.words}")
    rule_y = 118.0 if narrow else 240.0 - spare
    _section(scene, part, inside, width, rule_y)
    if detail is not None and width > 900:
        _detail(scene, part, detail, width)
    scene.line((24 if not narrow else 12, rule_y), (width - (24 if not narrow else 12), rule_y), "grid")
    left = 48.0 if narrow else 150.0
    if not narrow:
        scene.text((24, rule_y + 28), "Limits" if line.over_words else "Passes", "heading")
        for place, words in enumerate((line.zoom_words or "on Ø, to scale").split("\n")):
            scene.text((24, rule_y + 50 + 17 * place), words, "label")
    elif line.zoom_words and not line.over_words:
        scene.text((12, scene.height - 6), line.zoom_words.replace("\n", " "), "small")
    draw_pass_line(scene, line, rule_y + (42 if narrow else 46), left, width - (36 if narrow else 84))
    return scene


def _view(scene: Scene, part: Part, width: float, rule_y: float) -> View:
    """The section to scale: as large as the height over the rule and its share of the width allow."""
    narrow = width < 600
    axis_y = rule_y - (12.0 if narrow else 44.0)
    room = (width * 0.42) if narrow else 380.0 if width > 900 else 250.0
    view = fit(scene, part, axis_y=axis_y, top=36 if narrow else 48, width=room, face_x=0)
    return View(scene, axis_y, (24.0 if narrow else 150.0) + part.body_mm * view.scale, view.scale)


def _spare(part: Part, width: float) -> float:
    """How much of the height over the part nothing is drawn in."""
    view = _view(Scene(width, 340.0, ""), part, width, 240.0)
    return max(0.0, view.y(part.greatest_mm) - 48)


def _section(scene: Scene, part: Part, inside: InBore, width: float, rule_y: float) -> None:
    narrow = width < 600
    view = _view(scene, part, width, rule_y)
    draw_work(view, part)
    draw_wanted(view, part)
    if inside.bar_mm:
        if inside.what == "gauge":
            _gauge(view, part, inside)
        else:
            _bar(view, part, inside, min(width - 12, view.face_x + (720 if width > 900 else 240)))
    draw_axis(view, 12 if narrow else 24, width - 24 if width > 900 else min(width - 12, view.face_x + 250))
    y = view.y(part.greatest_mm) - 12
    for x in (view.x(part.length_mm), view.face_x):
        scene.line((x, y - 4), (x, y + 9), "narrow-blue")
    scene.dimension((view.x(part.length_mm), y), (view.face_x, y), inside.length_words, role="narrow-blue", above=5)
    if not narrow:
        scene.text((24, 22), "half section, to scale", "label")


def _bar(view: View, part: Part, inside: InBore, end: float) -> None:
    scene = view.scene
    r = (inside.bar_mm or 0.0) / 2 * view.scale
    tip = view.face_x + 14 if inside.what == "bar" else view.x(part.length_mm * 0.45)
    wall = view.y(part.aim_mm)
    top = wall + 14
    bottom = top + 2 * r if scene.width > 600 else min(top + 2 * r, view.axis_y + 8)
    scene.rect((tip, top), (end, bottom), "bar")
    beside = top + (bottom - top) / 2 - (4 if r > 14 else -5)
    if scene.width > 600:
        scene.text((min(tip + 60, end - 90), beside), inside.words, "figure")
    else:
        scene.text((end - 8, beside), _fitted(inside.words, end - tip - 32), "figure", "end")
    scene.poly([(tip - 1, wall), (tip + 18, wall + 2), (tip + 18, top + 8), (tip + 6, top + 8)], "cutter", closed=True)
    if inside.what == "bar" and part.length_mm * view.scale > 110 and scene.width > 600:
        y = wall + 34
        scene.line((view.face_x - 14, y), (view.face_x - 70, y), "turning")
        scene.arrow((view.face_x - 84, y), (view.face_x - 60, y), "arrowhead-blue")
        scene.text((view.face_x - 50, y + 20), "feed", "label-blue", "middle")


#: One letter of a figure takes so much at most, on average.
_LETTER = 7.6


def _fitted(words: str, room: float) -> str:
    """The words as far as they have room: without what follows the name, then cut short."""
    if len(words) * _LETTER <= room:
        return words
    name, most = words.split(" · ", maxsplit=1)[0], int(room / _LETTER)
    return name if len(name) <= most else f"{name[: most - 1].rstrip()}…"


def _gauge(view: View, part: Part, inside: InBore) -> None:
    """A bore gauge in section at its place, the size beside it."""
    scene, x = view.scene, view.x(part.length_mm * 0.15)
    wall = view.y(part.aim_mm)
    # in a small bore the foot is as short as the room under the wall
    foot = min(wall + 34, view.axis_y - 16)
    knee = min(foot + 12, view.axis_y - 6)
    scene.rect((x - 5, wall), (x + 5, foot), "bar")
    scene.poly([(x - 16, view.axis_y), (x - 16, knee), (x - 8, foot), (x + 8, foot), (x + 16, knee),
                (x + 16, view.axis_y)], "bar")  # fmt: skip
    handle = min(view.face_x + 200, scene.width - 12)
    scene.rect((x + 16, view.axis_y - 10), (handle, view.axis_y), "bar")
    if scene.width > 600:
        role = {"bad": "measured-bad", "blue": "measured-blue"}.get(inside.size_state, "measured")
        if view.axis_y - wall < _ROOM_INSIDE:
            scene.text((view.face_x + 14, view.axis_y - 44), inside.size_words, role)
            scene.text((view.face_x + 14, view.axis_y - 18), f"{inside.words}, {inside.note_words}", "label")
            return
        scene.text((view.face_x + 14, view.axis_y - 18), inside.words, "label")
        scene.text((x - 36, view.axis_y - 42), inside.size_words, role, "end")
        scene.text((x - 36, view.axis_y - 20), inside.note_words, "label", "end")


#: Less room than this under the wall, and the size stands outside the bore.
_ROOM_INSIDE = 66.0


#: Magnifications that a detail may be drawn at, beside the section.
_MAGNIFIED = (200, 100, 80, 60, 40, 30, 20, 15, 10, 8, 6, 4, 3, 2)


def _detail(scene: Scene, part: Part, detail: Detail, width: float) -> None:
    """The wall at the cutter, many times the section: what is left, what this pass takes, the nose to scale."""
    view = fit(scene, part, axis_y=196, top=48, width=380, face_x=0)
    both = detail.depth_mm + detail.left_mm
    times = next((m for m in _MAGNIFIED if both * view.scale * m <= 62), 1)
    scale = view.scale * times
    left, right, top = width * 0.53, width * 0.53 + 260, 14.0
    mid, low = top + 20 + detail.left_mm * scale, top + 20 + both * scale
    hatch(scene, (left, top, right, top + 20), part.hatch)
    scene.line((left, top + 20), (right, top + 20), "narrow-blue")
    scene.rect((left, mid), (right, low), "turned")
    if detail.left_mm > 1e-9:
        scene.line((left, mid), (right, mid), "expected-line")
    scene.line((left, low), (right, low), "wall")
    scene.line((right, top), (right, low), "wall")
    scene.text((right + 14, low - 1), detail.depth_words, "figure-blue")
    scene.text((right + 14, min(low - 22, max(top + 16, mid - 8))), detail.left_words, "label")
    scene.text((left - 12, top + 8), "A", "figure", "end")
    scene.text((left - 12, top + 26), f"section x {times}", "label", "end")
    nose = detail.nose_mm * scale
    if 3 < nose <= 46:
        x, y = right + 190, low
        arc = [(x + nose - nose * c, y - nose * s) for c, s in _QUARTER]
        scene.poly([(x, y), *arc, (x + nose, y)], "cutter", closed=True)
        scene.text((x + nose + 10, y - 1), detail.nose_words, "label")


_QUARTER = [(1.0, 0.0), (0.966, 0.259), (0.866, 0.5), (0.707, 0.707), (0.5, 0.866), (0.259, 0.966), (0.0, 1.0)]

"""Work's band: the whole part in half section, its places numbered, and which set-up cuts them from which side."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from gyrodraw.hatch import hatch
from gyrodraw.scene import Scene
from gyrodraw.section import (
    BesideBore,
    Labels,
    Part,
    View,
    draw_axis,
    draw_breaks,
    draw_length,
    draw_wanted,
    draw_work,
    fit,
)

#: A letter takes some 0.47 of its size across.
_LETTER = 0.47


@dataclass(frozen=True, slots=True, kw_only=True)
class Flag:
    """A set-up beside the work, on the side that it bores from."""

    letter: str
    words: str
    left: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Marks:
    """The number of the bore that is shown, the set-up that cuts it, and all set-ups; empty for neither."""

    number: str = ""
    letter: str = ""
    flags: Sequence[Flag] = ()
    features: Sequence[FeatureMark] = ()
    #: Of a new job: the number of each place that can be asked for more (form, found, outside, breaks, holding).
    asks: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class LineBore:
    """A bore in line on Work, from the open face of the first [mm]; its figures already worded."""

    number: str
    name: str
    start_mm: float
    end_mm: float
    outside_mm: float
    now_mm: float
    aim_mm: float
    found: str
    wanted: str
    here: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class FeatureMark:
    """A face, a band, an outside or a relief in the section [mm]; a distance to another axis as words alone."""

    kind: str
    number: str
    letter: str
    words: str
    here: bool = False
    z_mm: float = 0.0
    length_mm: float = 0.0
    inner_mm: float = 0.0
    outer_mm: float = 0.0
    height_mm: float = 0.0


def tone(letter: str) -> str:
    """The colour of a set-up, beside its letter: A blue, B plum, further ones grey."""
    return {"A": "a", "B": "b"}.get(letter, "c")


def balloon(scene: Scene, at: tuple[float, float], number: str, letter: str, *, here: bool, place: str) -> None:
    """The number of a place in a ring, filled where it is shown, and the letter of its set-up in a square."""
    x, y = at
    role = f"balloon-{tone(letter)}" if letter else "balloon"
    scene.circle((x, y), 13, f"{role}-here" if here else role)
    scene.text((x, y + 6), number, "disc-number" if here else "balloon-number", "middle")
    if letter:
        scene.rect((x + 17, y - 11), (x + 39, y + 11), f"letter-{tone(letter)}")
        scene.text((x + 28, y + 6), letter, "disc-number", "middle")
    scene.target((x + 8, y), 44, place)


def draw_now_and_wanted(view: View, part: Part, labels: Labels, x: float) -> None:
    """One-arrow diameters at the left: what it is and what it must become."""
    scene = view.scene
    left = view.x(part.length_mm if not part.beside else part.body_mm)
    for place, (diameter, word, role) in enumerate(
        ((part.start_mm, "now", "narrow"), (part.aim_mm, "wanted", "narrow-blue"))
    ):
        at, y = x + place * 84, view.y(diameter)
        scene.line((at - 8, y), (left - 3, y), role)
        scene.line((at, y), (at, view.axis_y + 8), role)
        scene.arrow((at, y), (at, view.axis_y), "arrowhead" if place == 0 else "arrowhead-blue")
        scene.text((at - 6, min(y + 44, view.axis_y - 7)), word, "label" if place == 0 else "label-blue", "end")
    scene.text((x, view.axis_y + 28), labels.now, "figure", "middle")
    scene.text((x + 64, view.axis_y + 28), labels.wanted, "figure-blue")
    shift = x + 68 + 9.2 * len(labels.wanted)
    scene.text((shift, view.axis_y + 19), labels.upper, "deviation")
    scene.text((shift, view.axis_y + 35), labels.lower, "deviation")


def _stations(view: View, part: Part, labels: Labels, number: str) -> None:
    """The bore as found, hung below the axis, each figure a target; close stations step down."""
    scene, last, level = view.scene, 1e9, 0
    step = max((14 + 7.4 * len(size) for _, size in labels.stations), default=0.0)
    for (z, _), (depth, size) in zip(part.found, labels.stations, strict=True):
        x = view.x(z)
        level = (level + 1) % 2 if last - x < step else 0
        last = x
        y = view.axis_y + 34 + 24 * level
        scene.line((x, view.y(part.start_mm)), (x, y - 18), "hidden")
        scene.circle((x, view.axis_y), 4, "dot")
        scene.text((x + 7, view.axis_y - 7), depth, "label")
        scene.text((x, y), size, "measured", "middle")
        if number:
            scene.target((x, y - 6), 44, f"found{number}")


def work_band(part: Part, labels: Labels, width: float, marks: Marks | None = None) -> Scene:
    """The Work step's band: the work above the axis, its figures below."""
    marks, narrow = marks or Marks(), width < 600
    more = 24 if narrow and part.breaks else 0
    height = (300 if narrow else 332) + more
    scene = Scene(width, height, f"Half section of the work, bore {labels.now}, wanted {labels.wanted}")
    axis_y = height - more - (116 if narrow else 108)
    if narrow:
        view = fit(scene, part, axis_y=axis_y, top=44, width=width - 80, face_x=width - 40)
    else:
        view = fit(scene, part, axis_y=axis_y, top=48, width=width - (500 if width > 900 else 420), face_x=0)
        middle = width / 2 + (0 if width > 900 else 20)
        view = View(scene, axis_y, middle + part.body_mm * view.scale / 2, view.scale)
    draw_work(view, part)
    draw_wanted(view, part)
    for one in part.beside:
        _draw_beside(view, one)
    draw_breaks(view, part)
    draw_axis(view, 12, width - 12)
    draw_length(view, part, labels.length, 24)
    _stations(view, part, labels, marks.number)
    _features(view, marks.features, part, _balloons(view, part, marks))
    _asks(view, part, marks.asks)
    if narrow:
        scene.text((16, height - 60), ", ".join(broken.words for broken in part.breaks), "label")
        scene.text((16, height - 36), f"now {labels.now}", "figure")
        wanted = f"wanted {labels.wanted} ({labels.upper} / {labels.lower})"
        scene.text((16, height - 12), wanted, "figure-blue")
    else:
        draw_now_and_wanted(view, part, labels, max(56.0, view.x(part.body_mm) - 190))
        scene.text((24, height - 14), "half section, to scale", "label")
        scene.text((width - 24, height - 14), "open face at the right; bore as found, by depth", "label", "end")
        _flags(view, part, marks.flags)
        if labels.wall:
            at_face = any(one.kind in ("face", "length", "band") and one.z_mm < 1 for one in marks.features)
            _wall_left(view, part, labels.wall, 104 if at_face else 44)
    return scene


def _draw_beside(view: View, one: BesideBore) -> None:
    """The wall that another set-up is to leave, in its colour."""
    if not one.letter:
        return  # only there: its wall is drawn, and nothing is to become of it
    role, y = f"wanted-{tone(one.letter)}", view.y(one.aim_mm)
    view.scene.line((view.x(one.to_mm), y), (view.x(one.from_mm), y), role)
    if one.shoulder_mm is not None:
        x = view.x(one.shoulder_mm)
        view.scene.line((x, y), (x, view.y(one.now_mm)), role)


def _balloons(view: View, part: Part, marks: Marks) -> list[tuple[float, float]]:
    """Each place's number in its bore, halfway between the wall and the axis; where they stand."""
    if not marks.number:
        return []
    wall = view.y(part.start_mm)
    level = (wall + view.axis_y) / 2
    if view.axis_y - wall < 72:  # a small bore: over the part, clear of the depths that stand along the axis
        level = view.y(part.greatest_mm) - 20
    shown = min(part.length_mm, part.body_mm)
    at = [(view.x(shown / 2) - 14, level)]
    balloon(view.scene, at[0], marks.number, marks.letter, here=True, place=marks.number)
    for one in part.beside:
        x = view.x((one.from_mm + one.to_mm) / 2) - 14
        down = 32 if one.from_mm < part.length_mm and one.to_mm > 0 else 0
        at.append((x, level + down))
        balloon(view.scene, at[-1], one.number, one.letter, here=False, place=one.number)
    return at


def _asks(view: View, part: Part, asks: Mapping[str, str]) -> None:
    """Where a new job can be asked for more: each number at the place in the drawing that it belongs to."""
    length, top, wall = part.length_mm, view.y(part.greatest_mm), view.y(part.start_mm)
    left, right = view.x(part.body_mm), view.face_x
    at = {
        "form": (view.x(length / 2), (wall + view.axis_y) / 2), "found": (view.x(length / 2), view.axis_y + 62),
        "outside": (right - 34, top + 2), "breaks": (view.x(length * 0.75), wall),
        "holding": (left - 26, (top + wall) / 2),
    }  # fmt: skip
    for name, number in asks.items():
        balloon(view.scene, at[name], number, "", here=False, place=number)


def _features(view: View, features: Sequence[FeatureMark], part: Part, taken: list[tuple[float, float]]) -> None:
    """What is made beside the bore, in the colour of its set-up; each with its number beside its line.

    On a phone the numbers stand without their letter; `taken` are places that have a number already.
    """
    narrow = view.scene.width < 600
    apart = 34 if narrow else 56
    for one in features:
        letter = "" if narrow else one.letter
        if one.kind == "distance":
            y = 24.0 + 32 * sum(x < 100 for x, _ in taken)
            balloon(view.scene, (30, y), one.number, letter, here=one.here, place=one.number)
            if not narrow:  # there it has no room beside the part: the list says it
                view.scene.text((78, y + 6), one.words, "label")
            taken.append((30, y))
            continue
        ends = _feature_line(view, part, one)
        view.scene.line(*ends, f"wanted-{tone(one.letter)}")
        x, y = _beside_line(one, ends)
        x = min(x, view.scene.width - 18)
        while any(abs(x - x2) < apart and abs(y - y2) < 30 for x2, y2 in taken):
            if y + 15 > view.axis_y - 34:  # clear of the depths along the axis
                x += 17
            else:
                y += 15
        taken.append((x, y))
        balloon(view.scene, (x, y), one.number, letter, here=one.here, place=one.number)


def _beside_line(one: FeatureMark, ends: tuple[tuple[float, float], tuple[float, float]]) -> tuple[float, float]:
    """Where its number stands: beside a face, under an outside or a relief."""
    (x, y), (x2, y2) = ends
    middle = ((x + x2) / 2, (y + y2) / 2)
    if one.kind in ("outside", "relief"):
        return middle[0] - 14, middle[1] + 24
    return middle[0] + (-62 if one.kind == "length" and one.z_mm > 0 else 18), middle[1]


def _feature_line(view: View, part: Part, one: FeatureMark) -> tuple[tuple[float, float], tuple[float, float]]:
    """Where its line runs, in the drawing's own units."""
    x = view.x(one.z_mm)
    if one.kind in ("outside", "relief"):
        y = view.y(one.outer_mm)
        return (x, y), (view.x(one.z_mm + one.length_mm), y)
    inner = one.inner_mm or part.start_mm
    outer = one.outer_mm or part.greatest_mm
    return (x, view.y(outer)), (view.x(one.z_mm + one.height_mm), view.y(inner))


def _flags(view: View, part: Part, flags: Sequence[Flag]) -> None:
    """A set-up's letter in a flag that points at the work from its side."""
    scene, count = view.scene, {True: 0, False: 0}
    for flag in flags:
        y = (60.0 + 46 * count[True]) if flag.left else _clear_of_wall(view, part) - 46 * count[False]
        count[flag.left] += 1
        tip = view.x(part.body_mm) - 30 if flag.left else view.face_x + 30
        towards = 1 if flag.left else -1
        room = tip - 24 if flag.left else scene.width - 24 - tip
        if room < 60:
            continue
        back = tip - towards * 44
        body = [(tip, y), (tip - towards * 16, y - 16), (back, y - 16), (back, y + 16), (tip - towards * 16, y + 16)]
        scene.poly(body, f"letter-{tone(flag.letter)}", closed=True)
        scene.text(((tip - towards * 16 + back) / 2, y + 6), flag.letter, "disc-number", "middle")
        if room > 52 + len(flag.words) * 16 * _LETTER:
            scene.text((back - towards * 8, y + 5), flag.words, "label", "end" if flag.left else "start")


def _clear_of_wall(view: View, part: Part) -> float:
    """How high a flag stands at the open face: near the axis, else over the words of the wall that is left."""
    thin = min(d for _, _, d in part.steps())
    words = (view.y(thin) + view.y(part.aim_mm)) / 2
    near = view.axis_y - 40
    return near if near - words > 34 else max(22.0, words - 40)


def _wall_left(view: View, part: Part, text: str, out: float) -> None:
    """The thinnest wall after boring, beside the open face."""
    scene = view.scene
    thin = min(d for _, _, d in part.steps())
    top, bottom, x = view.y(thin), view.y(part.aim_mm), view.face_x + out
    for y in (top, bottom):
        scene.line((view.face_x + 3, y), (x + 5, y), "narrow")
    scene.line((x, top), (x, bottom), "narrow")
    if bottom - top > 28:
        scene.arrow((x, top), (x, bottom))
        scene.arrow((x, bottom), (x, top))
    scene.text((x + 10, (top + bottom) / 2 + 6), text, "figure")


def work_line_band(
    bores: Sequence[LineBore], gaps: Sequence[tuple[float, float, str]], letter: str, kind: str, width: float,
    features: Sequence[FeatureMark] = (),
) -> Scene:  # fmt: skip
    """Several bores in line in half section, left to right, each with its number, found and finished size."""
    narrow = width < 600
    scene = Scene(width, 300 if narrow else 332, f"Half section of {len(bores)} bores in line")
    lowest, margin = scene.height - (110 if narrow else 106), 26.0 if narrow else 64.0
    span = max(one.end_mm for one in bores) - min(one.start_mm for one in bores)
    tallest = max(one.outside_mm for one in bores) / 2
    scale = min((width - 2 * margin) / span, (lowest - 92) / tallest)
    axis_y = min(lowest, (scene.height + tallest * scale) / 2)
    origin = min(one.start_mm for one in bores)
    left = (width - span * scale) / 2

    def x(z_mm: float) -> float:
        return left + (z_mm - origin) * scale

    level, last = 0, -1e9
    for one in bores:
        _line_bore(scene, one, (x(one.start_mm), x(one.end_mm)), (axis_y, scale), kind)
        middle = (x(one.start_mm) + x(one.end_mm)) / 2
        top = axis_y - one.outside_mm / 2 * scale
        level = (level + 1) % 2 if middle - last < 118 else 0
        last = middle
        balloon(scene, (middle - 14, top - 20), one.number, letter, here=one.here, place=one.number)
        for row, (words, role) in enumerate(
            ((one.name, "label"), (one.wanted, "figure-blue"), (one.found, "measured"))
        ):
            if narrow and row == 1:
                continue
            y = axis_y + 24 + 22 * row + (44 if level and narrow else 0)
            scene.text((middle, y), words if not narrow or row else one.name, role, "middle")
    scene.line((12, axis_y), (width - 12, axis_y), "axis")
    _features_of_line(scene, axis_y, letter, features)
    for a, b, words in gaps:
        if x(b) - x(a) > 60:
            scene.dimension((x(a), 24), (x(b), 24), words)
            for z in (a, b):
                scene.line((x(z), 18), (x(z), 34), "narrow")
    words = (
        "half section, to scale; smallest found" if narrow else "half section, to scale; finished size, smallest found"
    )
    scene.text((16, scene.height - 10), words, "label")
    return scene


def _features_of_line(scene: Scene, axis_y: float, letter: str, features: Sequence[FeatureMark]) -> None:
    """Their numbers at the ends of the axis: a line of bores has no room for their lines."""
    for place, one in enumerate(features):
        at = (30.0 if place % 2 == 0 else scene.width - 60, axis_y - 40 - 36 * (place // 2))
        balloon(scene, at, one.number, letter, here=one.here, place=one.number)


def _line_bore(scene: Scene, one: LineBore, ends: tuple[float, float], at: tuple[float, float], kind: str) -> None:
    """One housing above the axis: hatch, outline, the wall as found and as wanted."""
    (left, right), (axis_y, scale) = ends, at
    top, wall, aim = (axis_y - diameter / 2 * scale for diameter in (one.outside_mm, one.now_mm, one.aim_mm))
    hatch(scene, (left, top, right, wall), kind)
    scene.poly([(left, axis_y), (left, top), (right, top), (right, axis_y)], "outline")
    scene.line((left, wall), (right, wall), "wall")
    scene.line((left, aim), (right, aim), "wanted")

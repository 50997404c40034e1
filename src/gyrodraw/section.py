"""The work in half section: outside steps, hatch, bore as found, wanted size, dimensions."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrodraw.hatch import hatch
from gyrodraw.scene import Scene


@dataclass(frozen=True, slots=True, kw_only=True)
class Broken:
    """Where the wall is broken, in mm from the open face: right through, or a groove so deep."""

    start_mm: float
    end_mm: float
    groove_mm: float | None
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """What is drawn of the work, in mm; depths run from the open face inward."""

    length_mm: float
    found: Sequence[tuple[float, float]]
    aim_mm: float
    outside: Sequence[tuple[float, float]] = ()
    hatch: str = "iron"
    #: Whether the bore ends at a shoulder: the work then goes on behind it, as long as its outside.
    shoulder: bool = False
    breaks: Sequence[Broken] = ()

    @property
    def body_mm(self) -> float:
        """Length of the work: of the bore, and of what stands behind its shoulder."""
        outside = sum(length for length, _ in self.outside)
        return max(self.length_mm, outside) if self.shoulder else self.length_mm

    @property
    def start_mm(self) -> float:
        """Smallest size found, or the aim where nothing is measured yet."""
        return min((d for _, d in self.found), default=self.aim_mm)

    @property
    def greatest_mm(self) -> float:
        """Outer diameter drawn; unknown outside is drawn as a broken wall."""
        return max((d for _, d in self.outside), default=self.aim_mm * 1.5)

    def steps(self) -> list[tuple[float, float, float]]:
        """Outside as (from, to, diameter) over the whole length."""
        steps, z = [], 0.0
        for length, diameter in self.outside:
            if z >= self.body_mm:
                break
            end = min(z + length, self.body_mm)
            steps.append((z, end, diameter))
            z = end
        if steps and z < self.body_mm:
            steps[-1] = (steps[-1][0], self.body_mm, steps[-1][2])
        return steps or [(0.0, self.body_mm, self.greatest_mm)]


@dataclass(frozen=True, slots=True, kw_only=True)
class Labels:
    """The figures of a drawing, already worded in the reader's unit."""

    length: str = ""
    now: str = ""
    wanted: str = ""
    upper: str = ""
    lower: str = ""
    wall: str = ""
    stations: Sequence[tuple[str, str]] = ()
    material: str = ""


@dataclass(frozen=True, slots=True)
class View:
    """Where the work stands on the sheet: axis height, open face, and the one scale."""

    scene: Scene
    axis_y: float
    face_x: float
    scale: float

    def x(self, z_mm: float) -> float:
        """Across the sheet for a depth from the open face."""
        return self.face_x - z_mm * self.scale

    def y(self, diameter_mm: float) -> float:
        """Up the sheet for a diameter."""
        return self.axis_y - diameter_mm / 2 * self.scale


def fit(scene: Scene, part: Part, *, axis_y: float, top: float, width: float, face_x: float) -> View:
    """The largest scale at which the work fits above the axis and within the width."""
    by_height = (axis_y - top) / (part.greatest_mm / 2)
    return View(scene, axis_y, face_x, min(by_height, width / part.body_mm))


def draw_axis(view: View, left: float, right: float, *, half_view: bool = True) -> None:
    """The centre line, past the outline at both ends, with the half-view bars."""
    view.scene.line((left, view.axis_y), (right, view.axis_y), "axis")
    if half_view:
        for x in (left + 6, right - 18):
            view.scene.lines([((x, view.axis_y + dy), (x + 12, view.axis_y + dy)) for dy in (-4, 4)], "narrow")


def draw_work(view: View, part: Part) -> None:
    """Hatch and outline above the axis."""
    scene = view.scene
    bore_y = view.y(part.start_mm)
    for start, end, diameter in part.steps():
        box = (view.x(end), view.y(diameter), view.x(start), bore_y)
        if box[3] - box[1] > 1:
            hatch(scene, box, part.hatch)
    outline = [(view.face_x, bore_y)]
    for start, end, diameter in part.steps():
        outline += [(view.x(start), view.y(diameter)), (view.x(end), view.y(diameter))]
    outline.append((view.x(part.body_mm), bore_y))
    if part.outside:
        scene.poly(outline, "outline")
    else:
        _broken_wall(view, part, bore_y)
    for z in (0.0, part.body_mm):
        scene.line((view.x(z), bore_y), (view.x(z), view.axis_y), "outline")
    scene.line((view.x(part.body_mm), bore_y), (view.face_x, bore_y), "wall")


def draw_breaks(view: View, part: Part) -> None:
    """Keyways, ports and holes as hidden edges through the wall; a leader takes their words off the open face."""
    scene, wall = view.scene, view.y(part.start_mm)
    for place, broken in enumerate(part.breaks):
        left, right = view.x(broken.end_mm), view.x(broken.start_mm)
        thick = max(d for a, b, d in part.steps() if b > broken.start_mm and a < broken.end_mm)
        top = view.y(thick) if broken.groove_mm is None else view.y(part.start_mm + 2 * broken.groove_mm)
        scene.poly([(left, wall), (left, top), (right, top), (right, wall)], "hidden")
        scene.line((left, wall), (right, wall), "break")
        if view.face_x + 18 + 8 * len(broken.words) > scene.width:
            continue  # a narrow sheet lists them under the work
        middle, level = (left + right) / 2, wall + 16 + 20 * place
        scene.poly([(middle, wall + 2), (middle + 8, level), (view.face_x + 14, level)], "narrow")
        scene.text((view.face_x + 18, level + 5), broken.words, "label")


def _broken_wall(view: View, part: Part, bore_y: float) -> None:
    """An outside that is not known ends in a wavy narrow line."""
    top, left, right = view.y(part.greatest_mm), view.x(part.body_mm), view.face_x
    count = max(4, int((right - left) / 12))
    step = (right - left) / count
    wave = [(left + n * step, top + (2.5 if n % 2 else -2.5)) for n in range(count + 1)]
    view.scene.poly(wave, "narrow")
    for x in (left, right):
        view.scene.line((x, top), (x, bore_y), "outline")


def draw_wanted(view: View, part: Part) -> None:
    """The wanted wall in blue."""
    y = view.y(part.aim_mm)
    view.scene.line((view.x(part.length_mm), y), (view.face_x, y), "wanted")
    if part.shoulder:
        end = view.x(part.length_mm)
        view.scene.line((end, y), (end, view.y(part.start_mm)), "wanted")


def draw_length(view: View, part: Part, text: str, y: float) -> None:
    """Length of the bore above the work."""
    scene, left = view.scene, view.x(part.length_mm)
    top = view.y(part.greatest_mm)
    for x in (left, view.face_x):
        scene.line((x, min(y - 5, top - 3)), (x, top - 3), "narrow")
    scene.dimension((left, y), (view.face_x, y), text)


def draw_now_and_wanted(view: View, part: Part, labels: Labels, x: float) -> None:
    """One-arrow diameters at the left: what it is and what it must become."""
    scene = view.scene
    left = view.x(part.body_mm)
    for place, (diameter, word, role) in enumerate(
        ((part.start_mm, "now", "narrow"), (part.aim_mm, "wanted", "narrow-blue"))
    ):
        at, y = x + place * 84, view.y(diameter)
        scene.line((at - 8, y), (left - 3, y), role)
        scene.line((at, y), (at, view.axis_y + 8), role)
        scene.arrow((at, y), (at, view.axis_y), "arrowhead" if place == 0 else "arrowhead-blue")
        scene.text((at - 6, y + 44), word, "label" if place == 0 else "label-blue", "end")
    scene.text((x, view.axis_y + 28), labels.now, "figure", "middle")
    scene.text((x + 64, view.axis_y + 28), labels.wanted, "figure-blue")
    shift = x + 68 + 9.2 * len(labels.wanted)
    scene.text((shift, view.axis_y + 19), labels.upper, "deviation")
    scene.text((shift, view.axis_y + 35), labels.lower, "deviation")


def _stations(view: View, part: Part, labels: Labels, *, step: float = 56) -> None:
    """The bore as found, hung below the axis; close stations step down."""
    scene, last, level = view.scene, 1e9, 0
    for (z, _), (depth, size) in zip(part.found, labels.stations, strict=True):
        x = view.x(z)
        level = (level + 1) % 2 if last - x < step else 0
        last = x
        y = view.axis_y + 34 + 24 * level
        scene.line((x, view.y(part.start_mm)), (x, y - 18), "hidden")
        scene.circle((x, view.axis_y), 4, "dot")
        scene.text((x + 7, view.axis_y - 7), depth, "label")
        scene.text((x, y), size, "measured", "middle")


def work_band(part: Part, labels: Labels, width: float) -> Scene:
    """The Work step's band: the work above the axis, its figures below."""
    narrow = width < 600
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
    draw_breaks(view, part)
    draw_axis(view, 12, width - 12)
    draw_length(view, part, labels.length, 24)
    _stations(view, part, labels)
    if narrow:
        scene.text((16, height - 60), ", ".join(broken.words for broken in part.breaks), "label")
        scene.text((16, height - 36), f"now {labels.now}", "figure")
        wanted = f"wanted {labels.wanted} ({labels.upper} / {labels.lower})"
        scene.text((16, height - 12), wanted, "figure-blue")
    else:
        draw_now_and_wanted(view, part, labels, max(56.0, view.x(part.body_mm) - 190))
        scene.text((24, height - 14), "half section, to scale", "label")
        scene.text((width - 24, height - 14), "open face at the right; bore as found, by depth", "label", "end")
        if labels.wall:
            _wall_left(view, part, labels.wall)
    return scene


def _wall_left(view: View, part: Part, text: str) -> None:
    """The thinnest wall after boring, beside the open face."""
    scene = view.scene
    thin = min(d for _, _, d in part.steps())
    top, bottom, x = view.y(thin), view.y(part.aim_mm), view.face_x + 44
    for y in (top, bottom):
        scene.line((view.face_x + 3, y), (x + 5, y), "narrow")
    scene.line((x, top), (x, bottom), "narrow")
    if bottom - top > 28:
        scene.arrow((x, top), (x, bottom))
        scene.arrow((x, bottom), (x, top))
    scene.text((x + 10, (top + bottom) / 2 + 6), text, "figure")


def strip_section(part: Part) -> Scene:
    """The work at strip size on the bench."""
    scene = Scene(124, 62, "the work in half section")
    view = fit(scene, part, axis_y=48, top=6, width=96, face_x=0)
    view = View(scene, 48, 62 + part.body_mm * view.scale / 2, view.scale)
    draw_work(view, part)
    scene.line((4, 48), (120, 48), "axis")
    return scene

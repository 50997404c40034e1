"""The work in half section: outside steps, hatch, bore as found, wanted size, dimensions."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

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
class BesideBore:
    """Another bore of the same body, cut in another set-up; from the open face that is drawn at the right."""

    from_mm: float
    to_mm: float
    #: As found, or as it is wanted where nothing is measured yet.
    now_mm: float
    aim_mm: float
    number: str
    letter: str
    words: str
    #: Whether it ends at a shoulder that is its far end as drawn.
    shoulder_mm: float | None = None


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
    #: Bores that another set-up cuts in the same body.
    beside: Sequence[BesideBore] = ()

    @property
    def body_mm(self) -> float:
        """Length of the work: of the bore, and of what stands behind its shoulder."""
        outside = sum(length for length, _ in self.outside)
        beside = max((one.to_mm for one in self.beside), default=0.0)
        return max(self.length_mm, beside, outside if self.shoulder or self.beside else 0.0)

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

    def inside(self) -> list[tuple[float, float, float]]:
        """Inside as (from, to, diameter) over the whole length; a stretch that nobody names goes on as this bore."""
        own = (0.0, self.length_mm, self.start_mm)
        others = [(one.from_mm, one.to_mm, one.now_mm) for one in self.beside]
        ends = sorted({0.0, self.body_mm, *(z for a, b, _ in (own, *others) for z in (a, b) if 0 < z < self.body_mm)})
        pieces: list[tuple[float, float, float]] = []
        for a, b in pairwise(ends):
            middle = (a + b) / 2
            size = next((d for p, q, d in (own, *others) if p < middle < q), self.start_mm)
            begins = pieces.pop()[0] if pieces and pieces[-1][2] == size else a
            pieces.append((begins, b, size))
        return pieces


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
    for start, end, diameter in part.steps():
        for a, b, inner in part.inside():
            box = (view.x(min(b, end)), view.y(diameter), view.x(max(a, start)), view.y(inner))
            if box[2] - box[0] > 0 and box[3] - box[1] > 1:
                hatch(scene, box, part.hatch)
    near, far = view.y(part.inside()[0][2]), view.y(part.inside()[-1][2])
    outline = [(view.face_x, near)]
    for start, end, diameter in part.steps():
        outline += [(view.x(start), view.y(diameter)), (view.x(end), view.y(diameter))]
    outline.append((view.x(part.body_mm), far))
    if part.outside:
        scene.poly(outline, "outline")
    else:
        _broken_wall(view, part, (far, near))
    for z, y in ((0.0, near), (part.body_mm, far)):
        scene.line((view.x(z), y), (view.x(z), view.axis_y), "outline")
    _inner_wall(view, part)


def _inner_wall(view: View, part: Part) -> None:
    """The wall as found, with the shoulders between bores of unlike size."""
    scene, before = view.scene, None
    for a, b, inner in part.inside():
        scene.line((view.x(b), view.y(inner)), (view.x(a), view.y(inner)), "wall")
        if before is not None and before != inner:
            scene.line((view.x(a), view.y(before)), (view.x(a), view.y(inner)), "wall")
            scene.line((view.x(a), view.y(min(before, inner))), (view.x(a), view.axis_y), "narrow")
        before = inner


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


def _broken_wall(view: View, part: Part, inner_y: tuple[float, float]) -> None:
    """An outside that is not known ends in a wavy narrow line; down to the bore at its far end and at its face."""
    top, left, right = view.y(part.greatest_mm), view.x(part.body_mm), view.face_x
    count = max(4, int((right - left) / 12))
    step = (right - left) / count
    wave = [(left + n * step, top + (2.5 if n % 2 else -2.5)) for n in range(count + 1)]
    view.scene.poly(wave, "narrow")
    for x, y in zip((left, right), inner_y, strict=True):
        view.scene.line((x, top), (x, y), "outline")


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


def strip_section(part: Part) -> Scene:
    """The work at strip size on the bench."""
    scene = Scene(124, 62, "the work in half section")
    view = fit(scene, part, axis_y=48, top=6, width=96, face_x=0)
    view = View(scene, 48, 62 + part.body_mm * view.scale / 2, view.scale)
    draw_work(view, part)
    scene.line((4, 48), (120, 48), "axis")
    return scene

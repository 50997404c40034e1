"""The machine's own checks: the spindle's test bar and its high spots, the run of a figure over the years."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date
from math import cos, hypot, radians, sin

from gyrodraw.scene import Point, Scene

Vector = tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class SpotDrawn:
    """A place along the spindle: how far from the nose, how far off as a vector [mm], and its words."""

    at_mm: float
    off_mm: Vector
    words: str

    @property
    def total_mm(self) -> float:
        """Its swing [mm]."""
        return 2 * hypot(*self.off_mm)


@dataclass(frozen=True, slots=True, kw_only=True)
class SpindleDrawn:
    """A spindle read near and far, and where its tool cuts; the limit of its run-out [mm] with its words."""

    near: SpotDrawn
    far: SpotDrawn
    tool: SpotDrawn
    tool_words: str
    limit_mm: float | None
    limit_words: str
    planned: Callable[[float], str]


def spindle_scene(drawn: SpindleDrawn, width: float = 700, height: float = 330) -> Scene:
    """The test bar from the side, its length to scale, and under it the run-out along it, exaggerated as it says."""
    scene = Scene(width, height, f"Spindle with a test bar. At the tool {drawn.planned(drawn.tool.total_mm)}.")
    left, right, axis = 150.0, width - 24.0, 104.0
    longest = 1.06 * max(drawn.far.at_mm, drawn.tool.at_mm)

    def x(at_mm: float) -> float:
        return left + at_mm / longest * (right - left)

    scene.lines([((left - 44, 30), (left - 44, 178)), ((left - 44, 52), (left, 52)), ((left - 44, 156), (left, 156)),
                 ((left, 52), (left, 156))], "phantom")  # fmt: skip
    scene.text((8, 34), "headstock", "label")
    scene.rect((left, axis - 30), (right, axis + 30), "outline")
    scene.line((12, axis), (right + 14, axis), "axis")
    for name, spot in (("near", drawn.near), ("far", drawn.far)):
        scene.line((x(spot.at_mm), axis - 30), (x(spot.at_mm), axis - 52), "narrow")
        scene.circle((x(spot.at_mm), axis - 64), 12, "disc-open")
        scene.line((x(spot.at_mm), axis - 64), (x(spot.at_mm) + 6, axis - 70), "narrow")
        end = "end" if name == "far" and x(spot.at_mm) > right - 140 else "start"
        scene.text((x(spot.at_mm) + (18 if end == "start" else -18), axis - 70), name, "label", end)
        scene.text((x(spot.at_mm) + (18 if end == "start" else -18), axis - 50), spot.words, "figure", end)
    tool = x(drawn.tool.at_mm)
    scene.line((tool, axis + 34), (tool, axis + 62), "narrow-blue")
    scene.dimension((left, axis + 54), (tool, axis + 54), f"tool {drawn.tool_words}", role="narrow-blue")
    _along(scene, drawn, x, (left, right, 190.0, height - 22))
    return scene


def _along(
    scene: Scene, drawn: SpindleDrawn, x: Callable[[float], float], frame: tuple[float, float, float, float]
) -> None:
    """Run-out (TIR) by distance: straight in each direction, so a curve in its size."""
    left, right, top, bottom = frame
    spots = (drawn.near, drawn.far, drawn.tool)
    largest = max([one.total_mm for one in spots] + [drawn.limit_mm or 0.0, 1e-4]) * 1.12

    def y(total: float) -> float:
        return bottom - total / largest * (bottom - top)

    if drawn.limit_mm is not None:
        scene.rect((left, y(drawn.limit_mm)), (right, bottom), "limit-zone")
        scene.line((left, y(drawn.limit_mm)), (right, y(drawn.limit_mm)), "limit-line")
        scene.text((left - 8, y(drawn.limit_mm) + 5), drawn.limit_words, "words-ok", "end")
    scene.line((left, bottom), (right, bottom), "narrow")
    reach = max(one.at_mm for one in spots)
    curve = [(n / 40 * reach, spot_between(drawn.near, drawn.far, n / 40 * reach).total_mm) for n in range(41)]
    scene.poly([(x(at), y(total)) for at, total in curve], "chart-line")
    for spot, role in ((drawn.near, "place"), (drawn.far, "place"), (drawn.tool, "place-expected")):
        point = (x(spot.at_mm), y(spot.total_mm))
        scene.circle(point, 6, role)
    scene.text((x(drawn.tool.at_mm), y(drawn.tool.total_mm) - 12), drawn.planned(drawn.tool.total_mm),
               "measured-blue", "middle")  # fmt: skip
    scene.text((8, bottom - 22), "run-out (TIR)", "label")
    factor = (bottom - top) / largest / ((right - left) / (1.06 * max(drawn.far.at_mm, drawn.tool.at_mm)))
    scene.text((8, bottom - 4), f"drawn x {factor:.0f}", "small")


def high_spots(drawn: SpindleDrawn, size: float = 280) -> Scene:
    """Where the test bar reads highest, seen from the front, 0 degrees at the mark, clockwise."""
    scene = Scene(size, size + 24, "High spots seen from the front, 0 at the mark, clockwise")
    middle: Point = (size / 2, size / 2 + 14)
    rim = size / 2 - 22
    scene.circle(middle, rim, "outline")
    for share in (1 / 3, 2 / 3):
        scene.circle(middle, share * rim, "grid")
    scene.lines([((middle[0] - rim - 10, middle[1]), (middle[0] + rim + 10, middle[1])),
                 ((middle[0], middle[1] - rim - 10), (middle[0], middle[1] + rim + 10))], "axis")  # fmt: skip
    scene.poly([(middle[0], middle[1] - rim + 12), (middle[0] - 8, middle[1] - rim), (middle[0] + 8, middle[1] - rim)],
               "arrowhead", closed=True)  # fmt: skip
    scene.text((middle[0] + 12, 14), "mark, 0", "small")
    largest = max([hypot(*one.off_mm) for one in (drawn.near, drawn.far, drawn.tool)] + [1e-6])

    def at(off: Vector) -> Point:
        return middle[0] + off[1] / largest * 0.86 * rim, middle[1] - off[0] / largest * 0.86 * rim

    scene.poly([at(drawn.near.off_mm), at(drawn.far.off_mm)], "expected-line")
    for name, spot in (("near", drawn.near), ("far", drawn.far)):
        scene.line(middle, at(spot.off_mm), "narrow")
        scene.circle(at(spot.off_mm), 5, "place")
        scene.text((at(spot.off_mm)[0] + 9, at(spot.off_mm)[1] - 6), name, "small")
    scene.line(middle, at(drawn.tool.off_mm), "off-centre")
    scene.circle(at(drawn.tool.off_mm), 6, "disc")
    scene.text((8, size + 18), "high spots, seen from the front", "small")
    return scene


@dataclass(frozen=True, slots=True, kw_only=True)
class TrendPoint:
    """A check on its day [mm], or, without a figure, what was changed then."""

    day: date
    value_mm: float | None
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class TrendDrawn:
    """The run of one figure: oldest first, its limit, and the day on which it reaches it."""

    title: str
    points: Sequence[TrendPoint]
    limit_mm: float | None
    limit_words: str
    reaches: date | None
    reaches_words: str


#: A chart as wide as this has room for its title.
_WIDE = 600


def trend_chart(drawn: TrendDrawn, width: float = 470, height: float = 230) -> Scene:
    """The figure over the days: a line that breaks where the machine was changed, on to its limit where it rises."""
    scene = Scene(width, height, drawn.title)
    left, right, top, bottom = 52.0, width - 46.0, 34.0, height - 30.0
    if width > _WIDE:
        scene.text((8, 18), drawn.title, "label")
        top += 22
    if not drawn.points:
        scene.line((left, bottom), (right, bottom), "narrow")
        scene.text((left, (top + bottom) / 2), "not checked yet", "label")
        return scene
    days = [one.day for one in drawn.points] + ([drawn.reaches] if drawn.reaches else [])
    first, span = min(days), max((max(days) - min(days)).days, 30)
    values = [one.value_mm for one in drawn.points if one.value_mm is not None]
    largest = 1.15 * max([*values, drawn.limit_mm or 0.0, 1e-4])

    def at(day: date, value: float) -> Point:
        return left + (day - first).days / span * (right - left), bottom - value / largest * (bottom - top)

    if drawn.limit_mm is not None:
        y = at(first, drawn.limit_mm)[1]
        scene.rect((left, y), (right, bottom), "limit-zone")
        scene.line((left, y), (right, y), "limit-line")
        scene.text((left + 4, y - 6), drawn.limit_words, "words-ok")
    scene.line((left, bottom), (right, bottom), "narrow")
    _runs(scene, drawn, at, (top, bottom))
    ends = sorted({drawn.points[0].day, drawn.points[-1].day})
    for place, day in enumerate(ends):
        anchor = "start" if place == 0 else "end" if at(day, 0)[0] > right - 30 else "middle"
        scene.text((at(day, 0)[0], height - 10), f"{day:%b %Y}", "small", anchor)
    if drawn.reaches and drawn.limit_mm is not None and values:
        spot = at(drawn.reaches, drawn.limit_mm)
        last = next(one for one in reversed(drawn.points) if one.value_mm is not None)
        scene.line(at(last.day, last.value_mm or 0.0), spot, "expected-line")
        scene.circle(spot, 5, "place-expected")
        scene.text((spot[0], spot[1] - 10), drawn.reaches_words, "figure-blue-small", "end")
    return scene


def _runs(scene: Scene, drawn: TrendDrawn, at: Callable[[date, float], Point], frame: tuple[float, float]) -> None:
    """Between two changes of the machine one line."""
    run: list[Point] = []
    figures = [place for place, one in enumerate(drawn.points) if one.value_mm is not None]
    for place, one in enumerate(drawn.points):
        if one.value_mm is None:
            if len(run) > 1:
                scene.poly(run, "chart-line")
            run = []
            x = at(one.day, 0)[0]
            scene.line((x, frame[0] - 6), (x, frame[1]), "hidden")
            scene.text((x, frame[0] - 12), one.words, "words-warn", "middle" if x > 100 else "start")
            continue
        run.append(at(one.day, one.value_mm))
        scene.circle(run[-1], 5, "place-solid" if place == figures[-1] else "place")
        if place in figures[-2:]:
            late = run[-1][0] > scene.width - 90
            scene.text((run[-1][0] + (-8 if late else 8), run[-1][1] + 20), one.words, "chart-figure",
                       "end" if late else "start")  # fmt: skip
    if len(run) > 1:
        scene.poly(run, "chart-line")


def spot(at_mm: float, total_mm: float, high_deg: float, words: str) -> SpotDrawn:
    """A place from its swing and where it reads highest."""
    half = total_mm / 2
    return SpotDrawn(at_mm=at_mm, off_mm=(half * cos(radians(high_deg)), half * sin(radians(high_deg))), words=words)


def spot_between(near: SpotDrawn, far: SpotDrawn, at_mm: float) -> SpotDrawn:
    """A place on the straight line through two."""
    share = (at_mm - near.at_mm) / (far.at_mm - near.at_mm)
    x, y = (a + (b - a) * share for a, b in zip(near.off_mm, far.off_mm, strict=True))
    return SpotDrawn(at_mm=at_mm, off_mm=(x, y), words="")

"""The calendar axis of the bench: work that settles above it, gauges due below it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrodraw.hatch import hatch
from gyrodraw.scene import Scene


@dataclass(frozen=True, slots=True, kw_only=True)
class Resting:
    """Work that rests: days from today until it may be cut."""

    days: int
    name: str
    short: str
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Due:
    """A gauge's next check: days from today, and how near it is (`soon` or `later`)."""

    days: int
    name: str
    words: str
    state: str


#: The axis shows so many days at most; what lies later stands at its end.
SPAN_DAYS = 28


def calendar_axis(
    resting: Sequence[Resting], due: Sequence[Due], weeks: Sequence[tuple[int, str]], width: float
) -> Scene:
    """Draw today, the next weeks, what rests until when, and which gauge is due when."""
    narrow = width < 600
    left = 96.0 if narrow else 150.0
    above, below = 24.0 * len(resting), 24.0 * len(due)
    axis_y = 26 + above + 14
    scene = Scene(width, axis_y + 34 + below + 10, "Calendar: work that settles above the axis, gauges due below it")
    day = (width - left - 24) / SPAN_DAYS
    scene.line((8, axis_y), (width - 8, axis_y), "axis")
    scene.lines([((left + day * n, axis_y - 3), (left + day * n, axis_y + 3)) for n in range(SPAN_DAYS + 1)], "narrow")
    for n, words in weeks:
        if 0 < n <= SPAN_DAYS - (5 if narrow else 2):
            scene.line((left + day * n, axis_y - 9), (left + day * n, axis_y + 9), "narrow")
            if not narrow or n >= 4:
                scene.text((left + day * n + 5, axis_y - 8), words, "small")
    scene.line((left, 8), (left, scene.height - 4), "pointer")
    scene.rect((left - 58, axis_y - 13), (left - 2, axis_y + 13), "tag")
    scene.text((left - 30, axis_y + 6), "today", "tag-words", "middle")
    if not narrow:
        scene.text((8, 24), "Settling", "ruler-name")
        scene.text((8, axis_y + 44), "Gauges due", "ruler-name")
    for place, rest in enumerate(resting):
        _resting(scene, rest, left, 8 + 24.0 * place, day, axis_y)
    for place, one in enumerate(due):
        _due(scene, one, left, axis_y + 32 + 24.0 * place, day, axis_y)
    return scene


def _resting(scene: Scene, rest: Resting, left: float, top: float, day: float, axis_y: float) -> None:
    end = left + day * min(rest.days, SPAN_DAYS)
    hatch(scene, (left, top, end, top + 17), "iron")
    scene.rect((left, top), (end, top + 17), "narrow")
    scene.line((end, top), (end, axis_y), "outline")
    _words(scene, rest.name, rest.words, end + 10, top + 14, short=rest.short)


def _due(scene: Scene, one: Due, left: float, y: float, day: float, axis_y: float) -> None:
    x = left + day * min(max(one.days, 0), SPAN_DAYS)
    if one.state == "over":
        scene.rect((x + 6, y - 8), (x + 22, y + 8), "mark-over")
        scene.lines([((x + 10, y - 4), (x + 18, y + 4)), ((x + 18, y - 4), (x + 10, y + 4))], "mark-cross")
        _words(scene, one.name, one.words, x + 30, y + 6, "words-bad")
        return
    scene.line((x, axis_y), (x, y), "narrow")
    if one.state == "soon":
        scene.poly([(x, y - 8), (x + 8, y), (x, y + 8), (x - 8, y)], "mark-near", closed=True)
        _words(scene, one.name, one.words, x + 14, y + 6, "words-warn")
        return
    scene.circle((x, y), 6, "place")
    _words(scene, one.name, one.words, x + 14, y + 6)


def _words(
    scene: Scene, name: str, words: str, x: float, y: float, role: str = "ruler-name", short: str = ""
) -> None:  # fmt: skip
    """Beside the mark where there is room, else before it; on a narrow sheet the name alone."""
    text = name if scene.width < 600 else f"{name}, {words}"
    if scene.width < 600 and x + 8.2 * len(text) > scene.width - 4:
        text = short or name
    wide = 8.2 * len(text)
    if x + wide <= scene.width - 4:
        scene.text((x, y), text, role)
    elif x - 26 - wide > 4:
        scene.text((x - 26, y), text, role, "end")
    else:
        scene.text((scene.width - 4, y), text, role, "end")

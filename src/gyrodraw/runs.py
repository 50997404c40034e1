"""Pieces or passes one after the other against limits: a run chart; figures come in the reader's unit and words."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil

from gyrodraw.scene import Scene
from gyrodraw.walls import judged_mark


@dataclass(frozen=True, slots=True, kw_only=True)
class RunPoint:
    """One piece: its place in the run, its value, its words; a mark of how it was judged."""

    name: str
    value: float
    words: str
    #: in, over, under, undecided: the shape that it is drawn with.
    mark: str = "in"


@dataclass(frozen=True, slots=True, kw_only=True)
class RunDrawn:
    """A run: its points, the limits with their words, the line through them and where it leads."""

    points: Sequence[RunPoint]
    lower: float
    upper: float
    lower_words: str
    upper_words: str
    title: str
    #: Value of the fitted line at the first point and a piece; None draws none.
    line: tuple[float, float] | None = None
    #: What is expected next, with its words.
    expected: tuple[float, str] | None = None
    #: The middle between the limits is drawn as a line of its own, with its words.
    middle_words: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class _Frame:
    """Where a value and a place of the run stand."""

    left: float
    right: float
    bottom: float
    step: float
    low: float
    per: float

    def at(self, place: float, value: float) -> tuple[float, float]:
        return self.left + 8 + place * self.step, self.bottom - (value - self.low) * self.per


def run_chart(drawn: RunDrawn, width: float = 470, height: float = 190) -> Scene:
    """Draw a run of pieces against its limits, the newest at the right."""
    scene = Scene(width, height, drawn.title)
    frame = _frame(drawn, width, height)
    _limits(scene, drawn, frame)
    if drawn.line is not None:
        first, slope = drawn.line
        last = len(drawn.points) - (0 if drawn.expected else 1)
        scene.line(frame.at(0, first), frame.at(last, first + slope * last), "expected-line")
    spots = [frame.at(place, one.value) for place, one in enumerate(drawn.points)]
    if len(spots) > 1:
        scene.poly(spots, "chart-line")
    every = max(1, ceil(26 / max(frame.step, 1e-9)))
    for place, (spot, one) in enumerate(zip(spots, drawn.points, strict=True)):
        judged_mark(scene, spot, one.mark)
        if (len(spots) - 1 - place) % every == 0:  # the newest is always named
            scene.text((spot[0], height - 6), one.name, "small", "middle")
    if spots:
        scene.text((spots[-1][0] + 12, spots[-1][1] + 5), drawn.points[-1].words, "chart-figure")
    if drawn.expected:
        spot = frame.at(len(drawn.points), drawn.expected[0])
        scene.circle(spot, 5, "place-expected")
        scene.text((spot[0] + 8, spot[1] + 18), drawn.expected[1], "figure-blue-small")
    return scene


def _frame(drawn: RunDrawn, width: float, height: float) -> _Frame:
    values = [*(one.value for one in drawn.points), drawn.lower, drawn.upper]
    if drawn.expected:
        values.append(drawn.expected[0])
    low, span = min(values), max(max(values) - min(values), 1e-9)
    left, right, top, bottom = 64.0, width - 62, 18.0, height - 26
    count = len(drawn.points) + (1 if drawn.expected else 0)
    return _Frame(
        left=left, right=right, bottom=bottom, step=(right - left - 16) / max(count - 1, 1),
        low=low - 0.08 * span, per=(bottom - top) / (1.16 * span),
    )  # fmt: skip


def _limits(scene: Scene, drawn: RunDrawn, frame: _Frame) -> None:
    (_, lower), (_, upper) = frame.at(0, drawn.lower), frame.at(0, drawn.upper)
    scene.rect((frame.left, upper), (frame.right, lower), "limit-zone")
    for y, words in ((lower, drawn.lower_words), (upper, drawn.upper_words)):
        scene.line((frame.left, y), (frame.right, y), "limit-line")
        scene.text((frame.left - 6, y + 5), words, "small", "end")
    if drawn.middle_words:
        middle = (lower + upper) / 2
        scene.line((frame.left, middle), (frame.right, middle), "grid")
        scene.text((frame.left - 6, middle + 5), drawn.middle_words, "small", "end")

"""The one ladder of passes: to scale on diameter, from the size found to the limits."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from gyrodraw.hatch import hatch
from gyrodraw.scene import Scene


@dataclass(frozen=True, slots=True, kw_only=True)
class Rung:
    """One pass on the ladder: the diameter it is set to, words above and below, and its state."""

    number: int
    at_mm: float
    above: str
    below: str = ""
    #: done, now, ahead, expected.
    state: str = "ahead"


@dataclass(frozen=True, slots=True, kw_only=True)
class PassLine:
    """What stands on the ladder [mm]; words in the reader's unit."""

    start_mm: float
    start_words: str
    known_mm: float
    lower_mm: float
    upper_mm: float
    limits_words: tuple[str, str]
    rungs: Sequence[Rung]
    #: The ladder begins here; past the start it is zoomed, and `zoom_words` say so.
    from_mm: float
    zoom_words: str = ""
    #: Over the upper limit: what is said of the excess, and of the size.
    over_words: str = ""
    size_words: str = ""


#: Across the sheet for a diameter.
At = Callable[[float], float]
#: Discs closer than this on the sheet leave out their words; closer than a disc, the disc itself.
_WORDS_APART, _DISCS_APART = 78.0, 27.0


def draw_pass_line(scene: Scene, line: PassLine, y: float, left: float, right: float) -> None:
    """Draw the ladder at a height between two edges of the sheet."""
    end_mm = max(line.upper_mm, line.known_mm) + 0.06 * (max(line.upper_mm, line.known_mm) - line.from_mm)
    scale = (right - left) / max(end_mm - line.from_mm, 1e-9)

    def x(size_mm: float) -> float:
        return left + (size_mm - line.from_mm) * scale

    if line.over_words:
        _over(scene, line, x, y)
        return
    known = min(max(line.known_mm, line.from_mm), end_mm)
    scene.rect((x(known), y - 5), (right, y + 5), "ahead-bar")
    _limits(scene, line, x, y)
    scene.rect((left, y - 5), (x(known), y + 5), "done-bar")
    if line.from_mm <= line.start_mm + 1e-9:
        scene.line((left, y - 12), (left, y + 12), "outline")
        scene.text((left, y - 20), line.start_words, "ladder", "middle")
        scene.text((left, y + 28), "found", "label", "middle")
    _rungs(scene, line, x, y, left)


def _limits(scene: Scene, line: PassLine, x: At, y: float) -> None:
    low, high = x(line.lower_mm), x(line.upper_mm)
    scene.rect((low, y - 20), (max(high, low + 2), y + 20), "limit-zone")
    for edge in (low, max(high, low + 2)):
        scene.line((edge, y - 20), (edge, y + 20), "limit-line")


def _rungs(scene: Scene, line: PassLine, x: At, y: float, left: float) -> None:
    places = [(x(rung.at_mm), rung) for rung in line.rungs if rung.at_mm >= line.from_mm - 1e-9]
    order = sorted(places, key=lambda pair: _RANK[pair[1].state])
    discs: list[float] = []
    words: list[float] = [left] if line.from_mm <= line.start_mm + 1e-9 else []
    for place, rung in order:
        if any(abs(place - other) < _DISCS_APART for other in discs):
            scene.line((place, y - 9), (place, y + 9), "narrow")
            continue
        discs.append(place)
        _disc(scene, place, y, rung)
        if all(abs(place - other) >= _WORDS_APART for other in words):
            words.append(place)
            _rung_words(scene, place, y, rung)
    scene.text((scene.width - 24, y + 46), " to ".join(line.limits_words), "words-ok", "end")


_RANK = {"now": 0, "expected": 1, "done": 2, "ahead": 3}


def _disc(scene: Scene, x: float, y: float, rung: Rung) -> None:
    role = {"done": "disc-done", "now": "disc"}.get(rung.state, "disc-open")
    scene.circle((x, y), 14 if rung.state == "now" else 12, "disc-expected" if rung.state == "expected" else role)
    text = "disc-number" if rung.state in ("done", "now") else "disc-open-number"
    scene.text((x, y + 5), str(rung.number), text, "middle")


def _rung_words(scene: Scene, x: float, y: float, rung: Rung) -> None:
    above = "ladder-now" if rung.state in ("now", "expected") else "ladder"
    anchor = "middle" if x < scene.width - 60 else "end"
    scene.text((min(x, scene.width - 24), y - 24), rung.above, above, anchor)
    if rung.below:
        role = "label-blue" if rung.state == "now" else "ladder-came" if rung.state == "done" else "label"
        scene.text((min(x, scene.width - 24), y + 28), rung.below, role, anchor)


def _over(scene: Scene, line: PassLine, x: At, y: float) -> None:
    """Past the upper limit: the excess hatched in red, the size as a crossed square."""
    low, high, size = x(line.lower_mm), x(line.upper_mm), x(line.known_mm)
    left, wide = x(line.from_mm), scene.width > 600
    scene.rect((left, y - 5), (high, y + 5), "done-bar")
    scene.rect((high, y - 20), (size, y + 20), "over-hard")
    hatch(scene, (high, y - 20, size, y + 20), "iron")
    bottom, top = line.limits_words
    for edge in (low, high):
        scene.line((edge, y - 30), (edge, y + 30), "outline")
    if wide and low - left > 70 and high - low > 190:
        scene.text((low, y + 46), f"{bottom} bottom limit", "ladder", "middle")
    scene.text((high + 4, y + 46), f"{top} top limit" if wide else top, "ladder", "end")
    scene.rect((size - 12, y - 12), (size + 12, y + 12), "mark-over")
    scene.lines([((size - 5, y - 5), (size + 5, y + 5)), ((size + 5, y - 5), (size - 5, y + 5))], "mark-cross")
    scene.text(((high + size) / 2, y - 28), line.over_words, "words-bad", "middle")
    last = min(size, scene.width - 70) if wide else scene.width - 12
    scene.text((last, y + 46), line.size_words, "words-bad", "middle" if wide else "end")

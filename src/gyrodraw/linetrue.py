"""A line bar brought on to its housings: heights and sides along the line, each bearing's move an arrow."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrodraw.scene import Scene


@dataclass(frozen=True, slots=True, kw_only=True)
class LineMark:
    """A swept bore along the line: its true centre up and right [mm], its name and figures already worded."""

    name: str
    z_mm: float
    up_mm: float
    right_mm: float
    up: str
    right: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LineMove:
    """A bearing along the line and its move [mm], worded."""

    z_mm: float
    up_mm: float
    right_mm: float
    up: str
    right: str
    name: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class LineTrue:
    """What is drawn: swept bores, bearings with their moves, the bar's own sag line, and the exaggeration in words."""

    marks: Sequence[LineMark]
    moves: Sequence[LineMove]
    curve: Sequence[tuple[float, float]] = ()
    seen_from: str = ""
    #: How low the bar hangs, said where it hangs lowest.
    sag_words: str = ""


def line_true_scene(line: LineTrue, width: float) -> Scene:
    """Two strips at one scale along the line: height with the bar's sag, and side; across them exaggerated."""
    narrow = width < 600
    scene = Scene(width, 290, "Centres of the swept bores and the moves of the bearings, in height and to the side")
    every: list[LineMark | LineMove] = [*line.marks, *line.moves]
    places = [one.z_mm for one in every]
    low, high = min(places), max(places)
    left, right = (44.0, width - 44) if narrow else (96.0, width - 96)
    along = (right - left) / max(high - low, 1e-9)
    largest = max([abs(v) for one in every for v in (one.up_mm, one.right_mm)] + [0.005])
    across = 50 / largest

    def x(z_mm: float) -> float:
        return left + (z_mm - low) * along

    for title, base, part in (("height", 78.0, "up"), ("side", 206.0, "right")):
        scene.line((12, base), (width - 12, base), "axis")
        scene.text((12, base - 56), title, "label")
        if part == "up" and line.curve:
            shown = [(x(z), base + sag * across) for z, sag in line.curve if low <= z <= high]
            if len(shown) > 1:
                scene.poly(shown, "chart-line")
                low_at = max(shown, key=lambda point: point[1])
                if line.sag_words and not narrow:
                    scene.text((low_at[0], low_at[1] + 20), line.sag_words, "small", "middle")
        ends = [(x(one.z_mm), base - getattr(one, f"{part}_mm") * across) for one in line.moves]
        scene.line(ends[0], ends[-1], "expected-line")
        for one in line.moves:
            _move(scene, (x(one.z_mm), base), getattr(one, f"{part}_mm") * across, getattr(one, part), width,
                  one.name if part == "up" else "")  # fmt: skip
        for mark in line.marks:
            y = base - getattr(mark, f"{part}_mm") * across
            scene.circle((x(mark.z_mm), y), 5, "place-solid")
            words = f"{mark.name} {getattr(mark, part)}"
            end = x(mark.z_mm) > width / 2
            at = (x(mark.z_mm) + (-10 if end else 10), y + (20 if y < base else -10))  # on the axis' side of its point
            scene.text(at, words, "chart-figure", "end" if end else "start")
    scene.text((12, 284), f"centres drawn {across / along:.0f}:1", "label-blue")
    scene.text((width - 12, 22 if narrow else 284), line.seen_from, "label", "end")
    return scene


def _move(scene: Scene, at: tuple[float, float], by: float, words: str, width: float, name: str) -> None:
    """A bearing as a solid square with its name, its move an arrow with its figure."""
    x, base = at
    scene.rect((x - 7, base - 7), (x + 7, base + 7), "bearing")
    if name:
        inward = x > width / 2
        scene.text(
            (x + (-12 if inward else 12), base + (24 if by > 0 else -14)), name, "small", "end" if inward else "start"
        )
    if abs(by) < 9:
        return
    tip = (x, base - by)
    scene.line((x, base - (8 if by > 0 else -8)), tip, "narrow-blue")
    scene.arrow(tip, (x, base), "arrowhead-blue")
    end = x > width / 2
    scene.text((x + (-12 if end else 12), base - by + (0 if by > 0 else 14)), words, "figure-blue-small",
               "end" if end else "start")  # fmt: skip

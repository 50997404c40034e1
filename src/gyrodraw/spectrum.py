"""The spectrum of a sound on a scale of equal ratios, its tones marked with what they are."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import log

from gyrodraw.scene import Point, Scene


@dataclass(frozen=True, slots=True, kw_only=True)
class ToneMark:
    """One tone: where, how loud, what it is (bar, turn, other), and its words."""

    hz: float
    db: float
    name: str
    words: str
    small: str


@dataclass(frozen=True, slots=True, kw_only=True)
class SpectrumDrawn:
    """Levels from the least to the greatest frequency in steps of equal ratio; the bar's own frequency [Hz, dB]."""

    levels_db: Sequence[float]
    least_hz: float
    most_hz: float
    floor_db: float
    tones: Sequence[ToneMark]
    natural_hz: float | None
    natural_words: str
    title: str
    head: str


Axes = tuple[Callable[[float], float], Callable[[float], float]]
_TICKS = (20, 50, 100, 200, 500, 1000, 2000)
#: A tone is the bar's from its natural frequency times the one up to the other: see `gyrocore.name_tones`.
_BAR_ZONE = (0.95, 1.3)


def spectrum_scene(drawn: SpectrumDrawn, width: float, height: float = 250) -> Scene:
    """Draw the spectrum with its axis below, the loudest tone's words first."""
    scene = Scene(width, height, drawn.title)
    narrow = width < 600
    left, right, top, bottom = (46.0 if narrow else 110.0), width - 30, 54.0, height - 34

    def x(hz: float) -> float:
        share = log(max(hz, drawn.least_hz) / drawn.least_hz) / log(drawn.most_hz / drawn.least_hz)
        return left + min(1.0, share) * (right - left)

    def y(db: float) -> float:
        return top + db / drawn.floor_db * (bottom - top)

    if drawn.head:
        scene.text((24, 24), drawn.head, "small" if narrow else "label")
    if drawn.natural_hz is not None:
        low, high = (share * drawn.natural_hz for share in _BAR_ZONE)
        scene.rect((x(low), top - 8), (x(high), bottom), "blue-zone")
        scene.line((x(drawn.natural_hz), top - 8), (x(drawn.natural_hz), bottom), "expected-line")
        _natural(scene, drawn, (x(low), x(high)), (x, y))
    for db in (0, -20, -40):
        scene.line((left, y(db)), (right, y(db)), "grid")
        scene.text((left - 8, y(db) + 5), f"{db} dB".replace("-", "\u2212"), "small", "end")
    steps = len(drawn.levels_db)
    spots = [(left + (n + 0.5) / steps * (right - left), y(db)) for n, db in enumerate(drawn.levels_db)]
    scene.poly([(spots[0][0], bottom), *spots, (spots[-1][0], bottom)], "spectrum-fill", closed=True)
    scene.poly(spots, "chart-line-thin")
    scene.line((24, bottom), (width - 24, bottom), "axis")
    for hz in _TICKS:
        scene.line((x(hz), bottom), (x(hz), bottom + 6), "narrow")
        scene.text((x(hz), bottom + 24), str(hz), "small", "middle")
    scene.text((width - 24, bottom + 24), "Hz", "small", "end")
    _tones(scene, drawn, x, y)
    return scene


def _natural(scene: Scene, drawn: SpectrumDrawn, zone: tuple[float, float], axes: Axes) -> None:
    """Name the bar's own frequency beside its zone, on the side and at the height where no tone stands."""
    x, y = axes
    length = 9.5 * len(drawn.natural_words)
    spans = {"end": (zone[0] - 6 - length, zone[0] - 6), "start": (zone[1] + 6, zone[1] + 6 + length)}
    peaks = [x(one.hz) for one in drawn.tones]

    def room(side: str) -> tuple[bool, int]:
        left, right = spans[side]
        return left < 0 or right > scene.width, sum(left - 12 < at < right + 12 for at in peaks)

    side = min(spans, key=room)
    at = spans[side][1] if side == "end" else spans[side][0]
    scene.text((at, y(-30)), drawn.natural_words, "figure-blue-small", side)


def _tones(
    scene: Scene, drawn: SpectrumDrawn, x: Callable[[float], float], y: Callable[[float], float]
) -> None:  # fmt: skip
    """Ring for the bar, disc for the turns, square for what is neither; words where they have room."""
    taken: list[tuple[float, float, float]] = []
    for place, one in enumerate(drawn.tones):
        at = (x(one.hz), y(one.db))
        _shape(scene, at, one.name)
        end = at[0] > scene.width * 0.62
        role = "small" if one.name != "bar" else "figure-blue" if place == 0 else "figure-blue-small"
        length = 8.5 * max(len(one.words), len(one.small))
        span = (at[0] - length, at[0] - 12) if end else (at[0] + 12, at[0] + length)
        if any(span[0] < right and left < span[1] and abs(at[1] - high) < 36 for left, right, high in taken):
            continue
        taken.append((*span, at[1]))
        anchor, off = ("end", -12) if end else ("start", 12)
        scene.text((at[0] + off, at[1] - 2), one.words, role, anchor)
        scene.text((at[0] + off, at[1] + 15), one.small, "small", anchor)


def _shape(scene: Scene, at: Point, name: str) -> None:
    if name == "bar":
        scene.circle(at, 7, "mark-under")
    elif name == "turn":
        scene.circle(at, 6, "place-solid")
    else:
        scene.rect((at[0] - 6, at[1] - 6), (at[0] + 6, at[1] + 6), "place")

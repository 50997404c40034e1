"""The machine's own dials on the plates: a scale with its pointer, a lever gate."""

from __future__ import annotations

from collections.abc import Sequence

from gyrodraw.scene import Scene


def dial_scale(value: float, *, unit_step: float = 1, per_turn: float | None = None) -> Scene:
    """A scale about `value` with a pointer at it; wraps where the dial does."""
    scene = Scene(172, 34, f"scale at {value:.1f}")
    left, right, y = 4.0, 168.0, 30.0
    scene.line((left, y), (right, y), "narrow")
    span = 20 * unit_step
    first = value - span / 2
    start = int(first / unit_step)
    for n in range(start, start + 23):
        mark = n * unit_step
        x = left + (mark - first) / span * (right - left)
        if not left <= x <= right:
            continue
        major = n % 5 == 0
        scene.line((x, y), (x, y - (11 if major else 6)), "narrow")
        words = f"{mark % per_turn if per_turn else mark:g}"
        clear = 1.2 if len(words) <= 4 else 3.5
        if major and abs(mark - value) > clear * unit_step and left + 12 <= x <= right - 12:
            scene.text((x, y - 14), words, "tick-figure", "middle")
    x = left + (value - first) / span * (right - left)
    scene.line((x, y), (x, 8), "pointer")
    scene.poly([(x, 18), (x - 7, 4), (x + 7, 4)], "pointer-head", closed=True)
    return scene


def lever_gate(levers: Sequence[str], chosen: str) -> Scene:
    """The speed levers as rows of stations (`B-3`: row B, place 3), the chosen one filled."""
    scene = Scene(172, 58, f"lever {chosen}" if chosen else "no lever")
    parts = [lever.split("-") for lever in levers if lever]
    pick = chosen.split("-") if chosen else []
    columns = max((len(part) for part in parts), default=0)
    for place in range(min(columns, 2)):
        names = list(dict.fromkeys(part[place] for part in parts if len(part) > place))[:6]
        y = 15.0 + 28 * place
        if max(len(name) for name in names) > 2:
            _named_positions(scene, names, pick[place] if len(pick) > place else "", y)
            continue
        gap = min(34.0, 140 / max(len(names) - 1, 1))
        scene.line((14, y), (14 + gap * (len(names) - 1), y), "narrow")
        for n, name in enumerate(names):
            on = len(pick) > place and pick[place] == name
            scene.circle((14 + gap * n, y), 12, "lever-on" if on else "lever")
            scene.text((14 + gap * n, y + 5), name, "lever-on-text" if on else "lever-text", "middle")
    return scene


def _named_positions(scene: Scene, names: Sequence[str], chosen: str, y: float) -> None:
    """Positions with words for names (`low`, `high`): boxes side by side."""
    wide = min(80.0, 164.0 / len(names))
    for n, name in enumerate(names):
        left, on = 4.0 + wide * n, name == chosen
        scene.rect((left, y - 13), (left + wide - 3, y + 13), "lever-on" if on else "lever")
        scene.text((left + wide / 2, y + 5), name.lower(), "lever-on-text" if on else "lever-text", "middle")

"""The Bore step: the cutter in the work, and the passes as a ladder of sizes."""

from __future__ import annotations

from collections.abc import Sequence

from gyrodraw.scene import Scene
from gyrodraw.section import Part, View, draw_axis, draw_length, draw_wanted, draw_work, fit


def bore_band(
    part: Part, bar_diameter_mm: float | None, rungs: Sequence[tuple[float, str, str, str]], length: str,
    width: float,
) -> Scene:  # fmt: skip
    """Draw the bar at the open face, and rungs (diameter mm, wanted, came, state) to the size."""
    narrow = width < 600
    height = 300.0 if narrow else 332.0
    scene = Scene(width, height, "Bore so far: sizes wanted and sizes that came out")
    if not narrow:
        axis_y = 208.0
        room = 330.0 if width > 900 else 220.0
        view = fit(scene, part, axis_y=axis_y, top=52, width=room, face_x=0)
        view = View(scene, axis_y, 60 + part.body_mm * view.scale, view.scale)
        draw_work(view, part)
        draw_wanted(view, part)
        if bar_diameter_mm:
            _bar_at_face(view, part, bar_diameter_mm)
        draw_axis(view, 24, view.face_x + (180 if width > 900 else 90))
        draw_length(view, part, length, view.y(part.greatest_mm) - 26)
        scene.text((24, height - 14), "half section, to scale; the feed runs to the left", "label")
    _ladder(scene, rungs, 24.0 if narrow else (640.0 if width > 900 else 420.0), width, height)
    return scene


def _bar_at_face(view: View, part: Part, diameter_mm: float) -> None:
    scene, r, tip = view.scene, diameter_mm / 2 * view.scale, view.face_x + 6
    end = tip + 150
    scene.rect((tip, view.axis_y - r), (end, view.axis_y + r), "bar")
    wall = view.y(part.aim_mm)
    scene.poly(
        [(tip, wall), (tip + 16, view.axis_y - r), (tip + 2, view.axis_y - r), (tip - 3, wall + 4)],
        "cutter",
        closed=True,
    )
    scene.line((tip + 40, view.axis_y - r - 16), (tip + 2, view.axis_y - r - 16), "narrow-blue")
    scene.arrow((tip - 4, view.axis_y - r - 16), (tip + 40, view.axis_y - r - 16), "arrowhead-blue")
    scene.text((tip + 46, view.axis_y - r - 11), "feed", "label-blue")


#: So many rungs have room; of a longer ladder the ones about the pass in hand are shown.
SHOWN = 8


def _first_shown(rungs: Sequence[tuple[float, str, str, str]]) -> int:
    """The rung to begin with: two before the one in hand, as far down as there are rungs left to show."""
    now = next((place for place, rung in enumerate(rungs) if rung[3] == "now"), len(rungs))
    return max(0, min(now - 2, len(rungs) - SHOWN))


def _ladder(
    scene: Scene, rungs: Sequence[tuple[float, str, str, str]], left: float, width: float, height: float
) -> None:
    """One rung a pass, spaced by size; wanted at the left, what came at the right."""
    if not rungs:
        return
    first = _first_shown(rungs)
    shown = rungs[first : first + SHOWN]
    right = width - 24
    step = min(34.0, (height - 74) / len(shown))
    scene.text((left + 34, 30), "wanted", "label")
    scene.text((right, 30), "came out", "label", "end")
    for place, (_, wanted, came, state) in enumerate(shown):
        y = 60 + step * place
        scene.line((left, y + 8), (right, y + 8), "grid")
        number = first + place + 1
        scene.circle((left + 12, y), 12, {"done": "disc-done", "now": "disc"}.get(state, "disc-open"))
        role = "disc-number" if state in ("done", "now") else "disc-open-number"
        scene.text((left + 12, y + 5), str(number), role, "middle")
        scene.text((left + 34, y + 6), wanted, "figure-blue" if state == "now" else "figure")
        scene.text((right, y + 6), came, "measured" if came else "label", "end")

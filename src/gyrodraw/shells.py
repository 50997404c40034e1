"""The Cuts step: the passes as shells, drawn enlarged, each with its size."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrodraw.hatch import hatch
from gyrodraw.scene import Scene
from gyrodraw.section import Part, View, draw_axis, draw_length, draw_wanted, draw_work, fit


@dataclass(frozen=True, slots=True, kw_only=True)
class Shell:
    """One pass: its radial depth in mm and its words."""

    number: int
    depth_mm: float
    kind: str
    depth: str
    feed: str
    size: str
    done: bool = False


def cuts_band(part: Part, shells: Sequence[Shell], length: str, width: float) -> Scene:
    """The Cuts step's band: the work to scale at the left, the wall enlarged at the right."""
    narrow = width < 600
    done = sum(shell.done for shell in shells)
    rows, first = min(len(shells), 9), max(0, min(done - 2, len(shells) - 9))
    height = max(332.0, 76 + 30.0 * rows) if not narrow else 110 + 30.0 * rows
    scene = Scene(width, height, f"{len(shells)} passes as shells of the wall")
    if not narrow and width > 900:
        axis_y = height - 70
        view = fit(scene, part, axis_y=axis_y, top=52, width=330, face_x=0)
        view = View(scene, axis_y, 60 + part.body_mm * view.scale, view.scale)
        draw_work(view, part)
        draw_wanted(view, part)
        draw_axis(view, 24, view.face_x + 40)
        draw_length(view, part, length, view.y(part.greatest_mm) - 26)
        scene.text((24, height - 14), "half section, to scale", "label")
    left = 24.0 if narrow or width <= 900 else 470.0
    _shells(scene, part, shells[first : first + rows], left, width, narrow)
    if len(shells) > rows:
        scene.text((left, height - 12), f"{rows} of {len(shells)} passes; all in the list below", "label")
    return scene


def _shells(scene: Scene, part: Part, shells: Sequence[Shell], left: float, width: float, narrow: bool) -> None:
    total = sum(shell.depth_mm for shell in shells) or 1.0
    wall = 96.0 if narrow else 300.0 if width > 900 else 200.0
    top, tall = 40.0, 30.0 * len(shells)
    scale = tall / total
    scene.text((left, top - 12), "wall now", "label")
    y = top
    right = left + wall
    for shell in shells:
        thick = shell.depth_mm * scale
        scene.rect((left, y), (right, y + thick), f"shell-{shell.kind}")
        middle = y + thick / 2
        if not narrow:
            scene.line((right - 20, middle), (left + 26, middle), "narrow-blue")
            scene.arrow((left + 18, middle), (right, middle), "arrowhead-blue")
        _shell_row(scene, shell, right, middle, top, shells, narrow)
        y += thick
    hatch(scene, (left, y, right, y + 26), part.hatch)
    scene.line((left, y), (right, y), "wanted-heavy")
    scene.text((left, y + 44), f"wall finished; cuts drawn {scale:.0f}:1", "label-blue")


def _shell_row(
    scene: Scene, shell: Shell, right: float, middle: float, top: float, shells: Sequence[Shell], narrow: bool
) -> None:
    place = shells.index(shell)
    row = top + 30 * place + 15
    scene.poly([(right + 2, middle), (right + 14, middle), (right + 28, row), (right + 34, row)], "narrow-blue")
    scene.circle((right + 48, row), 13, "disc-done" if shell.done else "disc")
    scene.text((right + 48, row + 6), str(shell.number), "disc-number", "middle")
    if narrow:
        scene.text((right + 70, row + 6), shell.kind, "label")
        scene.text((scene.width - 12, row + 6), shell.size, "figure-blue", "end")
        return
    scene.text((right + 72, row + 6), shell.kind, "figure")
    scene.text((right + 190, row + 6), shell.depth, "figure", "end")
    scene.text((right + 198, row + 6), "deep", "label")
    scene.text((right + 290, row + 6), shell.feed, "figure", "end")
    scene.text((right + 298, row + 6), "feed", "label")
    scene.text((right + 440, row + 6), shell.size, "figure-blue", "end")

"""The bore to be checked, to scale along its length, its places as cells to touch; and the directions end on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, radians, sin

from gyrodraw.hatch import hatch
from gyrodraw.scene import Scene
from gyrodraw.section import Part
from gyrodraw.walls import judged_mark


@dataclass(frozen=True, slots=True, kw_only=True)
class PlaceCell:
    """One place: its depth and direction with their words, what was measured there, and whether it is asked now."""

    z_mm: float
    angle_deg: float
    #: Depth and direction as they are typed: what a touch puts into the fields.
    typed: str
    words: str = ""
    verdict: str = ""
    is_now: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckGrid:
    """The bore with its places; depths and directions with their words."""

    part: Part
    length_words: str
    depths: Sequence[tuple[float, str]]
    angles: Sequence[float]
    cells: Sequence[PlaceCell]


#: A cell is so high, and no wider than this; nearer cells are spread, and say so by their lines.
_CELL_H, _CELL_W = 46.0, 106.0


def check_grid(grid: CheckGrid, width: float, height: float = 330) -> Scene:
    """Draw the bore cut lengthwise, open face at the right, a row of cells a direction."""
    scene = Scene(width, height, _title(grid))
    narrow = width < 420
    left, right = (40.0 if narrow else 64.0), width - 16
    axis, wall = height / 2, 34.0
    scale = (right - left) / max(grid.part.body_mm, 1e-9)
    far = right - grid.part.length_mm * scale
    inside = height / 2 - wall - 32
    for sign in (-1, 1):
        near, edge = axis + sign * inside, axis + sign * (inside + wall)
        hatch(scene, (left, min(near, edge), right, max(near, edge)), grid.part.hatch)
        scene.rect((left, min(near, edge)), (right, max(near, edge)), "outline")
        scene.line((far, near), (right, near), "wall")
    for x in dict.fromkeys((left, far, right)):
        scene.line((x, axis - inside), (x, axis + inside), "outline")
    scene.line((12, axis), (width - 8, axis), "axis")
    scene.dimension((far, 24), (right, 24), grid.length_words, above=5)
    columns = _spread([right - z * scale for z, _ in grid.depths], left + 4, right - 4)
    rows = _rows(len(grid.angles), axis, inside)
    side = min(_CELL_W, (right - left - 8) / max(1, len(columns)) - 6)
    for (z, words), x in zip(grid.depths, columns, strict=True):
        scene.lines([((right - z * scale, axis - inside), (x, axis)), ((right - z * scale, axis + inside), (x, axis))],
                    "hidden")  # fmt: skip
        scene.text((x + 4, axis - 5), words, "label")
    for angle, y in zip(grid.angles, rows, strict=True):
        scene.text((left - 6, y + 5), f"{angle:.0f}°", "figure", "end")
    for cell in grid.cells:
        x = next(at for (z, _), at in zip(grid.depths, columns, strict=True) if abs(z - cell.z_mm) < 1e-9)
        y = next(at for angle, at in zip(grid.angles, rows, strict=True) if abs(angle - cell.angle_deg) < 1e-9)
        _cell(scene, cell, (x, y), side)
    scene.text((left, height - 4), "section, to scale along the bore", "small")
    scene.text((right, height - 4), "open face", "small", "end")
    return scene


def _title(grid: CheckGrid) -> str:
    done = [f"{cell.words} at {cell.typed}" for cell in grid.cells if cell.words]
    return "Places of the bore: " + ("; ".join(done) or "none measured yet")


def _rows(count: int, axis: float, inside: float) -> list[float]:
    """Half of the directions above the axis, the rest below it."""
    above = (count + 1) // 2
    upper = [axis - inside + (n + 0.5) * inside / above for n in range(above)]
    lower = [axis + (n + 0.5) * inside / max(1, count - above) for n in range(count - above)]
    return [*upper, *lower]


def _spread(wanted: Sequence[float], low: float, high: float) -> list[float]:
    """Places as near to where they lie as their cells leave room, in the same order."""
    step = min(_CELL_W + 6, (high - low) / max(1, len(wanted)))
    order = sorted(range(len(wanted)), key=lambda n: wanted[n])
    at = [min(max(wanted[n], low + step / 2), high - step / 2) for n in order]
    for n in range(1, len(at)):
        at[n] = max(at[n], at[n - 1] + step)
    for n in range(len(at) - 1, -1, -1):
        at[n] = min(at[n], high - step / 2 - (len(at) - 1 - n) * step)
    found = [0.0] * len(wanted)
    for place, n in enumerate(order):
        found[n] = at[place]
    return found


def _cell(scene: Scene, cell: PlaceCell, at: tuple[float, float], width: float) -> None:
    x, y = at
    role = "cell-now" if cell.is_now else "cell"
    scene.rect((x - width / 2, y - _CELL_H / 2), (x + width / 2, y + _CELL_H / 2), role)
    if cell.words:
        roomy = width > 92
        if roomy:
            judged_mark(scene, (x - width / 2 + 14, y), cell.verdict)
        tone = {"in": "measured", "over": "measured-bad", "under": "measured-blue"}.get(cell.verdict, "measured-warn")
        scene.text((x + (12 if roomy else 0), y + 7), cell.words, f"{tone}-cell", "middle")
    scene.target((x, y), max(44.0, min(width, _CELL_H)), f"check|{cell.typed}")


def end_view(angles: Sequence[float], now_deg: float, seen: Sequence[float], size: float = 250) -> Scene:
    """Draw the directions end on: measured solid, the one asked now blue, those between them not seen."""
    done = ", ".join(f"{angle:.0f}" for angle in seen) or "none"
    scene = Scene(size, size + 30, f"Directions measured: {done} degrees; asked now: {now_deg:.0f}")
    centre, radius = size / 2, size / 2 - 30
    scene.circle((centre, centre), radius, "outline")
    scene.circle((centre, centre), radius - 26, "narrow")

    def across(angle: float, share: float) -> tuple[tuple[float, float], tuple[float, float]]:
        dx, dy = (radius - 26) * share * sin(radians(angle)), -(radius - 26) * share * cos(radians(angle))
        return (centre - dx, centre - dy), (centre + dx, centre + dy)

    ordered = sorted({angle % 180 for angle in angles}) or [0.0]
    between = [(a + b) / 2 for a, b in zip(ordered, [*ordered[1:], ordered[0] + 180], strict=True)]
    for angle in between:
        scene.line(*across(angle, 1), "hidden")
    for angle in ordered:
        is_now = abs(angle - now_deg % 180) < 1e-9
        a, b = across(angle, 1)
        scene.line(a, b, "narrow-blue" if is_now else "narrow")
        if angle in seen or is_now:
            head = "arrowhead-blue" if is_now else "arrowhead"
            scene.arrow(a, b, head)
            scene.arrow(b, a, head)
        x, y = across(angle, 0.62)[1]
        scene.circle((x, y), 19, "disc" if is_now else "place")
        scene.text((x, y + 6), f"{angle:.0f}°", "disc-number" if is_now else "label", "middle")
    scene.text((centre, size + 22), "dashed: not seen", "small", "middle")
    return scene

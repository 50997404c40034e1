"""The two zones of a fit: the bore's limits and the part, one scale, their clearance between."""

from __future__ import annotations

from gyrodraw.scene import Scene


def fit_zones(lower_mm: float, upper_mm: float, mate_mm: float, words: tuple[str, str, str]) -> Scene:
    """Draw the bore's zone beside the part's line; `words` are the upper limit, the lower one and the part."""
    scene = Scene(172, 104, f"bore from {words[1]} to {words[0]}, part {words[2]}")
    low, high = min(lower_mm, mate_mm), max(upper_mm, mate_mm)
    span = high - low or 1.0
    top, tall = 20.0, 64.0

    def y(size_mm: float) -> float:
        return top + (high - size_mm) / span * tall

    scene.rect((8, y(upper_mm)), (76, y(lower_mm)), "accept")
    scene.lines([((8, y(upper_mm)), (76, y(upper_mm))), ((8, y(lower_mm)), (76, y(lower_mm)))], "limit-line")
    scene.line((96, y(mate_mm)), (164, y(mate_mm)), "wall")
    scene.text((42, y(upper_mm) - 5), words[0], "small", "middle")
    scene.text((42, y(lower_mm) + 15), words[1], "small", "middle")
    above = y(mate_mm) > top + 16
    scene.text((130, y(mate_mm) - 6 if above else y(mate_mm) + 16), words[2], "small", "middle")
    return scene

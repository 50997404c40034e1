"""Convergence: run-out by round against the limit, on a scale of decades."""

from __future__ import annotations

from collections.abc import Sequence
from math import ceil, floor, log10

from gyrodraw.scene import Scene


def convergence_chart(
    totals: Sequence[tuple[int, float, str, bool]], limit: float, limit_words: str,
    expected: tuple[float, str] | None = None, width: float = 270, height: float = 200,
) -> Scene:  # fmt: skip
    """Draw rounds (number, reading, words, void) and the expected next one; figures in the reader's unit."""
    scene = Scene(width, height, "Run-out by round against the limit")
    values = [max(t, 1e-5) for _, t, _, _ in totals] + [limit]
    if expected:
        values.append(max(expected[0], 1e-5))
    low, high = floor(log10(min(values)) - 0.05), ceil(log10(max(values)) + 0.05)
    left, right, top, bottom = 46.0, width - 30, 16.0, height - 26

    def y(value: float) -> float:
        return bottom - (log10(max(value, 10.0**low)) - low) / (high - low) * (bottom - top)

    scene.rect((left, y(limit)), (right, bottom), "limit-zone")
    for decade in range(low, high + 1):
        at = y(10.0**decade)
        scene.line((left, at), (right, at), "grid")
        scene.text((left - 6, at + 5), f"{10.0**decade:g}", "small", "end")
    scene.line((left, y(limit)), (right, y(limit)), "limit-line")
    scene.text((left + 4, y(limit) + 18), limit_words, "words-ok")
    count = max(len(totals) + (1 if expected else 0), 2)
    step = (right - left - 20) / (count - 1)
    points = [(left + 8 + n * step, y(total)) for n, (_, total, _, _) in enumerate(totals)]
    solid = [p for p, (_, _, _, void) in zip(points, totals, strict=True) if not void]
    if len(solid) > 1:
        scene.poly(solid, "chart-line")
    for place, (point, (number, _, words, void)) in enumerate(zip(points, totals, strict=True)):
        scene.circle(point, 5, "place-void" if void else "place-solid")
        scene.text((point[0], height - 8), str(number), "small", "middle")
        near_end = place >= len(totals) - 2
        if near_end or len(totals) <= 4:
            late = point[0] > right - 24  # at the edge it stands before its point
            scene.text(
                (point[0] + (2 if late else 9), point[1] - 10), words, "chart-figure", "end" if late else "start"
            )
    if expected and points:
        spot = (left + 8 + len(totals) * step, y(expected[0]))
        scene.line(points[-1], spot, "expected-line")
        scene.circle(spot, 5, "place-expected")
        scene.text((spot[0] - 2, spot[1] - 10), expected[1], "figure-blue-small", "end")
        scene.text((spot[0], height - 8), str(totals[-1][0] + 1), "small", "middle")
    return scene

"""Before the first round: the work with the planes that can be read, and which of them to touch."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from gyrodraw import AxisDrawn, PlaneMark, Scene, axis_scene
from gyrometra.steps.page import JobPage
from gyroplan.assess import is_moved_at_bearings

#: The planes that are offered lie so far in from each end, as shares of the length (chosen here: clear of the edges).
_SHARES = (0.1, 0.9)
#: A plane nearer to an end than this is at its edge, a chamfer or a burr [mm].
_CLEAR_MM = 3.0


@dataclass(frozen=True, slots=True, kw_only=True)
class PlaneOffered:
    """A plane that can be read: its letter, its depth as it is typed, and how it is called."""

    letter: str
    depth: str
    words: str


def start_on_true(page: JobPage) -> dict[str, Any]:
    """The section with its planes; nothing where the work is read by a face, by walls, or bore by bore."""
    setup = page.record.setup
    if page.truing.rounds or setup.reference in ("face", "wall") or is_moved_at_bearings(page.assessment):
        return {}
    length, units = page.bore.length_mm, page.units
    outer, inner = (share * length for share in _SHARES)
    depths = [float(round(max(_CLEAR_MM, outer))), float(int(min(length - _CLEAR_MM, inner)))]
    if depths[1] <= depths[0]:
        return {}
    # what is typed is what is shown
    offered = [
        PlaneOffered(letter=letter, depth=units.length(depth), words=f"Plane {letter}, {units.length(depth)} deep")
        for letter, depth in zip("AB", depths, strict=True)
    ]  # fmt: skip
    return {"planes": offered, "scene": _scene(page, depths, offered)}


def _scene(page: JobPage, depths: list[float], offered: list[PlaneOffered]) -> Scene:
    marks = [PlaneMark(letter=one.letter, depth_mm=depth, off_mm=None, words="")
             for one, depth in zip(offered, depths, strict=True)]  # fmt: skip
    drawn = AxisDrawn(
        length_mm=page.bore.length_mm, bore_mm=page.at.start_mm or page.bore.aim_mm, planes=marks,
        lean="Two planes show tilt", apart="open face right",
    )  # fmt: skip
    return axis_scene(drawn, 360, 340)

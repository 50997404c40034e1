"""Before the first round: the work in its holding, what will be read where, and in which order."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from gyrocore import Method
from gyrodraw import AxisDrawn, PlaneMark, Scene, StartFace, axis_scene, start_face
from gyrometra.crib.models import Indicator
from gyrometra.steps.page import JobPage
from gyrometra.steps.true.before import TICKS, outside_of, planes_offered_mm
from gyroplan.assess import is_moved_at_bearings


@dataclass(frozen=True, slots=True, kw_only=True)
class PlaneOffered:
    """A plane that can be read: its letter, its depth as it is typed, and how it is called."""

    letter: str
    depth: str
    words: str


def start_on_true(page: JobPage, indicator: Indicator | None) -> dict[str, Any]:
    """What stands on the page before the first round; nothing later."""
    if page.truing.rounds:
        return {}
    found: dict[str, Any] = {"guards": TICKS, **_pressed(page, indicator)}
    if is_moved_at_bearings(page.assessment):
        return found
    found |= {"order": _order(page), **_asked(page)}
    return found | _planes(page)


def _pressed(page: JobPage, indicator: Indicator | None) -> dict[str, str]:
    """How far the plunger goes in: its range either way, so that none of the turn is off the scale."""
    if indicator is None:
        return {}
    units = page.units
    return {"press": units.plain(float(indicator.range_mm)), "indicator": indicator.name,
            "step": units.fine(float(indicator.step_mm))}  # fmt: skip


def _asked(page: JobPage) -> dict[str, Any]:
    reference = page.record.setup.reference
    if reference == "wall":
        return {"asked": "Lean limit, over the bore"}
    return {"asked": "Run-out limit (TIR)", "centre": reference != "face"}


def _order(page: JobPage) -> Sequence[tuple[str, str]]:
    """The steps in their order: each disturbs the one before, so that the check is last."""
    way, reference = page.record.setup.way, page.record.setup.reference
    if reference == "face":
        return (("read", "the face, round"), ("level", "at its supports"), ("check", "the face again"))
    if reference == "wall":
        return (("run", "along the walls"), ("tilt", "at its supports"), ("check", "the walls"), ("centre", "after it"))
    if way.moved_is == "nothing":
        return (("read", "how it swings"), ("judge", "its guides hold it"))
    return ("centre", f"at A, {_by(way)}"), ("tilt", "at B"), ("centre", "A again"), ("check", "A and B")


def _by(way: Method) -> str:
    if way.jaws or way.tapped:
        return "jaws" if way.jaws else "tap"
    return "table" if way.moved_is == "work" else "bearings"


def _planes(page: JobPage) -> dict[str, Any]:
    """The section with its planes; nothing where the work is read by a face, or by its walls."""
    if page.record.setup.reference in ("face", "wall"):
        return {}
    depths, units = planes_offered_mm(page.bore.length_mm), page.units
    # what is typed is what is shown
    offered = [
        PlaneOffered(letter=letter, depth=units.length(depth), words=f"Plane {letter}, {units.length(depth)} deep")
        for letter, depth in zip("AB", depths, strict=False)
    ]  # fmt: skip
    return {"planes": offered, "scene": _scene(page, depths, offered)} if offered else {}


def _scene(page: JobPage, depths: Sequence[float], offered: list[PlaneOffered]) -> Scene:
    setup = page.record.setup
    marks = [PlaneMark(letter=one.letter, depth_mm=depth, off_mm=None, words="")
             for one, depth in zip(offered, depths, strict=True)]  # fmt: skip
    drawn = AxisDrawn(
        length_mm=page.bore.length_mm, bore_mm=page.at.start_mm or page.bore.aim_mm, planes=marks,
        lean="", apart="open face right", held=setup.way.jaws, read_on=setup.surface,
        outside_mm=outside_of(page), hatch=page.record.material.hatch,
    )  # fmt: skip
    return axis_scene(drawn, 380, 340)


#: Positions that are drawn before the first round: as many as are offered.
_PLACES = 8
#: A bore is drawn so wide against the outside of the work where nobody has said how wide that is.
_BORE_SHARE = 0.62


def first_face(page: JobPage, size: tuple[float, float]) -> Scene:
    """The work in its holding with the places that will be read, the first of them named."""
    way = page.record.setup.way
    outside, bore = outside_of(page), page.at.start_mm or page.bore.aim_mm
    turned = "turn by hand, top toward you" if way.turns == "work" else "turn the spindle by hand"
    face = StartFace(
        names=[way.place_name(360 * n / _PLACES) for n in range(_PLACES)], holding=way.places, jaws=way.jaws,
        surface="" if page.record.setup.reference == "wall" else page.record.setup.surface,
        bore_share=_BORE_SHARE if outside is None else bore / outside,
        seen_from=way.seen_from, turn_words="" if way.moved_is == "nothing" else turned, work_turns=way.turns == "work",
    )  # fmt: skip
    return start_face(face, *size)

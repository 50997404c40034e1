"""A round that is true enough, taken apart: what moving it changes, what the cut takes off."""

from __future__ import annotations

from dataclasses import dataclass

from gyrodraw import OneTurn, PartsDrawn, RingPart, Scene, one_turn, parts_scene
from gyrometra.steps.page import JobPage
from gyroplan.assess import Parts, RoundStanding, oval_of, parts_of


@dataclass(frozen=True, slots=True, kw_only=True)
class PartsOnTrue:
    """Three rings, the turn drawn out, and what its lines are."""

    scene: Scene
    turn: Scene
    says: str


@dataclass(frozen=True, slots=True, kw_only=True)
class OvalOnTrue:
    """The oval in words: what its diameters differ by, whither it is wide, from which size on a cut clears it."""

    differs: str
    wide: str
    clear: str = ""
    #: The first pass that is left, and whether it is too small to clear the oval.
    first: str = ""
    late: bool = False


def parts_on_true(page: JobPage, view: RoundStanding | None) -> PartsOnTrue | None:
    """None where the round cannot be taken apart: flats, a face, four places."""
    found = parts_of(view)
    if view is None or found is None:
        return None
    return PartsOnTrue(
        scene=_rings(page, view, found), turn=_turn(page, view, found),
        says=f"One turn at the indicator, {page.units.label}: full as read, blue dashed the centre offset in it, "
             "dotted the oval in it; green is the centre offset allowed.",
    )  # fmt: skip


def _rings(page: JobPage, view: RoundStanding, found: Parts) -> Scene:
    units, way = page.units, view.way
    moved = "jaws" if way.jaws else "moving it"
    off = view.off_centre_mm or 0.0
    toward = view.sweep.offset_angle_deg if view.sweep else 0.0
    rings = [
        RingPart(title="centre offset", figure=units.planned(off), says=f"{moved} change{'' if way.jaws else 's'} this",
                 more=f"toward {way.place_name(45 * round(toward / 45))}", outward_mm=found.centred_mm, blue=True),
        RingPart(title="oval, swing", figure=units.planned(found.oval_swing_mm),
                 says=f"{moved} leave{'' if way.jaws else 's'} this",
                 more=f"wide toward {way.place_name(45 * round(found.wide_deg / 45))}", outward_mm=found.oval_at_mm),
        RingPart(title="rest, swing", figure=units.planned(found.rest_swing_mm), says="lobes, marks, noise",
                 more="all drawn alike", outward_mm=found.rest_at_mm),
    ]  # fmt: skip
    drawn = PartsDrawn(parts=rings, offset_mm=found.offset_mm, allowed_mm=view.limit_mm / 2,
                       turn=-1 if view.round.seen_other else 1)  # fmt: skip
    return parts_scene(drawn)


def _turn(page: JobPage, view: RoundStanding, found: Parts) -> Scene:
    units, way = page.units, view.way
    sign = (-1 if view.round.surface == "inside" else 1) * view.round.sign
    names = [(45.0 * n, way.place_name(45 * n)) for n in range(9)]
    drawn = OneTurn(
        angles_deg=found.angles_deg, read_mm=[sign * v for v in found.outward_mm],
        as_read=lambda a: sign * found.outward_at_mm(a), offset=lambda a: sign * found.centred_mm(a),
        oval=lambda a: sign * found.oval_at_mm(a), allowed_mm=view.limit_mm / 2, names=names, level_words=units.signed,
    )  # fmt: skip
    return one_turn(drawn)


def oval_on_true(page: JobPage, view: RoundStanding | None) -> OvalOnTrue | None:
    """Of work that is centred well enough: what its oval is, and from which size on a cut clears it."""
    oval = oval_of(view, page.at.start_mm) if view is not None and view.within else None
    if view is None or oval is None:
        return None
    units, plan = page.units, page.passes.plan.value
    said = OvalOnTrue(
        differs=units.planned(oval.differs_mm), wide=view.way.place_name(45 * round(oval.wide_deg / 45)),
    )  # fmt: skip
    if oval.clear_mm is None:
        return said
    left = plan.passes[len(page.passes.done) :] if plan is not None else ()
    return OvalOnTrue(
        differs=said.differs, wide=said.wide, clear=units.planned(oval.clear_mm),
        first=units.planned(left[0].diameter_mm) if left else "",
        late=bool(left) and left[0].diameter_mm < oval.clear_mm,
    )  # fmt: skip

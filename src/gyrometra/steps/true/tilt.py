"""The lean of the axis on True: two planes that were swept, or the walls that were run along, and their moves."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import cos, hypot, radians, sin

from django import forms

from gyrodraw import (
    AxisDrawn,
    LeanPlace,
    OnPlateDrawn,
    PlaneMark,
    Scene,
    WallColumn,
    WallsDrawn,
    axis_scene,
    leans_to,
    on_plate_scene,
    walls_scene,
)
from gyrometra.bridge.fields import LengthField
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plan_form import PlanForm
from gyrometra.steps.true.before import outside_of
from gyrometra.steps.true.face import ABOUT, FaceForm, LiftRow, TipRow, lift_row, tips_of
from gyroplan.assess import RoundStanding, Tilt, WallLean, tilt_of, wall_lean_of

#: An imprecise move leaves so much of what was told (chosen here: what a hand does with a screw or a mallet).
LEFT_SHARE = 0.1
_LETTERS = "ABCDEF"


class WallForm(PlanForm):
    """On which circle the supports stand that the work is tilted with."""

    supports_mm = LengthField(
        label="Supports, screws or shims on Ø", required=False, help_text="blank: it is held in jaws"
    )
    level_about = forms.ChoiceField(label="They", choices=ABOUT, required=False)
    pivot_mm = LengthField(
        label="They lie behind the open face by", required=False, positive=False, least=0,
        help_text="how far tilting carries the centre follows from it",
    )  # fmt: skip

    clean_level_about = FaceForm.clean_level_about


@dataclass(frozen=True, slots=True, kw_only=True)
class DepthRow:
    """One depth of two opposite walls: both readings, half their difference and half their sum, as by hand."""

    depth: str
    first: str
    second: str
    tilt: str
    taper: str


@dataclass(frozen=True, slots=True, kw_only=True)
class WallPair:
    """Two opposite walls, depth by depth."""

    first: str
    second: str
    rows: Sequence[DepthRow]


@dataclass(frozen=True, slots=True, kw_only=True)
class WallsOnTrue:
    """All that True says of the walls; `lean` is empty where these walls cannot tell it."""

    pairs: Sequence[WallPair]
    unseen: str
    lean: str = ""
    towards: str = ""
    over: str = ""
    taper: str = ""
    limit: str = ""
    then: str = ""
    #: How far tilting carries the centre of the open face, where it is known how far the pivot lies behind it.
    carried: str = ""
    left: str = ""
    within: bool = False
    lifts: Sequence[LiftRow] = ()
    tips: Sequence[TipRow] = ()
    open_end: str = ""
    scene: Scene | None = None
    #: The work on its plate in section, where its axis stands upright.
    section: Scene | None = None


def walls_on_true(page: JobPage) -> WallsOnTrue | None:
    """None while no runs along the wall hold."""
    standing = page.truing.walls
    if standing is None or standing.runs is None:
        return None
    found, units = wall_lean_of(page.assessment, page.piece, page.place), page.units
    pairs = _pairs(page, standing)
    if found is None:
        return WallsOnTrue(
            pairs=pairs, unseen="These walls cannot tell a lean from a taper: run the opposite ones too."
        )
    unseen = "The centre is not seen: find it next, for tilting carries it along."
    if found.one_way:
        unseen = f"Two walls: the lean the other way is not seen. {unseen}"
    told = WallsOnTrue(
        pairs=pairs, unseen=unseen, lean=units.planned(found.lean_mm), towards=_towards(page, found),
        over=units.length(found.over_mm), taper=units.planned(found.taper_mm), limit=units.planned(found.limit_mm),
        then=units.signed(found.then_mm), carried="" if found.carried_mm is None else units.planned(found.carried_mm),
        left=units.planned(LEFT_SHARE * found.lean_mm), within=found.within,
        lifts=[lift_row(page, one) for one in found.lifts], tips=tips_of(page, found.lifts),
        open_end="" if found.lifts else _towards(page, found),
    )  # fmt: skip
    return replace(told, scene=lean_view(page, found, told), section=section_of(page, standing))


def _towards(page: JobPage, found: WallLean) -> str:
    angle = found.lean_deg
    return "" if angle is None else page.record.setup.way.place_name(45 * round(angle / 45))


def _pairs(page: JobPage, view: RoundStanding) -> list[WallPair]:
    """Opposite walls side by side, where both were run along."""
    depths, sides = view.round.depths_mm, view.round.sides
    if sides not in (2, 4):
        return []
    values, found = view.counted_mm, []
    for first in range(sides // 2):
        a = values[first * len(depths) : (first + 1) * len(depths)]
        other = first + sides // 2
        b = values[other * len(depths) : (other + 1) * len(depths)]
        rows = [_depth_row(page, depth, one, two, (a[0], b[0])) for depth, one, two in zip(depths, a, b, strict=True)]
        names = [view.way.place_name(view.round.angles_deg[side * len(depths)]) for side in (first, other)]
        found.append(WallPair(first=names[0], second=names[1], rows=rows))
    return found


def _depth_row(
    page: JobPage, depth: float, one: float | None, two: float | None, zero: tuple[float | None, float | None]
) -> DepthRow:  # fmt: skip
    units = page.units
    if one is None or two is None or zero[0] is None or zero[1] is None:
        return DepthRow(
            depth=units.length(depth), first=_signed(page, one), second=_signed(page, two), tilt="", taper=""
        )
    a, b = one - zero[0], two - zero[1]
    return DepthRow(depth=units.length(depth), first=units.signed(one), second=units.signed(two),
                    tilt=units.signed((b - a) / 2), taper=units.signed((a + b) / 2))  # fmt: skip


def _signed(page: JobPage, value: float | None) -> str:
    return "skipped" if value is None else page.units.signed(value)


def walls_drawn(page: JobPage, view: RoundStanding, *, small: bool = False) -> Scene:
    """The walls as far as they were read."""
    units, depths, inside = page.units, view.round.depths_mm, view.round.swept_as == "inside"
    columns = []
    for side in _beside(view.round.sides):
        own = view.counted_mm[side * len(depths) : (side + 1) * len(depths)]
        zero = next((v for v in own if v is not None), 0.0)
        angle = view.round.angles_deg[side * len(depths)]
        # drawn where the wall stands: outward to the right at the first sides, to the left at those opposite
        sign = (-1 if inside else 1) * (1 if angle < 180 else -1)
        columns.append(WallColumn(name=view.way.place_name(angle),
                                  out_mm=[None if v is None else sign * (v - zero) for v in own]))  # fmt: skip
    found, lean = wall_lean_of(page.assessment, page.piece, page.place) if view.holds else None, ""
    if found is not None:
        lean = f"leans {units.planned(found.lean_mm)} to {_towards(page, found)} over {units.length(found.over_mm)}"
    drawn = WallsDrawn(depths_mm=depths, depth_words=[units.length(z) for z in depths], columns=columns, lean=lean)
    return walls_scene(drawn, 390, 320) if small else walls_scene(drawn, 460, 372)


def section_of(page: JobPage, view: RoundStanding) -> Scene | None:
    """The work in section on what holds it: of a mill, whose axis stands upright, with an outside that is known."""
    outside, setup = outside_of(page), page.record.setup
    if outside is None or setup.machine.kind != "mill" or view.round.swept_as != "inside":
        return None
    places = setup.way.places
    drawn = OnPlateDrawn(
        length_mm=page.bore.length_mm, bore_mm=page.at.start_mm or page.bore.aim_mm, outside_mm=outside,
        depths_mm=view.round.depths_mm, supports_mm=setup.plan.supports_mm, pivot=setup.plan.level_about == "pivot",
        sides=(places[3], places[1]), hatch=page.record.material.hatch,
    )  # fmt: skip
    return on_plate_scene(drawn)


def _beside(sides: int) -> list[int]:
    """Opposite walls stand beside each other, the first of them at the right."""
    return {2: [1, 0], 4: [2, 0, 3, 1]}.get(sides, list(range(sides)))


def lean_view(page: JobPage, found: WallLean, told: WallsOnTrue) -> Scene:
    """The work from its open face: which way it leans, and what its supports do."""
    way = page.record.setup.way
    lifts = {row.name: f"{'down' if row.lowered else 'up'} {row.amount}" for row in told.lifts if not row.done}
    names = [f"{way.place_word}{name}" for name in way.places]
    places = [LeanPlace(name=name, words=lifts.get(name, "")) for name in names]
    return leans_to(places, found.lean_deg, told.lean, way.seen_from)


@dataclass(frozen=True, slots=True, kw_only=True)
class TiltOnTrue:
    """Two planes or more: how the axis leans, the tap at the outer one, and the section; figures only from planes that
    hold."""

    scene: Scene
    planes: Sequence[tuple[str, str, str]]
    lean: str = ""
    over: str = ""
    towards: str = ""
    tap: str = ""
    tap_to: str = ""
    tap_at: str = ""
    #: What is done there, and why so much.
    outer: str = ""
    because: str = ""
    centre_at: str = ""
    within: bool = False
    waits: str = ""


_BY_THE_LEAN = "what the two differ by, the lean between them"
_BY_ITSELF = "its own offset: each steady moves its own plane about the other"


def tilt_on_true(page: JobPage) -> TiltOnTrue | None:
    """None while the work is read in one plane."""
    read = [one for one in page.truing.last if one.round.plane_mm is not None]
    if not read:
        return None
    read.sort(key=lambda one: -(one.round.plane_mm or 0.0))
    units, found = page.units, tilt_of(page.assessment, page.piece, page.place)
    letters = {one.round.number: _LETTERS[place % 6] for place, one in enumerate(read)}
    planes = [(letters[one.round.number], units.length(one.round.plane_mm or 0.0), _standing_words(page, one))
              for one in read]  # fmt: skip
    scene = axis_scene(_drawn(page, read, letters, found), 380, 340)
    if found is None:
        waits = "" if len(read) > 1 else "One plane only: tilt is not seen. Sweep a second one for it."
        return TiltOnTrue(
            scene=scene, planes=planes, waits=waits or "Tilt: both planes must be read since the last move."
        )
    way = page.record.setup.way
    return TiltOnTrue(
        scene=scene, planes=planes, lean=units.planned(found.lean_mm), over=units.length(found.over_mm),
        towards=way.place_name(45 * round(found.lean_deg / 45)), tap=units.planned(found.tap_mm),
        tap_to=way.place_name(45 * round(found.tap_deg / 45)), within=found.within,
        outer=way.outer, because=_BY_ITSELF if way.each_end else _BY_THE_LEAN,
        tap_at=letters[found.tap.round.number], centre_at=letters[found.at.round.number],
    )  # fmt: skip


def _standing_words(page: JobPage, one: RoundStanding) -> str:
    if one.holds and one.off_centre_mm is not None:
        return page.units.planned(one.off_centre_mm)
    return "being read" if one.validity == "open" else "read it again"


def _drawn(page: JobPage, read: Sequence[RoundStanding], letters: dict[int, str], found: Tilt | None) -> AxisDrawn:
    """Seen square to the greater offset, so that the lean is drawn as large as it is."""
    units, known = page.units, [one for one in read if one.holds and one.figures is not None]
    offs = [one.figures.offset for one in known if one.figures is not None]
    seen = max(offs, key=lambda off: hypot(*off), default=(1.0, 0.0))
    size = hypot(*seen) or 1.0
    along = (seen[0] / size, seen[1] / size)
    if found is not None and found.tap_mm > size / 2:
        along = (cos(radians(found.tap_deg)), sin(radians(found.tap_deg)))
    newest = max((one.round.number for one in read), default=0)
    marks = [
        PlaneMark(
            letter=letters[one.round.number], depth_mm=one.round.plane_mm or 0.0, here=one.round.number == newest,
            off_mm=None if one not in known or one.figures is None else
            one.figures.offset[0] * along[0] + one.figures.offset[1] * along[1],
            words="" if one.off_centre_mm is None else units.planned(one.off_centre_mm),
        ) for one in read
    ]  # fmt: skip
    lean = "" if found is None else f"leans {units.planned(found.lean_mm)} in {units.length(found.over_mm)}"
    depths = [one.round.plane_mm or 0.0 for one in read]
    apart = f"{units.length(max(depths) - min(depths))} apart" if len(read) > 1 else ""
    return AxisDrawn(length_mm=page.bore.length_mm, bore_mm=page.at.start_mm or page.bore.aim_mm, planes=marks,
                     lean=lean, apart=apart, outside_mm=outside_of(page), hatch=page.record.material.hatch)  # fmt: skip

"""A bush or shaft made to suit a seat: its limits, how it is put in, a bush's stages, what is bored after pressing."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi

from gyrocore import (
    Bush,
    BushOutside,
    Hub,
    InvalidInput,
    Limits,
    Material,
    PressFit,
    bush_outside,
    press_fit,
    require_wall,
)
from gyroplan.assess.standing import Assessment

#: Roughing that takes more than this share of the blank away lets it settle before it is finished (chosen here).
REST_SHARE = 0.4
#: Left on diameter outside and inside when a bush is roughed, and over its length (chosen here, editable).
ROUGH_OUTSIDE_MM, ROUGH_INSIDE_MM, ROUGH_LENGTH_MM = 2.0, 1.5, 1.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Seat:
    """A bore as a bush meets it [mm]: its smallest and largest size, with the uncertainty of them."""

    smallest_mm: float
    largest_mm: float
    uncertainty_mm: float
    #: check: measured finished; pass: the last size of a pass; limits: not measured, at its limits.
    source: str
    depth_mm: float
    #: Whether it stands within its own limits as measured; one that is still to be bored moves under the bush.
    finished: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class BushWork:
    """What is asked of a bush [mm]: interference on diameter, the bore that is wanted in place, its blank."""

    least_mm: float
    most_mm: float
    finish: Limits
    #: Left in its bore on diameter until it is pressed.
    leave_mm: float
    length_mm: float
    material: Material
    blank_outside_mm: float | None = None
    blank_inside_mm: float | None = None
    #: A flange outside the seat: how thick, how large; None for none.
    flange_mm: float | None = None
    flange_diameter_mm: float | None = None
    friction: float = 0.12
    slip_mm: float = 0.02

    @property
    def whole_mm(self) -> float:
        """Its length with its flange."""
        return self.length_mm + (self.flange_mm or 0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class ShaftWork:
    """What is asked of a solid shaft [mm]: interference on diameter, negative for clearance; its blank."""

    least_mm: float
    most_mm: float
    length_mm: float
    material: Material
    blank_outside_mm: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Stage:
    """The bush at one stage [mm]: outside, bore, length, the share of the blank that is gone."""

    key: str
    outside_mm: float | None = None
    inside_mm: float | None = None
    length_mm: float | None = None
    removed: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class BushPlan:
    """All that a page says of a bush."""

    seat: Seat
    outside: BushOutside
    turned_mm: float
    wall_mm: float
    #: At the middle of the fit, at its least and at its most.
    pressed: PressFit
    loosest: PressFit
    tightest: PressFit
    pressed_bore_mm: float
    #: To come off on diameter after pressing.
    after_mm: float
    stages: tuple[Stage, ...]
    needs_rest: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ShaftPlan:
    """A solid shaft for a seat: its limits, and what pressing it in takes; None where it goes in by hand."""

    seat: Seat
    outside: BushOutside
    tightest: PressFit | None


def seat_of(job: Assessment, piece: int, place: int) -> Seat:
    """The bore as measured finished, else after its last pass where that is in its limits, else at its limits."""
    bore = job.record.bore_at(place, piece)
    depth = bore.length_mm
    places = job.check(piece, place).places
    if places:
        return Seat(
            smallest_mm=min(one.value_mm for one in places), largest_mm=max(one.value_mm for one in places),
            uncertainty_mm=max(one.expanded_mm for one in places), source="check", depth_mm=depth,
            finished=all(bore.lower_mm <= one.value_mm <= bore.upper_mm for one in places),
        )  # fmt: skip
    state = job.boring(piece, place).passes.state
    done = state is not None and bore.lower_mm <= state.known_mm <= bore.upper_mm
    if state is not None and state.known_from == "measured" and done:
        return Seat(smallest_mm=state.known_mm, largest_mm=state.known_mm, uncertainty_mm=0.0, source="pass",
                    depth_mm=depth)  # fmt: skip
    return Seat(smallest_mm=bore.lower_mm, largest_mm=bore.upper_mm, uncertainty_mm=0.0, source="limits",
                depth_mm=depth, finished=False)  # fmt: skip


def shaft_plan(work: ShaftWork, seat: Seat, hub: Material, hub_outside_mm: float | None) -> ShaftPlan:
    """Return the shaft for a seat; raises InvalidInput at `most_mm` or `blank_outside_mm` for one that cannot be."""
    outside = bush_outside(
        seat_smallest_mm=seat.smallest_mm, seat_largest_mm=seat.largest_mm, least_mm=work.least_mm,
        most_mm=work.most_mm, uncertainty_mm=seat.uncertainty_mm,
    )  # fmt: skip
    if work.blank_outside_mm is not None and work.blank_outside_mm < outside.upper_mm:
        raise InvalidInput("blank_outside_mm", "not_over", given=work.blank_outside_mm, allowed=outside.upper_mm)
    tightest = None
    if work.most_mm > 0:
        tightest = press_fit(
            bush=Bush(outside_mm=outside.aim_mm, inside_mm=0.0, **_elastic(work.material)),
            hub=Hub(outside_mm=hub_outside_mm, **_elastic(hub)), interference_mm=work.most_mm,
            length_mm=work.length_mm,
        )  # fmt: skip
    return ShaftPlan(seat=seat, outside=outside, tightest=tightest)


def bush_plan(work: BushWork, seat: Seat, hub: Material, hub_outside_mm: float | None) -> BushPlan:
    """Return the bush for a seat; raises InvalidInput at `most_mm`, `inside_mm`, `leave_mm` for one that cannot be."""
    outside = bush_outside(
        seat_smallest_mm=seat.smallest_mm, seat_largest_mm=seat.largest_mm, least_mm=work.least_mm,
        most_mm=work.most_mm, uncertainty_mm=seat.uncertainty_mm,
    )  # fmt: skip
    turned = work.finish.lower_mm - work.leave_mm
    if turned <= 0:
        raise InvalidInput("leave_mm", "not_under", given=work.leave_mm, allowed=work.finish.lower_mm)
    wall = require_wall(outside_mm=outside.aim_mm, inside_mm=max(turned, work.finish.middle_mm))
    middle = outside.aim_mm - (seat.smallest_mm + seat.largest_mm) / 2
    pressed, loosest, tightest = (
        _pressed(work, outside.aim_mm, turned, hub, hub_outside_mm, size)
        for size in (middle, work.least_mm, work.most_mm)
    )  # fmt: skip
    bore = turned - (pressed.bore_closes_mm or 0.0)
    stages = _stages(work, outside, turned, bore)
    rough = next((one.removed for one in stages if one.key == "rough"), None)
    return BushPlan(
        seat=seat, outside=outside, turned_mm=turned, wall_mm=wall, pressed=pressed, loosest=loosest,
        tightest=tightest, pressed_bore_mm=bore, after_mm=work.finish.middle_mm - bore, stages=stages,
        needs_rest=rough is not None and rough > REST_SHARE,
    )  # fmt: skip


def _pressed(
    work: BushWork, outside_mm: float, inside_mm: float, hub: Material, hub_outside_mm: float | None, size: float
) -> PressFit:  # fmt: skip
    return press_fit(
        bush=Bush(outside_mm=outside_mm, inside_mm=inside_mm, **_elastic(work.material)),
        hub=Hub(outside_mm=hub_outside_mm, **_elastic(hub)), interference_mm=size,
        length_mm=work.length_mm, friction=work.friction, slip_mm=work.slip_mm,
    )  # fmt: skip


def _elastic(material: Material) -> dict[str, float]:
    """What a press needs of a material; figures that its record lacks are those of the core's own default."""
    known = {"youngs_modulus_gpa": material.youngs_modulus_gpa, "poisson": material.poisson,
             "expansion_um_m_k": material.expansion_um_m_k}  # fmt: skip
    return {name: value for name, value in known.items() if value is not None}


def _stages(work: BushWork, outside: BushOutside, turned_mm: float, pressed_mm: float) -> tuple[Stage, ...]:
    """Blank, rough, turn and bore, press, finish bore."""
    largest = _largest_mm(work, outside)
    rough_outside, rough_inside = largest + ROUGH_OUTSIDE_MM, max(0.0, turned_mm - ROUGH_INSIDE_MM)
    blank_outside = work.blank_outside_mm or largest + 2 * ROUGH_OUTSIDE_MM
    blank_inside = work.blank_inside_mm or 0.0
    length, long = work.whole_mm, work.whole_mm + ROUGH_LENGTH_MM
    blank_length = long + ROUGH_LENGTH_MM
    if blank_outside < rough_outside:
        raise InvalidInput("blank_outside_mm", "not_over", given=blank_outside, allowed=rough_outside)
    if blank_inside > rough_inside:
        raise InvalidInput("blank_inside_mm", "not_under", given=blank_inside, allowed=rough_inside)
    blank = _volume(blank_outside, blank_inside, blank_length)

    def gone(outer: float, inner: float, long_mm: float) -> float:
        return 1 - _volume(outer, inner, long_mm) / blank

    return (
        Stage(key="blank", outside_mm=blank_outside, inside_mm=blank_inside or None, length_mm=blank_length),
        Stage(key="rough", outside_mm=rough_outside, inside_mm=rough_inside, length_mm=long,
              removed=gone(rough_outside, rough_inside, long)),
        Stage(key="turn", outside_mm=outside.aim_mm, inside_mm=turned_mm, length_mm=length,
              removed=1 - (_volume(outside.aim_mm, turned_mm, work.length_mm)
                           + _volume(largest, turned_mm, work.flange_mm or 0.0)) / blank),
        Stage(key="press", inside_mm=pressed_mm),
        Stage(key="finish", inside_mm=work.finish.middle_mm),
    )  # fmt: skip


def _largest_mm(work: BushWork, outside: BushOutside) -> float:
    """The largest diameter: of its flange where it has one, which must stand past the seat."""
    if (work.flange_mm is None) != (work.flange_diameter_mm is None):
        missing = "flange_mm" if work.flange_mm is None else "flange_diameter_mm"
        raise InvalidInput(missing, "both_or_neither",
                           other="flange_diameter_mm" if missing == "flange_mm" else "flange_mm")  # fmt: skip
    if work.flange_diameter_mm is None:
        return outside.aim_mm
    if work.flange_diameter_mm <= outside.upper_mm:
        raise InvalidInput("flange_diameter_mm", "not_over", given=work.flange_diameter_mm, allowed=outside.upper_mm)
    return work.flange_diameter_mm


def _volume(outside_mm: float, inside_mm: float, length_mm: float) -> float:
    return pi / 4 * (outside_mm**2 - inside_mm**2) * length_mm

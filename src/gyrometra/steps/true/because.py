"""What each figure of True rests on: formula, what went into it, where it is from."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from gyrometra.bridge.units import Units
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import Because
from gyrometra.steps.true.bound import UNSEEN
from gyrometra.steps.true.moved import told_of
from gyrometra.steps.true.parts import OvalOnTrue
from gyroplan.assess import RoundStanding, level_of, line_moves_of, tilt_of, wall_lean_of

_SWEEP = "Least squares; an eccentric round surface reads c + A cos t + B sin t (derived in gyrocore: sweep)."
_SUPPORTS = "Derived in gyrocore: support_moves, a plane through the supports."


def because_of(page: JobPage, shown: Mapping[str, Any]) -> dict[str, Because | None]:
    """What stands behind each plate that is shown; nothing is worked out for one that is not."""
    found: dict[str, Because | None] = {}
    if shown["decided"] is not None:
        found["round"] = of_round(told_of(page), page.units)
        found["bound"] = of_bound(page, shown["shown"])
        found["oval"] = of_oval(shown["oval"])
    for name, of in (("walls", of_walls), ("line", of_line), ("level", of_level), ("tilt", of_tilt)):
        if shown.get(name):
            found[name] = of(page)
    return found


def of_round(view: RoundStanding | None, units: Units) -> Because | None:
    """The centre offset of a round and the moves that take it away."""
    if view is None or view.figures is None:
        return None
    if view.round.method == "flats":
        return Because(
            formula="each pair moves by half the difference of its two readings",
            inputs=[("indicator, a division", _step(view, units))], source="Derived in gyrocore: four_jaw_flats.",
        )  # fmt: skip
    along, across = (units.signed(one) for one in view.figures.offset)
    read = sum(one is not None for one in view.values_mm)
    first, second = view.way.places[0], view.way.places[1]
    word = view.way.place_word
    return Because(
        formula="readings = c + A cos t + B sin t + form; the work lies (A, B) off on an outside, -(A, B) in a bore; "
                "each pair is moved by its own part",
        inputs=[(f"toward {word}{first}", along), (f"toward {word}{second}", across),
                ("positions read", f"{read} of {view.round.places}"), ("indicator, a division", _step(view, units)),
                ("run-out limit, half of it allowed", units.planned(view.limit_mm))],
        source=_SWEEP,
    )  # fmt: skip


def _step(view: RoundStanding, units: Units) -> str:
    return f"{units.fine(view.round.indicator_step_mm)} {units.label}"


def of_walls(page: JobPage) -> Because | None:
    """The lean of the walls, and what takes it out."""
    found, units = wall_lean_of(page.assessment, page.piece, page.place), page.units
    if found is None:
        return None
    plan = page.record.setup.plan
    depths = found.standing.round.depths_mm
    inputs = [("lean over the bore", units.planned(found.lean_mm)), ("bore", units.length(found.over_mm)),
              ("read from, to", f"{units.length(min(depths))}, {units.length(max(depths))}")]  # fmt: skip
    if plan.supports_mm is not None:
        inputs.append(("supports on Ø", units.length(plan.supports_mm)))
    if plan.pivot_mm is not None:
        inputs.append(("behind the open face", units.length(plan.pivot_mm)))
    if page.at.machine.screw_pitch_mm is not None:
        inputs.append(("screw, a turn", units.plain(page.at.machine.screw_pitch_mm)))
    return Because(
        formula="lean = half the difference of opposite walls, taper = half their sum, by least squares over the "
                "depths; a support moves by the slope times its distance, the centre by the slope times its own",
        inputs=inputs, source=f"Derived in gyrocore: wall_runs. {_SUPPORTS}",
    )  # fmt: skip


def of_tilt(page: JobPage) -> Because | None:
    """The lean through two planes or more."""
    found, units = tilt_of(page.assessment, page.piece, page.place), page.units
    if found is None:
        return None
    planes = page.truing.planes
    inputs = [(f"at {units.length(one.round.plane_mm or 0.0)} deep", units.planned(one.off_centre_mm or 0.0))
              for one in planes]  # fmt: skip
    return Because(
        formula="axis = the straight line through the planes' centres (least squares of three or more); lean = its "
                "slope times the bore; the outer plane is moved by what the two differ by, once the inner one is "
                "centred",
        inputs=[*inputs, ("bore", units.length(found.over_mm))], source="Derived in gyrocore: axis_line.",
    )  # fmt: skip


def of_line(page: JobPage) -> Because | None:
    """The moves of a line bar's bearings."""
    found, units = line_moves_of(page.assessment, page.piece), page.units
    if found is None:
        return None
    inputs = [(one.name, f"up {units.signed(one.true_up_mm)}, right {units.signed(one.true_right_mm)}")
              for one in found.bores]  # fmt: skip
    inputs += [(f"bearing {one.number}", f"at {units.length(one.z_mm)}") for one in found.moves]
    return Because(
        formula="true centre = as swept, less the bar's sag there, less the arm's droop; the bearings go on to the "
                "straight line through the end bores",
        inputs=inputs, source="Derived in gyrocore: line_bar_moves; the sag by bending of the bar .",
    )  # fmt: skip


def of_level(page: JobPage) -> Because | None:
    """The lean of a face and what levels it."""
    found, units = level_of(page.assessment, page.piece), page.units
    if found is None:
        return None
    return Because(
        formula="slope = 2 x the first harmonic of the readings / circle read; a support moves by the slope times its "
                "distance",
        inputs=[("circle read, Ø", units.length(found.read_mm)), ("supports on Ø", units.length(found.supports_mm)),
                ("swing", units.planned(found.swing_mm))],
        source=f"Derived: a plane cut by a circle. {_SUPPORTS}",
    )  # fmt: skip


_BOUND: Mapping[str, str] = {
    "eye": "may lie off by what was said", "plug": "a plug sits within half its clearance",
    "coaxial": "an indicator swings by twice the offset",
    "edge": "each midpoint errs by what a touch is sure to, both together by the root of two",
}  # fmt: skip


def of_bound(page: JobPage, view: RoundStanding | None) -> Because | None:
    """How far a centring by other means may lie off."""
    if view is None or view.round.bound_mm is None or view.round.method not in _BOUND:
        return None
    typed = page.rows.rounds[view.round.key].values
    inputs = [(name.removesuffix("_mm"), page.units.planned(value)) for name, value in typed.items()
              if isinstance(value, float | int)]  # fmt: skip
    return Because(formula=_BOUND[view.round.method], inputs=inputs,
                   source=f"Derived in gyroplan: centring. {UNSEEN[view.round.method]}")  # fmt: skip


def of_oval(oval: OvalOnTrue | None) -> Because | None:
    """What no move cures."""
    if oval is None:
        return None
    return Because(
        formula="a wall at r + a cos 2t: its diameters differ by 4 a; a cut about the axis clears it once its radius "
                "is a, and the centre offset, over the mean",
        inputs=[("differ by", oval.differs), ("wide toward", oval.wide)],
        source="Derived from the second harmonic (gyrocore: sweep).",
    )  # fmt: skip

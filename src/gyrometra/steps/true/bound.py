"""Centred by other means than a round, wanted off centre on purpose, and what a disturbance re-opens: in words."""

from __future__ import annotations

from typing import Any

from gyrocore import Method
from gyrometra.bridge.units import Units
from gyrometra.steps.page import JobPage
from gyrometra.truing.models import Round
from gyroplan.assess import Reopened, RoundStanding, centring, reopened_of
from gyroplan.record import MachineRecord

#: What each way does not see, said where it is used.
UNSEEN = {
    "eye": "By eye: nothing finer than what was said, and no tilt.",
    "plug": "The plug tells the end it stands in: tilt is not seen.",
    "coaxial": "A swing tells how far, not which way; one plane: tilt is not seen.",
    "edge": "Midpoints of four touches: the shape between them and tilt are not seen.",
}
#: What is done first after each disturbance.
_FIRST = {
    "tightened": "Tightening pulls the work", "clamped": "It was re-clamped", "turned": "It was turned round",
    "knocked": "It was knocked", "welded": "It was welded: let it cool first, a weld pulls",
    "heated": "It was heated: let it cool to the shop first", "tacked": "It was tacked", "": "The set-up was disturbed",
}  # fmt: skip


def method_words(view: RoundStanding) -> str:
    """How it was centred."""
    return str(Round.Method(view.round.method).label)


def bound_on_true(page: JobPage, view: RoundStanding | None) -> dict[str, Any]:
    """A centring by other means: how far it may lie off, whether that will do, what it does not see."""
    if view is None or view.round.bound_mm is None:
        return {}
    units, row = page.units, page.rows.rounds[view.round.key]
    return {
        "how": method_words(view), "bound": units.planned(view.round.bound_mm),
        "within": view.within, "unseen": UNSEEN[view.round.method], "holds": view.holds,
        "says": _edge_words(row, units) if view.round.method == "edge" else "",
    }  # fmt: skip


def _edge_words(row: Round, units: Units) -> str:
    """Where the middle is, and what the touches measured."""
    found = centring("edge", row.values)
    if found.middle_mm is None or found.across_mm is None or found.along_mm is None:
        return ""
    x, y = (units.planned(one) for one in found.middle_mm)
    across, along = units.planned(found.across_mm), units.planned(found.along_mm)
    apart = abs(found.across_mm - found.along_mm)
    doubt = f" They differ by {units.planned(apart)}: oval, or a touch slipped." if apart > 2 * found.bound_mm else ""
    return f"Middle at X {x}, Y {y}. Between the touches {across} across, {along} along.{doubt}"


def target_words(page: JobPage, view: RoundStanding | None) -> str:
    """The offset that is wanted on purpose; empty for true."""
    row = None if view is None else page.rows.rounds[view.round.key]
    if row is None or row.target_mm is None or view is None:
        return ""
    return f"{page.units.planned(row.target_mm)} to {view.way.place_name(float(row.target_deg or 0))}"


def reopened_words(page: JobPage) -> str:
    """After a disturbance: what must be read again."""
    found = reopened_of(page.record, page.piece, page.place)
    if found is None:
        return ""
    again = ", ".join(_again(found, page.units)) or "the work"
    return f"{_FIRST.get(found.how, _FIRST[''])}. Read again: {again}."


def _again(found: Reopened, units: Units) -> list[str]:
    said = [
        "the sweep" if plane is None else f"the plane at {units.length(plane)}" for plane in found.planes_mm
    ]  # fmt: skip
    if found.walls:
        said.append("the walls")
    if found.sizes:
        said.append("every size that was measured before it")
    if found.tool:
        said.append("the touch of the tool on the wall")
    return said


def dial_words(machine: MachineRecord, way: Method, by_mm: float) -> str:
    """A move in divisions of the table's dial, with its backlash; empty where jaws or screws are turned."""
    if way.jaws or way.moved_is != "work" or not machine.table_division_mm:
        return ""
    count = by_mm / machine.table_division_mm
    backlash = " Wind past and come back: the slide has play." if machine.table_backlash_divisions else ""
    return f"{count:.1f} divisions of the table's dial.{backlash}"


#: An oval smaller than this is none [mm].
_OVAL_MM = 0.002


def form_words(page: JobPage, view: RoundStanding | None) -> str:
    """Of work that is centred well enough: what its oval is, and from which size on a cut clears it."""
    sweep = view.sweep if view is not None and view.within else None
    oval = next((one for one in sweep.form if one.order == 2), None) if sweep is not None else None
    if view is None or sweep is None or oval is None or oval.amplitude_mm < _OVAL_MM or view.round.surface != "inside":
        return ""
    units, place = page.units, view.way.place_name
    # inside a low reading is wide; the second harmonic reads high at its own angle, and is wide a quarter turn on
    wide = 45 * round(((oval.angle_deg + 90) % 180) / 45)
    # r0 + a cos 2t: the wide diameter is 4 a over the narrow one
    said = f"Oval: its diameters differ by {units.planned(4 * oval.amplitude_mm)}, wide toward {place(wide)}."
    start, plan = page.at.start_mm, page.passes.plan.value
    if start is None:
        return said
    clear = start + 2 * (oval.amplitude_mm + (view.off_centre_mm or 0.0))
    said += f" A cut clears it from Ø{units.planned(clear)} on"
    left = plan.passes[len(page.passes.done) :] if plan is not None else ()
    first = left[0].diameter_mm if left else None
    if first is not None and first < clear:
        return f"{said}: the first pass, Ø{units.planned(first)}, does not yet."
    return f"{said}."

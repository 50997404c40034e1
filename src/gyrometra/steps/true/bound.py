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
    backlash = ", past and back" if machine.table_backlash_divisions else ""
    return f"its dial: {count:.1f} div{backlash}"

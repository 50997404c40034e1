"""Plates and rows of Cuts: speeds, passes, the first dial."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from gyrocore import DialMove, Speed, sentence
from gyrodraw import dial_scale, lever_gate
from gyrometra.bridge.units import Units
from gyrometra.jobs.reckon import Reckoning
from gyrometra.steps.page import JobPage
from gyrometra.steps.plates.base import Because, Plate


@dataclass(frozen=True, kw_only=True)
class PassLine:
    """One pass in the list."""

    number: int
    kind: str
    depth: str
    size: str
    dial: str
    at: str
    rpm: str
    feed: str
    minutes: str
    measure: bool


def dial_words(move: DialMove, units: Units) -> str:
    """Turns and divisions, with the direction."""
    count = abs(move.odd_divisions)
    parts = [f"{abs(move.turns)} turn{'s' if abs(move.turns) != 1 else ''}"] if move.turns else []
    parts.append(f"{count:.1f} div".replace(".0 div", " div"))
    way = "out" if move.divisions >= 0 else "back"
    return f"{' + '.join(parts)} {way}"


def pass_rows(page: JobPage) -> list[PassLine]:
    """The passes with their dials."""
    units = page.units
    return [
        PassLine(
            number=row.cut.number,
            kind=row.cut.kind,
            depth=units.planned(row.cut.depth_mm),
            size=units.planned(row.cut.diameter_mm),
            dial=dial_words(row.dial, units) if row.cut.depth_mm else "leave the dial",
            at=f"{row.dial.set_to_division:.1f}".removesuffix(".0"),
            rpm=f"{row.rpm:.0f}" if row.rpm else "",
            feed=units.plain(row.feed_mm_rev),
            minutes=f"{row.time.minutes:.1f}" if row.time else "",
            measure=row.cut.measure_after,
        )
        for row in page.reckoning.planned
    ]


def cut_totals(page: JobPage) -> dict[str, Any]:
    """Under the list: total time, roughness, notes."""
    reckoning, units = page.reckoning, page.units
    ra = reckoning.finish_of(float(reckoning.plan.finish_feed_mm_rev))
    rough = reckoning.finish_of(float(reckoning.plan.rough_feed_mm_rev))
    return {
        "minutes": f"{reckoning.minutes:.1f}" if reckoning.minutes else "",
        "ra": f"{ra.ra_um:.2f}" if ra else "",
        "ra_rough": f"{rough.ra_um:.1f}" if rough else "",
        "notes": [sentence(n, units.unit) for n in (reckoning.passes.notes if reckoning.passes else ())],
    }


def cuts(page: JobPage) -> list[Plate]:
    """Roughing speed, finishing speed, first cut on the dial."""
    reckoning = page.reckoning
    return [
        _speed_plate("Spindle, roughing", reckoning.rough_speed, "rough", page),
        _speed_plate("Spindle, finishing", reckoning.finish_speed, "finish", page),
        _first_dial(page),
    ]


def _speed_plate(label: str, speed: Speed | None, stage: str, page: JobPage) -> Plate:
    reckoning, units = page.reckoning, page.units
    if speed is None:
        needs = "the cutter" if reckoning.cutter is None else "a pass of this kind"
        return Plate(label=label, governs="Missing:", reason=needs)
    lever = reckoning.machine.lever_for(speed.set_rpm)
    wanted = reckoning.surface_speed(stage) or 0.0
    over = speed.set_rpm > speed.exact_rpm * (1 + 1e-9)
    words = (
        f"lever {lever} = {speed.set_rpm:.0f} rpm" if lever else f"{speed.set_rpm:.0f} rpm",
        f"{100 * (speed.set_rpm / speed.exact_rpm - 1):.1f} % over" if over else "",
    )
    return Plate(
        label=label,
        number=f"{speed.set_rpm:.0f}",
        unit="rpm",
        scene=lever_gate([s.lever for s in reckoning.machine.speeds.all()], lever) if lever else None,
        words=[word for word in words if word],
        governs=_speed_governor(speed, reckoning),
        reason=f"{wanted:g} m/min asks {speed.exact_rpm:.0f}",
        because=Because(
            formula="n = 1000 v / (pi D), then the machine's next speed down, never over the cap",
            inputs=[
                ("surface speed", f"{wanted:g} m/min"),
                ("at this speed", f"{speed.surface_speed_at_set_m_min:.1f} m/min"),
                ("four-times rule says", f"{speed.rule_of_thumb_rpm:.0f} rpm"),
                *((sentence(n, units.unit), "") for n in speed.notes),
            ],
            source=f"Speed: {reckoning.material.source}.",
        ),
    )


def _speed_governor(speed: Speed, reckoning: Reckoning) -> str:
    code = speed.notes[0].code
    if code == "cap_governs":
        return f"Cap of {reckoning.cap_rpm:.0f} governs:"
    return "Slowest speed, still over:" if code == "slowest_is_over" else "Cutter governs:"


def _first_dial(page: JobPage) -> Plate:
    reckoning, units = page.reckoning, page.units
    if not reckoning.planned:
        return Plate(label="First cut, bore to", governs="Missing:", reason="the bore as found")
    row = reckoning.planned[0]
    return dial_plate("First cut, bore to", row.dial, row.cut.diameter_mm, page, "from touch", units)


def dial_plate(label: str, move: DialMove, diameter_mm: float, page: JobPage, start: str, units: Units) -> Plate:
    dial = page.reckoning.machine.dial
    worth = f"1 div {units.fine(move.division_on_diameter_mm)} on Ø"
    return Plate(
        label=label,
        number=units.planned(diameter_mm),
        prefix="Ø",
        scene=dial_scale(move.set_to_division, per_turn=dial.divisions_per_turn),
        words=(f"{dial_words(move, units)}, {start}", f"dial at {move.set_to_division:.1f}", worth),
        governs=f"Dial reads {dial.reads}:",
        reason=f"{units.planned(2 * move.radial_mm)} on diameter, {units.planned(move.radial_mm)} on radius",
        because=Because(
            formula="divisions = (wanted - measured) / (division on diameter)",
            inputs=[
                ("one division", f"{units.fine(dial.division_mm)} {units.label} on {dial.reads}"),
                ("divisions a turn", f"{dial.divisions_per_turn:g}"),
                *((sentence(n, units.unit), "") for n in move.notes),
                ("approach", "from the small side, winding outward; past the mark: a turn back and up again"),
            ],
            source="Derived: half the difference of diameters is the radial move.",
        ),
    )


# ---------------------------------------------------------------- True

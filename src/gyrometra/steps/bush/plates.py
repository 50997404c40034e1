"""The bush as it is shown: its plates, its stages, its drawing, its cautions."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import BushOutside, Caution, PressFit
from gyrodraw import BushLayer, Scene, bush_band
from gyrometra.bridge.units import Units
from gyrometra.jobs.models import Bush
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import Because, Plate
from gyrometra.steps.shared.scene import bands
from gyroplan.assess import BushPlan, BushWork, Seat

_LAME = "Lame's thick cylinders (Timoshenko, Strength of Materials, part II)."
SOURCES = {"check": "as measured on Check", "pass": "after the last pass, one size",
           "limits": "not measured: at its limits"}  # fmt: skip


def bush_plates(page: JobPage, plan: BushPlan, work: BushWork, put_in: str) -> list[Plate]:
    """Outside, what the bore closes, and force, heat or cold."""
    units = page.units
    fit = (work.least_mm, work.most_mm)
    return [
        outside_plate(units, "Bush", plan.outside, plan.seat, fit),
        _closes(units, plan, work),
        put_in_plate(plan.tightest, put_in, "bush"),
    ]


def seat_words(units: Units, seat: Seat) -> str:
    """`62.012 to 62.018 ± 0.003`."""
    sizes = units.planned(seat.smallest_mm)
    if seat.largest_mm != seat.smallest_mm:
        sizes = f"{sizes} to {units.planned(seat.largest_mm)}"
    return f"{sizes} ± {units.doubt(seat.uncertainty_mm)}" if seat.uncertainty_mm else sizes


def outside_plate(units: Units, what: str, outside: BushOutside, seat: Seat, fit: tuple[float, float]) -> Plate:
    """The outside's size to turn to, of a bush or a shaft, and how its limits follow from the seat."""
    room = units.planned(outside.upper_mm - outside.lower_mm)
    return Plate(
        label=f"{what} outside, on diameter", prefix="Ø", number=units.planned(outside.aim_mm), unit=units.label,
        words=(f"{units.lowest(outside.lower_mm)} to {units.highest(outside.upper_mm)}", "target, mid-limit"),
        governs="Limited by the fit:", reason=f"{room} left between its limits",
        because=Because(
            formula="lower = largest seat + uncertainty + least; upper = smallest seat - uncertainty + most",
            inputs=[("seat", f"{seat_words(units, seat)}, {SOURCES[seat.source]}"),
                    ("interference", f"{units.planned(fit[0])} to {units.planned(fit[1])} on Ø")],
            source="Derived from the definition of interference (ISO 286-1:2010).",
        ),
    )  # fmt: skip


def _closes(units: Units, plan: BushPlan, work: BushWork) -> Plate:
    least, most = plan.loosest.bore_closes_mm or 0.0, plan.tightest.bore_closes_mm or 0.0
    return Plate(
        label="Bore closes when pressed, on diameter", number=units.planned(plan.pressed.bore_closes_mm or 0.0),
        unit=units.label,
        words=(f"{units.planned(least)} to {units.planned(most)}",
               f"{units.planned(plan.after_mm)} to bore off after it"),
        governs="Limited by the wall:",
        reason=f"{units.planned(plan.wall_mm)}, joint pressure {plan.pressed.pressure_mpa:.1f} MPa",
        because=Because(
            formula="p from the interference and what both walls give; the bore closes by 2 p d² di / ((d² - di²) E)",
            inputs=[("turned to", f"Ø{units.planned(plan.turned_mm)}"), ("length", units.length(work.length_mm)),
                    ("in place", f"Ø{units.planned(plan.pressed_bore_mm)}"),
                    ("hoop stress in the hub", f"{plan.tightest.hub_hoop_mpa:.0f} MPa at most")],
            source=_LAME,
        ),
    )  # fmt: skip


def put_in_plate(most: PressFit, put_in: str, what: str) -> Plate:
    """Force, heat or cold for the tightest fit, of a bush or a shaft."""
    because = Because(
        formula="force = friction p pi d length, at the end; heat = room + (interference + slip)/(expansion d)",
        inputs=[("friction", "0.12"), ("slip to go in", "0.02 mm on Ø"), ("room", "20 °C")], source=_LAME,
    )  # fmt: skip
    if put_in == Bush.PutIn.HEAT:
        return Plate(label="Heat the hub to", number=f"{most.heat_hub_to_c:.0f}", unit="°C",
                     words=("gloves, no oil near", "measure when cold again"), governs="Limited by the tightest fit:",
                     reason="with 0.02 mm of slip", because=because)  # fmt: skip
    if put_in == Bush.PutIn.COOL and most.cool_bush_to_c is None:
        return Plate(label=f"Cool the {what} to", words=("heat the hub as well",), governs="Missing:",
                     reason="no cold shrinks it so far", because=because)  # fmt: skip
    if put_in == Bush.PutIn.COOL:
        return Plate(label=f"Cool the {what} to", number=f"{most.cool_bush_to_c:.0f}", unit="°C",
                     words=("cold burns: gloves, fresh air", "dry it before it is measured"),
                     governs="Limited by the tightest fit:", reason="with 0.02 mm of slip",
                     because=because)  # fmt: skip
    return Plate(
        label="Press force, at most", number=f"{most.press_force_n / 1000:.1f}", unit="kN",
        words=(f"or heat the hub to {most.heat_hub_to_c:.0f} °C",), governs="Limited by the tightest fit:",
        reason="friction 0.12, at the end of the press", because=because,
    )  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class StageRow:
    """One stage in the list, in words."""

    number: int
    name: str
    outside: str
    inside: str
    length: str
    removed: str
    note: str
    rest: bool = False


_STAGES = {"blank": "Blank", "rough": "Rough", "turn": "Turn, bore", "press": "Press", "finish": "Finish bore"}
_PUT_IN = {"press": "Press", "heat": "Heat and drop in", "cool": "Cool and drop in"}


def _flange_words(units: Units, work: BushWork) -> str:
    if work.flange_mm is None or work.flange_diameter_mm is None:
        return ""
    return f"; a flange Ø{units.plain(work.flange_diameter_mm)} x {units.plain(work.flange_mm)} stays outside the seat"


def stage_rows(page: JobPage, plan: BushPlan, work: BushWork, put_in: str, finish: str) -> list[StageRow]:
    """Blank, rough, turn, press, finish bore, each with what is left of it."""
    units, outside = page.units, plan.outside
    notes = {
        "blank": "as it is bought or found",
        "rough": "let it settle before it is turned" if plan.needs_rest else "no rest needed",
        "turn": f"outside last, a lead of 1 x 30° to start it{_flange_words(units, work)}",
        "press": f"bore closes {units.planned(plan.pressed.bore_closes_mm or 0.0)} on Ø",
        "finish": f"{finish}: {units.planned(plan.after_mm)} on Ø to come off",
    }
    rows = []
    for place, one in enumerate(plan.stages):
        sizes = (f"{units.lowest(outside.lower_mm)} to {units.highest(outside.upper_mm)}" if one.key == "turn"
                 else units.plain(round(one.outside_mm, 1)) if one.outside_mm else "")  # fmt: skip
        inside = one.inside_mm
        rows.append(StageRow(
            number=place + 1, name=_PUT_IN[put_in] if one.key == "press" else _STAGES[one.key], outside=sizes,
            inside="" if inside is None else units.planned(inside),
            length=units.length(one.length_mm) if one.length_mm else "",
            removed="" if one.removed is None else f"{100 * one.removed:.0f} %", note=notes[one.key],
            rest=one.key == "rough" and plan.needs_rest,
        ))  # fmt: skip
    return rows


def bush_scenes(page: JobPage, plan: BushPlan, work: BushWork) -> list[tuple[str, Scene]]:
    """Seat and bush, and their zones."""
    units, seat, outside = page.units, plan.seat, plan.outside
    middle = (seat.smallest_mm + seat.largest_mm) / 2
    layer = BushLayer(
        hub_mm=max((d for _, d in page.bore.outside_mm), default=1.6 * middle), seat_mm=middle,
        depth_mm=seat.depth_mm, inside_mm=plan.turned_mm, length_mm=work.length_mm, outside_mm=outside.aim_mm,
        hub_hatch=page.record.material.hatch, bush_hatch=work.material.hatch, seat_words=f"Ø{units.planned(middle)}",
        outside_words=f"Ø{units.planned(outside.aim_mm)}", inside_words=f"Ø{units.planned(plan.turned_mm)}",
        length_words=units.length(work.length_mm), seat_zone_mm=(seat.smallest_mm, seat.largest_mm),
        bush_zone_mm=(outside.lower_mm, outside.upper_mm),
        zone_words=(units.planned(seat.smallest_mm), units.planned(seat.largest_mm), units.planned(outside.lower_mm),
                    units.planned(outside.upper_mm)),
        gap_words=(units.planned(work.least_mm), units.planned(work.most_mm)), unsure_mm=seat.uncertainty_mm,
        flange=None if not work.flange_mm or not work.flange_diameter_mm else (
            work.flange_mm, work.flange_diameter_mm, f"Ø{units.plain(work.flange_diameter_mm)}"),
    )  # fmt: skip
    return bands(lambda width: bush_band(layer, width))


def bush_cautions(put_in: str) -> list[Caution]:
    """What burns, and what is measured too early."""
    words = {
        "press": ("A bush under a press can tip or burst.", "Start it square, stand aside, stop if it jumps."),
        "heat": ("The hub is hot for a long time and shows nothing.", "Gloves, no oil or bearings near; mark it hot."),
        "cool": ("Cold liquids and ice burn the skin and take the air away.", "Gloves, goggles, fresh air."),
    }[put_in]
    return [Caution(code=f"bush_{put_in}", method="any", steps=("work",), fact=words[0], act=words[1],
                    source="general workshop practice")]  # fmt: skip

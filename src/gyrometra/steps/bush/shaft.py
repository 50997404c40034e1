"""A solid shaft to suit a seat, as it is shown: its limits, the fit, what pressing it in takes."""

from __future__ import annotations

from gyrodraw import BushLayer, Scene, bush_band
from gyrometra.steps.bush.plates import outside_plate, put_in_plate, seat_words
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import Because, Plate
from gyrometra.steps.shared.scene import bands
from gyroplan.assess import ShaftPlan, ShaftWork


def shaft_plates(page: JobPage, plan: ShaftPlan, work: ShaftWork, put_in: str) -> list[Plate]:
    """Outside, the clearance or interference, and what it takes to put it in."""
    units = page.units
    plates = [outside_plate(units, "Shaft", plan.outside, plan.seat, (work.least_mm, work.most_mm)),
              _fit(page, plan, work)]  # fmt: skip
    if plan.tightest is not None:
        plates.append(put_in_plate(plan.tightest, put_in, "shaft"))
    return plates


def _fit(page: JobPage, plan: ShaftPlan, work: ShaftWork) -> Plate:
    """The fit that the seat as measured and the shaft's own limits give."""
    units, seat, outside = page.units, plan.seat, plan.outside
    least, most = seat.smallest_mm - outside.upper_mm, seat.largest_mm - outside.lower_mm
    press = most <= 0
    figures = (-most, -least) if press else (least, most)
    name = "Interference" if press else "Clearance"
    return Plate(
        label=f"{name}, least, on diameter", number=units.planned(figures[0]), unit=units.label,
        words=(f"to {units.planned(figures[1])}", "goes in by hand" if least >= 0 else "pressed" if press else
               "may go in, or need a press"),
        governs="Limited by the seat:", reason=seat_words(units, seat),
        because=Because(formula="seat, smallest and largest, less the shaft's upper and lower limit",
                        inputs=[("asked, interference", f"{units.planned(work.least_mm)} to "
                                 f"{units.planned(work.most_mm)} on Ø")], source="ISO 286-1:2010, kinds of fit."),
    )  # fmt: skip


def shaft_words(page: JobPage, plan: ShaftPlan, work: ShaftWork) -> str:
    """What is turned, in one line."""
    units, outside = page.units, plan.outside
    blank = "" if work.blank_outside_mm is None else f" from Ø{units.plain(work.blank_outside_mm)}"
    sizes = f"{units.lowest(outside.lower_mm)} to {units.highest(outside.upper_mm)}"
    return f"Turn{blank} to Ø{sizes} {units.label} over {units.length(work.length_mm)}, a lead to start it."


def shaft_scenes(page: JobPage, plan: ShaftPlan, work: ShaftWork) -> list[tuple[str, Scene]]:
    """Seat and shaft, and their zones; a shaft cut lengthwise is left white."""
    units, seat, outside = page.units, plan.seat, plan.outside
    middle = (seat.smallest_mm + seat.largest_mm) / 2
    least, most = work.least_mm, work.most_mm
    layer = BushLayer(
        hub_mm=max((d for _, d in page.bore.outside_mm), default=1.6 * middle), seat_mm=middle,
        depth_mm=seat.depth_mm, inside_mm=0.0, length_mm=work.length_mm, outside_mm=outside.aim_mm,
        hub_hatch=page.record.material.hatch, bush_hatch="", seat_words=f"Ø{units.planned(middle)}",
        outside_words=f"Ø{units.planned(outside.aim_mm)}", inside_words="", length_words=units.length(work.length_mm),
        seat_zone_mm=(seat.smallest_mm, seat.largest_mm), bush_zone_mm=(outside.lower_mm, outside.upper_mm),
        zone_words=(units.planned(seat.smallest_mm), units.planned(seat.largest_mm), units.planned(outside.lower_mm),
                    units.planned(outside.upper_mm)),
        gap_words=(units.planned(least), units.planned(most)), unsure_mm=seat.uncertainty_mm, what="shaft",
    )  # fmt: skip
    return bands(lambda width: bush_band(layer, width))

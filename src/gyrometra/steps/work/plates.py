"""Plates of Work: stock, first cut, wall left."""

from __future__ import annotations

from gyrocore import fit_with_part, sentence
from gyrodraw import fit_zones
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import Because, Plate


def work(page: JobPage) -> list[Plate]:
    """Stock, first cut, limits."""
    units, bore = page.units, page.bore
    if page.record.setup.only_trued:
        return [_only_trued(page)]
    start = page.at.start_mm
    if start is None:
        missing = "the bore as found, one size or more"
        return [Plate(label="Stock to remove, on diameter", governs="Missing:", reason=missing)]
    stock, middle = bore.aim_mm - start, "your own target" if bore.target_lower_mm is not None else "the middle"
    plates = [
        Plate(
            label="Stock to remove, on diameter",
            number=units.planned(stock),
            unit=units.label,
            words=(
                f"{units.planned(stock / 2)} on radius",
                f"target {units.planned(bore.aim_mm)}, {middle}",
                *_oval(page),
            ),
            governs="Limited by the smallest size found:",
            reason=f"{units.planned(start)}",
            because=Because(
                formula="stock = target - smallest size found; the target is mid-limit, or the middle of your own",
                inputs=[
                    (f"aim, {middle}", f"{units.planned(bore.aim_mm)} {units.label}"),
                    ("smallest found", f"{units.planned(start)} {units.label}"),
                ],
                source="Limits: ISO 286-1 where a class is given.",
            ),
        )
    ]
    plates.append(_first_cut(page))
    plates.append(_fit(page) if page.bore_row.mate_mm is not None else _wall(page))
    return plates


def _oval(page: JobPage) -> list[str]:
    """How far two directions of one depth differ as found, at the worst."""
    oval = page.bore.oval_found_mm
    return [f"oval as found by {page.units.planned(oval[0])}, {page.units.length(oval[1])} deep"] if oval else []


def _only_trued(page: JobPage) -> Plate:
    """How far off centre the work may lie."""
    units, limit = page.units, page.record.setup.tightest_runout_mm
    return Plate(
        label="Centre offset allowed", number=units.planned(limit / 2), unit=units.label,
        words=("only set true: nothing is cut",), governs="Half of the run-out limit (TIR):",
        reason=units.planned(limit),
        because=Because(formula="a round surface off centre by e swings the indicator by 2 e",
                        inputs=[("run-out limit (TIR)", units.planned(limit))], source="Derived."),
    )  # fmt: skip


def _fit(page: JobPage) -> Plate:
    """How the part that it must suit sits in the finished bore."""
    units, bore = page.units, page.bore
    mate = float(page.bore_row.mate_mm or 0)
    found = fit_with_part(hole=bore.limits, mate_mm=mate)
    least, most = found.min_clearance_mm, found.max_clearance_mm
    words = (units.highest(bore.upper_mm), units.lowest(bore.lower_mm), units.planned(mate))
    of = page.bore_row.mate_feature if page.bore_row.mate_feature_id else None
    governs, reason, state = "Part, measured:", units.planned(mate), "plain"
    if of is not None:
        governs = f"Part, measured in {of.setup.job.number}:"
        if of.found_mm != page.bore_row.mate_mm:
            now = "no longer" if of.found_mm is None else units.planned(of.found_mm)
            governs, reason, state = f"Measured anew in {of.setup.job.number}:", f"{now}; here {reason}", "warn"
    return Plate(
        label="Least clearance with the part, on diameter",
        number=units.planned(least),
        unit=units.label,
        scene=fit_zones(bore.lower_mm, bore.upper_mm, mate, words),
        words=(f"to {units.planned(most)}: {found.kind}", "green: the bore; line: the part"),
        governs=governs,
        reason=reason,
        state=state,
        because=Because(
            formula="clearance = bore - part, at both limits; negative is a press",
            inputs=[
                ("bore, smallest", units.lowest(bore.lower_mm)),
                ("bore, largest", units.highest(bore.upper_mm)),
                *((sentence(n, units.unit), "") for n in found.notes),
            ],
            source="ISO 286-1:2010, kinds of fit; the part at its own measured size.",
        ),
    )


def _first_cut(page: JobPage) -> Plate:
    units = page.units
    found = page.speeds.first_cut.value
    if found is None or page.passes.plan.value is None:
        return Plate(label="First cut, deepest", governs="Missing:", reason="a pass plan that holds")
    trued = page.boring.off_centre_mm is not None
    why = "as trued" if trued else "half the run-out limit"
    first = page.passes.plan.value.passes[0].diameter_mm
    return Plate(
        label="First cut, deepest",
        number=units.planned(found.largest_mm),
        unit=f"{units.label} radial",
        words=(f"shallowest {units.planned(found.smallest_mm)}", f"bores to Ø{units.planned(first)}"),
        governs="Off centre:",
        reason=f"{units.planned(found.off_centre_mm)}, {why}",
        state="warn" if found.smallest_mm <= 0 else "plain",
        because=Because(
            formula="(cut - largest)/2 - off centre to (cut - smallest)/2 + off centre",
            inputs=[
                ("first cut", f"Ø{units.planned(first)}"),
                ("off centre", f"{units.planned(found.off_centre_mm)}, {why}"),
                *((sentence(n, units.unit), "") for n in found.notes),
            ],
            source="Derived: two circles whose centres lie off centre apart.",
        ),
    )


def _wall(page: JobPage) -> Plate:
    units, wall = page.units, page.boring.wall_left_mm
    if wall is None:
        return Plate(label="Wall left", words=("drawn as a broken wall",), governs="Outside not given:",
                     reason="optional")  # fmt: skip
    return Plate(
        label="Wall left, thinnest",
        number=units.planned(wall),
        unit=units.label,
        governs="Limited by the smallest outside:",
        reason="less mid-limit, halved",
    )

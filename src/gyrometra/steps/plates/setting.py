"""A setting in the words of what is turned: turns and divisions of a dial, or a micrometer over the bar."""

from __future__ import annotations

from gyrocore import Dial, DialMove, NextCut, OverBar, sentence
from gyrodraw import Scene, dial_scale
from gyrometra.bridge.units import Units
from gyrometra.jobs.models import Plan
from gyrometra.jobs.setting import Setting
from gyrometra.steps.page import JobPage
from gyrometra.steps.plates.base import Because, Plate

#: What the column of settings is called, by what a cut is set with.
_COLUMN = {
    "dial": "cross-slide",
    "head": "head dial",
    "over-bar": "over bar and point",
    "micrometer": "setting micrometer",
}


#: By what is chosen instead, where a cutter can be set in several ways.
_COLUMN_WITH = {"protrusion": "point above the bar", "indicator": "behind the bit", "jig": "jig reads"}


def setting_column(page: JobPage) -> str:
    """What the column of settings is called."""
    plan, way = page.job.setup.plan, page.job.setup.way.set_by
    return _COLUMN_WITH.get(plan.set_with, _COLUMN[way]) if way == "over-bar" else _COLUMN[way]


def dial_words(move: DialMove) -> str:
    """Turns and divisions, with the direction."""
    count = abs(move.odd_divisions)
    parts = [f"{abs(move.turns)} turn{'s' if abs(move.turns) != 1 else ''}"] if move.turns else []
    parts.append(f"{count:.1f} div".replace(".0 div", " div"))
    way = "out" if move.divisions >= 0 else "back"
    return f"{' + '.join(parts)} {way}"


def setting_words(setting: Setting, units: Units, plan: Plan | None = None) -> str:
    """The setting of a pass in the list."""
    if setting.advance is not None:
        return f"{units.signed(setting.advance.advance_mm)} along the bit"
    if setting.over is not None and plan is not None:
        return units.planned(over_words(setting.over, plan, units)[1])
    if setting.reads_mm is not None:
        return units.planned(setting.reads_mm)
    return dial_words(setting.move) if setting.move else f"{units.planned(setting.radial_mm)} on radius"


def setting_plate(label: str, setting: Setting, page: JobPage, start: str) -> Plate:
    """The plate of the next setting, with what it comes from."""
    if setting.advance is not None:
        return _indicator_plate(label, setting, page)
    if setting.over is not None:
        return _over_the_bar(label, setting, page)
    if setting.learned is not None:
        return _micrometer_plate(label, setting, setting.learned, page)
    dial = page.reckoning.dial
    if setting.move is None or dial is None:
        return _unknown_plate(label, setting, page)
    return _dial_plate(label, setting, setting.move, dial, page, start)


def _dial_plate(label: str, setting: Setting, move: DialMove, dial: Dial, page: JobPage, start: str) -> Plate:
    units = page.units
    backlash = page.reckoning.machine.backlash_divisions if page.job.setup.way.set_by == "dial" else None
    worth = f"1 div {units.fine(move.division_on_diameter_mm)} on Ø"
    return Plate(
        label=label,
        number=units.planned(setting.to_mm),
        prefix="Ø",
        scene=dial_scale(move.set_to_division, per_turn=dial.divisions_per_turn),
        words=(f"{dial_words(move)}, {start}", f"dial at {move.set_to_division:.1f}", worth),
        governs=f"Dial reads {dial.reads}:",
        reason=f"{units.planned(setting.change_mm)} on diameter, {units.planned(setting.radial_mm)} on radius",
        because=Because(
            formula="divisions = (wanted - measured) / (division on diameter)",
            inputs=[
                ("one division", f"{units.fine(dial.division_mm)} {units.label} on {dial.reads}"),
                ("divisions a turn", f"{dial.divisions_per_turn:g}"),
                *((sentence(n, units.unit), "") for n in move.notes),
                *(
                    [("backlash on record", f"{backlash.normalize():f} div, to be taken up on the way out")]
                    if backlash
                    else []
                ),
                ("approach", "from the small side, winding outward; past the mark: a turn back and up again"),
            ],
            source="Derived: half the difference of diameters is the radial move.",
        ),
    )


def over_words(over: OverBar, plan: Plan, units: Units) -> tuple[str, float]:
    """What is read and how much, by what the cutter is set with: over the bar, above it, or on the jig."""
    if plan.set_with == Plan.SetWith.PROTRUSION:
        return "point above the bar", over.protrusion_mm
    if plan.set_with == Plan.SetWith.JIG:
        return "jig on the bar", over.protrusion_mm + float(plan.jig_zero_mm or 0)
    return "over bar and point", over.reading_mm


def _scale(value_mm: float, units: Units) -> Scene:
    """A micrometer's scale at a reading, in the reader's unit."""
    return dial_scale(value_mm) if units.unit == "mm" else dial_scale(value_mm / 25.4, unit_step=0.001)


def _over_the_bar(label: str, setting: Setting, page: JobPage) -> Plate:
    plan = page.job.setup.plan
    if plan.set_with in (Plan.SetWith.PROTRUSION, Plan.SetWith.JIG):
        return _above_bar_plate(label, setting, page)
    return _over_bar_plate(label, setting, page)


def _above_bar_plate(label: str, setting: Setting, page: JobPage) -> Plate:
    """Step gauge or jig: how far the point stands above the bar's own back."""
    units, over, plan = page.units, setting.over, page.job.setup.plan
    assert over is not None  # noqa: S101 - the caller has looked
    words, reading = over_words(over, plan, units)
    jig = plan.set_with == Plan.SetWith.JIG
    return Plate(
        label=f"{'Jig reads' if jig else 'Point above the bar'}, {label.lower()} Ø{units.planned(setting.to_mm)}",
        number=units.planned(reading),
        unit=units.label,
        scene=_scale(reading, units),
        words=(words, f"over bar and point {units.planned(over.reading_mm)}"),
        governs="Size governs:",
        reason=f"half of {units.planned(setting.to_mm)} less the bar",
        because=Because(
            formula="point above the bar = (cut - bar) / 2" + (", and what the jig reads with it flush" if jig else ""),
            inputs=[
                ("from the last size", f"{units.planned(setting.change_mm)} on diameter, "
                                       f"{units.planned(setting.radial_mm)} on radius"),
                *([("jig with the point flush", units.planned(plan.jig_zero_mm or 0))] if jig else []),
                *((sentence(n, units.unit), "") for n in over.notes),
            ],
            source="Derived from the two radii. The bar's diameter is the one measured, not the nominal one.",
        ),
    )  # fmt: skip


def _indicator_plate(label: str, setting: Setting, page: JobPage) -> Plate:
    """An indicator behind the bit shows an amount only: it counts from the last measured size."""
    units, advance, bar = page.units, setting.advance, page.reckoning.bar
    assert advance is not None  # noqa: S101 - the caller has looked
    return Plate(
        label=f"Push the bit, {label.lower()} Ø{units.planned(setting.to_mm)}",
        number=units.planned(abs(advance.advance_mm)),
        unit=units.label,
        scene=_scale(abs(advance.advance_mm), units),
        words=(
            "out along itself" if advance.advance_mm >= 0 else "draw it back along itself",
            "indicator behind the bit",
        ),
        governs="Measured size governs:",
        reason=f"from Ø{units.planned(setting.from_mm)}, {units.planned(advance.radial_mm)} on radius",
        because=Because(
            formula="along the bit = (wanted - measured) / 2 / cos(tilt)",
            inputs=[
                ("bit leans from square", f"{bar.tilt_deg.normalize() if bar else 0:f}°"),
                *((sentence(n, units.unit), "") for n in advance.notes),
                ("starts only from a measured bore", "an indicator shows an amount, not a place"),
            ],
            source="Derived: the bit's own travel, projected on the radius.",
        ),
    )


def _over_bar_plate(label: str, setting: Setting, page: JobPage) -> Plate:
    units, over = page.units, setting.over
    bar = page.reckoning.bar
    assert over is not None  # noqa: S101 - the caller has looked
    return Plate(
        label=f"Cutter over the bar, {label.lower()} Ø{units.planned(setting.to_mm)}",
        number=units.planned(over.reading_mm),
        unit=units.label,
        scene=_scale(over.reading_mm, units),
        words=("micrometer over bar back and point", f"point {units.planned(over.protrusion_mm)} above the bar"),
        governs="Size governs:",
        reason=f"half of bar {units.plain(bar.diameter_mm) if bar else ''} + {units.planned(setting.to_mm)}",
        because=Because(
            formula="reading = (bar + cut) / 2",
            inputs=[
                ("from the last size", f"{units.planned(setting.change_mm)} on diameter, "
                                       f"{units.planned(setting.radial_mm)} on radius"),
                *((sentence(n, units.unit), "") for n in over.notes),
            ],
            source="Derived from the two radii. The bar's diameter is the one measured, not the nominal one.",
        ),
    )  # fmt: skip


def _micrometer_plate(label: str, setting: Setting, learned: NextCut, page: JobPage) -> Plate:
    units, machine = page.units, page.reckoning.machine
    chance = f"{100 * learned.chance_in_limits:.0f} % of such cuts end in limits"
    return Plate(
        label=f"Set the micrometer, {label.lower()} Ø{units.planned(setting.to_mm)}",
        number=units.planned(learned.set_diameter_mm),
        unit=units.label,
        scene=_scale(learned.set_diameter_mm, units),
        words=(
            f"bar cuts {units.signed(learned.bias_mm)} on diameter",
            f"known within {units.planned(learned.bias_sd_mm)}",
        ),
        governs="The bar's habit governs:",
        reason=sentence(learned.notes[0], units.unit),
        because=Because(
            formula="set = aim - what the bar cuts large, down to a whole step of the micrometer",
            inputs=[
                (
                    "expected size",
                    f"{units.planned(learned.predicted_mm)} within {units.planned(learned.predicted_sd_mm)}",
                ),
                ("as a last cut", chance),
                ("on record for this machine", units.signed(machine.cuts_large_mm or 0)),
                ("centring shoes", machine.get_shoes_display()),
            ],
            source="Normal habit and normal scatter, updated pass by pass (conjugate update).",
        ),
    )


def _unknown_plate(label: str, setting: Setting, page: JobPage) -> Plate:
    units = page.units
    missing = {"head": "the boring head", "over-bar": "a bar thinner than the bore"}
    return Plate(
        label=label,
        number=units.planned(setting.to_mm),
        prefix="Ø",
        words=(f"{units.planned(setting.radial_mm)} on radius",),
        governs="Missing:",
        reason=missing.get(page.job.setup.way.set_by, "the machine's dial"),
    )

"""A setting in the words of what is turned: turns and divisions of a dial, or a micrometer over the bar."""

from __future__ import annotations

from gyrocore import Dial, DialMove, NextCut, sentence
from gyrodraw import dial_scale
from gyrometra.bridge.units import Units
from gyrometra.jobs.setting import Setting
from gyrometra.steps.page import JobPage
from gyrometra.steps.plates.base import Because, Plate

#: What the column of settings is called, by what a cut is set with.
SETTING_COLUMN = {
    "dial": "cross-slide",
    "head": "head dial",
    "over-bar": "over bar and point",
    "micrometer": "setting micrometer",
}


def dial_words(move: DialMove) -> str:
    """Turns and divisions, with the direction."""
    count = abs(move.odd_divisions)
    parts = [f"{abs(move.turns)} turn{'s' if abs(move.turns) != 1 else ''}"] if move.turns else []
    parts.append(f"{count:.1f} div".replace(".0 div", " div"))
    way = "out" if move.divisions >= 0 else "back"
    return f"{' + '.join(parts)} {way}"


def setting_words(setting: Setting, units: Units) -> str:
    """The setting of a pass in the list."""
    if setting.reads_mm is not None:
        return units.planned(setting.reads_mm)
    return dial_words(setting.move) if setting.move else f"{units.planned(setting.radial_mm)} on radius"


def setting_plate(label: str, setting: Setting, page: JobPage, start: str) -> Plate:
    """The plate of the next setting, with what it comes from."""
    if setting.over is not None:
        return _over_bar_plate(label, setting, page)
    if setting.learned is not None:
        return _micrometer_plate(label, setting, setting.learned, page)
    dial = page.reckoning.dial
    if setting.move is None or dial is None:
        return _unknown_plate(label, setting, page)
    return _dial_plate(label, setting, setting.move, dial, page.units, start)


def _dial_plate(label: str, setting: Setting, move: DialMove, dial: Dial, units: Units, start: str) -> Plate:
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
                ("approach", "from the small side, winding outward; past the mark: a turn back and up again"),
            ],
            source="Derived: half the difference of diameters is the radial move.",
        ),
    )


def _over_bar_plate(label: str, setting: Setting, page: JobPage) -> Plate:
    units, over = page.units, setting.over
    bar = page.reckoning.bar
    assert over is not None  # noqa: S101 - the caller has looked
    reading = over.reading_mm if units.unit == "mm" else over.reading_mm / 25.4
    step = 0.01 if units.unit == "mm" else 0.001
    return Plate(
        label=f"Cutter over the bar, {label.lower()} Ø{units.planned(setting.to_mm)}",
        number=units.planned(over.reading_mm),
        unit=units.label,
        scene=dial_scale(reading, unit_step=step),
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
    shown = learned.set_diameter_mm if units.unit == "mm" else learned.set_diameter_mm / 25.4
    chance = f"{100 * learned.chance_in_limits:.0f} % of such cuts end in limits"
    return Plate(
        label=f"Set the micrometer, {label.lower()} Ø{units.planned(setting.to_mm)}",
        number=units.planned(learned.set_diameter_mm),
        unit=units.label,
        scene=dial_scale(shown, unit_step=0.01 if units.unit == "mm" else 0.001),
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

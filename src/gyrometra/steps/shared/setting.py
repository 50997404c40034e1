"""A setting in the words of what is turned or read: a dial, an indicator along the bit, a micrometer, a step gauge."""

from __future__ import annotations

from dataclasses import dataclass
from math import trunc

from gyrodraw import Crown, Scene, dial_crown, dial_scale
from gyrometra.bridge.units import Units
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import Because, Plate
from gyroplan.assess import Setting
from gyroplan.loop import AdvanceWay, DialWay, MicrometerWay, OverBarWay, StepWay, Told, Way

#: What the column of settings is called, by what a cut is set with.
_COLUMN = {
    "dial": "cross-slide",
    "head": "head dial",
    "over-bar": "over bar and tip",
    "micrometer": "setting micrometer",
}
#: By what is chosen instead, where a cutter can be set in several ways.
_COLUMN_WITH = {"protrusion": "tip above the bar", "indicator": "along the bit", "jig": "jig reads"}


@dataclass(frozen=True, slots=True)
class Turns:
    """Divisions as whole turns and what is left of one, both with the sign of the move."""

    turns: int
    odd: float

    @classmethod
    def of(cls, divisions: float, per_turn: float) -> Turns:
        """Split a move; a rest that shows as a whole turn is one."""
        turns = trunc(divisions / per_turn + (1e-9 if divisions >= 0 else -1e-9))
        return cls(turns, divisions - turns * per_turn)


def setting_column(page: JobPage) -> str:
    """What the column of settings is called."""
    plan, way = page.job.setup.plan, page.job.setup.way.set_by
    return _COLUMN_WITH.get(plan.set_with, _COLUMN[way]) if way == "over-bar" else _COLUMN[way]


def dial_words(divisions: float, per_turn: float) -> str:
    """Turns and divisions, with the direction."""
    return f"{turned_words(divisions, per_turn)} {'out' if divisions >= 0 else 'back'}"


def turned_words(divisions: float, per_turn: float) -> str:
    """Turns and divisions without a direction: `1 turn 3.5 div`."""
    split = Turns.of(divisions, per_turn)
    count = f"{abs(split.odd):.1f}".removesuffix(".0")
    if not split.turns:
        return f"{count} div"
    turns = f"{abs(split.turns)} turn{'s' if abs(split.turns) != 1 else ''}"
    return f"{turns} {count} div" if count != "0" else turns


def division_words(number: float) -> str:
    """A number under a dial's mark, or a count of its divisions: one way of writing it on every page."""
    return f"{number:.1f}".removesuffix(".0")


def setting_words(setting: Setting, units: Units) -> str:
    """The setting of a pass in a list; of a spring pass, that it is left."""
    told, way = setting.told, setting.way
    if told is None:
        return "leave the setting"
    if isinstance(way, DialWay):
        return dial_words(told.divisions or 0.0, way.divisions_per_turn)
    if isinstance(way, AdvanceWay):
        if setting.no_dial:
            return f"{units.planned(setting.radial_mm)} on radius"
        return f"{units.signed(told.advance_mm or 0.0)} along the bit"
    return units.planned(told.reading_mm or 0.0)


def at_words(setting: Setting) -> str:
    """Where the dial then stands; empty without one."""
    if not isinstance(setting.way, DialWay) or setting.stands_at is None or setting.told is None:
        return ""
    return division_words(setting.stands_at)


def stands_words(way: Way, stands_at: float | None, units: Units) -> str:
    """Where the dial, or the reading, stands; empty where nothing shows it."""
    if stands_at is None:
        return ""
    return division_words(stands_at) if isinstance(way, DialWay) else units.planned(stands_at)


def crown_scene(setting: Setting, stands_at: float | None, units: Units) -> Scene | None:
    """The dial, or the scale, as it will stand when set."""
    told, way = setting.told, setting.way
    if told is None:
        return None
    if isinstance(way, DialWay):
        target = told.to_division or 0.0
        return dial_crown(
            Crown(
                stands=stands_at or 0.0, target=target, divisions=told.divisions or 0.0,
                per_turn=way.divisions_per_turn, rises=way.numbers == "rise",
                stands_words=division_words(stands_at or 0.0), target_words=division_words(target),
            )
        )  # fmt: skip
    if told.reading_mm is not None:
        return _scale(told.reading_mm, units)
    return None


def _scale(value_mm: float, units: Units) -> Scene:
    """A micrometer's scale at a reading, in the reader's unit."""
    return dial_scale(value_mm) if units.unit == "mm" else dial_scale(value_mm / 25.4, unit_step=0.001)


def figure(told: Told, way: Way, units: Units) -> tuple[str, str, str]:
    """The figure to dial, its unit, and what the hands do."""
    if isinstance(way, DialWay):
        divisions = told.divisions or 0.0
        split = Turns.of(divisions, way.divisions_per_turn)
        number = division_words(abs(split.odd))
        turns = f"{abs(split.turns)} turn{'s' if abs(split.turns) != 1 else ''} and" if split.turns else ""
        return number, " ".join(part for part in (turns, "div") if part), _hands(divisions)
    if isinstance(way, AdvanceWay):
        advance = told.advance_mm or 0.0
        return units.planned(abs(advance)), units.label, "Push the bit out" if advance >= 0 else "Draw the bit back"
    return units.planned(told.reading_mm or 0.0), units.label, _READ[type(way)]


_READ = {
    OverBarWay: "Set over bar and tip",
    StepWay: "Set the tip above the bar",
    MicrometerWay: "Set on the micrometer",
}


def _hands(divisions: float) -> str:
    return "Wind out" if divisions >= 0 else "Wind back a full turn past, and come up to it"


def setting_plate(label: str, setting: Setting, page: JobPage, start: str) -> Plate:
    """The plate of a setting, with what it comes from."""
    units, told = page.units, setting.told
    if told is None:
        return Plate(label=label, number=units.planned(setting.to_mm), prefix="Ø", words=("leave the setting",),
                     governs="Spring pass:", reason="feed once more at the same setting")  # fmt: skip
    if setting.no_dial:
        return _unknown_plate(label, setting, page)
    if isinstance(setting.way, DialWay):
        return _dial_plate(label, setting, told, setting.way, page, start)
    number, unit, hands = figure(told, setting.way, units)
    return Plate(
        label=f"{hands}, {label.lower()} Ø{units.planned(setting.to_mm)}",
        number=number,
        unit=unit,
        scene=crown_scene(setting, None, units),
        words=(setting_column(page), f"{units.planned(setting.radial_mm)} on radius"),
        governs="From the size before:",
        reason=f"{units.planned(setting.from_mm)} to {units.planned(setting.to_mm)}",
        because=because_of(setting, page),
    )


def _dial_plate(label: str, setting: Setting, told: Told, way: DialWay, page: JobPage, start: str) -> Plate:
    units = page.units
    target = told.to_division or 0.0
    return Plate(
        label=label,
        number=units.planned(setting.to_mm),
        prefix="Ø",
        scene=dial_scale(target, per_turn=way.divisions_per_turn),
        words=(
            f"{dial_words(told.divisions or 0.0, way.divisions_per_turn)}, {start}",
            f"dial at {division_words(target)}",
            worth_words(way, units),
        ),
        governs=f"Dial reads {way.reads}:",
        reason=f"{units.planned(setting.change_mm)} on diameter, {units.planned(setting.radial_mm)} on radius",
        because=because_of(setting, page),
    )


def worth_words(way: DialWay, units: Units) -> str:
    """What one division changes."""
    return f"1 div {units.fine(way.on_diameter_mm)} on Ø"


def because_of(setting: Setting, page: JobPage) -> Because:
    """Formula, inputs and source behind a setting."""
    units, way = page.units, setting.way
    shared = [
        ("from the size before", f"Ø{units.planned(setting.from_mm)}"),
        ("to", f"Ø{units.planned(setting.to_mm)}"),
        ("still to move",
         f"{units.planned(setting.change_mm)} on diameter, {units.planned(setting.radial_mm)} on radius"),
    ]  # fmt: skip
    if isinstance(way, DialWay):
        return Because(
            formula="divisions = (wanted - where the cutter stands) / (division on diameter)",
            inputs=[*shared, *_dial_inputs(way, page)],
            source="Derived: half the difference of diameters is the radial move.",
        )
    if isinstance(way, AdvanceWay):
        return Because(
            formula="along the bit = (wanted - where the cutter stands) / 2 / cos(tool angle)",
            inputs=[*shared, ("tool angle from square", f"{way.bit_tilt_deg:g}°")],
            source="Derived: the bit's own travel, projected on the radius.",
        )
    formula, inputs = _absolute_because(way, page)
    return Because(
        formula=formula,
        inputs=[*shared, *inputs],
        source="Derived from the two radii; what the last measured pass came out wrong is taken off.",
    )


def _dial_inputs(way: DialWay, page: JobPage) -> list[tuple[str, str]]:
    units = page.units
    backlash = page.at.machine.backlash_divisions if page.job.setup.way.set_by == "dial" else None
    found = [
        ("one division", f"{units.fine(way.division_mm)} {units.label} on {way.reads}"),
        ("divisions a turn", f"{way.divisions_per_turn:g}"),
        ("winding out, its numbers", way.numbers),
        ("approach", "wind out to size; if past it, back off a full turn and come up again"),
    ]
    if backlash:
        found.append(("backlash on record", f"{backlash:g} div, taken up on the way out"))
    return found


def _absolute_because(way: Way, page: JobPage) -> tuple[str, list[tuple[str, str]]]:
    units = page.units
    ladder = page.passes.ladder
    habit = ladder.replay.memory.habit_mm if ladder else 0.0
    inputs = [("came out over its setting, last measured", units.signed(habit))]
    if isinstance(way, OverBarWay):
        return "reading = (bar + cut - what it comes out larger) / 2", [
            ("bar, as measured", units.plain(way.bar_diameter_mm)), *inputs
        ]  # fmt: skip
    if isinstance(way, StepWay):
        zero = [("reads with the tip flush", units.plain(way.scale_zero_mm))] if way.scale_zero_mm else []
        return "tip above the bar = (cut - what it comes out larger - bar) / 2", [
            ("bar, as measured", units.plain(way.bar_diameter_mm)), *zero, *inputs
        ]  # fmt: skip
    machine = page.at.machine
    return "set = cut - what this bar cuts oversize - what it comes out larger", [
        ("bar cuts oversize by, on record", units.signed(machine.cuts_large_mm or 0)),
        ("centring shoes", page.job.setup.machine.get_shoes_display()), *inputs
    ]  # fmt: skip


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

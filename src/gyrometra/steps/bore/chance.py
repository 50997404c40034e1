"""The chance of the pass in hand to land, the bar's habit behind it, and what would raise it: in words."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrodraw import RunDrawn, RunPoint, Scene, run_chart
from gyrometra.bridge.units import Units
from gyrometra.steps.habits import habit
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import Because
from gyrometra.steps.shared.setting import division_words, figure
from gyroplan.assess import CutSeen, HabitStanding, Raised
from gyroplan.loop import AdvanceWay, DialWay

#: A habit smaller than this, or than its own doubt, is not set for [mm].
_LEAST_MM = 0.001
#: So many of the newest cuts are drawn.
_DRAWN = 14


@dataclass(frozen=True, kw_only=True)
class ChancePlate:
    """The chance as told; with the habit taken off, what to set instead; what would raise it; the cuts behind it."""

    as_told: str
    mark: str
    within: str
    #: Of the habit: how much, how sure, from what; empty where nothing was seen.
    habit: str
    carried: str
    #: Set instead, with the habit taken off: its figure, what it comes to, and how it is sent; empty where no use.
    instead: str
    better: str
    value: str
    raised: Sequence[str]
    because: Because
    scene: Scene | None


def chance_plate(page: JobPage, found: HabitStanding | None) -> ChancePlate | None:
    """None where the pass in hand does not end in the limits, or nothing is known of the bar."""
    if found is None or found.as_told is None or found.learned is None or found.limits_mm is None:
        return None
    units, chance = page.units, found.as_told.chance_in_limits
    instead, value = _instead(page, found)
    low, high = found.limits_mm
    return ChancePlate(
        as_told=percent(chance), mark="in" if chance >= _LIKELY else "advice" if chance >= _EVEN else "over",
        within=f"{units.planned(low)} to {units.planned(high)}", habit=_habit_words(found, units),
        carried=_carried_words(found), instead=instead, value=value,
        better=percent(found.habit_off.chance_in_limits) if found.habit_off and instead else "",
        raised=[_raised_words(one) for one in found.raised], because=_because(found, units),
        scene=habit_chart(page, [*found.carried, *found.own]),
    )  # fmt: skip


#: How a chance is marked (chosen here): likely, or better than even.
_LIKELY, _EVEN = 0.8, 0.5


def percent(chance: float) -> str:
    """A chance; never certain."""
    return f"{min(99, max(1, round(100 * chance)))} %"


def _instead(page: JobPage, found: HabitStanding) -> tuple[str, str]:
    """What to set with the habit taken off: only where it is proven by its own cuts and makes a difference."""
    told, way, learned = found.told, page.passes.by.way, found.learned
    if told is None or learned is None or found.as_told is None or found.habit_off is None:
        return "", ""
    gain = found.habit_off.chance_in_limits - found.as_told.chance_in_limits
    if not found.is_proven or gain < 0.005 or abs(learned.off_mm) < _LEAST_MM:
        return "", ""
    if isinstance(way, DialWay):
        stands = division_words(told.to_division or 0.0)
        number, unit, _ = figure(told, way, page.units)
        return f"{number} {unit}, dial at {stands}", stands
    amount = told.advance_mm if isinstance(way, AdvanceWay) else told.reading_mm
    return page.units.planned(amount or 0.0), page.units.planned(amount or 0.0)


def _habit_words(found: HabitStanding, units: Units) -> str:
    """How much this bar cuts large or small, and from what that is known."""
    learned = found.learned
    if learned is None or not learned.cuts:
        return "Nothing has been seen of this bar yet: as set, and as likely too large as too small."
    size = abs(learned.off_mm)
    way = "as set" if size < _LEAST_MM / 2 else f"{units.planned(size)} {'large' if learned.off_mm > 0 else 'small'}"
    count = f"{learned.cuts} measured pass{'es' if learned.cuts != 1 else ''}"
    proven = "proven on its own cuts" if found.is_proven else "not proven yet"
    doubt = f"± {units.doubt(2 * learned.off_sd_mm)}"
    return f"This bar comes out {way} {doubt}, scatter {units.doubt(learned.scatter_mm)}: {count}, {proven}."


def habit_line(page: JobPage, username: str) -> str:
    """How much the bar in hand comes out large or small, in one line; empty before it was seen, and of a locked job."""
    if page.is_locked or page.passes.state is None:
        return ""
    found = habit(page, [], username)
    if found is None or found.learned is None or not found.learned.cuts:
        return ""
    return " ".join(part for part in (_habit_words(found, page.units), _carried_words(found)) if part)


def _carried_words(found: HabitStanding) -> str:
    """From which jobs, and why they are like."""
    if not found.carried:
        return ""
    jobs = ", ".join(found.jobs[:3])
    return f"{len(found.carried)} of them from {jobs}: the same bar, cutter, material and way, as far out, as large."


_RAISED = {
    "finer": "{chance} measured with {name}",
    "cold": "{chance} measured cold: temperature is most of the uncertainty",
    "alike": "{chance} after one more pass alike, measured",
    "step": "{chance} moved by an indicator on the slide, not by the dial alone",
}  # fmt: skip


def _raised_words(one: Raised) -> str:
    return _RAISED[one.code].format(chance=percent(one.chance), name=one.name)


def _because(found: HabitStanding, units: Units) -> Because:
    learned, as_told = found.learned, found.as_told
    if learned is None or as_told is None:
        return Because(formula="", inputs=[], source="")
    return Because(
        formula="expected = set + habit + its share of the deflection; scatter either side",
        inputs=[
            ("set to", f"Ø{units.planned(as_told.set_diameter_mm)}"),
            ("expected", f"Ø{units.planned(as_told.predicted_mm)}"),
            ("steady habit", units.signed(learned.bias_mm)),
            ("share of the modelled deflection", f"{learned.share:.2f}"),
            ("scatter with what is not known, 1 sd", units.doubt(as_told.predicted_sd_mm)),
            *_foretold(found, units),
        ],
        source="Conjugate normal update with the scatter learned too; limits narrowed by the uncertainty of the gauge.",
    )  # fmt: skip


def _foretold(found: HabitStanding, units: Units) -> list[tuple[str, str]]:
    """How far off cuts alike would have been foretold, by what was learned and without; none of too few."""
    proven = found.proven
    if not proven.cuts:
        return []
    errors = {"learned": proven.learned_mm, "set as told": proven.as_told_mm, "the last copied": proven.copied_mm}
    return [(f"{proven.cuts} foretold, off on average, {name}", units.doubt(size)) for name, size in errors.items()]


def habit_chart(page: JobPage, seen: Sequence[CutSeen]) -> Scene | None:
    """What the newest cuts came out over their setting; none of one alone."""
    rows = seen[-_DRAWN:]
    if len(rows) < 2:
        return None
    units, scale = page.units, page.units.scale
    half = page.bore.tolerance_mm / 2
    points = [
        RunPoint(name=str(one.number), value=one.off_mm * scale, words=units.signed(one.off_mm),
                 mark="in" if abs(one.off_mm) <= half else "over" if one.off_mm > 0 else "under") for one in rows
    ]  # fmt: skip
    drawn = RunDrawn(
        points=points, lower=-half * scale, upper=half * scale, lower_words=units.signed(-half),
        upper_words=units.signed(half), middle_words="as set",
        title="Measured passes of this bar: how much over their setting each came out; half the tolerance either way",
    )  # fmt: skip
    return run_chart(drawn, 350, 150)

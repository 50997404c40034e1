"""A face set true on True: its swing, and what goes under which support."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from django import forms

from gyrocore import nearest_stacks
from gyrometra.bridge.fields import LengthField
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plan_form import PlanForm
from gyrometra.steps.true.line import LEAST_MOVE_MM
from gyrometra.steps.work.setting_up import owned, stack_words
from gyroplan.assess import SHIM_MM, FaceLevel, Lift, level_of

#: What supports do.
ABOUT = (("lowest", "only lift it"), ("pivot", "tip it over a pivot"))


class FaceForm(PlanForm):
    """The circle on which the face is read, and that of what holds it."""

    face_read_mm = LengthField(label="Read on a circle of Ø", required=False)
    supports_mm = LengthField(label="Supports, jaws or clamps on Ø", required=False)
    level_about = forms.ChoiceField(label="They", choices=ABOUT, required=False)

    def clean_level_about(self) -> str:
        """As it stands where a form did not ask."""
        return str(self.cleaned_data["level_about"] or self.job.setup.plan.level_about)


@dataclass(frozen=True, slots=True, kw_only=True)
class LiftRow:
    """One support: what goes under it, or that nothing does."""

    name: str
    amount: str
    words: str
    done: bool
    #: Whether it is lowered: over a pivot only.
    lowered: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class FaceOnTrue:
    """All that True says of a face."""

    lifts: Sequence[LiftRow]
    tips: Sequence[TipRow]
    swing: str
    lean: str
    towards: str
    within: bool


def face_on_true(page: JobPage) -> FaceOnTrue | None:
    """None while it was not read, or one of the two circles is not given."""
    found = level_of(page.assessment, page.piece)
    if found is None:
        return None
    way = page.record.setup.way
    return FaceOnTrue(
        lifts=[lift_row(page, one) for one in found.lifts], tips=tips_of(page, found.lifts),
        swing=page.units.planned(found.swing_mm),
        lean=page.units.planned(lean_mm(found)), within=found.within,
        towards=way.place_name(45 * round(found.high_deg / 45)),
    )  # fmt: skip


def lean_mm(found: FaceLevel) -> float:
    """How much the plane rises across the circle that was read: the swing without the face's own form."""
    return found.tilt_mm_m * found.read_mm / 1000


def _shim_words(page: JobPage, lift_mm: float) -> str:
    """The shims of the crib that come nearest, and what is left; what is done without any."""
    pieces = [one for one in owned(page.crib.packing) if 0 < one.height_mm <= SHIM_MM]
    if not pieces or lift_mm < LEAST_MOVE_MM:
        return "shim under it, or tap the others in"
    stack = nearest_stacks(pieces=pieces, target_mm=lift_mm, most_pieces=3, rows=1)[0]
    names = stack_words(stack)
    left = abs(stack.height_mm - lift_mm)
    if left > lift_mm / 2:
        return "thinner than any shim of the crib: foil, or tap the others in"
    return f"{names}, {page.units.planned(left)} off" if left >= LEAST_MOVE_MM else names


def lift_row(page: JobPage, one: Lift) -> LiftRow:
    """A support with its lift, in turns of its screw where its pitch is known."""
    size, lowered = abs(one.lift_mm), one.lift_mm < 0
    done = size < LEAST_MOVE_MM
    words = turn_words(one.turns) if one.turns is not None else "" if lowered else _shim_words(page, size)
    return LiftRow(
        name=f"{page.record.setup.way.place_word}{one.name}", amount=page.units.planned(size),
        words="leave it" if done else words, done=done, lowered=lowered,
    )  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class TipRow:
    """Two opposite screws over a pivot: one is lowered as much as the other is raised."""

    lower: str
    raised: str
    #: Turns where the screws' pitch is known, else the length.
    amount: str
    unit: str
    words: str


def tips_of(page: JobPage, lifts: Sequence[Lift]) -> list[TipRow]:
    """The pairs of screws over a pivot, the larger move first; none where supports only lift."""
    if page.record.setup.plan.level_about != "pivot" or len(lifts) != 4:
        return []
    units, word = page.units, page.record.setup.way.place_word
    rows = []
    for one, other in sorted(zip(lifts[:2], lifts[2:], strict=True), key=lambda pair: -abs(pair[0].lift_mm)):
        down, up = (one, other) if one.lift_mm < 0 else (other, one)
        size = up.lift_mm
        if size < LEAST_MOVE_MM:
            continue
        length = f"{units.planned(size)} {units.label} each"
        turned = up.turns is not None
        rows.append(TipRow(
            lower=f"{word}{down.name}", raised=f"{word}{up.name}",
            amount=f"{up.turns:.2f}" if turned else units.planned(size), unit="turn" if turned else units.label,
            words=f"{length}{flat_words(up.turns)}. Lower first." if up.turns is not None else "each. Lower first.",
        ))  # fmt: skip
    return rows


def turn_words(turns: float) -> str:
    """A screw's move: turns, or of less than one degrees and flats of its hexagon too."""
    return f"{abs(turns):.2f} turn{flat_words(turns)}"


def flat_words(turns: float) -> str:
    """What less than a turn is in degrees, and in flats of a hexagon."""
    size = abs(turns)
    return "" if size >= 1 else f", {360 * size:.0f}°, {6 * size:.1f} flat{'' if 6 * size < 1.05 else 's'}"

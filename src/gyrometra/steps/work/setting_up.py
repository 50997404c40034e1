"""Setting up, worked out before anything is clamped: two sides, packing, balance. Forms and what is shown of them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from django import forms

from gyrocore import PackingPiece, PackingStack
from gyrodraw import OnPlate, Scene, SideBar, StackPiece, plate_view, sides_ruler, stack_view
from gyrometra.bridge.fields import LengthField
from gyrometra.crib.models import Fixture
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plan_form import PlanForm
from gyrometra.steps.shared.plan_view import plan_form
from gyroplan.assess import (
    Packed,
    Sides,
    Turning,
    packed_from,
    packing_of,
    reach_into,
    sides_of,
    turning_of,
    turns_heavy,
)
from gyroplan.assess.packing import MOST_KINDS
from gyroplan.record import BarRecord

#: So many masses can be given.
MASS_ROWS = 4


class SidesForm(PlanForm):
    """From two sides: how deep from this one, and by how much the other cuts past its end."""

    side_depth_mm = LengthField(label="Bored from this side to", required=False, help_text="blank: right through")
    overlap_mm = LengthField(label="Overlap of the two sides", positive=False, least=0)

    def clean(self) -> dict[str, Any]:
        """A side ends within the bore."""
        values = super().clean() or {}
        depth, length = values.get("side_depth_mm"), self.bore.length_mm
        if depth is not None and depth >= length:
            self.add_error("side_depth_mm", f"The bore is {self.units.plain(length)} long: a side ends before that, or "
                                            "is left blank for right through.")  # fmt: skip
        return values


class PackForm(PlanForm):
    """On packing: the height of the axis over the foot of the work, and how the table or saddle lies."""

    foot_mm = LengthField(label="Foot to bore axis", required=False)
    axis_allowed_mm = LengthField(label="Axis may lie off by", required=False, ask_over_mm=5,
                                  help_text="blank: what the stock covers")  # fmt: skip
    falls_mm = LengthField(label="Table or saddle falls to the front", required=False, positive=False, least=0,
                           ask_over_mm=5)  # fmt: skip
    falls_over_mm = LengthField(label="over, between the feet", required=False)


class BalanceForm(PlanForm):
    """What turns off the axis with the work, and where it can be countered."""

    plate_radius_mm = LengthField(label="Holes for a counterweight, off the axis", required=False)
    plate_holes = forms.IntegerField(label="Holes round the plate", min_value=3, max_value=72)
    weight_step_kg = forms.DecimalField(label="Least weight, kg", min_value=0, max_digits=7, decimal_places=3)
    force_limit_n = forms.DecimalField(
        label="Force allowed, N", min_value=1, required=False, max_digits=9, decimal_places=1,
        help_text="what is left unbalanced may pull",
    )  # fmt: skip
    not_stored = tuple(f"{name}_{row}" for row in range(MASS_ROWS) for name in ("what", "kg", "out", "at"))

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for row in range(MASS_ROWS):
            self.fields[f"what_{row}"] = forms.CharField(label=f"Mass {row + 1}, what", required=False, max_length=30)
            self.fields[f"kg_{row}"] = forms.DecimalField(
                label="kg", required=False, min_value=0, max_digits=8, decimal_places=3)  # fmt: skip
            out = LengthField(label="off the axis", required=False, positive=False, least=0)
            out.units = self.units
            self.fields[f"out_{row}"] = out
            self.fields[f"at_{row}"] = forms.DecimalField(
                label="degrees", required=False, min_value=0, max_value=360, max_digits=6, decimal_places=2
            )  # fmt: skip
            for name, words in (("what", "what"), ("kg", "kg"), ("out", "off axis"), ("at", "degrees")):
                self.fields[f"{name}_{row}"].widget.attrs["placeholder"] = words

    def initial_for(self) -> dict[str, Any]:
        """The masses too, as they are stored."""
        shown = super().initial_for()
        for row, one in enumerate(self.job.setup.plan.masses[:MASS_ROWS]):
            shown |= {f"what_{row}": one["name"], f"kg_{row}": f"{one['mass_kg']:g}",
                      f"out_{row}": self.units.plain(one["radius_mm"]),
                      f"at_{row}": f"{one['angle_deg']:g}"}  # fmt: skip
        return shown

    def mass_rows(self) -> Iterator[list[Any]]:
        """Bound fields, row by row; one empty row after those that are filled."""
        filled = sum(bool(self[f"kg_{row}"].value()) for row in range(MASS_ROWS))
        for row in range(min(filled + 1, MASS_ROWS)):
            yield [self[f"{name}_{row}"] for name in ("what", "kg", "out", "at")]

    def clean(self) -> dict[str, Any]:
        """A mass says how heavy it is, how far out, and where."""
        values = super().clean() or {}
        self.masses: list[dict[str, Any]] = []
        for row in range(MASS_ROWS):
            what, kg, out, at = (values.get(f"{name}_{row}") for name in ("what", "kg", "out", "at"))
            if kg is None and out is None and at is None and not what:
                continue
            wrong = f"kg_{row}" in self.errors or f"out_{row}" in self.errors or f"at_{row}" in self.errors
            if not wrong and (kg is None or kg == 0):
                self.add_error(f"kg_{row}", "How heavy is it, in kg? A mass needs its weight.")
            elif out is None and not wrong:
                self.add_error(
                    f"out_{row}", "How far off the axis does it lie? A mass without its radius pulls nowhere."
                )
            elif kg is not None and out is not None and not wrong:
                name = str(what or f"mass {row + 1}")
                if name in [one["name"] for one in self.masses]:
                    self.add_error(f"what_{row}", f"{name} stands here twice: give each its own name.")
                self.masses.append({"name": name, "mass_kg": float(kg), "radius_mm": float(out),
                                    "angle_deg": float(at or 0)})  # fmt: skip
        if values.get("weight_step_kg") == 0:
            self.add_error("weight_step_kg", "The least weight must be over 0 kg.")
        return values

    def plan_values(self) -> dict[str, Any]:
        """The masses too."""
        return {**super().plan_values(), "masses": self.masses}


FORMS: dict[str, type[PlanForm]] = {"sides": SidesForm, "packing": PackForm, "balance": BalanceForm}


@dataclass(frozen=True, slots=True, kw_only=True)
class SettingUp:
    """What follows for a set-up before anything is clamped; None where it does not arise."""

    sides: Sides | None
    packed: Packed | None
    turning: Turning | None
    #: Whether the work stands on a table or saddle whose axis height is known, and whether it turns unbalanced.
    is_packed: bool
    is_heavy: bool


def setting_up(page: JobPage) -> SettingUp:
    """Work it out."""
    at, crib = page.at, page.crib
    is_packed = at.setup.way.turns == "bar" and at.machine.axis_height_mm is not None
    # a signed job says nothing of what the crib has since
    asked = is_packed and at.plan.foot_mm is not None and not page.is_signed
    first = page.speeds.first_cut.value
    covers = None if first is None else max(0.0, first.smallest_mm + first.off_centre_mm)
    return SettingUp(
        sides=None if at.setup.only_trued else sides_of(at, at.bar or _deepest(page), page.boring.off_centre_mm),
        packed=packed_from(at, owned(crib.packing), covers) if asked else None, turning=turning_of(at),
        is_packed=is_packed, is_heavy=turns_heavy(at),
    )  # fmt: skip


def owned(rows: list[Fixture]) -> list[PackingPiece]:
    """The crib's packing for the core."""
    return [PackingPiece(name=one.name, height_mm=float(one.height_mm or 0), count=min(one.count, 6))
            for one in rows[:MOST_KINDS]]  # fmt: skip


def _deepest(page: JobPage) -> BarRecord | None:
    """While no bar is picked: the one of this method that enters and comes deepest."""
    entry, plan = page.at.narrowest_mm, page.at.plan
    if entry is None:
        return None
    fitting = [bar for bar in page.crib_bars if bar.method == page.at.setup.way.bars
               and max(bar.min_bore_mm, bar.diameter_mm + 2 * plan.chip_clearance_mm) <= entry]  # fmt: skip
    return max(fitting, default=None, key=lambda bar: reach_into(
        bar, entry_mm=entry, clear_mm=plan.clear_mm, chip_mm=plan.chip_clearance_mm).depth_mm)  # fmt: skip


def shown(page: JobPage, found: SettingUp, refused: tuple[str, PlanForm] | None = None) -> dict[str, Any]:
    """What the page prints: each question with its form, its drawing, its rows."""

    def form(what: str) -> PlanForm:
        return refused[1] if refused is not None and refused[0] == what else plan_form(page, FORMS[what])

    context: dict[str, Any] = {"found": found}
    if found.sides is not None:
        context |= {"sides_form": form("sides"), "sides_scene": _sides_scene(page, found.sides)}
    if found.is_packed:
        context |= {"pack_form": form("packing"), "stacks": _stacks(page, found.packed),
                    "pack_scene": _stack_scene(page, found.packed)}  # fmt: skip
    if found.is_heavy:
        context |= {"balance_form": form("balance"), "plate_scene": _plate_scene(page, found.turning)}
    return context


def _sides_scene(page: JobPage, sides: Sides) -> Scene | None:
    units, found = page.units, sides.found
    if found.depth_a_mm is None or found.depth_b_mm is None:
        return None
    own = page.record.setup.letter
    a = SideBar(letter=own, depth_mm=found.depth_a_mm, reach_mm=sides.reach.depth_mm,
                words=f"this side {units.length(found.depth_a_mm)}")  # fmt: skip
    overlap = units.length(sides.overlap_mm)
    b = SideBar(letter="B" if own == "A" else "A", depth_mm=found.depth_b_mm, reach_mm=sides.reach.depth_mm,
                words=f"the other side {units.length(found.depth_b_mm)}, overlap {overlap}")  # fmt: skip
    return sides_ruler(page.bore.length_mm, a, b if found.one_side_enough is None else None, 780.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class StackRow:
    """One stack in the list: its pieces, height, error, whether it is allowed."""

    words: str
    height: str
    error: str
    allowed: bool
    best: bool


def stack_words(stack: PackingStack) -> str:
    """`60 + 2 x 1.5`."""
    return " + ".join(f"{one.count} x {one.name}" if one.count > 1 else one.name for one in stack.stack)


def _stacks(page: JobPage, packed: Packed | None) -> list[StackRow]:
    units = page.units
    best = next((row for row in packed.rows if row.allowed), None) if packed else None
    return [
        StackRow(words=stack_words(row.stack), height=units.plain(row.stack.height_mm),
                 error=units.signed(row.stack.error_mm), allowed=row.allowed, best=row is best)
        for row in (packed.rows if packed else ())
    ]  # fmt: skip


def _stack_scene(page: JobPage, packed: Packed | None) -> Scene | None:
    standing, units = packing_of(page.at), page.units
    if packed is None or not packed.rows or standing is None or page.at.plan.foot_mm is None:
        return None
    heights = {one.name: one.height_mm for one in owned(page.crib.packing)}
    pieces = [StackPiece(height_mm=heights[one.name], words=one.name) for one in packed.rows[0].stack.stack
              for _ in range(one.count)]  # fmt: skip
    fixed = [StackPiece(height_mm=one.height_mm or 0.0, words=one.name) for one in standing.under
             if one.kind != "packing"]  # fmt: skip
    words = (units.plain(standing.axis_mm), units.plain(packed.rows[0].stack.height_mm),
             units.plain(page.at.plan.foot_mm))  # fmt: skip
    return stack_view([*fixed, *pieces], page.at.plan.foot_mm, standing.axis_mm, words)


def _plate_scene(page: JobPage, turning: Turning | None) -> Scene | None:
    if turning is None:
        return None
    plan = page.at.plan
    radius = plan.plate_radius_mm
    most = max([one.radius_mm for one in plan.masses] + ([radius] if radius else []) + [1e-9])
    things = [OnPlate(share=0.86 * one.radius_mm / most, angle_deg=one.angle_deg,
                      words=f"{one.name} {one.mass_kg:g} kg") for one in plan.masses]  # fmt: skip
    weights = turning.counter.weights if turning.counter else ()
    things += [OnPlate(share=0.86 * (radius or 0) / most, angle_deg=one.angle_deg, words=f"{one.mass_kg:g} kg",
                       is_weight=True) for one in weights]  # fmt: skip
    light = None if turning.heavy.angle_deg is None else (turning.heavy.angle_deg + 180) % 360
    return plate_view(things, plan.plate_holes if radius else None, 0.86 * (radius or 0) / most, light)

"""What is asked of a bush, or of a shaft, for a seat."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from django import forms

from gyrocore import InvalidInput, read_limits
from gyrometra.bridge.choices import ChoiceOfRow
from gyrometra.bridge.fields import LengthField, LimitsField, TypedForm
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Material
from gyrometra.jobs.models import Bush
from gyrometra.steps.page import JobPage
from gyroplan.assess import BushPlan, BushWork, Seat, ShaftPlan, ShaftWork, bush_plan, shaft_plan

#: Interference that is offered for a seat, as shares of its diameter (chosen here: a press that holds and goes in).
OFFERED_LEAST, OFFERED_MOST = 0.0004, 0.0009
#: Left in the bore until it is in place, on diameter (chosen here).
OFFERED_LEAVE_MM = 0.5


class BushForm(TypedForm):
    """The fit, the material, the bore wanted in place, the blank."""

    kind = forms.ChoiceField(label="What", choices=Bush.Kind.choices, initial=Bush.Kind.BUSH, required=False,
                             widget=forms.RadioSelect)  # fmt: skip
    least_mm = LengthField(label="Interference, least, on Ø", positive=False, ask_over_mm=2,
                           help_text="negative is clearance")  # fmt: skip
    most_mm = LengthField(label="Interference, most, on Ø", positive=False, ask_over_mm=2)
    fit_class = forms.CharField(
        label="Or by class", max_length=8, required=False, help_text="p6, s6, g6: of its outside"
    )
    material = ChoiceOfRow(
        Material.objects.filter(retired=False), label="Made of", to_field_name="name", empty_label=None
    )
    finish = LimitsField(label="Bore in place", help_text="54 H8: bored once it is pressed")
    leave_mm = LengthField(label="Left in it until pressed, on Ø", positive=False, least=0)
    length_mm = LengthField(label="Length")
    blank_outside_mm = LengthField(label="Blank, outside Ø", required=False)
    blank_inside_mm = LengthField(label="Blank, bore Ø", required=False, help_text="blank: solid bar")
    flange_mm = LengthField(label="Flange, how thick", required=False, help_text="blank: none")
    flange_diameter_mm = LengthField(label="Flange Ø", required=False)
    put_in = forms.ChoiceField(label="Put in", choices=Bush.PutIn.choices, widget=forms.RadioSelect)

    def __init__(self, *args: Any, page: JobPage, seat: Seat, bush: Bush | None = None, **kwargs: Any) -> None:
        self.page, self.seat, self.bush = page, seat, bush
        super().__init__(*args, units=page.units, **kwargs)
        self.made = self._kind()
        for name in BUSH_ONLY if self.made == Bush.Kind.SHAFT else ():
            del self.fields[name]
        self._take_class()
        if bush is not None:
            for name in self.lengths:
                value, typed = getattr(bush, name), bush.typed.get(name)
                self.stands(name, self.units.shown(value, typed), value, typed)

    def _kind(self) -> str:
        """What is asked: as sent, as it is stored, else a bush."""
        sent = self.data.get("kind") if self.is_bound else None
        kept = self.bush.kind if self.bush is not None else Bush.Kind.BUSH
        return str(sent if sent in Bush.Kind.values else kept)

    @property
    def lengths(self) -> list[str]:
        """The lengths that are asked."""
        return [name for name in LENGTHS if name in self.fields]

    @property
    def shown(self) -> list[Any]:
        """The fields in the order in which they stand; what it is and how it is put in stand by themselves."""
        return [self[name] for name in self.fields if name not in ("kind", "put_in")]

    def _take_class(self) -> None:
        """A class of the outside becomes the interference that it gives in this seat, and is not kept itself."""
        text = str(self.data.get("fit_class", "")).strip() if self.is_bound else ""
        self.class_error = ""
        if not text:
            return
        nominal = self.page.bore.nominal_mm or round((self.seat.smallest_mm + self.seat.largest_mm) / 2)
        try:
            limits = read_limits(f"{nominal:g} {text}")
        except InvalidInput:
            limits = None
        if limits is None or not limits.class_name or limits.class_name[0].isupper():
            self.class_error = f"{text} is no class of a shaft for {nominal:g}: type one like p6, r6 or s6."
            return
        given: Any = self.data
        posted = given.copy()
        posted["least_mm"] = self.units.planned(limits.lower_mm - self.seat.largest_mm)
        posted["most_mm"] = self.units.planned(limits.upper_mm - self.seat.smallest_mm)
        posted["fit_class"] = ""
        self.data = posted

    def clean(self) -> dict[str, Any]:
        """The bush can be made, and pressed."""
        values = super().clean() or {}
        self.plan: BushPlan | ShaftPlan | None = None
        values["kind"] = self.made
        if self.bush is not None and self.bush.job is not None and self.bush.kind != self.made:
            self.add_error("kind", f"Its job {self.bush.job.number} makes a {self.bush.get_kind_display()} already.")
        if self.class_error:
            self.add_error("fit_class", self.class_error)
        if self.errors:
            return values
        try:
            self.plan = plan_of(self.page, self.seat, work_of(values))
        except InvalidInput as error:
            self.refuse(error, {"inside_mm": "finish"}, "most_mm")
        return values

    def values(self) -> dict[str, Any]:
        """What is to be stored beside the limits of its bore."""
        kept = {name: self.cleaned_data[name] for name in (*self.lengths, "material", "put_in")}
        if self.made == Bush.Kind.SHAFT:  # what a bush that was asked for before it had is gone
            return {**kept, **_SOLID, "kind": self.made, "finish": ""}
        return {**kept, "kind": self.made, "finish": str(self.data.get("finish", "")).strip()}


LENGTHS = (
    "least_mm", "most_mm", "leave_mm", "length_mm", "blank_outside_mm", "blank_inside_mm", "flange_mm",
    "flange_diameter_mm",
)  # fmt: skip
_SOLID = {"leave_mm": Decimal(0), "blank_inside_mm": None, "flange_mm": None, "flange_diameter_mm": None}
#: What a solid shaft does not have.
BUSH_ONLY = ("finish", "leave_mm", "blank_inside_mm", "flange_mm", "flange_diameter_mm")


def work_of(values: dict[str, Any]) -> BushWork | ShaftWork:
    """What is asked, for the plan."""
    if values["kind"] == Bush.Kind.SHAFT:
        blank = values["blank_outside_mm"]
        return ShaftWork(
            least_mm=float(values["least_mm"]), most_mm=float(values["most_mm"]), length_mm=float(values["length_mm"]),
            material=values["material"].data, blank_outside_mm=None if blank is None else float(blank),
        )  # fmt: skip
    lengths = {name: None if values[name] is None else float(values[name]) for name in LENGTHS}
    return BushWork(**lengths, finish=values["finish"], material=values["material"].data)  # type: ignore[arg-type]


def stored_work(bush: Bush) -> BushWork | ShaftWork:
    """What is asked, as it is stored."""
    asked = {name: getattr(bush, name) for name in (*LENGTHS, "kind", "material")}
    if bush.finish_lower_mm is None or bush.finish_upper_mm is None:
        return work_of(asked)
    return work_of({**asked, "finish": read_limits(f"{float(bush.finish_lower_mm)}-{float(bush.finish_upper_mm)}")})


def plan_of(page: JobPage, seat: Seat, work: BushWork | ShaftWork) -> BushPlan | ShaftPlan:
    """The bush or shaft for the bore of a page."""
    outside = min((diameter for _, diameter in page.bore.outside_mm), default=None)
    if isinstance(work, ShaftWork):
        return shaft_plan(work, seat, page.record.material, outside)
    return bush_plan(work, seat, page.record.material, outside)


def initial_of(bush: Bush | None, seat: Seat, units: Units) -> dict[str, Any]:
    """As it is stored; else what is offered for this seat."""
    if bush is not None:
        shown = {name: units.shown(getattr(bush, name), bush.typed.get(name)) for name in LENGTHS}
        finish = units.limits_typed(bush.finish, bush.typed.get("finish")) if bush.finish else ""
        return {**shown, "kind": bush.kind, "finish": finish, "material": bush.material.name, "put_in": bush.put_in}
    middle = (seat.smallest_mm + seat.largest_mm) / 2
    return {
        "least_mm": units.planned(OFFERED_LEAST * middle), "most_mm": units.planned(OFFERED_MOST * middle),
        "leave_mm": units.plain(OFFERED_LEAVE_MM), "length_mm": units.plain(seat.depth_mm), "material": "bronze",
        "put_in": Bush.PutIn.PRESS,
    }  # fmt: skip

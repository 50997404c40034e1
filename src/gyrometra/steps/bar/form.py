"""Forms of Bar for each method of boring."""

from __future__ import annotations

import re
from typing import Any

from django import forms

from gyrocore import InvalidInput, error_sentence, line_bar_layout
from gyrometra.bridge.choices import ChoiceOfRow
from gyrometra.bridge.fields import LengthField
from gyrometra.bridge.units import Typed, to_decimal
from gyrometra.crib.models import Bar, Cutter, Head
from gyrometra.crib.records import bar_record
from gyrometra.steps.shared.plan_form import PlanForm
from gyroplan.assess import bar_in_line, bores_in_line, reach_of


class BarForm(PlanForm):
    """Reach, allowed spring, bar and cutter."""

    overrun_mm = LengthField(label="Past the far end", positive=False, least=0)
    clear_mm = LengthField(label="Clear of the holder", positive=False, least=0)
    chip_clearance_mm = LengthField(label="Chip clearance per side", positive=False, least=0)
    budget_mm = LengthField(label="Allowed deflection, on radius", required=False)
    #: The same as the clearance, said as the whole overhang: what a hand drags the bar to.
    out_mm = LengthField(label="Bar overhang", required=False)
    bar = ChoiceOfRow(Bar.objects.filter(retired=False), label="Bar", required=False)
    opening_bar = ChoiceOfRow(
        Bar.objects.filter(retired=False), label="Roughed with", required=False, empty_label="the same bar"
    )
    cutter = ChoiceOfRow(Cutter.objects.filter(retired=False), label="Cutter", required=False)
    not_stored = ("out_mm",)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        reach = reach_of(self.at).value
        self.fields["budget_mm"].widget.attrs["placeholder"] = self.units.fine(self.at.budget_mm)
        self.shown_out = self.units.length(reach.reach_mm) if reach else ""

    def initial_for(self) -> dict[str, Any]:
        """The overhang as it follows from its parts."""
        return {**super().initial_for(), "out_mm": self.shown_out}

    def _settle_out(self, values: dict[str, Any]) -> None:
        """An overhang that was changed changes the clearance of the holder; never into the work."""
        out = values.pop("out_mm", None)
        if out is None or str(self.data.get("out_mm", "")).strip() == self.shown_out:
            return
        overrun = 0 if self.bore.stops_the_cutter or self.at.is_one_side else values["overrun_mm"]
        bored = to_decimal(self.at.bored_mm)
        clear = out - bored - overrun
        if clear < 0:
            least = self.units.plain(bored + overrun)
            self.add_error("out_mm", f"The bar must hang out {least} at least to bore through; "
                                     f"{self.data['out_mm']} was given.")  # fmt: skip
            return
        values["clear_mm"] = clear

    def typed(self) -> dict[str, Typed]:
        """Without the overhang, which is not kept; without the clearance, where the overhang set it."""
        kept = super().typed()
        kept.pop("out_mm", None)
        shown = str(self.data.get("clear_mm", ""))
        if "clear_mm" in kept and self.cleaned_data.get("clear_mm") != self._read(shown):
            kept.pop("clear_mm")
        return kept

    def _read(self, text: str) -> Any:
        try:
            return self.units.read(text)
        except InvalidInput:
            return None

    def clean(self) -> dict[str, Any]:
        """The core refuses an overrun past the room behind."""
        values = super().clean() or {}
        if self.errors:
            return values
        self._settle_out(values)
        if self.errors:
            return values
        self.cleaned_data = values
        reach = reach_of(self.trial())
        if reach.refused is not None:
            self.refuse(reach.refused, {})
        if not self.errors:
            self.guard_cutter(values)
        return values


class HeadBarForm(BarForm):
    """As for a bar in a holder, with the boring head that holds it."""

    head = ChoiceOfRow(Head.objects.filter(retired=False), label="Boring head", required=False)


class LineBarForm(PlanForm):
    """Bar in bearings: where the bearings stand, allowed spring, bar and cutter."""

    bearings_mm = forms.CharField(
        label="Bearings at", required=False, max_length=200, help_text="from the open face of the first bore: -80; 1280"
    )
    budget_mm = LengthField(label="Allowed deflection, on radius", required=False)
    chip_clearance_mm = LengthField(label="Chip clearance per side", positive=False, least=0)
    overrun_mm = LengthField(label="Past the far end", positive=False, least=0)
    foot_mm = LengthField(label="Foot of the work to bore axis", required=False, help_text="for the packing")
    bar = ChoiceOfRow(Bar.objects.filter(retired=False), label="Bar", required=False)
    opening_bar = ChoiceOfRow(
        Bar.objects.filter(retired=False), label="Roughed with", required=False, empty_label="the same bar"
    )
    cutter = ChoiceOfRow(Cutter.objects.filter(retired=False), label="Cutter", required=False)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        if self.at.machine.axis_height_mm is None:
            del self.fields["foot_mm"]
        self.fields["budget_mm"].widget.attrs["placeholder"] = self.units.fine(self.at.budget_mm)

    def initial_for(self) -> dict[str, Any]:
        """The bearings as typed while that still means the same."""
        return {**super().initial_for(), "bearings_mm": self._bearings_shown()}

    def _bearings_shown(self) -> str:
        plan = self.job.setup.plan
        kept = plan.typed.get("bearings_mm")
        if kept and kept["unit"] == self.units.unit:
            return str(kept["text"])
        return "; ".join(self.units.plain(place) for place in plan.bearings_mm)

    def clean_bearings_mm(self) -> list[float]:
        """Places apart by a semicolon, or by a comma with a space; each as lengths are written."""
        text = str(self.cleaned_data["bearings_mm"])
        if text == self._bearings_shown():
            return list(self.job.setup.plan.bearings_mm)
        places = []
        for piece in re.split(r";|,\s+|\s+and\s+", text):
            if not piece.strip():
                continue
            try:
                places.append(float(self.units.read(piece.strip())))
            except InvalidInput as error:
                raise forms.ValidationError(error_sentence(error, self.units.unit)) from None
        return places

    def typed(self) -> dict[str, Typed]:
        """The bearings too."""
        text = str(self.data.get("bearings_mm", "")).strip()
        kept = super().typed()
        before = self.job.setup.plan.typed.get("bearings_mm")
        if text and text == self._bearings_shown():
            return {**kept, "bearings_mm": before} if before else kept
        return {**kept, "bearings_mm": {"text": text, "unit": self.units.unit}} if text else kept

    def clean(self) -> dict[str, Any]:
        """The core refuses bearings too few, doubled or inside a bore."""
        values = super().clean() or {}
        places, bar = values.get("bearings_mm"), values.get("bar")
        if not self.errors:
            self.guard_cutter(values)
        if self.errors or not places or bar is None:
            return values
        try:
            bores = bores_in_line(self.at, places)
            line_bar_layout(bar=bar_in_line(bar_record(bar)), bores=bores, bearings_mm=places)
        except InvalidInput as error:
            self.add_error("bearings_mm", error_sentence(error, self.units.unit, "bearings"))
        return values


class PilotBarForm(LineBarForm):
    """As in bearings; the guides are bores already cut, with play."""

    guide_play_mm = LengthField(label="Play in the guides, on diameter", positive=False, least=0, required=False)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["bearings_mm"].label = "Guided at"


class CentresBarForm(PlanForm):
    """Bar between centres: the work on the saddle, what driver and tail take, bar and cutter."""

    bar = ChoiceOfRow(Bar.objects.filter(retired=False), label="Bar", required=False)
    opening_bar = ChoiceOfRow(
        Bar.objects.filter(retired=False), label="Roughed with", required=False, empty_label="the same bar"
    )
    cutter = ChoiceOfRow(Cutter.objects.filter(retired=False), label="Cutter", required=False)
    work_length_mm = LengthField(label="Length of the work", required=False, help_text="empty: as far as its bores go")
    foot_mm = LengthField(label="Foot of the work to bore axis", required=False, help_text="for the packing")
    driver_mm = LengthField(label="Driver takes", positive=False, least=0)
    tail_mm = LengthField(label="Tail centre takes", positive=False, least=0)
    overrun_mm = LengthField(label="Clear past both ends", positive=False, least=0)
    budget_mm = LengthField(label="Allowed deflection, on radius", required=False)
    chip_clearance_mm = LengthField(label="Chip clearance per side", positive=False, least=0)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        if self.at.machine.axis_height_mm is None:
            del self.fields["foot_mm"]
        self.fields["budget_mm"].widget.attrs["placeholder"] = self.units.fine(self.at.budget_mm)

    def clean(self) -> dict[str, Any]:
        """The bores lie within the work."""
        values = super().clean() or {}
        if not self.errors:
            self.guard_cutter(values)
        length, end = values.get("work_length_mm"), max(bore.end_mm for bore in self.at.setup.bores)
        if length is not None and float(length) < end - 1e-9:
            self.add_error("work_length_mm", f"Its bores reach to {self.units.plain(end)}; a work of "
                                             f"{self.units.plain(length)} {self.units.label} was given.")  # fmt: skip
        return values


#: The Bar form of each way of boring.
BAR_FORMS: dict[str, type[PlanForm]] = {
    "lathe-bar": BarForm, "head": HeadBarForm, "line": LineBarForm, "stand": BarForm, "centres": CentresBarForm,
    "pilot": PilotBarForm,
}  # fmt: skip

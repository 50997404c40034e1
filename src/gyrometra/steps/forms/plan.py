"""Forms of the plan: Bar and Cuts."""

from __future__ import annotations

import re
from datetime import date
from decimal import Decimal
from typing import Any

from django import forms

from gyrocore import (
    InvalidInput,
    error_sentence,
    line_bar_layout,
    pass_plan,
    reach_needed,
)
from gyrometra.bridge.fields import LengthField, TypedForm
from gyrometra.bridge.units import Typed
from gyrometra.crib.models import Bar, Cutter, Head
from gyrometra.cutting.ledger import why_not_shared_anew
from gyrometra.jobs.in_bearings import bar_in_line
from gyrometra.jobs.models import Bore
from gyrometra.jobs.reckon import Reckoning


class PlanForm(TypedForm):
    """A part of the plan; the fields that are shown are the ones that are written."""

    def __init__(self, *args: Any, bore: Bore, **kwargs: Any) -> None:
        self.bore, self.job = bore, bore.setup.job
        super().__init__(*args, **kwargs)

    def initial_for(self) -> dict[str, Any]:
        """Stored values, as typed where that still means the same."""
        plan = self.job.setup.plan
        shown: dict[str, Any] = {}
        for name, field in self.fields.items():
            value = getattr(plan, name)
            if isinstance(field, LengthField):
                value = self.units.shown(value, plan.typed.get(name))
            elif isinstance(value, date):
                value = value.isoformat()
            elif isinstance(value, Decimal):
                value = f"{value.normalize():f}"
            shown[name] = getattr(value, "pk", value)
        return shown

    def trial(self) -> Reckoning:
        """The plan with these values, not stored: so that the core can refuse them."""
        for name, value in self.cleaned_data.items():
            setattr(self.job.setup.plan, name, value)
        return Reckoning(self.job, self.bore)


class BarForm(PlanForm):
    """Reach, allowed spring, bar and cutter."""

    overrun_mm = LengthField(label="Past the far end", positive=False, least=0)
    clear_mm = LengthField(label="Clear of the holder", positive=False, least=0)
    chip_clearance_mm = LengthField(label="Room for chips", positive=False, least=0)
    budget_mm = LengthField(label="Allowed spring, on radius", required=False)
    bar = forms.ModelChoiceField(Bar.objects.filter(retired=False), label="Bar", required=False)
    cutter = forms.ModelChoiceField(Cutter.objects.filter(retired=False), label="Cutter", required=False)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        allowed = Reckoning(self.job, self.bore).budget_mm
        self.fields["budget_mm"].widget.attrs["placeholder"] = self.units.fine(allowed)

    def clean(self) -> dict[str, Any]:
        """The core refuses an overrun past the room behind."""
        values = super().clean() or {}
        if self.errors:
            return values
        room = self.job.setup.room_behind_mm
        try:
            reach_needed(
                bore_length_mm=float(self.bore.length_mm),
                overrun_mm=0.0 if self.bore.stops_the_cutter else float(values["overrun_mm"]),
                clear_mm=float(values["clear_mm"]),
                room_behind_mm=None if room is None else float(room),
            )
        except InvalidInput as error:
            self.refuse(error, {})
        return values


class HeadBarForm(BarForm):
    """As for a bar in a holder, with the boring head that holds it."""

    head = forms.ModelChoiceField(Head.objects.filter(retired=False), label="Boring head", required=False)


class LineBarForm(PlanForm):
    """Bar in bearings: where the bearings stand, allowed spring, bar and cutter."""

    bearings_mm = forms.CharField(
        label="Bearings at", required=False, max_length=200, help_text="from the open face of the first bore: -80; 1280"
    )
    budget_mm = LengthField(label="Allowed spring, on radius", required=False)
    chip_clearance_mm = LengthField(label="Room for chips", positive=False, least=0)
    overrun_mm = LengthField(label="Past the far end", positive=False, least=0)
    bar = forms.ModelChoiceField(Bar.objects.filter(retired=False), label="Bar", required=False)
    cutter = forms.ModelChoiceField(Cutter.objects.filter(retired=False), label="Cutter", required=False)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        allowed = Reckoning(self.job, self.bore).budget_mm
        self.fields["budget_mm"].widget.attrs["placeholder"] = self.units.fine(allowed)

    def initial_for(self) -> dict[str, Any]:
        """The bearings as typed while that still means the same."""
        shown = super().initial_for()
        kept = self.job.setup.plan.typed.get("bearings_mm")
        places = "; ".join(self.units.plain(place) for place in self.job.setup.plan.bearings_mm)
        shown["bearings_mm"] = kept["text"] if kept and kept["unit"] == self.units.unit else places
        return shown

    def clean_bearings_mm(self) -> list[float]:
        """Places apart by a semicolon, or by a comma with a space; each as lengths are written."""
        text = str(self.cleaned_data["bearings_mm"])
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
        return {**kept, "bearings_mm": {"text": text, "unit": self.units.unit}} if text else kept

    def clean(self) -> dict[str, Any]:
        """The core refuses bearings too few, doubled or inside a bore."""
        values = super().clean() or {}
        places, bar = values.get("bearings_mm"), values.get("bar")
        if self.errors or not places or bar is None:
            return values
        try:
            bores = [bore.in_line for bore in self.job.setup.bores.all()]
            line_bar_layout(bar=bar_in_line(bar), bores=bores, bearings_mm=places)
        except InvalidInput as error:
            self.add_error("bearings_mm", error_sentence(error, self.units.unit, "bearings"))
        return values


#: The Bar form of each way of boring.
BAR_FORMS: dict[str, type[PlanForm]] = {
    "lathe-bar": BarForm, "head": HeadBarForm, "line": LineBarForm, "stand": BarForm,
}  # fmt: skip


class CutsForm(PlanForm):
    """Cutter, speeds, feeds, depths and passes."""

    cutter = forms.ModelChoiceField(Cutter.objects.filter(retired=False), label="Cutter", required=False)
    rough_speed_m_min = forms.DecimalField(
        label="Roughing, m/min", required=False, min_value=Decimal("0.1"), max_value=2000
    )
    finish_speed_m_min = forms.DecimalField(
        label="Finishing, m/min", required=False, min_value=Decimal("0.1"), max_value=2000
    )
    max_rpm = forms.IntegerField(label="Cap, rpm", required=False, min_value=1, max_value=20000)
    rough_feed_mm_rev = LengthField(label="Roughing feed a turn")
    finish_feed_mm_rev = LengthField(label="Finishing feed a turn")
    rough_depth_mm = LengthField(label="Roughing depth at most")
    finish_depth_mm = LengthField(label="Finishing depth")
    finish_passes = forms.IntegerField(label="Finish passes", min_value=1, max_value=9)
    spring_passes = forms.IntegerField(label="Spring passes", min_value=0, max_value=5)
    test_leave_mm = LengthField(label="Test cut short by, on diameter", required=False)
    hone_allowance_mm = LengthField(label="Left for honing, on diameter", positive=False, least=0)
    rest_until = forms.DateField(
        label="Rests after roughing until",
        required=False,
        widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
    )

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        known = Reckoning(self.job, self.bore)
        for stage in ("rough", "finish"):
            speed = known.surface_speed(stage)
            self.fields[f"{stage}_speed_m_min"].widget.attrs["placeholder"] = f"{speed:g}" if speed else ""
        self.fields["max_rpm"].widget.attrs["placeholder"] = f"{known.cap_rpm:g}" if known.cap_rpm else ""
        self.fields["test_leave_mm"].widget.attrs["placeholder"] = "none"

    _FIELDS = {
        "min_depth_mm": "cutter",
        "spindle_speeds_rpm": "max_rpm",
        "surface_speed_m_min": "rough_speed_m_min",
        "start_diameter_mm": "rough_depth_mm",
        "aim_diameter_mm": "rough_depth_mm",
    }

    #: What shares the stock out: fixed once a pass has been set, since the log counts passes.
    _SHARING = (
        "rough_depth_mm",
        "finish_depth_mm",
        "finish_passes",
        "spring_passes",
        "test_leave_mm",
        "hone_allowance_mm",
    )

    def _refuse_what_is_cut(self, values: dict[str, Any]) -> None:
        """Depths of passes that are cut cannot be planned anew."""
        plan = self.job.setup.plan
        changed = [name for name in self._SHARING if name in values and values[name] != getattr(plan, name)]
        why = why_not_shared_anew(self.job.setup) if changed else ""
        if why:
            self.add_error(changed[0], why)

    def _guard_rest(self, until: date | None) -> None:
        """The rest must end before the work is due."""
        due = self.job.due_on
        if until is not None and due is not None and until > due:
            self.add_error("rest_until", f"It would rest until {until:%d %b %Y}, but the work is due {due:%d %b %Y}.")

    def clean(self) -> dict[str, Any]:
        """The core refuses passes that rub, and a cap under every speed."""
        values = super().clean() or {}
        self._refuse_what_is_cut(values)
        self._guard_rest(values.get("rest_until"))
        if self.errors or not self.bore.found.all():
            return values
        trial = self.trial()
        try:
            if trial.start_mm is not None:
                pass_plan(
                    start_diameter_mm=trial.start_mm,
                    aim_diameter_mm=trial.bore.aim_mm,
                    rules=trial.rules,
                )
        except InvalidInput as error:
            self.refuse(error, self._FIELDS, "rough_depth_mm")
            return values
        _ = (trial.rough_speed, trial.finish_speed)
        for problem in trial.problems.values():
            self.refuse(problem, self._FIELDS, "max_rpm")
        return values

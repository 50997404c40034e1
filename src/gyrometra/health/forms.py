"""What is typed of a check, of a change, of a limit."""

from __future__ import annotations

from datetime import date
from decimal import Decimal
from typing import Any

from django import forms
from django.utils.timezone import localdate

from gyrometra.bridge.choices import ChoiceOfRow
from gyrometra.bridge.fields import LengthField, TypedForm
from gyrometra.crib.models import Indicator
from gyrometra.health.models import MachineCheck
from gyroplan.machine import Asked, Kind

#: A reading of a machine past this is asked with its unit: 2 on an inch page is hardly two inches.
_ASK_OVER_MM = 2.0
_EARLIEST = date(1990, 1, 1)


class DayForm(TypedForm):
    """On which day, and words."""

    client_id = forms.UUIDField(widget=forms.HiddenInput)
    day = forms.DateField(label="Day", widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"))
    note = forms.CharField(label="Remark", required=False, max_length=200)

    def clean_day(self) -> date:
        """Not to come, and not before there was anything to log."""
        day: date = self.cleaned_data["day"]
        if not _EARLIEST <= day <= localdate():
            raise forms.ValidationError(f"The day is {_EARLIEST:%d %b %Y} to today; {day:%d %b %Y} was given.")
        return day


class CheckForm(DayForm):
    """One check of a machine: what its kind asks."""

    indicator = ChoiceOfRow(
        Indicator.objects.filter(retired=False), label="Indicator", required=False, empty_label="not said"
    )
    field_order = ("client_id",)

    def __init__(self, *args: Any, kind: Kind, **kwargs: Any) -> None:
        self.kind = kind
        super().__init__(*args, **kwargs)

    def get_initial_for_field(self, field: forms.Field, field_name: str) -> Any:
        """Today, unless another day is given."""
        return super().get_initial_for_field(field, field_name) or (localdate() if field_name == "day" else None)

    def clean(self) -> dict[str, Any]:
        """Far lies beyond near."""
        values = super().clean() or {}
        near, far = values.get("near_mm"), values.get("far_mm")
        if near is not None and far is not None and far <= near:
            self.add_error("far_mm", f"Far lies beyond near, {self.units.length(near)}; "
                                     f"{self.units.length(far)} was given.")  # fmt: skip
        return values

    def readings(self) -> dict[str, float]:
        """What was read, by name."""
        return {one.name: float(self.cleaned_data[one.name]) for one in self.kind.asked}

    @property
    def asked_fields(self) -> list[Any]:
        """The fields of the kind, in their order."""
        return [self[one.name] for one in self.kind.asked]


def check_form(kind: Kind) -> type[CheckForm]:
    """The form of a kind of check."""
    fields: dict[str, Any] = {one.name: _field(one) for one in kind.asked}
    return type(f"Check{kind.key.title()}Form", (CheckForm,), fields)


def _field(asked: Asked) -> forms.Field:
    missing = {"required": f"{asked.label} is missing."}
    if asked.kind == "angle":
        return forms.DecimalField(
            label=asked.label, min_value=0, max_value=360, max_digits=5, decimal_places=1, error_messages=missing,
            widget=forms.TextInput(attrs={"inputmode": "decimal"}),
        )  # fmt: skip
    if asked.kind == "distance":
        return LengthField(label=asked.label, error_messages=missing)
    least = 0.0 if asked.kind == "swing" else None
    return LengthField(label=asked.label, positive=False, least=least, ask_over_mm=_ASK_OVER_MM, error_messages=missing)


class ChangedForm(DayForm):
    """What was changed of a machine."""

    changed = forms.ChoiceField(label="What", choices=MachineCheck.Changed.choices)


class LimitForm(TypedForm):
    """What is allowed of a check, and how often it is due."""

    limit_mm = LengthField(label="Limit", required=False, ask_over_mm=_ASK_OVER_MM)
    every_days = forms.IntegerField(label="Every so many days", required=False, min_value=1, max_value=3650)

    def limit(self) -> Decimal | None:
        """The limit [mm]."""
        found: Decimal | None = self.cleaned_data["limit_mm"]
        return found

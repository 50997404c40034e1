"""Forms of bore gauges and indicators."""

from __future__ import annotations

import re
from typing import Any

from django import forms

from gyrometra.bridge.fields import LengthField
from gyrometra.crib.forms.base import CribForm, lines_field, read_length
from gyrometra.crib.models import Gauge, Indicator


def _day(label: str) -> forms.DateField:
    return forms.DateField(label=label, required=False, widget=forms.DateInput(attrs={"type": "date"}))


class GaugeForm(CribForm):
    """A bore gauge."""

    model = Gauge
    kind = forms.ChoiceField(label="Kind", choices=Gauge.Kind.choices, initial=Gauge.Kind.TWO_POINT, required=False)
    range_low_mm = LengthField(label="Measures from", help_text="of a plug its go side, of a ring its no-go side")
    range_high_mm = LengthField(label="Measures to", help_text="of a plug its no-go side, of a ring its go side")
    resolution_mm = LengthField(label="Reads to (one step)")
    error_limit_mm = LengthField(label="Error limit, either way", positive=False, least=0)
    single_sd_mm = LengthField(label="Repeatability of one reading (s)", required=False)
    repeats_mm = lines_field("Repeatability by person", "One a line: sign-in name, s of one reading. corin 0.002")
    rods_mm = lines_field("Rods and nibs", "One a line: name, what it adds as measured. 50 50.003")
    correction_mm = LengthField(
        label="Standing correction, added", required=False, positive=False,
        help_text="nibs, rods, zero error; worn go side of a plug -0.002, of a ring 0.002",
    )  # fmt: skip
    reach_mm = LengthField(label="Measures as deep as", required=False, help_text="empty: any depth")
    serial = forms.CharField(label="Serial number", required=False, max_length=40)
    certificate = forms.CharField(label="Certificate", required=False, max_length=60)
    certified_on = _day("Certificate dated")
    due_on = _day("Next check due")

    def clean(self) -> dict[str, Any]:
        """From under to."""
        values = super().clean() or {}
        low, high = values.get("range_low_mm"), values.get("range_high_mm")
        if low is not None and high is not None and high <= low:
            self.add_error("range_high_mm", "The range ends where it begins or below; the larger size comes last.")
        if values.get("correction_mm") is None:
            values["correction_mm"] = 0
        values["kind"] = values.get("kind") or Gauge.Kind.TWO_POINT
        return values

    def clean_repeats_mm(self) -> dict[str, float]:
        """A person and their scatter a line."""
        return self._named("repeats_mm", "scatter", "corin 0.002")

    def clean_rods_mm(self) -> dict[str, float]:
        """A rod and its length a line."""
        return self._named("rods_mm", "length", "50 50.003")

    def _named(self, field: str, what: str, like: str) -> dict[str, float]:
        """Lengths by name, one a line."""
        found: dict[str, float] = {}
        for line in re.split(r"[;\n]", str(self.cleaned_data[field])):
            if not line.strip():
                continue
            name, _, text = line.strip().partition(" ")
            if not text.strip():
                raise forms.ValidationError(f"{line.strip()} has no figure. Type name and {what}, like {like}.")
            found[name] = read_length(text.strip(), self.units, what)
        return found


class IndicatorForm(CribForm):
    """A dial or lever indicator."""

    model = Indicator
    step_mm = LengthField(label="One division")
    range_mm = LengthField(label="Range, either way")
    per_turn = forms.IntegerField(
        label="Divisions a turn of the hand", required=False, min_value=2, max_value=1000,
        help_text="for readings by its revolution counter: 2t 15",
    )  # fmt: skip
    serial = forms.CharField(label="Serial number", required=False, max_length=40)
    certificate = forms.CharField(label="Certificate", required=False, max_length=60)
    certified_on = _day("Certificate dated")
    due_on = _day("Next check due")

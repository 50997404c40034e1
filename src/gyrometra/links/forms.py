"""What is said of a gauge when it is linked."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from django import forms

from gyrometra.bridge.fields import LengthField, TypedForm
from gyrometra.crib.models import Gauge, Indicator


class RingForm(TypedForm):
    """The ring that a comparing bore gauge is set to; one that shows the size itself, and an indicator, have none."""

    set_mm = LengthField(label="It shows how far it is off a ring of Ø", required=False)

    def __init__(self, *args: Any, gauge: Gauge | Indicator, **kwargs: Any) -> None:
        self.gauge = gauge
        super().__init__(*args, **kwargs)
        if not isinstance(gauge, Gauge):
            self.fields["set_mm"].widget = forms.HiddenInput()

    def clean_set_mm(self) -> Decimal | None:
        """A ring that the gauge can stand in."""
        size: Decimal | None = self.cleaned_data["set_mm"]
        if size is None or not isinstance(self.gauge, Gauge):
            return None
        low, high = self.gauge.range_low_mm, self.gauge.range_high_mm
        if not low <= size <= high:
            words = self.units.plain
            raise forms.ValidationError(
                f"{self.gauge.name} measures {words(low)} to {words(high)} {self.units.label}; {words(size)} was given."
            )
        return size

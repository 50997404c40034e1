"""Forms of the cutting log: a setting, a cut, a size, a remark."""

from __future__ import annotations

from typing import Any

from django import forms

from gyrometra.cutting.models import CutEntry
from gyrometra.steps.shared.entries import EntryForm, SizeEntryForm, TemperatureForm


class PassSizeForm(TemperatureForm, SizeEntryForm):
    """A size after a pass."""


class ActForm(EntryForm):
    """A tap on the pass in hand."""

    number = forms.IntegerField(min_value=1, max_value=999)
    through = forms.IntegerField(min_value=1, max_value=999, required=False)
    actual = forms.CharField(max_length=60, required=False)


class DivisionForm(EntryForm):
    """A number on the dial: touched off there, or turned there."""

    at_division = forms.DecimalField(
        min_value=0, max_value=9999, max_digits=10, decimal_places=4, required=False,
        error_messages={"invalid": "The number under the dial's mark is a figure like 40 or 40.5."},
    )  # fmt: skip


class SeenForm(EntryForm):
    """Chips, coolant, the edge, or words on a pass: one of them at a time."""

    number = forms.IntegerField(min_value=1, max_value=999)
    chips = forms.ChoiceField(choices=CutEntry.Chips.choices, required=False)
    coolant = forms.ChoiceField(choices=CutEntry.Coolant.choices, required=False)
    edge = forms.ChoiceField(choices=CutEntry.Edge.choices, required=False)
    words = forms.CharField(max_length=60, required=False)

    def clean(self) -> dict[str, Any]:
        """Something is said."""
        values = super().clean() or {}
        if not self.errors and not any(values.get(name) for name in ("chips", "coolant", "edge", "words")):
            self.add_error("words", "Type the remark, or tap what was seen.")
        return values


class RemarkForm(EntryForm):
    """How a pass sounded and looked."""

    number = forms.IntegerField(min_value=1, max_value=999)
    sound = forms.ChoiceField(choices=CutEntry.Sound.choices)
    look = forms.ChoiceField(choices=CutEntry.Look.choices)

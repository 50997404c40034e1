"""What is said of a noise: a recording, or its pitch by ear; and what was changed against it."""

from __future__ import annotations

from typing import Any

from django import forms

from gyrometra.cutting.models import CutEntry
from gyrometra.steps.shared.entries import EntryForm

#: What can be changed, as it is logged.
CHANGES = {
    "speed": "Speed", "feed": "Feed", "shallower": "Depth", "deeper": "Deeper cut", "shorter": "Overhang",
    "nose": "Nose", "bar": "Bar", "bearing": "Bearing", "support": "Support", "damper": "Damper", "other": "Other",
}  # fmt: skip
PITCHES = [("high", "high, a squeal"), ("low", "low, a rumble")]


class HearForm(EntryForm):
    """A recording, or by ear."""

    number = forms.IntegerField(min_value=1, max_value=999)
    pitch = forms.ChoiceField(choices=PITCHES, required=False)
    wav = forms.FileField(required=False)

    def clean(self) -> dict[str, Any]:
        """One of the two."""
        values = super().clean() or {}
        if not values.get("wav") and not values.get("pitch") and not self.errors:
            self.add_error("wav", "Record the cut, choose a WAV, or say whether it is high or low.")
        return values


class TriedForm(EntryForm):
    """What was changed, and how it sounds since; more than one change at once says nothing of each."""

    number = forms.IntegerField(min_value=1, max_value=999)
    changed = forms.MultipleChoiceField(
        choices=list(CHANGES.items()), error_messages={"required": "What was changed? Tick it, then its outcome."}
    )
    sound = forms.ChoiceField(choices=CutEntry.Sound.choices, error_messages={"required": "How does it sound now?"})
    words = forms.CharField(max_length=60, required=False)
    #: Of a damper: how many turns out it stood.
    turns = forms.DecimalField(min_value=0, max_value=20, max_digits=6, decimal_places=3, required=False)


class StandsForm(forms.Form):
    """Where a damper stands, turns out."""

    turns = forms.DecimalField(
        min_value=0, max_value=20, max_digits=6, decimal_places=3,
        error_messages={"required": "Type how many turns out it stands.",
                        "invalid": "Turns are a figure like 1.5."},
    )  # fmt: skip

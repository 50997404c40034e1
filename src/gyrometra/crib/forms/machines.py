"""The form of a machine."""

from __future__ import annotations

import re
from decimal import Decimal
from typing import Any

from django import forms

from gyrometra.bridge.fields import LengthField
from gyrometra.crib.forms.base import CribForm, read_lengths
from gyrometra.crib.models import Machine, Numbers, Reads

_SPEED = re.compile(r"^(?:(?P<lever>[A-Za-z0-9]+(?:-[A-Za-z0-9]+)?)\s*[=:\s]\s*)?(?P<rpm>\d+(?:\.\d+)?)$")
_RANGE = re.compile(r"^(?P<low>\d+(?:\.\d+)?)\s*(?:-|to)\s*(?P<high>\d+(?:\.\d+)?)$")


class MachineForm(CribForm):
    """A machine that bores."""

    model = Machine
    folded = ("cuts_large_mm", "shoes", "power_kw", "torque_nm", "feeds_mm_rev", "travel_mm", "centres_mm",
              "axis_height_mm", "backlash_divisions", "screw_pitch_mm", "table_division_mm", "table_divisions_per_turn",
              "table_backlash_divisions")  # fmt: skip
    kind = forms.ChoiceField(label="Kind", choices=Machine.Kind.choices, initial=Machine.Kind.LATHE)
    speeds = forms.CharField(
        label="Spindle speeds with lever positions",
        widget=forms.Textarea(attrs={"rows": 5}),
        error_messages={"required": "A machine without speeds cannot be planned for. Type one a line: A-1 45."},
        help_text="One a line: lever, then rpm. A-1 45. Stepless: from and to, 60-2000",
    )
    division_mm = LengthField(
        label="Cross-slide, one division", required=False, help_text="0.02, or 1 thou; a lathe needs it"
    )
    divisions_per_turn = forms.IntegerField(label="Divisions a turn", required=False, min_value=1, max_value=2000)
    dial_reads = forms.ChoiceField(label="The dial reads", choices=Reads.choices)
    dial_numbers = forms.ChoiceField(
        label="Winding out, its numbers", choices=Numbers.choices, initial=Numbers.RISE, required=False
    )
    unbalanced_max_rpm = forms.IntegerField(
        label="Largest speed for unbalanced work, rpm", required=False, min_value=1, max_value=20000
    )

    cuts_large_mm = LengthField(
        label="Bar cuts oversize by, on diameter", required=False, positive=False,
        help_text="a boring stand's habit; small is negative",
    )  # fmt: skip
    shoes = forms.ChoiceField(label="Centring shoes", choices=Machine.Shoes.choices, required=False)
    power_kw = forms.DecimalField(
        label="Power at the spindle, kW", required=False, min_value=Decimal("0.01"), max_value=500, max_digits=7,
        decimal_places=3,
    )  # fmt: skip
    torque_nm = forms.DecimalField(
        label="Max torque, N m", required=False, min_value=Decimal("0.1"), max_value=100_000, max_digits=9,
        decimal_places=2,
    )  # fmt: skip
    feeds_mm_rev = forms.CharField(
        label="Feeds per rev", required=False, max_length=300, help_text="0.05; 0.08; 0.1. Empty: any feed"
    )
    travel_mm = LengthField(label="Saddle or feed travels", required=False)
    centres_mm = LengthField(label="Max between centres", required=False, help_text="a lathe's")
    axis_height_mm = LengthField(
        label="Axis over table or saddle", required=False, help_text="for the packing under the work"
    )
    backlash_divisions = forms.DecimalField(
        label="Backlash of its dial, divisions", required=False, min_value=0, max_value=1000, max_digits=6,
        decimal_places=2,
    )  # fmt: skip

    screw_pitch_mm = LengthField(
        label="Screws of its bearings, a turn", required=False, help_text="of a portable bar: what a turn moves"
    )
    table_division_mm = LengthField(
        label="Table dial, one division", required=False, help_text="of the slide from one axis to the next"
    )
    table_divisions_per_turn = forms.IntegerField(
        label="Table dial, divisions a turn", required=False, min_value=1, max_value=2000
    )
    table_backlash_divisions = forms.DecimalField(
        label="Play of the table's screw, divisions", required=False, min_value=0, max_value=1000, max_digits=6,
        decimal_places=2,
    )  # fmt: skip

    def clean_dial_numbers(self) -> str:
        """Most dials rise as they are wound out."""
        return str(self.cleaned_data.get("dial_numbers") or Numbers.RISE)

    def clean_feeds_mm_rev(self) -> list[float]:
        """Feeds apart by a comma or a semicolon, finest first."""
        return sorted(read_lengths(self.cleaned_data["feeds_mm_rev"], self.units, "feed"))

    def clean_speeds(self) -> list[tuple[str, str]]:
        """Lines or commas; each a lever and a speed, each speed once; or the two ends of a stepless drive."""
        ends = _RANGE.match(self.cleaned_data["speeds"].strip())
        self.stepless = ends is not None
        if ends is not None:
            if not 0 < float(ends["low"]) < float(ends["high"]) < 100_000:
                raise forms.ValidationError("A stepless drive goes from a slower speed to a faster one, like 60-2000.")
            return [("", ends["low"]), ("", ends["high"])]
        found: dict[float, tuple[str, str]] = {}
        for part in re.split(r"[\n;,]+", self.cleaned_data["speeds"]):
            text = part.strip()
            if not text:
                continue
            match = _SPEED.match(text)
            if match is None or not 0 < float(match["rpm"]) < 100_000:
                raise forms.ValidationError(f"{text} is no speed. Type lever and rpm, like A-1 45, or rpm alone.")
            if float(match["rpm"]) in found:
                raise forms.ValidationError(f"{match['rpm']} rpm stands here twice.")
            found[float(match["rpm"])] = ((match["lever"] or "").upper(), match["rpm"])
        if not found:
            raise forms.ValidationError("A machine without speeds cannot be planned for. Type one a line: A-1 45.")
        return [found[rpm] for rpm in sorted(found)]

    def clean(self) -> dict[str, Any]:
        """A lathe's cut is set on its cross-slide: its dial must be known; half a dial is none."""
        values = super().clean() or {}
        division, turn = values.get("division_mm"), values.get("divisions_per_turn")
        values["stepless"] = getattr(self, "stepless", False)
        needed = values.get("kind") == Machine.Kind.LATHE or division is not None or turn is not None
        for name, value in (("division_mm", division), ("divisions_per_turn", turn)):
            if needed and value is None and name not in self.errors:
                self.add_error(name, f"{self.fields[name].label} is missing: a cut is set by this dial.")
        table = ("table_division_mm", "table_divisions_per_turn")
        for name, other in (table, table[::-1]):
            if values.get(other) is not None and values.get(name) is None and name not in self.errors:
                self.add_error(name, f"{self.fields[name].label} is missing: half a dial is none.")
        return values

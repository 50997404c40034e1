"""Forms of the crib: a thing of the shop in under half a minute."""

from __future__ import annotations

import re
from typing import Any

from django import forms

from gyrocore import bar_kinds
from gyrometra.bridge.fields import LengthField, TypedForm
from gyrometra.crib.models import Bar, CribItem, Cutter, Gauge, Indicator, Machine

_SPEED = re.compile(r"^(?:(?P<lever>[A-Za-z0-9]+(?:-[A-Za-z0-9]+)?)\s*[=:\s]\s*)?(?P<rpm>\d+(?:\.\d+)?)$")


class CribForm(TypedForm):
    """A named thing; names stand once a kind."""

    model: type[CribItem] = Machine
    name = forms.CharField(label="Name", max_length=60)

    def __init__(self, *args: Any, item: CribItem | None = None, **kwargs: Any) -> None:
        self.item = item
        super().__init__(*args, **kwargs)

    def clean_name(self) -> str:
        """Refuse a name that stands already."""
        name = str(self.cleaned_data["name"]).strip()
        taken = self.model._default_manager.filter(name__iexact=name)
        if self.item is not None:
            taken = taken.exclude(pk=self.item.pk)
        if taken.exists():
            raise forms.ValidationError(f"There is already a {name}. Give another name.")
        return name


class MachineForm(CribForm):
    """A lathe."""

    model = Machine
    speeds = forms.CharField(
        label="Spindle speeds with lever positions",
        widget=forms.Textarea(attrs={"rows": 5}),
        error_messages={"required": "A machine without speeds cannot be planned for. Type one a line: A-1 45."},
        help_text="One a line, slowest or fastest first: lever, then rpm. A-1 45",
    )
    division_mm = LengthField(label="Cross-slide, one division", help_text="0.02, or 1 thou")
    divisions_per_turn = forms.IntegerField(label="Divisions a turn", min_value=1, max_value=2000)
    dial_reads = forms.ChoiceField(label="The dial reads", choices=Machine.Reads.choices)
    unbalanced_max_rpm = forms.IntegerField(
        label="Largest speed for unbalanced work, rpm", required=False, min_value=1, max_value=20000
    )

    def clean_speeds(self) -> list[tuple[str, str]]:
        """Lines or commas; each a lever and a speed, each speed once."""
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


class BarForm(CribForm):
    """A boring bar."""

    model = Bar
    kind = forms.ChoiceField(label="Kind", choices=[(k, v.label) for k, v in bar_kinds().items() if k != "line-bar"])
    diameter_mm = LengthField(label="Diameter, measured")
    length_mm = LengthField(label="Length over all")
    min_bore_mm = LengthField(label="Smallest bore it enters", required=False,
                              help_text="empty: its diameter and a tenth")  # fmt: skip
    grip_mm = LengthField(label="Must stay in the clamp", required=False, help_text="empty: three diameters")

    def clean(self) -> dict[str, Any]:
        """A bar must be longer than its grip."""
        values = super().clean() or {}
        diameter, length = values.get("diameter_mm"), values.get("length_mm")
        if diameter is None or length is None:
            return values
        if values.get("min_bore_mm") is None:
            values["min_bore_mm"] = round(diameter * 11 / 10, 6)
        elif values["min_bore_mm"] < diameter:
            self.add_error("min_bore_mm", "A bar cannot enter a bore smaller than itself, "
                                          f"{self.units.plain(diameter)} {self.units.label}.")  # fmt: skip
        grip = values.get("grip_mm") or 3 * diameter
        if length <= grip:
            self.add_error("length_mm", f"The clamp keeps {self.units.plain(grip)}; a bar of "
                                        f"{self.units.plain(length)} {self.units.label} leaves nothing.")  # fmt: skip
        return values


class CutterForm(CribForm):
    """A bit."""

    model = Cutter
    made_of = forms.ChoiceField(label="Made of", choices=Cutter.Made.choices)
    nose_radius_mm = LengthField(label="Nose radius")
    entering_angle_deg = forms.DecimalField(
        label="Entering angle, degrees (90 is square; a lead angle is 90 less it)",
        min_value=1, max_value=179, initial=90, max_digits=6, decimal_places=2,
    )  # fmt: skip
    least_depth_mm = LengthField(label="Least useful depth, radial", initial="0.05")


class GaugeForm(CribForm):
    """A bore gauge."""

    model = Gauge
    range_low_mm = LengthField(label="Measures from")
    range_high_mm = LengthField(label="Measures to")
    resolution_mm = LengthField(label="Reads to (one step)")
    error_limit_mm = LengthField(label="Error limit, either way", positive=False, least=0)
    single_sd_mm = LengthField(label="One reading repeats within (s)", required=False)
    correction_mm = LengthField(label="Standing correction, added", required=False, positive=False)
    due_on = forms.DateField(label="Next check due", required=False,
                             widget=forms.DateInput(attrs={"type": "date"}))  # fmt: skip

    def clean(self) -> dict[str, Any]:
        """From under to."""
        values = super().clean() or {}
        low, high = values.get("range_low_mm"), values.get("range_high_mm")
        if low is not None and high is not None and high <= low:
            self.add_error("range_high_mm", "The range ends where it begins or below; the larger size comes last.")
        if values.get("correction_mm") is None:
            values["correction_mm"] = 0
        return values


class IndicatorForm(CribForm):
    """A dial or lever indicator."""

    model = Indicator
    step_mm = LengthField(label="One division")
    range_mm = LengthField(label="Reads at most, either way")


FORMS: dict[str, type[CribForm]] = {
    "machine": MachineForm, "bar": BarForm, "cutter": CutterForm, "gauge": GaugeForm,
    "indicator": IndicatorForm,
}  # fmt: skip

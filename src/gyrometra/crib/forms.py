"""Forms of the crib: a thing of the shop in under half a minute."""

from __future__ import annotations

import re
from typing import Any

from django import forms

from gyrocore import InvalidInput, bar_kinds, error_sentence, methods
from gyrometra.bridge.fields import LengthField, TypedForm
from gyrometra.crib.models import Bar, CribItem, Cutter, Gauge, Head, Indicator, Machine, Reads

_SPEED = re.compile(r"^(?:(?P<lever>[A-Za-z0-9]+(?:-[A-Za-z0-9]+)?)\s*[=:\s]\s*)?(?P<rpm>\d+(?:\.\d+)?)$")


class CribForm(TypedForm):
    """A named thing; names stand once a kind."""

    model: type[CribItem] = Machine
    name = forms.CharField(label="Name", max_length=60)
    notes = forms.CharField(
        label="Notes", max_length=300, required=False, help_text="what it is good for, where it hangs"
    )

    def __init__(self, *args: Any, item: CribItem | None = None, **kwargs: Any) -> None:
        self.item = item
        super().__init__(*args, **kwargs)
        self.order_fields([name for name in self.fields if name != "notes"])

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
    """A machine that bores."""

    model = Machine
    kind = forms.ChoiceField(label="Kind", choices=Machine.Kind.choices, initial=Machine.Kind.LATHE)
    speeds = forms.CharField(
        label="Spindle speeds with lever positions",
        widget=forms.Textarea(attrs={"rows": 5}),
        error_messages={"required": "A machine without speeds cannot be planned for. Type one a line: A-1 45."},
        help_text="One a line, slowest or fastest first: lever, then rpm. A-1 45",
    )
    division_mm = LengthField(
        label="Cross-slide, one division", required=False, help_text="0.02, or 1 thou; a lathe needs it"
    )
    divisions_per_turn = forms.IntegerField(label="Divisions a turn", required=False, min_value=1, max_value=2000)
    dial_reads = forms.ChoiceField(label="The dial reads", choices=Reads.choices)
    unbalanced_max_rpm = forms.IntegerField(
        label="Largest speed for unbalanced work, rpm", required=False, min_value=1, max_value=20000
    )

    cuts_large_mm = LengthField(
        label="Its bar cuts large by, on diameter", required=False, positive=False,
        help_text="a boring stand's habit; small is negative",
    )  # fmt: skip
    shoes = forms.ChoiceField(label="Centring shoes", choices=Machine.Shoes.choices, required=False)

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

    def clean(self) -> dict[str, Any]:
        """A lathe's cut is set on its cross-slide: its dial must be known; half a dial is none."""
        values = super().clean() or {}
        division, turn = values.get("division_mm"), values.get("divisions_per_turn")
        needed = values.get("kind") == Machine.Kind.LATHE or division is not None or turn is not None
        for name, value in (("division_mm", division), ("divisions_per_turn", turn)):
            if needed and value is None and name not in self.errors:
                self.add_error(name, f"{self.fields[name].label} is missing: a cut is set by this dial.")
        return values


_HOLE = re.compile(r"^(?P<name>[A-Za-z0-9]+)\s*[=:\s]\s*(?P<offset>.+)$")


class HeadForm(CribForm):
    """A boring head."""

    model = Head
    division_mm = LengthField(label="One division", help_text="0.01, or 0.5 thou")
    divisions_per_turn = forms.IntegerField(label="Divisions a turn", min_value=1, max_value=2000)
    dial_reads = forms.ChoiceField(label="The dial reads", choices=Reads.choices)
    slide_travel_mm = LengthField(label="The slide moves out by")
    shank_mm = LengthField(label="Its holes take a shank of")
    holes = forms.CharField(
        label="Holes with their offsets",
        widget=forms.Textarea(attrs={"rows": 4}),
        error_messages={"required": "A head without holes holds no bar. Type one a line: 1 0."},
        help_text="One a line: name, then offset from the axis with the slide home. 1 0",
    )
    max_rpm = forms.IntegerField(label="Largest speed swung out, rpm", required=False, min_value=1, max_value=20000)

    def clean_holes(self) -> list[tuple[str, Any]]:
        """Lines or commas; each a name and an offset, each name once."""
        found: dict[str, Any] = {}
        for line in re.split(r"[\n;]", self.cleaned_data["holes"]):
            if not line.strip():
                continue
            match = _HOLE.match(line.strip())
            if match is None:
                raise forms.ValidationError(f"{line.strip()} is not understood. Type a hole and its offset, like 2 15.")
            try:
                offset = self.units.read(match["offset"])
            except InvalidInput as error:
                raise forms.ValidationError(error_sentence(error, self.units.unit)) from None
            if match["name"] in found:
                raise forms.ValidationError(f"Hole {match['name']} stands here twice.")
            found[match["name"]] = offset
        return list(found.items())


class BarForm(CribForm):
    """A boring bar."""

    model = Bar
    method = forms.ChoiceField(label="Made for", choices=[(k, way.label) for k, way in methods().items()])
    kind = forms.ChoiceField(label="Kind", choices=[(k, v.label) for k, v in bar_kinds().items()])
    diameter_mm = LengthField(label="Diameter, measured")
    length_mm = LengthField(label="Length over all")
    min_bore_mm = LengthField(label="Smallest bore it enters", required=False,
                              help_text="empty: its diameter and a tenth")  # fmt: skip
    grip_mm = LengthField(label="Must stay in the clamp", required=False, help_text="empty: three diameters")
    tip_mm = LengthField(label="Tip from the bar's own centre", required=False,
                         help_text="only a bar for a boring head")  # fmt: skip
    shank_mm = LengthField(label="Shank", required=False, help_text="empty: as thick as the bar")

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
        self._guard_use(values)
        tip = values.get("tip_mm")
        if tip is not None and tip <= diameter / 2:
            self.add_error("tip_mm", f"The tip must stand past the bar's own {self.units.plain(diameter / 2)}, or the "
                                     f"bar rubs; {self.units.plain(tip)} {self.units.label} was given.")  # fmt: skip
        if values.get("kind") == "line-bar":
            return values
        grip = values.get("grip_mm") or 3 * diameter
        if length <= grip:
            self.add_error("length_mm", f"The clamp keeps {self.units.plain(grip)}; a bar of "
                                        f"{self.units.plain(length)} {self.units.label} leaves nothing.")  # fmt: skip
        return values

    def _guard_use(self, values: dict[str, Any]) -> None:
        """A line bar runs in bearings and nothing else does; a head's bar says how far its tip stands."""
        in_line, is_line = values.get("method") == "line", values.get("kind") == "line-bar"
        if in_line != is_line and values.get("kind"):
            self.add_error("kind", "A bar in bearings is a line bar, and a line bar runs in bearings.")
        if values.get("method") == "head" and values.get("tip_mm") is None and "tip_mm" not in self.errors:
            self.add_error("tip_mm", "A bar for a boring head needs it: what it can reach follows from its tip.")
        if values.get("method") != "head" and values.get("tip_mm") is not None:
            self.add_error("tip_mm", "Only a bar for a boring head has this figure; leave it empty.")


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
    "machine": MachineForm, "head": HeadForm, "bar": BarForm, "cutter": CutterForm, "gauge": GaugeForm,
    "indicator": IndicatorForm,
}  # fmt: skip

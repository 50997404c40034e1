"""Forms of the finished bore: a size at a place, the depth of a shoulder."""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal
from typing import Any

from django import forms

from gyrocore import (
    InvalidInput,
)
from gyrometra.bridge.choices import ChoiceOfRow
from gyrometra.bridge.fields import LengthField, TypedForm
from gyrometra.bridge.units import Units, to_decimal
from gyrometra.crib.models import Gauge
from gyrometra.inspection.models import PlugReading
from gyrometra.inspection.services import Tried
from gyrometra.steps.shared.entries import EntryForm, SizeEntryForm, TemperatureForm, rod_meant, worded
from gyroplan.record import BoreRecord


class CheckSizeForm(TemperatureForm, SizeEntryForm):
    """A size at a station of the finished bore; the gauge must reach it."""

    def clean(self) -> dict[str, Any]:
        """Refuse a depth that the gauge does not reach."""
        values = super().clean() or {}
        gauge, z = values.get("gauge"), values.get("z")
        if gauge is not None and z is not None and gauge.reach_mm is not None and z > gauge.reach_mm:
            words, unit = self.units.plain, self.units.label
            self.add_error("z", f"{gauge.name} measures {words(gauge.reach_mm)} {unit} deep; {words(z)} was given. "
                                "From the other face, or with another gauge.")  # fmt: skip
        return values

    z = forms.CharField(max_length=60)
    angle_deg = forms.DecimalField(min_value=0, max_value=Decimal("359.99"))

    def __init__(self, *args: Any, stations_mm: Sequence[float] = (), **kwargs: Any) -> None:
        #: Depths that are measured already.
        self.stations_mm = stations_mm
        super().__init__(*args, **kwargs)

    def clean_z(self) -> Decimal:
        """Depth from the open face, inside the bore.

        A depth that reads like one measured already is that one, in whichever unit it was first typed: a second
        reading there must not lie beside it by a rounding.
        """
        text = self.cleaned_data["z"].strip()
        for known in self.stations_mm:
            if text == self.units.plain(known):
                return to_decimal(known)
        try:
            depth = self.units.read(self.cleaned_data["z"])
        except InvalidInput as error:
            raise forms.ValidationError(worded(error, self.units)) from None
        if not 0 <= depth <= self.bore.length_mm:
            raise forms.ValidationError(
                f"The bore runs from 0 to {self.units.plain(self.bore.length_mm)} {self.units.label}; "
                f"{self.cleaned_data['z']} was given."
            )
        return depth


class DepthForm(EntryForm):
    """The depth of a shoulder, with a named gauge."""

    value = forms.CharField(max_length=60, error_messages={"required": "Type the depth, then Enter."})
    gauge = ChoiceOfRow(Gauge.objects.reading(), empty_label=None)

    def __init__(self, *args: Any, units: Units, bore: BoreRecord, **kwargs: Any) -> None:
        self.units, self.bore = units, bore
        super().__init__(*args, **kwargs)

    def clean(self) -> dict[str, Any]:
        """Read the depth; one far from what is asked is refused with both figures."""
        values = super().clean() or {}
        text = values.get("value")
        if text is None:
            return values
        try:
            size = self.units.read(text)
        except InvalidInput as error:
            self.add_error("value", worded(error, self.units))
            return values
        low, high = self.bore.depth_lower_mm, self.bore.depth_upper_mm
        far = low is not None and high is not None and not float(low) / 2 <= float(size) <= float(high) * 2
        if size <= 0 or far:
            words, gauge = self.units.plain, values.get("gauge")
            rod = None if gauge is None else rod_meant(float(size), gauge, (float(low or 0) + float(high or 0)) / 2)
            mended = "" if rod is None else f" With the rod {rod.rod} it is {words(rod.size_mm)}: type that."
            self.add_error("value", f"{text} reads as {words(size)} {self.units.label}; the shoulder lies at "
                                    f"{words(low or 0)} to {words(high or 0)}.{mended}")  # fmt: skip
        values["value_mm"] = size
        return values


class PlugForm(EntryForm):
    """One side of a plug gauge: it goes, or it does not."""

    gauge = ChoiceOfRow(Gauge.objects.filter(retired=False, kind="plug"), empty_label=None)
    side = forms.ChoiceField(choices=[("go", "go"), ("no-go", "no-go")])
    goes = forms.ChoiceField(choices=[("yes", "goes"), ("no", "does not go")])

    def tried(self) -> Tried:
        """What was tried."""
        values = self.cleaned_data
        return Tried(side=values["side"], gauge=values["gauge"], goes=values["goes"] == "yes")


class SizedForm(TypedForm, EntryForm):
    """Something of a size of its own that is tried in the bore."""

    def __init__(self, *args: Any, bore: BoreRecord, **kwargs: Any) -> None:
        self.bore = bore
        super().__init__(*args, **kwargs)

    def clean_size_mm(self) -> Decimal:
        """It is about as large as the bore: further off, it is another bore's."""
        size: Decimal = self.cleaned_data["size_mm"]
        aim = self.bore.aim_mm
        if abs(float(size) - aim) > _NEAR * aim:
            words, label = self.units.plain, self.units.label
            raise forms.ValidationError(
                f"{self.data.get('size_mm')} reads as {words(size)} {label}; the bore is about {words(aim)}."
            )
        return size


class MateForm(SizedForm):
    """The mating part tried in the bore: its own size, and whether it goes."""

    size_mm = LengthField(label="The mating part", error_messages={"required": "Type the size of the mating part."})
    expanded_mm = LengthField(label="known to", required=False, positive=False, least=0)
    goes = forms.ChoiceField(choices=[("yes", "goes"), ("no", "does not go")])

    def tried(self) -> Tried:
        """What was tried."""
        values = self.cleaned_data
        return Tried(side="mate", goes=values["goes"] == "yes", size_mm=values["size_mm"],
                     expanded_mm=values["expanded_mm"] or Decimal(0))  # fmt: skip


class FeltForm(SizedForm):
    """A gauge set to a size and compared by feel."""

    gauge = ChoiceOfRow(Gauge.objects.reading().exclude(kind="depth"), empty_label=None)
    size_mm = LengthField(label="Set to", error_messages={"required": "Type what it was set to."})
    felt = forms.ChoiceField(choices=PlugReading.Felt.choices)

    def tried(self) -> Tried:
        """What was felt."""
        values = self.cleaned_data
        return Tried(side="set", gauge=values["gauge"], felt=values["felt"], size_mm=values["size_mm"])


#: A size that is tried lies this near the size asked, as a share of it (chosen here).
_NEAR = 0.1

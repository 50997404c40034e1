"""Forms of the logs: readings, cuts, sizes."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from django import forms

from gyrocore import (
    InvalidInput,
    error_sentence,
    read_indicator,
    unit_slip,
)
from gyrometra.bridge.fields import LengthField, LineInput, TypedForm
from gyrometra.bridge.units import Units, to_decimal
from gyrometra.crib.models import Gauge, Indicator
from gyrometra.cutting.models import CutEntry
from gyrometra.jobs.models import Bore, LogEntry
from gyrometra.truing.models import Round

#: Typed for a place that cannot be read: a port, a slot, a keyway.
BLOCKED = "x"


_BY_RULE = LineInput(attrs={"placeholder": "by rule"})


class RoundForm(TypedForm):
    """Begin a round."""

    method = forms.ChoiceField(choices=Round.Method.choices, initial=Round.Method.SWEEP)
    places = forms.TypedChoiceField(choices=[(4, "4"), (8, "8"), (12, "12")], coerce=int, initial=8)
    indicator = forms.ModelChoiceField(Indicator.objects.filter(retired=False), empty_label=None)
    closing_mm = LengthField(label="First again may differ by", required=False, widget=_BY_RULE)

    def clean(self) -> dict[str, Any]:
        """Flats are read at the four jaws."""
        values = super().clean() or {}
        if values.get("method") == Round.Method.FLATS:
            values["places"] = 4
        return values


class EntryForm(forms.Form):
    """What every logged entry carries: its own id, and how it came."""

    client_id = forms.UUIDField()
    source = forms.ChoiceField(choices=LogEntry.Source.choices, required=False)

    def clean_source(self) -> str:
        """Typed unless the page knows better."""
        return str(self.cleaned_data.get("source") or LogEntry.Source.TYPED)


class ReadingForm(EntryForm):
    """One indicator reading."""

    value = forms.CharField(max_length=60, error_messages={"required": "Type the reading, then Enter."})
    place = forms.IntegerField(min_value=0, max_value=12)

    def __init__(self, *args: Any, units: Units, round: Round | None = None, **kwargs: Any) -> None:
        self.units, self.round = units, round
        self.likely: str | None = None
        super().__init__(*args, **kwargs)

    def clean_value(self) -> Decimal | None:
        """Read it as called out at the machine; refuse what the indicator cannot show; x is blocked."""
        text = self.cleaned_data["value"]
        if text.strip().lower() == BLOCKED:
            self._require_not_last()
            return None
        try:
            size = read_indicator(text, self.units.unit).length_mm
        except InvalidInput as error:
            raise forms.ValidationError(_worded(error, self.units)) from None
        reach = float(self.round.indicator.range_mm) if self.round else None
        if reach is not None and abs(size) > reach:
            self._suggest(size, reach)
            raise forms.ValidationError(
                f"{text} reads as {self.units.plain(size)} {self.units.label}; "
                f"this indicator goes to {self.units.plain(reach)} {self.units.label}. "
                + (f"Did you mean {self.likely}?" if self.likely else "")
            )
        return to_decimal(size)

    def _require_not_last(self) -> None:
        """A blocked place has no reading; "first again" must have one."""
        if self.round is not None and str(self.data.get("place")) == str(self.round.places):
            raise forms.ValidationError("First again closes the round: read it where the first reading was taken.")

    def _suggest(self, size: float, reach: float) -> None:
        """The likely value: read as thousandths, or an inch reading taken for millimetres."""
        for factor in (1000.0, 25.4):
            if abs(size / factor) <= reach:
                self.likely = f"{size / factor:.3f} mm"
                return


def _worded(error: InvalidInput, units: Units) -> str:
    return error_sentence(error, units.unit)


class SizeEntryForm(EntryForm):
    """A measured diameter with a named gauge."""

    value = forms.CharField(max_length=60, error_messages={"required": "Type the size, then Enter."})
    gauge = forms.ModelChoiceField(Gauge.objects.filter(retired=False), empty_label=None)

    def __init__(self, *args: Any, units: Units, bore: Bore, **kwargs: Any) -> None:
        self.units, self.bore = units, bore
        super().__init__(*args, **kwargs)

    def clean(self) -> dict[str, Any]:
        """Read the size; refuse what this gauge cannot measure, and name a unit slip."""
        values = super().clean() or {}
        gauge, text = values.get("gauge"), values.get("value")
        if gauge is None or text is None:
            return values
        try:
            size = self.units.read(text)
        except InvalidInput as error:
            self.add_error("value", _worded(error, self.units))
            return values
        self._guard(size, gauge, text)
        values["value_mm"] = size
        return values

    def _guard(self, size: Decimal, gauge: Gauge, text: str) -> None:
        words = self.units.plain
        slip = unit_slip(value_mm=float(size), expected_mm=self.bore.aim_mm)
        if slip is not None:
            self.add_error("value", f"{text} is 25.4 times off. Did you mean "
                                    f"{words(slip.likely_mm)} {self.units.label}?")  # fmt: skip
        elif not gauge.range_low_mm <= size <= gauge.range_high_mm:
            self.add_error("value", f"{text} reads as {words(size)} {self.units.label}; {gauge.name} measures "
                                    f"{words(gauge.range_low_mm)} to {words(gauge.range_high_mm)}.")  # fmt: skip


class PassSizeForm(SizeEntryForm):
    """A size after a pass."""

    number = forms.IntegerField(min_value=1, max_value=999)


class CheckSizeForm(SizeEntryForm):
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
    part_temp_c = forms.DecimalField(min_value=-20, max_value=80, required=False)
    repeat = forms.BooleanField(required=False)

    def clean_z(self) -> Decimal:
        """Depth from the open face, inside the bore."""
        try:
            depth = self.units.read(self.cleaned_data["z"])
        except InvalidInput as error:
            raise forms.ValidationError(_worded(error, self.units)) from None
        if not 0 <= depth <= self.bore.length_mm:
            raise forms.ValidationError(
                f"The bore runs from 0 to {self.units.plain(self.bore.length_mm)} {self.units.label}; "
                f"{self.cleaned_data['z']} was given."
            )
        return depth

    def clean_part_temp_c(self) -> Decimal:
        """20 unless it was measured."""
        value = self.cleaned_data.get("part_temp_c")
        return Decimal(20) if value is None else Decimal(value)


class PassSetForm(EntryForm):
    """The dial was set for a pass, or pass by pass through a whole bundle."""

    number = forms.IntegerField(min_value=1, max_value=999)
    through = forms.IntegerField(min_value=1, max_value=999, required=False)


class RemarkForm(EntryForm):
    """How a pass sounded and looked."""

    number = forms.IntegerField(min_value=1, max_value=999)
    sound = forms.ChoiceField(choices=CutEntry.Sound.choices)
    look = forms.ChoiceField(choices=CutEntry.Look.choices)


class GuardForm(EntryForm):
    """The three guard steps, all confirmed."""

    locked = forms.BooleanField(error_messages={"required": "Lock the spindle out before hands go in."})
    cleared = forms.BooleanField(error_messages={"required": "Indicator, stylus and chuck key out first."})
    swung = forms.BooleanField(error_messages={"required": "Turn a full swing by hand and watch the jaws."})

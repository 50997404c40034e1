"""Forms of the logs: readings, cuts, sizes."""

from __future__ import annotations

from decimal import Decimal
from typing import Any
from uuid import uuid4

from django import forms

from gyrocore import (
    InvalidInput,
    error_sentence,
    read_indicator,
    unit_slip,
)
from gyrometra.bridge.choices import ChoiceOfRow
from gyrometra.bridge.fields import LengthField, LineInput, TypedForm
from gyrometra.bridge.messages import use_shop_words
from gyrometra.bridge.units import Units, to_decimal
from gyrometra.crib.models import Gauge, Indicator
from gyrometra.cutting.models import CutEntry
from gyrometra.jobs.models import LogEntry
from gyrometra.truing.models import Round
from gyroplan.assess import OFF_SCALE
from gyroplan.record import BoreRecord

#: Typed for a place that cannot be read: a port, a slot, a keyway.
BLOCKED = "x"


_BY_RULE = LineInput(attrs={"placeholder": "by rule"})


class RoundForm(TypedForm):
    """Begin a round."""

    method = forms.ChoiceField(choices=Round.Method.choices, initial=Round.Method.SWEEP)
    places = forms.TypedChoiceField(choices=[(4, "4"), (8, "8"), (12, "12")], coerce=int, initial=8)
    indicator = ChoiceOfRow(Indicator.objects.filter(retired=False), empty_label=None)
    closing_mm = LengthField(label="Back at start may differ by", required=False, widget=_BY_RULE)
    client_id = forms.UUIDField(required=False)

    def clean(self) -> dict[str, Any]:
        """Flats are read at the four jaws."""
        values = super().clean() or {}
        if values.get("method") == Round.Method.FLATS:
            values["places"] = 4
        values["client_id"] = values.get("client_id") or uuid4()
        return values


class EntryForm(forms.Form):
    """What every logged entry carries: its own id, and how it came."""

    client_id = forms.UUIDField()
    source = forms.ChoiceField(choices=LogEntry.Source.choices, required=False)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        use_shop_words(self)

    def clean_source(self) -> str:
        """Typed unless the page knows better."""
        return str(self.cleaned_data.get("source") or LogEntry.Source.TYPED)


class ReadingForm(EntryForm):
    """One indicator reading."""

    value = forms.CharField(max_length=60, error_messages={"required": "Type the reading, then Enter."})
    place = forms.IntegerField(min_value=0, max_value=12)

    def __init__(self, *args: Any, units: Units, round: Round | None = None, **kwargs: Any) -> None:
        self.units, self.round = units, round
        #: The number could be divisions or the unit; or it lies past the end of the scale.
        self.is_asked = self.is_past = False
        super().__init__(*args, **kwargs)

    def clean_value(self) -> Decimal | None:
        """Read it as called out at the machine; refuse what the indicator cannot show; x is blocked, off+ is off it."""
        text = self.cleaned_data["value"]
        if text.strip().lower() in (BLOCKED, *OFF_SCALE):
            self._require_not_last()
            return None
        indicator = self.round.indicator if self.round else None
        step = float(indicator.step_mm) if indicator else 0.001
        pointed = str(self.data.get("pointed") or (indicator.pointed if indicator else "")) or None
        try:
            size = read_indicator(text, self.units.unit, step, pointed).length_mm
        except InvalidInput as error:
            self.is_asked = error.code == "reading_asked"
            raise forms.ValidationError(_worded(error, self.units)) from None
        reach = float(indicator.range_mm) if indicator else None
        if reach is not None and abs(size) > reach:
            self.is_past = True
            raise forms.ValidationError(
                f"{text} reads as {self.units.plain(size)} {self.units.label}; this indicator goes to "
                f"{self.units.plain(reach)} {self.units.label}. Off the scale is a reading too: say which way."
            )
        return to_decimal(size)

    def _require_not_last(self) -> None:
        """A blocked place has no reading; "first again" must have one."""
        if self.round is not None and str(self.data.get("place")) == str(self.round.places):
            raise forms.ValidationError("First again closes the round: read it where the first reading was taken.")


def _worded(error: InvalidInput, units: Units) -> str:
    return error_sentence(error, units.unit)


#: A size farther than this from what is there is asked: chosen here, more than any pass takes.
_FAR_MM, _FAR_SHARE = 2.0, 0.05
#: Two readings of one bore after one pass differ by its form and the gauge; farther apart, one of them is asked.
_APART_MM = 0.1


class SizeEntryForm(EntryForm):
    """A measured diameter with a named gauge."""

    value = forms.CharField(max_length=60, error_messages={"required": "Type the size, then Enter."})
    gauge = ChoiceOfRow(
        Gauge.objects.filter(retired=False), empty_label=None,
        error_messages={"required": "Which gauge read it?", "invalid_choice": "This gauge is not in use any more."},
    )  # fmt: skip
    #: The text typed, once more: a size far from what is there is asked before it is logged.
    sure = forms.CharField(max_length=60, required=False)

    def __init__(
        self, *args: Any, units: Units, bore: BoreRecord, expected_mm: float | None = None,
        joins_mm: float | None = None, **kwargs: Any,
    ) -> None:  # fmt: skip
        self.units, self.bore, self.joins_mm = units, bore, joins_mm
        self.expected_mm = bore.aim_mm if expected_mm is None else expected_mm
        #: Asked whether it is meant.
        self.is_far = False
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
            return
        asked = "" if str(self.cleaned_data.get("sure") or "").strip() == text.strip() else self._asks(float(size))
        if asked:
            self.is_far = True
            self.add_error("value", f"{text} reads as {words(size)} {self.units.label}, but {asked}. Is it meant?")
        elif not gauge.range_low_mm <= size <= gauge.range_high_mm:
            self.add_error("value", f"{text} reads as {words(size)} {self.units.label}; {gauge.name} measures "
                                    f"{words(gauge.range_low_mm)} to {words(gauge.range_high_mm)}.")  # fmt: skip

    def _asks(self, size_mm: float) -> str:
        """Why a size is asked before it is logged: far from the bore, or from the readings it would join."""
        if abs(size_mm - self.expected_mm) > max(_FAR_MM, _FAR_SHARE * self.expected_mm):
            return f"the bore stands at about {self.units.plain(self.expected_mm)}"
        if self.joins_mm is not None and abs(size_mm - self.joins_mm) > _APART_MM:
            return f"the readings it joins say {self.units.plain(self.joins_mm)}"
        return ""


class TemperatureForm(forms.Form):
    """How warm part and gauge are, and how well that is known; 20 °C where nothing was measured."""

    part_temp_c = forms.DecimalField(
        label="Part, °C", min_value=-20, max_value=80, max_digits=5, decimal_places=2, required=False
    )
    gauge_temp_c = forms.DecimalField(
        label="Gauge, °C", min_value=-20, max_value=80, max_digits=5, decimal_places=2, required=False
    )
    temp_u_c = forms.DecimalField(
        label="Known to ±°C", min_value=0, max_value=20, max_digits=5, decimal_places=2, required=False
    )

    def clean(self) -> dict[str, Any]:
        """Nothing typed is 20 °C; a warm part needs the gauge's own temperature, and both are known to a degree."""
        values = super().clean() or {}
        part, gauge = values.get("part_temp_c"), values.get("gauge_temp_c")
        if part is not None and gauge is None and part != 20 and "gauge_temp_c" not in self.errors:
            self.add_error("gauge_temp_c", f"The part is at {part:f} °C: how warm is the gauge? One that lay beside "
                                           "the part is as warm as it is.")  # fmt: skip
        if values.get("temp_u_c") is None:
            values["temp_u_c"] = Decimal(0) if part is None and gauge is None else _DEGREE
        values["part_temp_c"] = Decimal(20) if part is None else part
        values["gauge_temp_c"] = Decimal(20) if gauge is None else gauge
        return values


#: How well a temperature is known that was typed without saying so.
_DEGREE = Decimal(1)


class PassSizeForm(TemperatureForm, SizeEntryForm):
    """A size after a pass."""


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


class DepthForm(EntryForm):
    """The depth of a shoulder, with a named gauge."""

    value = forms.CharField(max_length=60, error_messages={"required": "Type the depth, then Enter."})
    gauge = ChoiceOfRow(Gauge.objects.filter(retired=False), empty_label=None)

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
            self.add_error("value", _worded(error, self.units))
            return values
        low, high = self.bore.depth_lower_mm, self.bore.depth_upper_mm
        far = low is not None and high is not None and not float(low) / 2 <= float(size) <= float(high) * 2
        if size <= 0 or far:
            words = self.units.plain
            self.add_error("value", f"{text} reads as {words(size)} {self.units.label}; the shoulder lies at "
                                    f"{words(low or 0)} to {words(high or 0)}.")  # fmt: skip
        values["value_mm"] = size
        return values


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


class RemarkForm(EntryForm):
    """How a pass sounded and looked."""

    number = forms.IntegerField(min_value=1, max_value=999)
    sound = forms.ChoiceField(choices=CutEntry.Sound.choices)
    look = forms.ChoiceField(choices=CutEntry.Look.choices)

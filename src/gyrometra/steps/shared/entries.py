"""Forms of log entries that several steps share: who sent what, and a measured size."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from django import forms

from gyrocore import (
    InvalidInput,
    Slip,
    error_sentence,
    size_slips,
    unit_slip,
)
from gyrometra.bridge.choices import ChoiceOfRow
from gyrometra.bridge.messages import use_shop_words
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Gauge
from gyrometra.jobs.models import LogEntry
from gyroplan.gauges import WithRod, with_rod
from gyroplan.record import BoreRecord


class EntryForm(forms.Form):
    """What every logged entry carries: its own id, and how it came."""

    client_id = forms.UUIDField()
    source = forms.ChoiceField(choices=LogEntry.Source.choices, required=False)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        use_shop_words(self)

    @classmethod
    def of(cls, posted: Any) -> dict[str, Any]:
        """The cleaned values of an entry that says nothing else; its id was checked before."""
        form = cls(posted)
        form.is_valid()
        return form.cleaned_data

    def clean_source(self) -> str:
        """Typed unless the page knows better."""
        return str(self.cleaned_data.get("source") or LogEntry.Source.TYPED)


def worded(error: InvalidInput, units: Units) -> str:
    return error_sentence(error, units.unit)


#: A size farther than this from what is there is asked: chosen here, more than any pass takes.
_FAR_MM, _FAR_SHARE = 2.0, 0.05
#: Two readings of one bore after one pass differ by its form and the gauge; farther apart, one of them is asked.
_APART_MM = 0.1


#: A slip is named where the mended size lies as near as this to what is expected, or within the limits' distance of
#: it; within so many such bands a size is what it is, whatever else it might be read as (chosen here).
_SLIP_MM, _SLIP_BANDS = 0.03, 2.0
_SLIPS = {
    "twice": "a radius taken twice", "half": "a radius typed for a diameter",
    "inch_as_mm": "inches typed as millimetres",
    "mm_as_inch": "millimetres typed as inches", "ten": "a figure that slipped by ten", "sign": "the other sign",
    "thimble": "one turn of the thimble", "rod": "a nib or rod", "swapped": "two figures that changed places",
}  # fmt: skip


def slip_words(slip: Slip) -> str:
    """What is suspected of a size."""
    return _SLIPS[slip.kind]


def rod_meant(size_mm: float, gauge: Gauge, expected_mm: float) -> WithRod | None:
    """The rod that was left out of what was typed; None where the size stands by itself, or no rod fits."""
    far = max(_FAR_MM, _FAR_SHARE * expected_mm)
    if abs(size_mm - expected_mm) <= far:
        return None
    return with_rod(shown_mm=size_mm, rods=gauge.rods_mm, expected_mm=expected_mm, within_mm=far)


class SizeEntryForm(EntryForm):
    """A measured diameter with a named gauge."""

    value = forms.CharField(max_length=60, error_messages={"required": "Type the size, then Enter."})
    gauge = ChoiceOfRow(
        Gauge.objects.reading(), empty_label=None,
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
        #: What it may be instead, as it would be typed: offered, never put in by itself.
        self.likely = ""
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
            self.add_error("value", worded(error, self.units))
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
        asked = (
            "" if str(self.cleaned_data.get("sure") or "").strip() == text.strip() else self._asks(size, text, gauge)
        )
        if asked:
            self.is_far = True
            self.add_error("value", f"{text} reads as {words(size)} {self.units.label}, but {asked}. Is it meant?")
        elif not gauge.range_low_mm <= size <= gauge.range_high_mm:
            self.add_error("value", f"{text} reads as {words(size)} {self.units.label}; {gauge.name} measures "
                                    f"{words(gauge.range_low_mm)} to {words(gauge.range_high_mm)}.")  # fmt: skip

    def _asks(self, size: Decimal, text: str, gauge: Gauge) -> str:
        """Why a size is asked before it is logged: a slip, far from the bore, or from the readings it would join."""
        size_mm = float(size)
        rod = rod_meant(size_mm, gauge, self.expected_mm)
        if rod is not None:
            self.likely = self.units.plain(rod.size_mm)
            return f"{gauge.name} has rods: with its rod {rod.rod} it is {self.likely}"
        around = self.expected_mm if self.joins_mm is None else self.joins_mm
        band = max(_SLIP_MM, self.bore.tolerance_mm)
        slips = size_slips(value_mm=size_mm, expected_mm=around, band_mm=band, unit=self.units.unit, text=text)
        if slips and abs(size_mm - around) > max(_APART_MM, _SLIP_BANDS * band):
            self.likely = self.units.plain(round(slips[0].likely_mm, 6))
            return f"about {self.units.plain(around)} is expected: {slip_words(slips[0])}, {self.likely}"
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
            values["temp_u_c"] = Decimal(0) if part is None and gauge is None else DEGREE
        values["part_temp_c"] = Decimal(20) if part is None else part
        values["gauge_temp_c"] = Decimal(20) if gauge is None else gauge
        return values


#: How well a temperature is known that was typed without saying so.
DEGREE = Decimal(1)

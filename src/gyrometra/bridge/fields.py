"""Form fields that read lengths and limits as people write them, with the core's sentences."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from django import forms

from gyrocore import InvalidInput, error_sentence, read_surface_speed
from gyrometra.bridge.messages import use_shop_words
from gyrometra.bridge.units import Typed, Units, is_bare

#: Columns are DecimalField(12, 6).
LARGEST_MM = 100_000


@dataclass(frozen=True, slots=True)
class Stored:
    """A value that is stored already, and what was once typed for it."""

    value: Decimal
    typed: Typed | None


class TypedForm(forms.Form):
    """A form that knows its reader's unit and keeps what was typed beside each value."""

    def __init__(self, *args: Any, units: Units, **kwargs: Any) -> None:
        self.units = units
        super().__init__(*args, **kwargs)
        for field in self.fields.values():
            if isinstance(field, LengthField | LimitsField | SurfaceSpeedField):
                field.units = units
            field.widget.attrs.setdefault("autocomplete", "off")
        use_shop_words(self)

    def typed(self) -> dict[str, Typed]:
        """Every length and limit as typed, by field."""
        kept: dict[str, Typed] = {}
        for name, field in self.fields.items():
            if isinstance(field, LengthField | LimitsField | SurfaceSpeedField):
                text = str(self.data.get(self.add_prefix(name), "")).strip()
                stored = None if isinstance(field, LimitsField) else field.stored.get(text)
                if stored is not None:
                    kept |= {name: stored.typed} if stored.typed else {}
                elif text:
                    kept[name] = {"text": text, "unit": self.units.unit}
        return kept

    def stands(self, name: str, shown: str, value: Decimal | None, typed: Typed | None) -> None:
        """Let what a field shows for a stored value mean that value still, not its rounded figure read anew.

        Else whoever saves one field in the other unit would change all the rest by their roundings. A text that is
        shown as it was typed has no rounding, and is read as ever.
        """
        field = self.fields.get(name)
        as_typed = typed is not None and typed["text"] == shown
        if value is not None and not as_typed and isinstance(field, LengthField | SurfaceSpeedField):
            field.stored = {**field.stored, shown: Stored(value, typed)}

    def refuse(self, error: InvalidInput, fields: dict[str, str], fallback: str | None = None) -> None:
        """Put a core error at the form's field for it, in the reader's unit."""
        name = fields.get(error.field, error.field)
        if name not in self.fields:
            name = fallback or ""
        label = str(self.fields[name].label) if name in self.fields else None
        self.add_error(name or None, error_sentence(error, self.units.unit, label))


class LengthField(forms.CharField):
    """A length; cleans to a Decimal of millimetres."""

    units = Units()
    #: What is stored, by the text that shows it.
    stored: Mapping[str, Stored] = {}

    def __init__(
        self, *, least: float | None = None, positive: bool = True, ask_over_mm: float | None = None, **kwargs: Any
    ) -> None:
        self.positive = positive
        self.least = least
        #: A figure past this without its unit is asked: 2 for a run-out limit on an inch page is hardly two inches.
        self.ask_over_mm = ask_over_mm
        kwargs.setdefault("max_length", 60)
        super().__init__(**kwargs)
        self.widget.attrs.update({"inputmode": "text", "spellcheck": "false"})

    def clean(self, value: Any) -> Any:
        """Read, guard the sign and the size that a column can hold."""
        text = str(super().clean(value) or "").strip()
        if not text:
            return None
        if text in self.stored:
            return self.stored[text].value
        try:
            size = self.units.read(text)
        except InvalidInput as error:
            raise forms.ValidationError(error_sentence(error, self.units.unit)) from None
        return self._guarded(size, text)

    def _guarded(self, size: Decimal, text: str) -> Decimal:
        what = str(self.label or "The size")
        if self.positive and size <= 0:
            raise forms.ValidationError(f"{what} must be over 0; {text} was given.")
        if self.least is not None and size < Decimal(str(self.least)):
            raise forms.ValidationError(f"{what} must be {self.least:g} or more; {text} was given.")
        if self.ask_over_mm is not None and abs(size) > self.ask_over_mm and is_bare(text):
            raise forms.ValidationError(_asked(what, text, self.units))
        if abs(size) > LARGEST_MM:
            raise forms.ValidationError(f"{what} of {text} is longer than 100 m. Is the unit right?")
        return size


def _asked(what: str, text: str, units: Units) -> str:
    """Far outside what such a figure is: what it was read as, and how to say what was meant."""
    small = f"{text} thou" if units.unit == "in" else f"{text} um"
    return (
        f"{what}: {text} was read as {text} {units.label}, which is far outside of what it usually is. "
        "Type it with its "
        f"unit: {small}, or {text} {units.label} if that is meant."
    )


class LimitsField(forms.CharField):
    """Limits of size of a bore; cleans to the core's Limits."""

    units = Units()

    def __init__(self, *, outside: bool = False, **kwargs: Any) -> None:
        kwargs.setdefault("max_length", 80)
        #: Of an outside a shaft's class is meant, and a bore's is asked.
        self.outside = outside
        super().__init__(**kwargs)

    def clean(self, value: Any) -> Any:
        """Read them with the core's sentences; a shaft's class is asked, for a bore has a capital letter."""
        text = str(super().clean(value) or "").strip()
        if not text:
            return None
        try:
            limits = self.units.read_limits(text)
        except InvalidInput as error:
            raise forms.ValidationError(error_sentence(error, self.units.unit)) from None
        if limits.class_name and self.outside:
            if limits.class_name[0].isupper():
                raise forms.ValidationError(
                    f"{text} is a class for a bore. For an outside type {limits.nominal_mm:g} "
                    f"{limits.class_name.lower()}."
                )
            return limits
        if limits.class_name and limits.class_name[0].islower():
            bore = f"{limits.nominal_mm:g} {limits.class_name.upper()}"
            raise forms.ValidationError(
                f"{text} is a class for a shaft. For the bore type {bore}; to fit a shaft, type its size under "
                '"To suit a part".'
            )
        return limits


class SurfaceSpeedField(forms.CharField):
    """A surface speed in m/min or ft/min; cleans to a Decimal of m/min."""

    units = Units()
    #: What is stored, by the text that shows it.
    stored: Mapping[str, Stored] = {}
    #: Between a hand-turned bar and what no cutter stands [m/min].
    LEAST, MOST = 0.1, 2000

    def __init__(self, **kwargs: Any) -> None:
        kwargs.setdefault("max_length", 30)
        super().__init__(**kwargs)

    def clean(self, value: Any) -> Any:
        """Read it, and refuse what no cutter runs at."""
        text = str(super().clean(value) or "").strip()
        if not text:
            return None
        if text in self.stored:
            return self.stored[text].value
        try:
            speed = read_surface_speed(text, self.units.unit)
        except InvalidInput as error:
            raise forms.ValidationError(error_sentence(error, self.units.unit)) from None
        if not self.LEAST <= speed <= self.MOST:
            least, most = self.units.surface_speed(self.LEAST), self.units.surface_speed(self.MOST)
            raise forms.ValidationError(f"{self.label} must be from {least} to {most}; {text} was given.")
        return Decimal(repr(round(speed, 2)))

"""A length between people and the core: read in the reader's unit, shown in it, kept as typed."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal
from math import ceil, floor, log10
from typing import TypedDict

from gyrocore import Limits, clean_text, feet_min, length_words, read_length, read_limits

#: How far a stored figure may lie beside a typed one, in thousandths of the last place shown.
_STORED = 1e-3
#: Share of a gauge's step that rounding may take off a size shown in the other unit.
_ROUNDED = 0.2


class Typed(TypedDict):
    """What a person typed, and the unit that was meant where the text named none."""

    text: str
    unit: str


@dataclass(frozen=True, slots=True)
class Units:
    """How one person reads and writes lengths."""

    unit: str = "mm"

    @property
    def label(self) -> str:
        """The unit as printed behind a figure."""
        return self.unit

    @property
    def scale(self) -> float:
        """What a millimetre is in it: for an axis that is drawn in the unit shown."""
        return 1.0 if self.unit == "mm" else 1 / 25.4

    def planned(self, value_mm: float | Decimal) -> str:
        """A planned size: 0.001 mm or 0.0001 in."""
        return length_words(float(value_mm), self.unit, digits=3 if self.unit == "mm" else 4)

    def lowest(self, value_mm: float | Decimal) -> str:
        """A bottom limit, rounded inward: never under what it stands for."""
        return self._inward(value_mm, ceil, -1)

    def highest(self, value_mm: float | Decimal) -> str:
        """A top limit, or one of form, rounded inward: never over what it stands for."""
        return self._inward(value_mm, floor, 1)

    def _inward(self, value_mm: float | Decimal, toward: Callable[[float], int], slack: int) -> str:
        # what is stored to a millionth of a millimetre may lie that much beside a figure that was typed
        places = 3 if self.unit == "mm" else 4
        scaled = float(value_mm) / (1 if self.unit == "mm" else 25.4) * 10**places
        return f"{toward(scaled + slack * _STORED) / 10**places:.{places}f}"

    def about(self, value_mm: float | Decimal, figures: int = 2) -> str:
        """A figure known to a tenth at best, as where chatter begins: so many figures, rounded down."""
        value = float(value_mm) / (1 if self.unit == "mm" else 25.4)
        if value <= 0:
            return self.planned(value_mm)
        places = figures - 1 - floor(log10(value) + 1e-12)
        return f"{floor(value * 10**places + 1e-9) / 10**places:.{max(0, places)}f}"

    def small(self, value_mm: float | Decimal) -> str:
        """As planned; of what would show as nothing, its first figure: 0.00004."""
        text = self.planned(value_mm)
        value = abs(float(value_mm)) / (1 if self.unit == "mm" else 25.4)
        if float(text) != 0 or value < 1e-9:
            return text
        return f"{value:.{1 - floor(log10(value)) - 1}f}"

    def plain(self, value_mm: float | Decimal) -> str:
        """As planned, without trailing noughts."""
        return length_words(float(value_mm), self.unit)

    def fine(self, value_mm: float | Decimal) -> str:
        """A small figure of a card or a rule, never rounded to the planned digits: 0.0254, 0.0075."""
        return length_words(float(value_mm), self.unit, digits=6).rstrip("0").rstrip(".")

    def length(self, value_mm: float | Decimal) -> str:
        """A length along the axis: 1 mm, or 0.01 in."""
        value = float(value_mm)
        if self.unit == "mm":
            return f"{value:.0f}" if abs(value - round(value)) < 0.05 else f"{value:.1f}"
        return f"{value / 25.4:.2f}"

    def limit(self, value_mm: float | Decimal) -> str:
        """A length that must not be passed, rounded inward: 1 mm, or 0.01 in."""
        if self.unit == "mm":
            return f"{floor(float(value_mm) + 1e-9)}"
        return f"{floor(float(value_mm) / 25.4 * 100 + 1e-9) / 100:.2f}"

    def measured(self, value_mm: float | Decimal, step_mm: float | Decimal) -> str:
        """A measured size, to the step of the gauge and no further.

        A step of the other unit is no round figure in this one: then to so many figures that rounding takes a fifth of
        a step at most.
        """
        step = float(step_mm) if self.unit == "mm" else float(step_mm) / 25.4
        under = max(0, ceil(-log10(step) - 1e-9))
        other = max(0, ceil(-log10(2 * _ROUNDED * step) - 1e-2))
        own = next((digits for digits in (under, under + 1) if abs(round(step, digits) - step) <= 1e-6 * step), other)
        return length_words(float(value_mm), self.unit, digits=min(own, 5))

    def doubt(self, value_mm: float | Decimal) -> str:
        """An uncertainty, rounded up: 0.001 mm or 0.0001 in."""
        places = 3 if self.unit == "mm" else 4
        size = float(value_mm) / (1 if self.unit == "mm" else 25.4)
        return f"{ceil(size * 10**places - 1e-9) / 10**places:.{places}f}"

    def signed(self, value_mm: float | Decimal) -> str:
        """A planned size with its sign."""
        text = self.planned(value_mm)
        if float(text) == 0:
            return "0"
        return text if text.startswith("-") else f"+{text}"

    def surface_speed(self, speed_m_min: float | Decimal) -> str:
        """A surface speed with its unit: m/min, or ft/min where lengths are in inches."""
        speed = float(speed_m_min)
        return f"{speed:.4g} m/min" if self.unit == "mm" else f"{feet_min(speed):.0f} ft/min"

    def limits(self, text: str, unit: str, lower_mm: float, upper_mm: float) -> str:
        """Limits as they were written in a unit, where that means the same to this reader; else both in their own."""
        if unit == self.unit or _names_unit(text):
            return text
        return self.between(lower_mm, upper_mm)

    def between(self, lower_mm: float | Decimal, upper_mm: float | Decimal) -> str:
        """Both limits, each rounded inward."""
        return f"{self.lowest(lower_mm)} to {self.highest(upper_mm)}"

    def limits_typed(self, text: str, typed: Typed | None) -> str:
        """Limits for a field: as written, with the unit named where the reader's own is another."""
        written = typed["unit"] if typed else "mm"
        if not text or written == self.unit or _names_unit(text):
            return text
        by_class = _CLASS.match(text.strip())
        return f"{by_class['size'].strip()} {written} {by_class['class']}" if by_class else f"{text} {written}"

    def read_limits(self, text: str) -> Limits:
        """Read limits of size; raises the core's InvalidInput."""
        return read_limits(text, unit=self.unit)

    def read(self, text: str) -> Decimal:
        """Read what was typed; raises the core's InvalidInput."""
        return to_decimal(read_length(text, self.unit).length_mm)

    def shown(self, value_mm: float | Decimal | None, typed: Typed | None) -> str:
        """What a field shows for a stored value: as typed while that still means the same."""
        if typed and (typed["unit"] == self.unit or not _is_bare(typed["text"])):
            return typed["text"]
        return "" if value_mm is None else self.plain(value_mm)


def to_decimal(value: float) -> Decimal:
    """A core length as the database keeps it: six places of a millimetre."""
    return Decimal(repr(round(value, 6)))


_CLASS = re.compile(r"^(?P<size>.*?)\s*(?P<class>[A-Za-z]{1,2}\s?\d{1,2})$")


def _names_unit(text: str) -> bool:
    return re.search(r"\"|\b(mm|inch(es)?|in|thou|um|µm|microns?|cm)\b", clean_text(text), re.IGNORECASE) is not None


def is_bare(text: str) -> bool:
    """Whether a text names no unit."""
    return _is_bare(text)


def _is_bare(text: str) -> bool:
    return not any(sign.isalpha() or sign in '"″”' for sign in text)

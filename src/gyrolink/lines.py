"""What a gauge says in a line of text, read strictly."""

from __future__ import annotations

import re
from dataclasses import dataclass

from gyrocore.units import MM_PER_INCH

#: Said by a gauge, or by a foot switch beside it, to have the reading taken.
PRESS = "press"
_LINE = re.compile(
    r"""^(?:[A-Za-z]\d{0,2}[:=\s]\s*)?        # the channel, where the gauge names it
    (?P<number>[+-]?\d*(?:[.,]\d+)?)\s*
    (?P<unit>mm|um|µm|in|\")?
    (?:\s+(?P<press>press))?$""",
    re.IGNORECASE | re.VERBOSE,
)
_INCH = float(MM_PER_INCH)
_IN_MM = {"mm": 1.0, "um": 0.001, "µm": 0.001, "in": _INCH, '"': _INCH}
#: No indicator reads further [mm].
MOST_MM = 1000.0


@dataclass(frozen=True, slots=True)
class Line:
    """A value [mm], None where only the switch was pressed; whether it is to be taken."""

    value_mm: float | None
    pressed: bool


def read_line(text: str, unit: str) -> Line | None:
    """Read a line: `+0.0123`, `0.0123 mm`, `12 um`, `A1: 0.0005 in`, with `press` behind it or alone.

    `unit` counts where the line names none. A comma is a decimal point. A line that says anything else is not a
    reading, None: it is left out rather than guessed at.
    """
    text = text.strip()
    if text.lower() == PRESS:
        return Line(None, True)
    found = _LINE.match(text)
    if found is None or not any(one.isdigit() for one in found["number"]):
        return None
    value = float(found["number"].replace(",", ".")) * _IN_MM[(found["unit"] or unit).lower()]
    return Line(value, found["press"] is not None) if abs(value) <= MOST_MM else None

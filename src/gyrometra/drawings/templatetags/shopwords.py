"""Words of figures where a template prints one by itself."""

from decimal import Decimal

from django import template

from gyrocore import Note, sentence
from gyrometra.bridge.units import Units

register = template.Library()


@register.filter
def lengthof(units: Units, value_mm: float | Decimal) -> str:
    """A length along the axis in the reader's unit."""
    return units.length(value_mm)


@register.filter(name="sentence")
def note_sentence(note: Note, units: Units) -> str:
    """A note of the core in the reader's unit."""
    return sentence(note, units.unit)


@register.filter
def gaugeof(reading: object) -> int | None:
    """The gauge that a size was measured with."""
    return getattr(reading, "gauge_id", None)


@register.filter
def planned(units: Units, value_mm: float | Decimal) -> str:
    """A planned size in the reader's unit."""
    return units.planned(value_mm)

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


#: The colour of a mark; state is never colour alone, so each is printed with its mark. The rest is brass.
_TONES = {"in": "ok", "over": "out", "under": "lefty", "wait": "idle", "out": "idle", "sign": "lefty"}
#: States that are not called like their mark.
_MARKS = {"ok": "in", "pick": "in", "sign": "in", "metal-left": "under", "not-proven": "near", "incomplete": "wait"}
_DRAWN = ("in", "near", "over", "under", "advice", "wait", "out")


@register.filter
def markof(state: str) -> str:
    """The mark of a state: what has none of its own is near."""
    mark = _MARKS.get(state, state)
    return mark if mark in _DRAWN else "near"


@register.filter
def tone(state: str) -> str:
    """The class that colours a state like its mark."""
    return _TONES.get(markof(state), "near")


@register.filter
def gaugeof(reading: object) -> int | None:
    """The gauge that a size was measured with."""
    return getattr(reading, "gauge_id", None)


@register.filter
def planned(units: Units, value_mm: float | Decimal) -> str:
    """A planned size in the reader's unit."""
    return units.planned(value_mm)

"""Beside a field: what was typed, as it was understood."""

from django import template
from django.forms import BoundField

from gyrocore import InvalidInput, read_limits
from gyrometra.bridge.fields import LengthField, LimitsField
from gyrometra.bridge.units import Units

register = template.Library()


@register.filter
def echo(field: BoundField, units: Units) -> str:
    """`= 68.263 mm` where the text is not plainly that; the two limits of a class."""
    text = str(field.value() or "").strip()
    if not text or field.errors:
        return ""
    try:
        if isinstance(field.field, LimitsField):
            limits = read_limits(text)
            return f"= {units.planned(limits.lower_mm)} to {units.planned(limits.upper_mm)} {units.label}"
        if isinstance(field.field, LengthField):
            size = units.read(text)
            plain = text.replace(".", "", 1).lstrip("+-").isdigit()
            return "" if plain else f"= {units.plain(size)} {units.label}"
    except InvalidInput:
        return ""
    return ""

"""A field with its label, what was typed as it was understood, and what is wrong."""

from typing import Any

from django import template
from django.forms import BoundField

from gyrocore import InvalidInput
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
            limits = units.read_limits(text)
            return f"= {units.between(limits.lower_mm, limits.upper_mm)} {units.label}"
        if isinstance(field.field, LengthField):
            size = units.read(text)
            plain = text.replace(".", "", 1).lstrip("+-").isdigit()
            return "" if plain else f"= {units.plain(size)} {units.label}"
    except InvalidInput:
        return ""
    return ""


def _with_echo(context: dict[str, Any], field: BoundField) -> dict[str, Any]:
    units = context.get("units")
    quiet = context.get("panel") is not None and bool(
        field.value()
    )  # beside the drawing a filled field speaks for itself
    return {"field": field, "quiet": quiet, "echo": echo(field, units) if units is not None else ""}


@register.inclusion_tag("fields/box.html", takes_context=True)
def field_box(context: dict[str, Any], field: BoundField) -> dict[str, Any]:
    """A field under its label."""
    return _with_echo(context, field)


@register.inclusion_tag("fields/small.html", takes_context=True)
def small_box(context: dict[str, Any], field: BoundField) -> dict[str, Any]:
    """A field whose label only a screen reader needs."""
    return _with_echo(context, field)


@register.inclusion_tag("fields/inline.html", takes_context=True)
def inline_box(context: dict[str, Any], field: BoundField, words: str) -> dict[str, Any]:
    """A field in a line of words, its label behind it."""
    return {**_with_echo(context, field), "words": words}

"""A field with its label, what was typed as it was understood, and what is wrong; in Python: a page has dozens."""

from typing import Any

from django import template
from django.forms import BoundField
from django.utils.html import escape, format_html
from django.utils.safestring import SafeString, mark_safe

from gyrocore import InvalidInput
from gyrometra.bridge.fields import LengthField, LimitsField, LineInput
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


def _shown(field: BoundField) -> SafeString:
    """The field's own input. A plain line is printed here: Django's way to it took most of a page's time."""
    widget = field.field.widget
    if type(widget) is not LineInput:
        return SafeString(field)
    value = widget.format_value(field.value())
    attrs: dict[str, Any] = {
        "type": "text", "name": field.html_name, "id": field.auto_id, **widget.attrs,
        **({} if value is None else {"value": value}),
        **({"required": True} if field.field.required and field.form.use_required_attribute else {}),
        **({"aria-invalid": "true"} if field.errors else {}),
    }  # fmt: skip
    printed = [f" {name}" if text is True else f' {name}="{escape(text)}"' for name, text in attrs.items()]
    return mark_safe(f"<input{''.join(printed)}>")  # noqa: S308 - every value is escaped above


def _echo(field: BoundField, units: Units | None, tag: str) -> SafeString:
    words = echo(field, units) if units is not None else ""
    return format_html('<{0} class="echo">{1}</{0}>', tag, words) if words else mark_safe("")


def _below(field: BoundField) -> SafeString:
    if field.errors:
        return format_html('<p class="err" id="{}-err">{}</p>', field.id_for_label, field.errors[0])
    return format_html('<p class="help">{}</p>', field.help_text) if field.help_text else mark_safe("")


@register.simple_tag(takes_context=True)
def field_box(context: dict[str, Any], field: BoundField) -> SafeString:
    """A field under its label."""
    bad = " bad" if field.errors else ""
    return format_html(
        '<div class="fld{}"><label for="{}">{}</label>{}{}{}</div>',
        bad, field.id_for_label, field.label, _shown(field), _echo(field, context.get("units"), "p"), _below(field),
    )  # fmt: skip


@register.simple_tag(takes_context=True)
def small_box(context: dict[str, Any], field: BoundField) -> SafeString:
    """A field whose label only a screen reader needs."""
    bad = " bad" if field.errors else ""
    wrong = format_html('<p class="err">{}</p>', field.errors[0]) if field.errors else ""
    return format_html(
        '<div class="fld{}"><label class="visually-hidden" for="{}">{}</label>{}{}{}</div>',
        bad, field.id_for_label, field.label, _shown(field), _echo(field, context.get("units"), "p"), wrong,
    )  # fmt: skip


@register.simple_tag(takes_context=True)
def inline_box(context: dict[str, Any], field: BoundField, words: str) -> SafeString:
    """A field in a line of words, its label behind it."""
    bad = " bad" if field.errors else ""
    wrong = format_html('<span class="err">{}</span>', field.errors[0]) if field.errors else ""
    return format_html(
        '<span class="inl{}">{} <label for="{}"><i>{}</i></label>{}{}</span>',
        bad, _shown(field), field.id_for_label, words, _echo(field, context.get("units"), "span"), wrong,
    )  # fmt: skip

"""The hidden fields that every entry of a log carries."""

from __future__ import annotations

import uuid
from typing import Any

from django import template
from django.middleware.csrf import get_token
from django.utils.html import format_html_join
from django.utils.safestring import SafeString

register = template.Library()


@register.simple_tag(takes_context=True)
def entry_fields(
    context: dict[str, Any], *, form: Any = None, round: Any = None, undo: Any = None, again: Any = None
) -> SafeString:
    """Token, own id, and what the page shows; a refused form keeps its id (`again` where it has no form of ours)."""
    given = form.data.get("client_id") if form is not None and hasattr(form, "data") else None
    fields = [
        ("csrfmiddlewaretoken", get_token(context["request"])),
        ("client_id", given or again or uuid.uuid4()),
        ("seen", context["seen"](round or None)),
    ]
    if undo is not None:
        fields.append(("undo", undo))
    return format_html_join("", '<input type="hidden" name="{}" value="{}">', fields)

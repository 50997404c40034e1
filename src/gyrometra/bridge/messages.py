"""What a form says of a wrong entry: shop words instead of the framework's, with what was given and what is allowed."""

from __future__ import annotations

from collections.abc import Callable
from copy import copy
from typing import Any

from django import forms
from django.core.validators import MaxValueValidator, MinValueValidator

_OWN = {
    "required": "{label} is missing.",
    "invalid_choice": "{label}: choose one of the list.",
    "invalid": "{label}: this cannot be read.",
    "invalid_pk_value": "{label}: choose from the list.",
    "max_digits": "{label} has too many figures.",
    "max_decimal_places": "{label} has too many decimals.",
    "max_whole_digits": "{label} is too large.",
}
_LEAST = "%(limit_value)s or more; %(show_value)s was given."
_MOST = "%(limit_value)s or less; %(show_value)s was given."


def use_shop_words(form: forms.Form) -> None:
    """Put shop words in the place of every message of the framework that a field did not replace itself."""
    for name, field in form.fields.items():
        label = str(field.label or name.replace("_", " ").capitalize()).split(" (")[0]
        standard = _standard_messages(field)
        for code, words in _OWN.items():
            if code in field.error_messages and field.error_messages[code] == standard.get(code):
                field.error_messages[code] = words.format(label=label)
        field.validators = [_worded(validator, label) for validator in field.validators]


def _standard_messages(field: forms.Field) -> dict[str, object]:
    found: dict[str, object] = {}
    for kind in reversed(type(field).__mro__):
        found.update(getattr(kind, "default_error_messages", {}))
    return found


def _worded(validator: Callable[[Any], None], label: str) -> Callable[[Any], None]:
    for kind, words in ((MinValueValidator, _LEAST), (MaxValueValidator, _MOST)):
        if isinstance(validator, kind):
            own: Any = copy(validator)
            own.message = f"{label} must be {words}"
            return own  # type: ignore[no-any-return]
    return validator

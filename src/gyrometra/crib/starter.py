"""A starter set for an empty crib: sound general figures, each with where it comes from in its notes."""

from __future__ import annotations

import tomllib
from importlib.resources import files

from django.db import transaction

from gyrometra.accounts.models import User
from gyrometra.crib.forms import FORMS
from gyrometra.crib.services import keep_item
from gyrometra.crib.values import MM


class NotEmpty(Exception):
    """There are things in the crib already."""


def rows() -> list[tuple[str, dict[str, str]]]:
    """Kind and fields of each thing, as a person would type them."""
    data = tomllib.loads((files(__package__) / "starter.toml").read_text(encoding="utf-8"))
    return [(kind, item) for kind, items in data.items() for item in items]


@transaction.atomic
def put_in(*, user: User) -> int:
    """Put the starter set in, through the forms that a person uses; returns how many things."""
    if any(form.model._default_manager.exists() for kind, form in FORMS.items() if kind != "material"):
        raise NotEmpty("The crib has things in it already: the starter set is for an empty one.")
    things = rows()
    for kind, item in things:
        form = FORMS[kind](item, units=MM)
        if not form.is_valid():
            raise ValueError(f"starter set, {item['name']}: {form.errors.as_json()}")
        keep_item(user=user, item=form.model(), values=form.cleaned_data, typed=form.typed())
    return len(things)

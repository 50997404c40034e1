"""A starter set for what a crib has none of: sound general figures, each with where it comes from in its notes."""

from __future__ import annotations

import tomllib
from importlib.resources import files

from django.db import transaction

from gyrometra.accounts.models import User
from gyrometra.crib.forms import FORMS
from gyrometra.crib.services import keep_item
from gyrometra.crib.values import MM


class NotEmpty(Exception):
    """There is something of every kind in the crib already."""


def kinds() -> list[str]:
    """Kinds that the starter set has something of."""
    return list(dict.fromkeys(kind for kind, _ in rows()))


def lacking() -> list[str]:
    """Kinds of the starter set that the crib has none of."""
    return [kind for kind in kinds() if not FORMS[kind].model._default_manager.exists()]


def rows() -> list[tuple[str, dict[str, str]]]:
    """Kind and fields of each thing, as a person would type them."""
    data = tomllib.loads((files(__package__) / "starter.toml").read_text(encoding="utf-8"))
    return [(kind, item) for kind, items in data.items() for item in items]


@transaction.atomic
def put_in(*, user: User) -> int:
    """Put in what the crib has none of, through the forms that a person uses; returns how many things."""
    missing = lacking()
    if not missing:
        raise NotEmpty("The crib has something of every kind: the starter set is for what is missing.")
    things = [(kind, item) for kind, item in rows() if kind in missing]
    for kind, item in things:
        form = FORMS[kind](item, units=MM)
        if not form.is_valid():
            raise ValueError(f"starter set, {item['name']}: {form.errors.as_json()}")
        keep_item(user=user, item=form.model(), values=form.cleaned_data, typed=form.typed())
    return len(things)

"""What the forms of the crib have in common, and how lists of figures are read."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from typing import Any

from django import forms
from django.forms import BoundField

from gyrocore import InvalidInput, error_sentence
from gyrometra.bridge.fields import LengthField, SurfaceSpeedField, TypedForm
from gyrometra.bridge.units import Units
from gyrometra.crib.models import CribItem, Machine


def lines_field(label: str, like: str, **kwargs: Any) -> forms.CharField:
    """A list of figures, one thing a line; need not be filled."""
    area = forms.Textarea(attrs={"rows": 2})
    return forms.CharField(label=label, required=False, max_length=600, widget=area, help_text=like, **kwargs)


def read_length(text: str, units: Units, what: str) -> float:
    """A length over 0."""
    try:
        size = float(units.read(text))
    except InvalidInput as error:
        raise forms.ValidationError(error_sentence(error, units.unit)) from None
    if size <= 0:
        raise forms.ValidationError(f"A {what} must be over 0; {text} was given.")
    return size


def read_lengths(text: str, units: Units, what: str) -> list[float]:
    """Lengths apart by `;`, by a comma with a space, or by a new line."""
    pieces = re.split(r"[;\n]|,\s+", str(text))
    return [read_length(piece.strip(), units, what) for piece in pieces if piece.strip()]


def read_pairs(
    text: str, first: Callable[[str], float], second: Callable[[str], float], like: str
) -> list[list[float]]:
    """Lines of two figures each, apart by a space."""
    found = []
    for line in re.split(r"[;\n]", str(text)):
        if not line.strip():
            continue
        pieces = line.split()
        if len(pieces) != 2:
            raise forms.ValidationError(f"{line.strip()} is no pair of figures. Type two a line, like {like}.")
        found.append([first(pieces[0]), second(pieces[1])])
    return found


class CribForm(TypedForm):
    """A named thing; names stand once a kind."""

    model: type[CribItem] = Machine
    #: Fields that most things of the kind leave empty: folded away until one of them is filled or refused.
    folded: tuple[str, ...] = ()
    name = forms.CharField(label="Name", max_length=60)
    notes = forms.CharField(
        label="Notes", max_length=300, required=False, help_text="what it is good for, where it hangs"
    )

    def __init__(
        self, *args: Any, item: CribItem | None = None, named: Mapping[str, CribItem] | None = None, **kwargs: Any
    ) -> None:
        """`named`: every thing of the kind by its name in small letters, where many forms are read at once."""
        self.item, self.named = item, named
        super().__init__(*args, **kwargs)
        for name in self.base_fields if item else ():
            field = self.fields[name]
            if isinstance(field, LengthField):
                value, typed = getattr(item, name), item.typed.get(name) if item else None
                self.stands(name, self.units.shown(value, typed), value, typed)
            elif isinstance(field, SurfaceSpeedField):
                value = getattr(item, name)
                self.stands(name, self.units.surface_speed(value), value, None)
        self.order_fields([name for name in self.fields if name != "notes"])

    @property
    def first_fields(self) -> list[BoundField]:
        """What every thing of the kind has."""
        return [self[name] for name in self.fields if name not in self.folded]

    @property
    def more_fields(self) -> list[BoundField]:
        """What most of them leave empty."""
        return [self[name] for name in self.fields if name in self.folded]

    @property
    def has_more(self) -> bool:
        """Whether something stands, or is refused, in what is folded away."""
        return any(one.errors or one.value() not in (None, "", one.field.initial, False, "0") for one in
                   self.more_fields)  # fmt: skip

    def clean_name(self) -> str:
        """Refuse a name that stands already."""
        name = str(self.cleaned_data["name"]).strip()
        if self._is_taken(name):
            raise forms.ValidationError(f"There is already a {name}. Give another name.")
        return name

    def _is_taken(self, name: str) -> bool:
        own = self.item.pk if self.item is not None else None
        if self.named is not None:
            other = self.named.get(name.lower())
            return other is not None and other.pk != own
        return self.model._default_manager.filter(name__iexact=name).exclude(pk=own).exists()

"""A choice among rows of the crib that asks the database once, however often its widget is printed."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING, Any

from django import forms
from django.forms.models import ModelChoiceIterator

if TYPE_CHECKING:
    _Field = forms.ModelChoiceField[Any]
    _Fields = forms.ModelMultipleChoiceField[Any]
else:
    _Field, _Fields = forms.ModelChoiceField, forms.ModelMultipleChoiceField


class _Once(ModelChoiceIterator):
    """The rows, read when they are first looked at."""

    def __iter__(self) -> Iterator[Any]:
        listed = getattr(self.field, "listed", None)
        if listed is None:
            listed = self.field.listed = list(super().__iter__())  # type: ignore[attr-defined]
        return iter(listed)

    def __bool__(self) -> bool:
        """Whether there is anything to choose."""
        return any(True for _ in self)


class ChoiceOfRow(_Field):
    """One row of a table."""

    iterator = _Once


class ChoiceOfRows(_Fields):
    """Several rows of a table."""

    iterator = _Once

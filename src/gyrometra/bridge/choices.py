"""A choice among rows of the crib that asks the database once, however often it is printed or looked up."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import TYPE_CHECKING, Any

from django import forms
from django.forms.models import ModelChoiceIterator

if TYPE_CHECKING:
    _Field = forms.ModelChoiceField[Any]
    _Fields = forms.ModelMultipleChoiceField[Any]
else:
    _Field, _Fields = forms.ModelChoiceField, forms.ModelMultipleChoiceField


class _Once(ModelChoiceIterator):
    """The rows, read when they are first looked at, or offered by who has them already."""

    def __iter__(self) -> Iterator[Any]:
        field: Any = self.field
        if field.offered is None:
            field.offered = list(self.queryset)
        if field.empty_label is not None:
            yield ("", field.empty_label)
        for row in field.offered:
            yield self.choice(row)

    def __len__(self) -> int:
        return sum(1 for _ in self)

    def __bool__(self) -> bool:
        """Whether there is anything to choose."""
        return any(True for _ in self)


class ChoiceOfRow(_Field):
    """One row of a table."""

    iterator = _Once
    #: The rows to choose from, once they are read.
    offered: list[Any] | None = None

    def offer(self, rows: Iterable[Any]) -> None:
        """Choose among rows that were read already."""
        self.offered = list(rows)

    def to_python(self, value: Any) -> Any:
        """The row of a key; refused where it is not among those offered."""
        if self.offered is None or value in self.empty_values:
            return super().to_python(value)
        key = self.to_field_name or "pk"
        wanted = str(getattr(value, key, value))
        found = next((row for row in self.offered if str(getattr(row, key)) == wanted), None)
        if found is None:
            raise forms.ValidationError(self.error_messages["invalid_choice"], "invalid_choice", {"value": value})
        return found


class ChoiceOfRows(_Fields):
    """Several rows of a table."""

    iterator = _Once
    offered: list[Any] | None = None

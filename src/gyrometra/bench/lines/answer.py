"""What a bench line is: two or three fields, one answer with its because."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, ClassVar

from django import forms

from gyrocore import InvalidInput
from gyrometra.bridge.fields import TypedForm
from gyrometra.bridge.units import Units
from gyrometra.steps.plates import Because


@dataclass(frozen=True, kw_only=True)
class Answer:
    """One figure, its unit, and the words of the dial under it."""

    figure: str
    unit: str
    words: Sequence[str]
    because: Because
    state: str = "plain"

    @property
    def text(self) -> str:
        """The answer on one line, as it is kept in a job."""
        return "; ".join([f"{self.figure} {self.unit}".strip(), *(words.rstrip(".") for words in self.words)])


class Line(TypedForm):
    """A bench line. `sizes` names the fields that the ask line fills, in the order they are said."""

    key: ClassVar[str]
    title: ClassVar[str]
    #: First words of the ask line that mean this line.
    verbs: ClassVar[tuple[str, ...]] = ()
    sizes: ClassVar[tuple[str, ...]] = ()
    #: The field that takes the words which are no sizes (a material, a kind of bar).
    word_field: ClassVar[str] = ""
    #: How the ask line is written, for the sentence that explains it.
    example: ClassVar[str] = ""
    #: Core field -> field of this form, where they differ.
    core_fields: ClassVar[dict[str, str]] = {}

    def __init__(self, data: Any = None, *, units: Units, **kwargs: Any) -> None:
        super().__init__(data, units=units, prefix=self.key, **kwargs)
        for field in self.fields.values():
            field.required = False

    @property
    def is_begun(self) -> bool:
        """Whether anything was typed."""
        return any(str(self.data.get(self.add_prefix(name), "")).strip() for name in self.fields)

    def answered(self) -> Answer | None:
        """The answer; None while figures are missing or refused (the errors then stand at their fields)."""
        if not self.is_valid():
            return None
        if any(self.cleaned_data.get(name) in (None, "") for name in self.sizes if self.is_needed(name)):
            return None
        try:
            return self.answer()
        except InvalidInput as error:
            self.refuse(error, self.core_fields, self.sizes[-1])
            return None

    def is_needed(self, name: str) -> bool:
        """Whether the answer waits for this field."""
        return True

    def answer(self) -> Answer:
        """Work it out; raises the core's InvalidInput."""
        raise NotImplementedError

    def value(self, name: str) -> float:
        """A cleaned figure as the core takes it."""
        return float(self.cleaned_data[name])

    def because(self, formula: str, inputs: Sequence[tuple[str, str]], source: str) -> Because:
        """Formula, inputs and source of the answer."""
        return Because(formula=formula, inputs=inputs, source=source)

    def shown(self, value_mm: float) -> str:
        """A planned size with its unit."""
        return f"{self.units.planned(value_mm)} {self.units.label}"


class NumberField(forms.DecimalField):
    """A plain number over 0; a decimal comma is read as one."""

    def __init__(self, **kwargs: Any) -> None:
        kwargs.setdefault("max_digits", 12)
        super().__init__(**kwargs)
        self.widget = forms.TextInput(attrs={"inputmode": "decimal", "spellcheck": "false"})

    def clean(self, value: Any) -> Any:
        """Read it, and say in shop words what is allowed."""
        text = str(value or "").strip().replace(",", ".")
        if not text:
            return None
        try:
            found = super().clean(text)
        except forms.ValidationError:
            raise forms.ValidationError(f"{self.label} must be a number; {str(value)[:40]} was given.") from None
        return found

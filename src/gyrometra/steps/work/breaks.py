"""Rows of the Work form for keyways, ports and slots: keyways, ports, cross holes, slots."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal
from typing import Any

from django import forms

from gyrometra.bridge.fields import LengthField, TypedForm
from gyrometra.jobs.models import Interruption
from gyrometra.jobs.services import Break

BREAK_ROWS = 3
_LENGTHS = (("from", "Begins at, from the open face"), ("to", "Ends at"), ("width", "Wide across the wall"))


class BreaksForm(TypedForm):
    """A form with rows of interruptions, guarded against the bore's own length."""

    breaks: list[Break]

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        kinds = [("", "none"), *Interruption.Kind.choices]
        for place in range(BREAK_ROWS):
            self.fields[f"break_kind_{place}"] = forms.ChoiceField(label="Kind", choices=kinds, required=False)
            for name, label in _LENGTHS:
                field = LengthField(label=label, required=False, positive=name != "from", least=0)
                field.units = self.units
                field.widget.attrs.update({"autocomplete": "off", "placeholder": name})
                self.fields[f"break_{name}_{place}"] = field
            self.fields[f"break_angle_{place}"] = forms.DecimalField(
                label="At, degrees from jaw 1 or the mark", required=False, min_value=0, max_value=Decimal("359.99"),
                widget=forms.TextInput(attrs={"placeholder": "at °", "inputmode": "decimal"}),
            )  # fmt: skip

    def break_rows(self) -> Iterator[list[Any]]:
        """The bound fields, row by row: those that are filled, and one more."""
        filled = sum(bool(self[f"break_kind_{place}"].value()) for place in range(BREAK_ROWS))
        for place in range(min(filled + 1, BREAK_ROWS)):
            yield [self[f"break_{name}_{place}"] for name in ("kind", "from", "to", "width", "angle")]

    def read_breaks(self, length_mm: Decimal | None) -> list[Break]:
        """The rows that name a kind; each lies within the bore."""
        found, typed = [], self.typed()
        for place in range(BREAK_ROWS):
            kind = self.cleaned_data.get(f"break_kind_{place}")
            values: dict[str, Any] = {name: self.cleaned_data.get(f"break_{name}_{place}") for name, _ in _LENGTHS}
            if not kind:
                self._refuse_lone(place, values)
                continue
            if not self._whole(place, values, length_mm):
                continue
            kept = {f"{name}_mm": typed[f"break_{name}_{place}"] for name in values if f"break_{name}_{place}" in typed}
            found.append(
                Break(kind=kind, from_mm=values["from"], to_mm=values["to"], width_mm=values["width"],
                      angle_deg=self.cleaned_data.get(f"break_angle_{place}") or Decimal(0), typed=kept)
            )  # fmt: skip
        return found

    def _refuse_lone(self, place: int, values: dict[str, Any]) -> None:
        if any(value is not None for value in values.values()):
            self.add_error(f"break_kind_{place}", "Say what is there, or leave the row empty.")

    def _whole(self, place: int, values: dict[str, Any], length_mm: Decimal | None) -> bool:
        names = [f"break_{name}_{place}" for name in values]
        if any(name in self.errors for name in names):
            return False
        for name, label in _LENGTHS:
            if values[name] is None:
                self.add_error(f"break_{name}_{place}", f"{label} is missing in this row.")
        if any(value is None for value in values.values()):
            return False
        plain, unit = self.units.plain, self.units.label
        if values["to"] <= values["from"]:
            self.add_error(f"break_to_{place}", f"It must end past {plain(values['from'])} {unit}, where it begins; "
                                                f"{plain(values['to'])} was given.")  # fmt: skip
        elif length_mm is not None and values["to"] > length_mm:
            self.add_error(f"break_to_{place}", f"The bore is {plain(length_mm)} {unit} long; {plain(values['to'])} "
                                                "lies past its end.")  # fmt: skip
        return f"break_to_{place}" not in self.errors

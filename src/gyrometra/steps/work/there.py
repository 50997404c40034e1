"""Rows of the Work form for holes on the axis that are only there: the bar must pass them, nothing cuts them."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal
from typing import Any

from django import forms

from gyrometra.bridge.fields import LengthField, TypedForm
from gyrometra.jobs.services import There

THERE_ROWS = 3
_LENGTHS = (("from", "Begins at, from the open face"), ("to", "Ends at"), ("d", "Its size"))


class ThereForm(TypedForm):
    """A form with rows of holes that are not cut."""

    there: list[There]

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for place in range(THERE_ROWS):
            self.fields[f"there_name_{place}"] = forms.CharField(
                label="What is there",
                max_length=20,
                required=False,
                widget=forms.TextInput(attrs={"placeholder": "name"}),
            )
            for name, label in _LENGTHS:
                field = LengthField(label=label, required=False, positive=name == "d", least=None if name == "d" else 0)
                field.units = self.units
                shown = "Ø" if name == "d" else name
                field.widget.attrs.update({"autocomplete": "off", "placeholder": shown})
                self.fields[f"there_{name}_{place}"] = field

    def there_rows(self) -> Iterator[list[Any]]:
        """The bound fields, row by row: those that are filled, and one more."""
        filled = sum(bool(self[f"there_d_{place}"].value()) for place in range(THERE_ROWS))
        for place in range(min(filled + 1, THERE_ROWS)):
            yield [self[f"there_{name}_{place}"] for name in ("name", "from", "to", "d")]

    def read_there(self) -> list[There]:
        """The rows that are filled; each whole, and with an end past its beginning."""
        found, typed = [], self.typed()
        for place in range(THERE_ROWS):
            values = {name: self.cleaned_data.get(f"there_{name}_{place}") for name, _ in _LENGTHS}
            name = str(self.cleaned_data.get(f"there_name_{place}") or "").strip()
            if not name and all(value is None for value in values.values()):
                continue
            if not self._is_whole(place, values):
                continue
            short = {"from": "from_mm", "to": "to_mm", "d": "diameter_mm"}
            lengths: dict[str, Any] = {key: values[name] for name, key in short.items()}
            kept = {key: typed[f"there_{one}_{place}"] for one, key in short.items() if f"there_{one}_{place}" in typed}
            found.append(There(name=name or "hole", **lengths, typed=kept))
        return found

    def _is_whole(self, place: int, values: dict[str, Decimal | None]) -> bool:
        if any(f"there_{name}_{place}" in self.errors for name in values):
            return False
        for name, label in _LENGTHS:
            if values[name] is None:
                self.add_error(f"there_{name}_{place}", f"{label} is missing in this row.")
        if any(value is None for value in values.values()):
            return False
        first, last = values["from"], values["to"]
        if first is not None and last is not None and last <= first:
            plain, unit = self.units.plain, self.units.label
            self.add_error(f"there_to_{place}", f"It must end past {plain(first)} {unit}, where it begins; "
                                                f"{plain(last)} was given.")  # fmt: skip
        return f"there_to_{place}" not in self.errors

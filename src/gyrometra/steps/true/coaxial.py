"""A coaxial indicator wound along X, then along Y, to its smallest swing: where each stands, by two or three tries."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_safe

from gyrocore import InvalidInput, SmallestSwing, sentence, smallest_swing
from gyrometra.bridge.fields import LengthField, TypedForm
from gyrometra.bridge.units import Units
from gyrometra.steps.shared.view import units_of

_TRIES = (1, 2, 3)
AXES = ("x", "y")
#: An indicator that shows so much more or less than the run-out is told of (chosen here: past what tries scatter by).
_TIMES_TOLD = 0.2


@dataclass(frozen=True, slots=True, kw_only=True)
class WindTo:
    """Where an axis swings least, and what it then swings by."""

    axis: str
    at: str
    swing: str
    says: tuple[str, ...]


class TriesForm(TypedForm):
    """Positions along one axis, and the swing at each."""

    def __init__(self, data: Any = None, *, axis: str, units: Units) -> None:
        self.axis = axis
        super().__init__(data, units=units, prefix=axis)
        for one in _TRIES:
            at = LengthField(label=f"{axis.upper()} stood at", required=False, positive=False)
            swing = LengthField(label="swing", required=False, positive=False, least=0)
            at.units = swing.units = units
            self.fields |= {f"at_{one}": at, f"swing_{one}": swing}

    @property
    def pairs(self) -> list[tuple[Any, Any]]:
        """The fields of each try."""
        return [(self[f"at_{one}"], self[f"swing_{one}"]) for one in _TRIES]

    def clean(self) -> dict[str, Any]:
        """Each position has its swing; two are needed before a least is told."""
        values = super().clean() or {}
        for one in _TRIES:
            at, swing = values.get(f"at_{one}"), values.get(f"swing_{one}")
            if (at is None) is not (swing is None) and not self.errors:
                self.add_error(f"swing_{one}" if swing is None else f"at_{one}", "Give the position and its swing.")
        tried = [one for one in _TRIES if values.get(f"at_{one}") is not None]
        if self.errors or len(tried) < 2:
            return values
        try:
            values["found"] = smallest_swing(
                at_mm=[float(values[f"at_{one}"]) for one in tried],
                swings_mm=[float(values[f"swing_{one}"]) for one in tried],
            )  # fmt: skip
        except InvalidInput as error:
            self.refuse(error, {}, f"swing_{tried[-1]}")
        return values

    @property
    def told(self) -> WindTo | None:
        """Where to wind; None while too little was tried, or it was refused."""
        found: SmallestSwing | None = self.cleaned_data.get("found") if self.is_valid() else None
        if found is None:
            return None
        units, says = self.units, [sentence(one, self.units.unit) for one in found.notes]
        if abs(found.shown_times - 1) > _TIMES_TOLD:
            says.append(f"It shows {found.shown_times:.1f} times the run-out: divide its swing by that.")
        return WindTo(
            axis=self.axis.upper(), at=units.planned(found.at_mm), swing=units.planned(found.swing_mm), says=tuple(says)
        )


def tries_of(data: Any, units: Units) -> list[TriesForm]:
    """The tries along X and along Y."""
    return [TriesForm(data, axis=axis, units=units) for axis in AXES]


def tries_typed(data: Any, units: Units) -> dict[str, str]:
    """The tries as they were typed, for the log; what cannot be read is none."""
    read = [form for form in tries_of(data, units) if form.is_valid()]
    return {
        form.add_prefix(name): str(data[form.add_prefix(name)]).strip()[:40]
        for form in read for name in form.fields if form.cleaned_data.get(name) is not None
    }  # fmt: skip


@require_safe
def coaxial(request: HttpRequest, number: str) -> HttpResponse:
    """Where to wind, as it is typed: nothing is logged."""
    units = Units("in" if request.GET.get("unit") == "in" else "mm") if "unit" in request.GET else units_of(request)
    return render(request, "steps/coaxial.html", {"tries": tries_of(request.GET, units), "units": units})

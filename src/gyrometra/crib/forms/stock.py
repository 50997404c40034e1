"""Forms of materials, and of fixtures and packing."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from django import forms

from gyrocore import materials
from gyrometra.bridge.fields import LengthField, SurfaceSpeedField
from gyrometra.crib.forms.base import CribForm
from gyrometra.crib.general import general_rows
from gyrometra.crib.models import Fixture, Material, Size


def _speed(label: str) -> SurfaceSpeedField:
    return SurfaceSpeedField(label=f"{label}, surface speed", required=False)


_OF_CLASS = "blank: that of its class"


class MaterialForm(CribForm):
    """A material: its class and what cutting, heat and speed need to know of it."""

    model = Material
    folded = ("kc11_mpa", "mc", "thrust_ratio", "expansion_um_m_k", "carbide_rough_m_min", "carbide_finish_m_min",
              "hss_rough_m_min", "hss_finish_m_min", "source")  # fmt: skip
    family = forms.ChoiceField(label="Class", choices=[(key, entry.label) for key, entry in materials().items()])
    hardness = forms.CharField(label="Hardness", max_length=30, required=False, help_text="as you know it: 190 HB")
    kc11_mpa = forms.DecimalField(label="kc1.1, MPa", min_value=50, max_value=20_000, max_digits=8, decimal_places=2,
                                  required=False, help_text=_OF_CLASS)  # fmt: skip
    mc = forms.DecimalField(label="mc", min_value=0, max_value=Decimal("0.95"), max_digits=5, decimal_places=4,
                            required=False, help_text=_OF_CLASS)  # fmt: skip
    thrust_ratio = forms.DecimalField(
        label="Thrust, share of the cutting force", min_value=0, max_value=3, max_digits=5, decimal_places=4,
        required=False, help_text=_OF_CLASS,
    )  # fmt: skip
    expansion_um_m_k = forms.DecimalField(
        label="Expansion, µm in 1 m for 1 °C", min_value=0, max_value=200, max_digits=6, decimal_places=3,
        required=False, help_text=_OF_CLASS,
    )  # fmt: skip
    carbide_rough_m_min = _speed("Carbide, roughing")
    carbide_finish_m_min = _speed("Carbide, finishing")
    hss_rough_m_min = _speed("High-speed steel, roughing")
    hss_finish_m_min = _speed("High-speed steel, finishing")
    source = forms.CharField(label="Where the figures come from", max_length=120, required=False)

    def clean(self) -> dict[str, Any]:
        """Figures that nobody knows are those of the class, and say so."""
        values = super().clean() or {}
        family = values.get("family")
        general = next((row for row in general_rows() if row["family"] == family), None)
        for name, value in (general or {}).items():
            if name not in ("name", "family") and name not in self.errors and values.get(name) in (None, ""):
                values[name] = value if isinstance(value, str) else Decimal(str(value))
        return values


class FixtureForm(CribForm):
    """A fixture, a plate, packing or a bush that was made for a job and kept."""

    model = Fixture
    kind = forms.ChoiceField(label="Kind", choices=Fixture.Kind.choices)
    purpose = forms.CharField(label="What for", max_length=120)
    for_part = forms.CharField(label="Made for part", max_length=80, required=False)
    length_mm = LengthField(label="Long", required=False)
    width_mm = LengthField(label="Wide", required=False)
    height_mm = LengthField(label="High", required=False, help_text="packing is chosen by it")
    count = forms.IntegerField(label="How many alike", min_value=1, max_value=999, initial=1, required=False)

    def clean_count(self) -> int:
        """One unless another number is given."""
        return self.cleaned_data.get("count") or 1


class SizeForm(CribForm):
    """A part that exists in this size."""

    model = Size
    kind = forms.ChoiceField(label="Kind", choices=Size.Kind.choices, initial=Size.Kind.RING, required=False)
    diameter_mm = LengthField(label="Outside Ø of the part")
    play_mm = LengthField(label="Bore larger than the part by", required=False, positive=False, ask_over_mm=2,
                          help_text="minus is a press; blank: as large as the part")  # fmt: skip
    have = forms.IntegerField(label="How many are here", min_value=0, max_value=9999, required=False)

    def clean(self) -> dict[str, Any]:
        """Blank is a ring, no play, none here."""
        values = super().clean() or {}
        values["kind"] = values.get("kind") or Size.Kind.RING
        values["play_mm"] = values.get("play_mm") or Decimal(0)
        values["have"] = values.get("have") or 0
        return values

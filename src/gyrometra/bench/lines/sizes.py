"""Lines of sizes: half the difference, limits and fit, conversion, taper, heat."""

from __future__ import annotations

from typing import Any

from django import forms

from gyrocore import (
    Fit,
    InvalidInput,
    Limits,
    fit,
    nearest_common,
    read_limits,
    sentence,
    taper_correction,
    thermal_size,
)
from gyrometra.bench.lines.answer import Answer, Line, NumberField
from gyrometra.bridge.choices import ChoiceOfRow
from gyrometra.bridge.fields import LengthField
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Material


class HalfLine(Line):
    """Half the difference of two diameters or readings; of one figure alone, its half."""

    key, title, verbs = "half", "Half the difference", ("half",)
    sizes, example = ("want", "have"), "half 13 thou"

    want = LengthField(label="want", positive=False)
    have = LengthField(label="have", positive=False)

    def is_needed(self, name: str) -> bool:
        return name == "want"

    def answer(self) -> Answer:
        want, have = self.value("want"), self.cleaned_data["have"]
        difference = want - float(have or 0)
        where = "larger" if difference >= 0 else "smaller"
        words = [f"{self.shown(abs(difference))} on diameter, {where}"] if have is not None else ["on radius"]
        return Answer(
            figure=self.units.planned(abs(difference) / 2), unit=self.units.label, words=words,
            because=self.because("(want - have) / 2", [("difference", self.shown(difference))],
                                 "A diameter is two radii; a total reading is twice off centre."),
        )  # fmt: skip


class LimitsLine(Line):
    """Limits of a hole, and how a shaft sits in it."""

    key, title, verbs = "limits", "Limits and fit", ("limits", "fit")
    sizes, example = ("hole", "shaft"), "64 H7, or fit 64 H7 / g6"

    hole = forms.CharField(label="bore", max_length=60)
    shaft = forms.CharField(label="shaft", max_length=60)

    def is_needed(self, name: str) -> bool:
        return name == "hole"

    def answer(self) -> Answer:
        hole, shaft = str(self.cleaned_data["hole"]), str(self.cleaned_data["shaft"] or "")
        try:
            limits = read_limits(hole, unit=self.units.unit)
        except InvalidInput as error:
            raise InvalidInput("hole", error.code, given=error.given, allowed=error.allowed, **error.values) from None
        found = fit(hole=hole, shaft=with_nominal(shaft, limits)) if shaft.strip() else None
        return limits_answer(self, limits, found)


def with_nominal(shaft: str, hole: Limits) -> str:
    """A shaft class alone (`g6`) takes the hole's nominal size."""
    bare = shaft.strip()
    return f"{hole.nominal_mm:g} {bare}" if hole.nominal_mm and bare[:1].isalpha() else bare


def limits_answer(line: Line, limits: Limits, found: Fit | None) -> Answer:
    """Both limits, the middle, and the fit where a shaft was given."""
    units = line.units
    words = [f"middle {units.planned(limits.middle_mm)}, {units.planned(limits.tolerance_mm)} between them"]
    if found:
        words.append(f"{found.kind}. {' '.join(sentence(n, units.unit) for n in found.notes)}")
    return Answer(
        figure=units.between(limits.lower_mm, limits.upper_mm),
        unit=units.label,
        words=words,
        because=line.because(
            "limits = size + deviations; clearance = bore - shaft",
            [("smallest", line.shown(limits.lower_mm)), ("largest", line.shown(limits.upper_mm))],
            f"Class {limits.class_name} by ISO 286-1:2010." if limits.class_name else "As you gave them.",
        ),
    )


class ConvertLine(Line):
    """A length in the other unit, with the common size next to it."""

    key, title, verbs = "convert", "Length", ("length", "convert")
    sizes, example = ("length",), "2 11/16 in"

    length = LengthField(label="length")

    def answer(self) -> Answer:
        size = self.value("length")
        other = Units("in" if self.units.unit == "mm" else "mm")
        inch, metric = nearest_common(size)
        return Answer(
            figure=self.units.fine(size), unit=self.units.label,
            words=[f"= {other.fine(size)} {other.label}",
                   *(_gap_words(common.words, common.gap_mm, self.units) for common in (inch, metric))],
            because=self.because("1 in = 25.4 mm exactly", [("as read", self.shown(size))],
                                 "Common sizes: 64ths of an inch, half millimetres (shop practice)."),
        )  # fmt: skip


def _gap_words(words: str, gap_mm: float, units: Units) -> str:
    if abs(gap_mm) < 5e-7:
        return f"{words} exactly"
    return f"{words} {'and' if gap_mm > 0 else 'less'} {units.planned(abs(gap_mm))}"


class TaperLine(Line):
    """The shift that takes a taper out."""

    key, title, verbs = "taper", "Taper to shift", ("taper",)
    sizes, example = ("taper", "over", "lever"), "taper 0.2 over 150 at 380"
    core_fields = {"taper_mm": "taper", "over_mm": "over", "lever_mm": "lever"}

    taper = LengthField(label="on Ø", positive=False)
    over = LengthField(label="over")
    lever = LengthField(label="moved at", positive=False)

    def answer(self) -> Answer:
        taper, over, lever = self.value("taper"), self.value("over"), self.value("lever")
        found = taper_correction(taper_mm=taper, over_mm=over, lever_mm=lever)
        way = "outward" if found.move_mm > 0 else "inward"
        return Answer(
            figure=self.units.planned(abs(found.move_mm)), unit=self.units.label,
            words=[f"{way}, {self.units.plain(lever)} past the pivot; the taper is taken on diameter",
                   f"the wall runs out {abs(found.angle_mm_m):.3f} mm a metre on radius"],
            because=self.because("move = - taper / 2 / over x lever",
                                 [("taper on diameter, grows with depth", self.shown(taper)),
                                  ("over", self.shown(over))], "Derived by similar triangles."),
        )  # fmt: skip


class HeatLine(Line):
    """What a warm part measures."""

    key, title, verbs = "heat", "Warm part", ("warm", "heat", "hot")
    sizes, word_field, example = ("diameter", "at"), "material", "warm 100 iron 35"
    core_fields = {"diameter_mm": "diameter", "at_c": "at"}

    diameter = LengthField(label="Ø at 20 °C")
    material = ChoiceOfRow(Material.objects.filter(retired=False), label="of", to_field_name="name", empty_label=None)
    at = NumberField(label="now, °C")

    def clean(self) -> dict[str, Any]:
        """Without a material the crib's first is meant, as the field shows it."""
        values = super().clean() or {}
        if not values.get("material") and "material" not in self.errors:
            values["material"] = Material.objects.filter(retired=False).first()
        return values

    def answer(self) -> Answer:
        found_material = self.cleaned_data["material"].data
        found = thermal_size(
            diameter_mm=self.value("diameter"),
            expansion_um_m_k=found_material.expansion_um_m_k,
            at_c=self.value("at"),
        )
        way = "larger" if found.change_mm >= 0 else "smaller"
        return Answer(
            figure=self.units.planned(found.size_at_c_mm), unit=self.units.label,
            words=[f"{self.shown(abs(found.change_mm))} {way} than at 20 °C"],
            because=self.because("D (1 + a (T - 20))",
                                 [(found_material.label, f"{found_material.expansion_um_m_k:g} µm/(m K)")],
                                 f"{found_material.source}; sizes hold at 20 °C by ISO 1."),
        )  # fmt: skip


SIZES: tuple[type[Line], ...] = (HalfLine, LimitsLine, ConvertLine, TaperLine, HeatLine)

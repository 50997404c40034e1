"""Lines of two figures: surface speed, midpoint, sum, step to diameter, slide move, measured parts, a head's dial."""

from __future__ import annotations

import re
from typing import Any

from django import forms

from gyrocore import InvalidInput, head_dial, surface_speed_m_min
from gyrometra.bench.lines.answer import Answer, Line, NumberField
from gyrometra.bridge.choices import ChoiceOfRow
from gyrometra.bridge.fields import LengthField
from gyrometra.crib.models import Head
from gyrometra.crib.records import head_record
from gyrometra.steps.plates import dial_words
from gyrometra.steps.shared.setting import turned_words

_MM_PER_INCH = 25.4
_SIGNS = re.compile(r"\s+([-+−])\s+")


class MidLine(Line):
    """Half way between two sizes or two readings."""

    key, title, verbs = "mid", "Midpoint", ("mid", "middle", "midpoint")
    sizes, example = ("one", "other"), "mid 2.418 4.972"

    one = LengthField(label="from", positive=False)
    other = LengthField(label="to", positive=False)

    def answer(self) -> Answer:
        one, other = self.value("one"), self.value("other")
        return Answer(
            figure=self.units.planned((one + other) / 2), unit=self.units.label,
            words=[f"{self.shown(abs(other - one) / 2)} from either"],
            because=self.because("(from + to) / 2", [("apart", self.shown(abs(other - one)))], "Derived."),
        )  # fmt: skip


class SumLine(Line):
    """Lengths added and taken away, each in the unit it is written in."""

    key, title, verbs = "sum", "Sum", ("sum", "add")
    sizes, example = ("sum",), "1.3 in + 3 mm"

    sum = forms.CharField(label="lengths with + and -", max_length=120)

    def clean_sum(self) -> list[tuple[str, float]] | None:
        """Every part with its sign; a part that cannot be read is named."""
        pieces = _SIGNS.split(str(self.cleaned_data.get("sum") or "").strip())
        signs = ["+", *pieces[1::2]]
        found = []
        for sign, text in zip(signs, pieces[::2], strict=True):
            if not text and len(pieces) == 1:
                return None
            try:
                value = float(self.units.read(text))
            except InvalidInput:
                raise forms.ValidationError(f"{text or sign} is no length. Write it like {self.example}.") from None
            found.append((f"{sign} {text}", value if sign == "+" else -value))
        return found

    def answer(self) -> Answer:
        parts = self.cleaned_data["sum"]
        return Answer(
            figure=self.units.fine(sum(value for _, value in parts)), unit=self.units.label,
            words=[f"{len(parts)} length{'s' if len(parts) > 1 else ''}"],
            because=self.because("added as written, 1 in = 25.4 mm",
                                 [(text, self.shown(value)) for text, value in parts], "Definition of the inch."),
        )  # fmt: skip


class StepLine(Line):
    """The diameter that a tip standing so far above the bar cuts."""

    key, title, verbs = "step", "Step to diameter", ("step",)
    sizes, example = ("bar", "step"), "step 0.875 0.31"
    core_fields = {"bar_diameter_mm": "bar"}

    bar = LengthField(label="bar Ø")
    step = LengthField(label="tip above the bar")

    def answer(self) -> Answer:
        bar, step = self.value("bar"), self.value("step")
        return Answer(
            figure=self.units.planned(bar + 2 * step), unit=self.units.label,
            words=[f"over bar and tip {self.shown(bar + step)}"],
            because=self.because("cut = bar + 2 x step", [("bar", self.shown(bar)), ("step", self.shown(step))],
                                 "Derived from the two radii; only where the bar turns about its own centre."),
        )  # fmt: skip


class PitchField(forms.CharField):
    """A screw's pitch: a length, or threads an inch."""

    def clean(self, value: Any) -> Any:
        """The text; the line reads it in its own unit."""
        return str(value or "").strip() or None


class SlideLine(Line):
    """Turns of a screw that move a slide so far."""

    key, title, verbs = "move", "Slide move", ("move", "slide")
    sizes, example = ("move", "pitch", "divisions", "backlash"), "move 1.3 in 8 tpi"

    move = LengthField(label="move", positive=False)
    pitch = PitchField(label="pitch, or 8 tpi", max_length=20)
    divisions = NumberField(label="divisions a turn", min_value=1, max_value=10_000)
    backlash = NumberField(label="backlash, divisions", min_value=0, max_value=10_000)

    def is_needed(self, name: str) -> bool:
        return name in ("move", "pitch")

    def clean_pitch(self) -> float | None:
        """In millimetres."""
        text = self.cleaned_data.get("pitch")
        if not text:
            return None
        threads = re.match(r"^([\d.]+)\s*(?:tpi|threads.*)$", text, re.IGNORECASE)
        if threads and float(threads[1]) > 0:
            return _MM_PER_INCH / float(threads[1])
        try:
            return float(self.units.read(text))
        except InvalidInput:
            raise forms.ValidationError(f"{text} is no pitch: a length, or threads an inch like 8 tpi.") from None

    def answer(self) -> Answer:
        move, pitch = self.value("move"), self.value("pitch")
        if pitch <= 0:
            raise InvalidInput("pitch", "not_positive", given=pitch, allowed=0)
        turns = move / pitch
        per_turn, backlash = self.cleaned_data["divisions"], self.cleaned_data["backlash"]
        words = [f"{turned_words(abs(turns) * float(per_turn), float(per_turn))}"] if per_turn else []
        if backlash and per_turn:
            reversed_words = turned_words(abs(turns) * float(per_turn) + float(backlash), float(per_turn))
            words.append(f"{reversed_words} where the screw was turned the other way before")
        return Answer(
            figure=f"{abs(turns):.3f}".rstrip("0").rstrip("."), unit="turns", words=words or [self.shown(abs(move))],
            because=self.because("turns = move / pitch; backlash is added where the direction changes",
                                 [("pitch", self.shown(pitch))], "Derived."),
        )  # fmt: skip


class PlayLine(Line):
    """Clearance of two measured sizes."""

    key, title, verbs = "play", "Measured parts", ("play", "clearance")
    sizes, example = ("hole", "shaft"), "fit 72.012 71.985"

    hole = LengthField(label="bore, measured")
    shaft = LengthField(label="shaft, measured")

    def answer(self) -> Answer:
        hole, shaft = self.value("hole"), self.value("shaft")
        gap = hole - shaft
        return Answer(
            figure=self.units.planned(abs(gap)), unit=self.units.label,
            words=["clearance, on diameter" if gap >= 0 else "interference, on diameter"],
            because=self.because("bore - shaft", [("bore", self.shown(hole)), ("shaft", self.shown(shaft))],
                                 "Derived; both at one temperature."),
        )  # fmt: skip


class HeadLine(Line):
    """Divisions of a boring head's own dial."""

    key, title, verbs = "head", "Boring head", ("head",)
    sizes, example = ("have", "want"), "head 23.10 23.34"
    core_fields = {"measured_diameter_mm": "have", "target_diameter_mm": "want"}

    have = LengthField(label="have Ø")
    want = LengthField(label="want Ø")
    head = ChoiceOfRow(Head.objects.filter(retired=False), label="head", empty_label="the only one")

    def answer(self) -> Answer:
        offered = list(Head.objects.filter(retired=False)[:2])
        head: Head | None = self.cleaned_data["head"] or (offered[0] if len(offered) == 1 else None)
        if head is None:
            raise InvalidInput("head", "missing")
        dial = head_record(head, ()).dial
        move = head_dial(measured_diameter_mm=self.value("have"), target_diameter_mm=self.value("want"), dial=dial)
        return Answer(
            figure=f"{abs(move.divisions):.1f}".removesuffix(".0"), unit="div",
            words=[f"{dial_words(move.divisions, dial.divisions_per_turn)} on {head}",
                   f"{self.shown(abs(move.radial_mm))} on radius"],
            because=self.because("divisions = (want - have) / what one division is on diameter",
                                 [("one division", f"{self.units.fine(move.division_on_diameter_mm)} on diameter")],
                                 "The head's dial as the crib has it."),
        )  # fmt: skip


class SurfaceLine(Line):
    """Surface speed of a diameter at a speed of the spindle."""

    key, title, verbs = "surface", "Surface speed", ("surface",)
    sizes, example = ("diameter", "rpm"), "surface 64 280"
    core_fields = {"diameter_mm": "diameter"}

    diameter = LengthField(label="Ø")
    rpm = NumberField(label="rpm", min_value=0)

    def answer(self) -> Answer:
        speed = surface_speed_m_min(self.value("diameter"), self.value("rpm"))
        figure, _, unit = self.units.surface_speed(speed).partition(" ")
        return Answer(
            figure=figure, unit=unit, words=[f"at Ø{self.units.plain(self.value('diameter'))}"],
            because=self.because("v = pi D n / 1000", [("diameter", self.shown(self.value("diameter"))),
                                 ("rpm", f"{self.value('rpm'):g}")], "Definition of surface speed."),
        )  # fmt: skip


BETWEEN: tuple[type[Line], ...] = (SurfaceLine, MidLine, SumLine, StepLine, SlideLine, PlayLine, HeadLine)

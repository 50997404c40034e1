"""Lines of cutting: speed, cutter setting, overhang, passes, dial, time, roughness."""

from __future__ import annotations

from contextlib import suppress
from typing import Any

from django import forms
from django.db.models import Count

from gyrocore import (
    InvalidInput,
    bar_kind,
    bar_kinds,
    cut_time,
    equal_passes,
    finish,
    head_dial,
    materials,
    over_bar,
    read_surface_speed,
    sentence,
    spindle_speed,
)
from gyrometra.bench.lines.answer import Answer, Line, NumberField
from gyrometra.bridge.choices import ChoiceOfRow
from gyrometra.bridge.fields import LengthField
from gyrometra.crib.models import Machine, Material
from gyrometra.crib.records import machine_record
from gyrometra.steps.plates import dial_words
from gyroplan.assess import machine_speed


class MachineLine(Line):
    """A line that can bring its answer to a machine's own speeds or dial."""

    def __init__(self, data: Any = None, *, machines: Any = None, **kwargs: Any) -> None:
        super().__init__(data, **kwargs)
        offered = Machine.objects.filter(retired=False) if machines is None else machines
        self.fields["machine"].queryset = offered  # type: ignore[attr-defined]


def material_named(words: str) -> Material | None:
    """The crib's material that a word means: its name, its class, or a part of either.

    Of several that have it in their name the one that most jobs are of; of those alike, as the catalogue has them.
    """
    wanted = words.strip().lower()
    offered = [item for item in Material.objects.filter(retired=False) if wanted]
    found = [m for m in offered if wanted in m.name.lower() or wanted in m.family]
    exact = [m for m in found if wanted in (m.name.lower(), m.family)]
    if len(exact or found) < 2:
        return next(iter(exact or found), None)
    classes, jobs = list(materials()), Material.objects.annotate(many=Count("jobs")).in_bulk(field_name="name")
    return min(exact or found, key=lambda one: (-jobs[one.name].many, classes.index(one.family), one.name))


class SpeedLine(MachineLine):
    """Spindle speed for a diameter."""

    key, title, verbs = "speed", "Speed", ("speed", "rpm")
    sizes, word_field, example = ("diameter", "at"), "at", "speed 64 iron"
    core_fields = {"diameter_mm": "diameter", "surface_speed_m_min": "at"}

    diameter = LengthField(label="Ø")
    at = forms.CharField(label="surface speed or material", max_length=40)
    machine = ChoiceOfRow(Machine.objects.none(), label="Machine", empty_label="no machine")

    def clean_at(self) -> tuple[float, str] | None:
        """A surface speed, or a material whose roughing speed with carbide is meant; `hss` may follow."""
        text = str(self.cleaned_data.get("at") or "").strip()
        if not text:
            return None
        with suppress(InvalidInput):
            return read_surface_speed(text, self.units.unit), "as you gave it"
        made_of = "hss" if text.lower().endswith(" hss") else "carbide"
        found = material_named(text[: -len(" hss")] if made_of == "hss" else text)
        if found is None:
            names = ", ".join(m.name for m in Material.objects.filter(retired=False))
            raise forms.ValidationError(f"{text} is no speed and no material of the crib; there are {names}.")
        tool = "high-speed steel" if made_of == "hss" else "carbide"
        return found.data.speed_m_min[made_of].rough, f"{found.name}, {tool}, roughing: {found.source}"

    def answer(self) -> Answer:
        speed, source = self.cleaned_data["at"]
        machine: Machine | None = self.cleaned_data["machine"]
        diameter = self.value("diameter")
        as_it_is = machine_record(machine) if machine else None
        if as_it_is is None:
            found = spindle_speed(diameter_mm=diameter, surface_speed_m_min=speed)
        else:
            found = machine_speed(as_it_is, diameter, speed)
        lever = as_it_is.lever_for(found.set_rpm) if as_it_is else ""
        words = [f"exact {found.exact_rpm:.0f}, four-times rule {found.rule_of_thumb_rpm:.0f}"]
        if machine:
            words.insert(0, f"lever {lever} = {found.set_rpm:.0f}" if lever else f"{machine} has {found.set_rpm:.0f}")
        inputs = [("diameter", self.shown(self.value("diameter"))), ("surface speed", self.units.surface_speed(speed))]
        return Answer(
            figure=f"{found.set_rpm:.0f}", unit="rpm", words=words,
            because=self.because("n = 1000 v / (pi D), down to a speed the machine has", inputs, source),
        )  # fmt: skip


class CutterLine(Line):
    """Micrometer reading over the back of a line bar and its cutter."""

    key, title, verbs = "cutter", "Cutter setting", ("over", "cutter")
    sizes, example = ("bar", "cut"), "over 32 58"
    core_fields = {"bar_diameter_mm": "bar", "cutting_diameter_mm": "cut"}

    bar = LengthField(label="bar Ø")
    cut = LengthField(label="cut Ø")

    def answer(self) -> Answer:
        bar, cut = self.value("bar"), self.value("cut")
        found = over_bar(bar_diameter_mm=bar, cutting_diameter_mm=cut)
        return Answer(
            figure=self.units.planned(found.reading_mm), unit=self.units.label,
            words=["micrometer over bar and tip", f"tip {self.shown(found.protrusion_mm)} above the bar"],
            because=self.because("reading = (bar + cut) / 2",
                                 [("bar", self.shown(bar)), ("cut", self.shown(cut))],
                                 "Derived from the two radii; only where the bar turns about its own centre."),
        )  # fmt: skip


class OverhangLine(Line):
    """Overhang against the rule of thumb of the bar's kind."""

    key, title, verbs = "overhang", "Overhang", ("overhang", "out")
    sizes, word_field, example = ("diameter", "out"), "kind", "overhang steel 40 165"

    kind = forms.ChoiceField(label="bar", choices=[(k, v.label) for k, v in bar_kinds().items()], initial="steel")
    diameter = LengthField(label="Ø")
    out = LengthField(label="out")

    def answer(self) -> Answer:
        kind = bar_kind(self.cleaned_data["kind"] or "steel")
        diameter, out = self.value("diameter"), self.value("out")
        allowed, over = kind.rule_ratio * diameter, out - kind.rule_ratio * diameter
        is_over = over > 0
        length = f"{self.units.length(abs(over))} {self.units.label}"
        return Answer(
            figure=f"{out / diameter:.1f}", unit="x D", state="warn" if is_over else "plain",
            words=[f"{length} over advice, {kind.rule_ratio:g} x D" if is_over
                   else f"{length} in hand of {kind.rule_ratio:g} x D"],
            because=self.because("overhang / diameter against the rule of the bar's kind",
                                 [("rule", f"{kind.rule_ratio:g} x D = {self.units.length(allowed)}")],
                                 f"{kind.source} Bending and chatter need the cut: plan them in a job."),
        )  # fmt: skip


class PassesLine(Line):
    """How many passes take a bore from one size to another."""

    key, title, verbs = "passes", "Passes", ("passes", "cuts")
    sizes, example = ("now", "want", "deep"), "passes 68.4 72 0.5"
    core_fields = {"start_diameter_mm": "now", "aim_diameter_mm": "want", "rough_depth_mm": "deep"}

    now = LengthField(label="from Ø")
    want = LengthField(label="to Ø")
    deep = LengthField(label="deepest, radial")

    def answer(self) -> Answer:
        passes = equal_passes(
            start_diameter_mm=self.value("now"), aim_diameter_mm=self.value("want"), depth_mm=self.value("deep")
        )
        stock = self.value("want") - self.value("now")
        return Answer(
            figure=str(len(passes)), unit="passes" if len(passes) > 1 else "pass",
            words=[f"each {self.shown(passes[0].depth_mm)} deep, on radius", f"{self.shown(stock)} off in all"],
            because=self.because("the fewest equal cuts, none deeper than that; finish cuts are planned in a job",
                                 [(f"pass {p.number}", f"to Ø{self.units.planned(p.diameter_mm)}") for p in passes],
                                 "Shop practice: cuts alike, so that the bar bends alike."),
        )  # fmt: skip


class DialLine(MachineLine):
    """Turns and divisions of a machine's own dial."""

    key, title, verbs = "dial", "Dial", ("dial",)
    sizes, example = ("have", "want"), "dial 71.215 71.615"
    core_fields = {"measured_diameter_mm": "have", "target_diameter_mm": "want"}

    have = LengthField(label="have Ø")
    want = LengthField(label="want Ø")
    machine = ChoiceOfRow(Machine.objects.none(), label="Machine", empty_label="no machine")

    def answer(self) -> Answer:
        lathes = self.fields["machine"].queryset.filter(kind=Machine.Kind.LATHE)  # type: ignore[attr-defined]
        offered = list(lathes[:2])
        machine = self.cleaned_data["machine"] or (offered[0] if len(offered) == 1 else None)
        dial = machine_record(machine, ()).dial if machine else None
        if machine is None or dial is None:
            raise InvalidInput("machine", "no_dial" if machine else "which_dial")
        move = head_dial(measured_diameter_mm=self.value("have"), target_diameter_mm=self.value("want"), dial=dial)
        return Answer(
            figure=f"{abs(move.divisions):.1f}".removesuffix(".0"), unit="div",
            words=[
                f"{dial_words(move.divisions, dial.divisions_per_turn)} on {machine}",
                f"{self.shown(abs(move.radial_mm))} on radius",
            ],
            because=self.because("divisions = (want - have) / what one division is on diameter",
                                 [("one division", f"{self.units.fine(move.division_on_diameter_mm)} on diameter")],
                                 "The machine's dial as the crib has it."),
        )  # fmt: skip


class TimeLine(Line):
    """Minutes of one pass."""

    key, title, verbs = "time", "Time", ("time", "minutes")
    sizes, example = ("length", "feed", "rpm"), "time 140 0.2 280"
    core_fields = {"length_mm": "length", "feed_mm_rev": "feed"}

    length = LengthField(label="long")
    feed = LengthField(label="feed per rev")
    rpm = NumberField(label="rpm")

    def answer(self) -> Answer:
        found = cut_time(length_mm=self.value("length"), feed_mm_rev=self.value("feed"), rpm=self.value("rpm"))
        per_minute = self.value("feed") * self.value("rpm")
        return Answer(
            figure=f"{found.minutes:.1f}", unit="min",
            words=[f"{self.units.plain(per_minute)} {self.units.label} a minute, under feed only"],
            because=self.because("t = length / (feed x rpm)", [("feed", self.shown(self.value("feed"))),
                                 ("rpm", f"{self.value('rpm'):g}")], "Derived; setting and measuring come on top."),
        )  # fmt: skip


class RoughnessLine(Line):
    """Roughness that nose and feed leave."""

    key, title, verbs = "finish", "Roughness", ("finish", "ra", "roughness")
    sizes, example = ("nose", "feed"), "finish 0.4 0.08"
    core_fields = {"nose_radius_mm": "nose", "feed_mm_rev": "feed"}

    nose = LengthField(label="nose radius")
    feed = LengthField(label="feed per rev")

    def answer(self) -> Answer:
        found = finish(nose_radius_mm=self.value("nose"), feed_mm_rev=self.value("feed"))
        past = any(n.code == "feed_past_nose" for n in found.notes)
        return Answer(
            figure=f"{found.ra_um:.2f}", unit="µm Ra", state="warn" if past else "plain",
            words=[f"Rt {found.rt_um:.2f} µm", *(sentence(n, self.units.unit) for n in found.notes)],
            because=self.because("Ra = f^2 / (18 sqrt(3) r), Rt = f^2 / (8 r)",
                                 [("nose", self.shown(self.value("nose"))), ("feed", self.shown(self.value("feed")))],
                                 "Geometry of a round nose; the true surface is rougher."),
        )  # fmt: skip


CUTTING: tuple[type[Line], ...] = (
    SpeedLine, CutterLine, OverhangLine, PassesLine, DialLine, TimeLine, RoughnessLine,
)  # fmt: skip

"""The Work form: what is to be bored, read and guarded."""

from __future__ import annotations

import re
from collections.abc import Iterator
from decimal import Decimal
from typing import Any

from django import forms
from django.utils import timezone

from gyrocore import (
    InvalidInput,
    Limits,
    error_sentence,
    limits_to_suit,
    method,
    methods,
    unit_slip,
)
from gyrometra.bridge.choices import ChoiceOfRow, ChoiceOfRows
from gyrometra.bridge.fields import LengthField, LimitsField, TypedForm
from gyrometra.bridge.units import Typed, Units, is_bare
from gyrometra.crib.models import Fixture, Machine, Material
from gyrometra.cutting.record import why_begun
from gyrometra.inspection.records import last_piece
from gyrometra.jobs.models import Bore, Job, SetUp
from gyrometra.jobs.services import Row, WorkData
from gyrometra.steps.work.breaks import BreaksForm
from gyrometra.steps.work.shown import play_words, stored_lengths

FOUND_ROWS, OUTSIDE_ROWS = 5, 4


_DAY = forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d")


def _machine_words(machine: Machine) -> str:
    """`Mill 1, mill`."""
    return f"{machine.name}, {machine.get_kind_display()}"


def _end(bore: Bore) -> Decimal:
    """Where a bore ends along the axis."""
    return Decimal(bore.start_mm + bore.length_mm)


class BoreForm(TypedForm):
    """One more bore in line, like the one that is shown."""

    name = forms.CharField(label="Name", max_length=20)
    start_mm = LengthField(label="Begins at", positive=False)

    def __init__(self, *args: Any, like: Bore, **kwargs: Any) -> None:
        self.like = like
        super().__init__(*args, **kwargs)

    def clean(self) -> dict[str, Any]:
        """Its name and its stretch are its own."""
        values = super().clean() or {}
        name, start = str(values.get("name") or ""), values.get("start_mm")
        for other in self.like.setup.bores.all():
            if other.name.lower() == name.lower():
                self.add_error("name", f"There is already a bore {other.name} in this line.")
            elif start is not None and start < _end(other) and other.start_mm < start + self.like.length_mm:
                self.add_error("start_mm", f"{name} would overlap {other.name}, which ends at "
                                           f"{self.units.plain(_end(other))} {self.units.label}.")  # fmt: skip
        return values


class WorkForm(BreaksForm):
    """What is to be bored: part, machine, bore as found and wanted, outside."""

    number = forms.SlugField(label="Job number", max_length=20)
    part = forms.CharField(label="Part", max_length=80)
    material = ChoiceOfRow(
        Material.objects.filter(retired=False), label="Material", to_field_name="name", empty_label=None
    )
    quantity = forms.IntegerField(label="Quantity", min_value=1, max_value=9999, required=False)
    due_on = forms.DateField(label="Due", required=False, widget=_DAY)
    method = forms.ChoiceField(label="Boring method", choices=[(k, m.label) for k, m in methods().items()])
    machine = ChoiceOfRow(Machine.objects.none(), label="Machine", empty_label=None)
    reference = forms.ChoiceField(label="Set true to", choices=SetUp.Reference.choices)
    room_behind_mm = LengthField(
        label="Clearance behind the work, to the chuck face",
        required=False,
        positive=False,
        least=0,
        help_text="the cutter runs out there",
    )
    coaxiality_mm = LengthField(
        label="Bores in line within, as a diameter", required=False, ask_over_mm=2, help_text="only for several bores"
    )
    match_mm = LengthField(
        label="Match between bores, on diameter",
        required=False,
        ask_over_mm=2,
        help_text="bores and pieces that belong together",
    )
    fixtures = ChoiceOfRows(
        Fixture.objects.filter(retired=False), label="Held with", required=False, widget=forms.CheckboxSelectMultiple
    )
    target = LimitsField(label="Your own target", required=False, help_text="inside the limits: 72.010-72.018")
    matters = forms.ChoiceField(
        label="Inspection",
        choices=Bore.Matters.choices,
        initial=Bore.Matters.DRAWN,
        required=False,
        help_text="critical: three directions, twice each, a fine gauge",
    )
    name = forms.CharField(label="Name of this bore", max_length=20, required=False, help_text="H1, upper, blind")
    start_mm = LengthField(
        label="Begins at", required=False, positive=False, help_text="from the open face of the first bore"
    )
    ends = forms.ChoiceField(label="Bore type", choices=Bore.Ends.choices, initial=Bore.Ends.THROUGH)
    depth_wanted = LimitsField(label="Shoulder depth", required=False, help_text="only for a counterbore: 24 +0.1/0")
    length_mm = LengthField(label="Bore length", ask_over_mm=3000, help_text="140, 5 1/2 in, 18 thou: as you write it")
    wanted = LimitsField(
        label="Finished size", required=False, help_text="72 H7, 72 +0.03/0 or 72.00-72.03; blank to fit a mating part"
    )
    mate_mm = LengthField(
        label="To fit a mating part, measured size", required=False, help_text="bearing, bush, ring or shaft"
    )
    play_mm = forms.CharField(
        label="Clearance wanted, on diameter", required=False, max_length=60,
        help_text="0.01 to 0.04; a press is negative",
    )  # fmt: skip
    runout_limit_mm = LengthField(label="Run-out limit (TIR)", ask_over_mm=2)
    roundness_limit_mm = LengthField(label="Roundness limit", required=False, ask_over_mm=2)
    taper_limit_mm = LengthField(label="Taper limit, on Ø over the bore", required=False, ask_over_mm=2)

    def __init__(self, *args: Any, bore: Bore | None = None, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.bore = bore
        self.job = bore.setup.job if bore else None
        machines = Machine.objects.filter(retired=False)
        self.fields["machine"].queryset = machines  # type: ignore[attr-defined]
        self.fields["machine"].label_from_instance = _machine_words  # type: ignore[attr-defined]
        for place in range(FOUND_ROWS):
            self._add(f"found_z_{place}", "Depth from the open face", least=0)
            self._add(f"found_d_{place}", "Bore found")
        for place in range(OUTSIDE_ROWS):
            self._add(f"outside_l_{place}", "Length of the step")
            self._add(f"outside_d_{place}", "Outside diameter")
        for name, value, typed in stored_lengths(bore) if bore else ():
            self.stands(name, self.units.shown(value, typed), value, typed)

    def _add(self, name: str, label: str, least: float | None = None) -> None:
        field = LengthField(label=label, required=False, positive=least is None, least=least)
        field.units = self.units
        field.widget.attrs.update(
            {"autocomplete": "off", "placeholder": "Ø" if "_d_" in name else "length" if "outside" in name else "depth"}
        )
        self.fields[name] = field

    def pairs(self, first: str, second: str, count: int) -> Iterator[tuple[Any, Any]]:
        """The bound fields of a list, row by row."""
        for place in range(count):
            yield self[f"{first}_{place}"], self[f"{second}_{place}"]

    @property
    def has_more(self) -> bool:
        """Whether something stands in the part of the form that is folded away, or is refused there."""
        names = ("mate_mm", "play_mm", "target", "match_mm", "fixtures", "break_kind_0")
        other = self["matters"].value() not in (None, "", Bore.Matters.DRAWN)
        wrong = any(name in names or name.startswith("break_") for name in self.errors)
        return other or wrong or any(self[name].value() for name in names)

    def found_rows(self) -> Iterator[tuple[Any, Any]]:
        """Rows of the bore as found."""
        return self.pairs("found_z", "found_d", FOUND_ROWS)

    def outside_rows(self) -> Iterator[tuple[Any, Any]]:
        """Rows of the outside."""
        return self.pairs("outside_l", "outside_d", OUTSIDE_ROWS)

    def clean_number(self) -> str:
        """Job numbers stand once."""
        number = str(self.cleaned_data["number"]).upper()
        taken = Job.objects.filter(number=number)
        if self.job is not None:
            taken = taken.exclude(pk=self.job.pk)
        if taken.exists():
            raise forms.ValidationError(f"There is already a job {number}. Give another number.")
        return number

    def clean(self) -> dict[str, Any]:
        """What belongs together: rows complete, sizes that can be."""
        values = super().clean() or {}
        self._settle_limits(values)
        self._guard_target(values)
        self._guard_quantity(values)
        self._guard_due(values)
        self._guard_way(values)
        self._guard_place(values)
        self._guard_shoulder(values)
        self.found = self._rows("found_z", "found_d", FOUND_ROWS)
        self.outside = self._rows("outside_l", "outside_d", OUTSIDE_ROWS)
        self.breaks = self.read_breaks(values.get("length_mm"))
        self._guard_found(values)
        self._guard_outside(values)
        self._refuse_what_is_cut()
        return values

    def clean_play_mm(self) -> tuple[Decimal, Decimal] | None:
        """Two clearances, the least first: `0.01 to 0.04`, `-0.03 to -0.01`."""
        text = str(self.cleaned_data.get("play_mm") or "").strip()
        if not text:
            return None
        if self.bore is not None and text == play_words(self.bore, self.units):
            return self.bore.play_least_mm, self.bore.play_most_mm
        pieces = [piece for piece in re.split(r"\s+to\s+|\s*;\s*|\s*/\s*", text) if piece.strip()]
        if len(pieces) != 2:
            raise forms.ValidationError(f"{text} gives no two clearances. Type the least and the most: 0.01 to 0.04.")
        try:
            return self.units.read(pieces[0]), self.units.read(pieces[1])
        except InvalidInput as error:
            raise forms.ValidationError(error_sentence(error, self.units.unit)) from None

    def _settle_limits(self, values: dict[str, Any]) -> None:
        """The limits are what is wanted, or follow from the part they must suit; never both."""
        wanted, mate, play = values.get("wanted"), values.get("mate_mm"), values.get("play_mm")
        if {"wanted", "mate_mm", "play_mm"} & set(self.errors):
            return
        if play is not None and mate is None:
            self._say("mate_mm", "The part's own measured size is missing: the clearance is counted from it.")
        elif play is not None and wanted is not None:
            self._say("wanted", "Limits and a wanted clearance are both given; leave one of them empty.")
        elif play is None and wanted is None:
            self._say(
                "wanted", "Type the size wanted with its limits, or the part that it must suit and the clearance."
            )
        elif play is not None and mate is not None:
            try:
                values["wanted"] = limits_to_suit(mate_mm=float(mate), least_mm=float(play[0]), most_mm=float(play[1]))
            except InvalidInput as error:
                self.refuse(error, {}, "play_mm")

    def _guard_quantity(self, values: dict[str, Any]) -> None:
        """A piece that has entries in its logs stays."""
        last = last_piece(self.bore.setup) if self.bore else 1
        if (values.get("quantity") or 1) < last:
            self._say("quantity", f"Piece {last} has entries in its logs: {last} pieces at least.")

    def _guard_target(self, values: dict[str, Any]) -> None:
        """The owner's own target lies inside the limits."""
        target, limits = values.get("target"), values.get("wanted")
        if target is None or limits is None:
            return
        if target.lower_mm < limits.lower_mm - 1e-9 or target.upper_mm > limits.upper_mm + 1e-9:
            self._say("target", f"Your own target must lie inside the limits, {self._words(limits.lower_mm)} to "
                                f"{self._words(limits.upper_mm)}; {self._words(target.lower_mm)} to "
                                f"{self._words(target.upper_mm)} was given.")  # fmt: skip

    @property
    def others(self) -> list[Bore]:
        """The other bores of the line."""
        if self.bore is None:
            return []
        return [bore for bore in self.bore.setup.bores.all() if bore.pk != self.bore.pk]

    def _guard_way(self, values: dict[str, Any]) -> None:
        """The machine must be able to bore that way, and one axis of several bores is bored in line."""
        machine, key = values.get("machine"), values.get("method")
        if machine is None or key is None:
            return
        way = method(key)
        if machine.kind not in way.machines:
            able = " or a ".join(str(Machine.Kind(kind).label) for kind in way.machines)
            self._say("machine", f"{machine.name} is a {machine.get_kind_display()}; {way.label} needs a {able}.")
        if self.others and not way.several:
            self._say("method", f"This job has {len(self.others) + 1} bores in line; {way.label} bores one.")
        if self.bore is not None and key != self.bore.setup.method:
            why = why_begun(self.bore.setup)
            if why:
                self._say("method", why)

    def _guard_place(self, values: dict[str, Any]) -> None:
        """A bore has a name of its own and a stretch of its own along the axis."""
        values["name"] = str(values.get("name") or (self.bore.name if self.bore else "bore")).strip()
        values["start_mm"] = values.get("start_mm") or Decimal(0)
        start, length = values["start_mm"], values.get("length_mm")
        for other in self.others:
            if other.name.lower() == values["name"].lower():
                self._say("name", f"There is already a bore {other.name} in this line.")
            elif length is not None and start < _end(other) and other.start_mm < start + length:
                self._say("start_mm", f"{values['name']} would overlap {other.name}, which runs from "
                                      f"{self._words(other.start_mm)} to {self._words(_end(other))}.")  # fmt: skip

    def _guard_shoulder(self, values: dict[str, Any]) -> None:
        """A counterbore says how deep its shoulder lies; its length is that depth."""
        depth, length = values.get("depth_wanted"), values.get("length_mm")
        if values.get("ends") != Bore.Ends.SHOULDER:
            if depth is not None:
                self._say("depth_wanted", "Only a counterbore has a shoulder; choose it, or leave this empty.")
            return
        if depth is None and "depth_wanted" not in self.errors:
            self._say("depth_wanted", "Shoulder depth is missing. Type its limits, like 24 +0.1/0.")
        elif depth is not None and length is not None and not depth.lower_mm <= float(length) <= depth.upper_mm:
            least, most = self._words(depth.lower_mm), self._words(depth.upper_mm)
            self._say("length_mm", f"The bore ends at its shoulder: its length must lie from {least} to {most}; "
                                   f"{self._words(length)} was given.")  # fmt: skip

    def _refuse_what_is_cut(self) -> None:
        """The bore as found is what the first pass was set from: it stands once a pass is set."""
        if self.bore is None or self.errors:
            return
        bore = self.bore
        stored = [(size.z_mm, size.diameter_mm) for size in bore.found.all()]
        if stored == sorted((row.first_mm, row.second_mm) for row in self.found):
            return
        why = why_begun(bore.setup, bore)
        if why:
            self.add_error("found_d_0", why)

    def _rows(self, first: str, second: str, count: int) -> list[Row]:
        rows, typed = [], self.typed()
        for place in range(count):
            names = (f"{first}_{place}", f"{second}_{place}")
            a, b = (self.cleaned_data.get(name) for name in names)
            if any(name in self.errors for name in names) or (a is None and b is None):
                continue
            if a is None or b is None:
                lone = names[0] if a is None else names[1]
                self.add_error(lone, f"{self.fields[lone].label} is missing in this row.")
                continue
            kept = {key: typed[name] for key, name in zip(("first", "second"), names, strict=True) if name in typed}
            rows.append(Row(first_mm=a, second_mm=b, typed=kept))
        return rows

    def _guard_found(self, values: dict[str, Any]) -> None:
        length, limits = values.get("length_mm"), values.get("wanted")
        depths = set()
        for place, row in enumerate(self.found):
            if length is not None and row.first_mm > length:
                self._say(f"found_z_{place}", f"The bore is {self._words(length)} long; "
                                              f"{self._words(row.first_mm)} lies past its end.")  # fmt: skip
            if row.first_mm in depths:
                self._say(f"found_z_{place}", f"Depth {self._words(row.first_mm)} stands here twice.")
            depths.add(row.first_mm)
            if limits is None:
                continue
            slip = unit_slip(value_mm=float(row.second_mm), expected_mm=limits.middle_mm)
            if slip and "wanted" not in self.errors:
                likely = self._words(slip.likely_mm)
                self._say(f"found_d_{place}", f"{self._words(row.second_mm)} is 25.4 times off the wanted "
                                              f"size. Did you mean {likely}?")  # fmt: skip
            elif self._is_radius(float(row.second_mm), limits.middle_mm, place):
                self._say(f"found_d_{place}", f"{self._words(row.second_mm)} is half of about "
                                              f"{self._words(2 * row.second_mm)}: is it a radius? Type the diameter, "
                                              f"{self._words(2 * row.second_mm)}, or its unit behind it if the bore is "
                                              "really so small.")  # fmt: skip
            elif float(row.second_mm) >= limits.middle_mm and "wanted" not in self.errors:
                self._say("wanted", f"The wanted size must be over what is there now: "
                                    f"{self._words(row.second_mm)} was found at {self._words(row.first_mm)}, "
                                    f"and the middle of the limits is {self._words(limits.middle_mm)}.")  # fmt: skip

    def _is_radius(self, found_mm: float, wanted_mm: float, place: int) -> bool:
        """A bore found at about half of what is wanted was perhaps typed as a radius; a named unit says it was not."""
        text = str(self.data.get(f"found_d_{place}", ""))
        return _RADIUS_FROM * wanted_mm <= found_mm <= _RADIUS_TO * wanted_mm and is_bare(text)

    def _guard_due(self, values: dict[str, Any]) -> None:
        """Work is not due before today, unless it was so already."""
        due = values.get("due_on")
        if due is not None and due < timezone.localdate() and (self.job is None or self.job.due_on != due):
            self._say("due_on", f"{due:%d %b %Y} is past; today is {timezone.localdate():%d %b %Y}.")

    def _guard_outside(self, values: dict[str, Any]) -> None:
        limits = values.get("wanted")
        for place, row in enumerate(self.outside):
            if limits is not None and float(row.second_mm) <= limits.upper_mm:
                self._say(f"outside_d_{place}", f"The outside must be over the bore, "
                                                f"{self._words(limits.upper_mm)}; "
                                                f"{self._words(row.second_mm)} was given.")  # fmt: skip

    def _say(self, name: str, sentence: str) -> None:
        self.add_error(name, sentence)

    def _words(self, value_mm: Decimal | float) -> str:
        return f"{self.units.plain(value_mm)} {self.units.label}"

    def _unchanged(self, name: str) -> bool:
        """Whether limits stand as they were shown, with their unit named for who reads the other one."""
        if self.bore is None:
            return False
        shown = self.units.limits_typed(getattr(self.bore, name), self.bore.typed.get(name))
        return bool(shown) and str(self.data.get(name, "")).strip() == shown

    def _limits_text(self, name: str) -> str:
        return str(getattr(self.bore, name) if self._unchanged(name) else self.data.get(name, "")).strip()

    def typed(self) -> dict[str, Typed]:
        """Limits that stand as they were keep what was typed for them."""
        kept = super().typed()
        for name in ("wanted", "depth_wanted", "target"):
            before = self.bore.typed.get(name) if self.bore else None
            if before and self._unchanged(name):
                kept[name] = before
        return kept

    def work(self) -> WorkData:
        """The cleaned values as the service takes them."""
        values = self.cleaned_data
        plain = (
            "number", "part", "material", "due_on", "machine", "method", "reference", "room_behind_mm", "coaxiality_mm",
            "match_mm", "name", "start_mm", "length_mm", "ends", "runout_limit_mm", "roundness_limit_mm",
            "taper_limit_mm",
        )  # fmt: skip
        return WorkData(
            **{name: values[name] for name in plain},
            wanted=self._limits_text("wanted") or _range_words(values["wanted"], self.units),
            limits=values["wanted"],
            mate_mm=values.get("mate_mm"),
            play_mm=values.get("play_mm"),
            quantity=values.get("quantity") or 1,
            depth_wanted=self._limits_text("depth_wanted"),
            depth=values.get("depth_wanted"),
            target=self._limits_text("target"),
            target_limits=values.get("target"),
            matters=values.get("matters") or Bore.Matters.DRAWN,
            fixtures=list(values.get("fixtures") or []),
            breaks=self.breaks,
            found=self.found,
            outside=self.outside,
            typed=self.typed(),
        )


#: A bore found between these shares of the wanted size could be a radius.
_RADIUS_FROM, _RADIUS_TO = 0.46, 0.51


def _range_words(limits: Limits, units: Units) -> str:
    """Limits that follow from a part, as they would be written."""
    return f"{units.planned(limits.lower_mm)}-{units.planned(limits.upper_mm)} {units.label}"

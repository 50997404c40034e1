"""The Work form: what is to be bored, read and guarded."""

from __future__ import annotations

import re
from collections.abc import Iterator
from decimal import Decimal
from typing import Any

from django import forms

from gyrocore import (
    InvalidInput,
    Limits,
    error_sentence,
    holdings,
    methods,
)
from gyrometra.bridge.addresses import JOB_NUMBER, MOST_CHARACTERS
from gyrometra.bridge.choices import ChoiceOfRow, ChoiceOfRows
from gyrometra.bridge.fields import LengthField, LimitsField, TypedForm
from gyrometra.bridge.units import Typed, Units
from gyrometra.crib.models import Fixture, Machine, Material
from gyrometra.jobs.features import measured_outsides
from gyrometra.jobs.models import Bore, Feature, Job, SetUp
from gyrometra.jobs.services import FoundOf, Row, WorkData
from gyrometra.steps.work.guards import GuardedWork, end_of
from gyrometra.steps.work.shown import play_words, stored_lengths

FOUND_ROWS, OUTSIDE_ROWS = 5, 4


_DAY = forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d")


def _machine_words(machine: Machine) -> str:
    """`Mill 1, mill`."""
    return f"{machine.name}, {machine.get_kind_display()}"


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
            elif start is not None and start < end_of(other) and other.start_mm < start + self.like.length_mm:
                self.add_error("start_mm", f"{name} would overlap {other.name}, which ends at "
                                           f"{self.units.plain(end_of(other))} {self.units.label}.")  # fmt: skip
        return values


class WorkForm(GuardedWork):
    """What is to be bored: part, machine, bore as found and wanted, outside."""

    number = forms.CharField(label="Job number", max_length=MOST_CHARACTERS)
    part = forms.CharField(label="Part", max_length=80)
    material = ChoiceOfRow(
        Material.objects.filter(retired=False), label="Material", to_field_name="name", empty_label=None
    )
    quantity = forms.IntegerField(label="Quantity", min_value=1, max_value=9999, required=False)
    due_on = forms.DateField(label="Due", required=False, widget=_DAY)
    notes = forms.CharField(
        label="Notes", required=False, max_length=600, widget=forms.Textarea(attrs={"rows": 2}),
        help_text="what the next one at it should know; on the sheet too",
    )  # fmt: skip
    method = forms.ChoiceField(label="Boring method", choices=[(k, m.label) for k, m in methods().items()])
    holding = forms.ChoiceField(
        label="Held in or on", required=False,
        choices=[("", "the usual way"), *((key, one.label) for key, one in holdings().items())],
    )  # fmt: skip
    machine = ChoiceOfRow(Machine.objects.none(), label="Machine", empty_label=None)
    only_trued = forms.BooleanField(label="Only to be set true: nothing is cut", required=False)
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
    name = forms.CharField(label="Name", max_length=20, required=False, help_text="H1, upper, blind")
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
    mate_feature = ChoiceOfRow(
        measured_outsides(None), label="Or as measured in another job", required=False, empty_label="none of them"
    )
    play_mm = forms.CharField(
        label="Clearance wanted, on diameter", required=False, max_length=60,
        help_text="0.01 to 0.04; a press is negative",
    )  # fmt: skip
    runout_limit_mm = LengthField(label="Run-out limit (TIR)", ask_over_mm=2)
    roundness_limit_mm = LengthField(label="Roundness limit", required=False, ask_over_mm=2)
    taper_limit_mm = LengthField(label="Taper limit, on Ø over the bore", required=False, ask_over_mm=2)

    found_alone = forms.BooleanField(label="This piece alone was found so", required=False)

    def __init__(self, *args: Any, bore: Bore | None = None, piece: int = 1, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.bore, self.piece = bore, piece
        self.job = bore.setup.job if bore else None
        machines = Machine.objects.filter(retired=False)
        mates: Any = self.fields["mate_feature"]
        mates.queryset = measured_outsides(self.job, bore.mate_feature_id if bore else None)
        mates.label_from_instance = self._mate_words
        self.fields["machine"].queryset = machines  # type: ignore[attr-defined]
        self.fields["machine"].label_from_instance = _machine_words  # type: ignore[attr-defined]
        for place in range(FOUND_ROWS):
            self._add(f"found_z_{place}", "Depth from the open face", least=0)
            self._add(f"found_d_{place}", "Bore found")
            self.fields[f"found_a_{place}"] = forms.DecimalField(
                label="in which direction, degrees from the mark", required=False, min_value=0,
                max_value=Decimal("359.99"), max_digits=6, decimal_places=2,
                widget=forms.TextInput(attrs={"placeholder": "at °", "inputmode": "decimal", "autocomplete": "off"}),
            )  # fmt: skip
        for place in range(OUTSIDE_ROWS):
            self._add(f"outside_l_{place}", "Length of the step")
            self._add(f"outside_d_{place}", "Outside diameter")
        for name, value, typed in stored_lengths(bore, piece) if bore else ():
            self.stands(name, self.units.shown(value, typed), value, typed)

    def _mate_words(self, feature: Feature) -> str:
        size = "not measured" if feature.found_mm is None else f"Ø{self.units.planned(feature.found_mm)}"
        return f"{feature.setup.job.number}, {feature.name} {size}"

    def machines(self) -> list[Machine]:
        """The machines to choose from, read once: another form of the page offers them too."""
        field: Any = self.fields["machine"]
        if field.offered is None:
            field.offer(field.queryset)
        return list(field.offered)

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
        names = ("mate_mm", "mate_feature", "play_mm", "target", "match_mm", "notes", "fixtures", "break_kind_0")
        other = self["matters"].value() not in (None, "", Bore.Matters.DRAWN)
        wrong = any(name in names or name.startswith("break_") for name in self.errors)
        return other or wrong or any(self[name].value() for name in names)

    def found_rows(self) -> Iterator[tuple[Any, Any]]:
        """Rows of the bore as found."""
        return self.pairs("found_z", "found_d", FOUND_ROWS)

    def found_triples(self) -> Iterator[tuple[Any, Any, Any]]:
        """The same with the direction."""
        for place, (z, d) in enumerate(self.found_rows()):
            yield z, d, self[f"found_a_{place}"]

    def outside_rows(self) -> Iterator[tuple[Any, Any]]:
        """Rows of the outside."""
        return self.pairs("outside_l", "outside_d", OUTSIDE_ROWS)

    def clean_number(self) -> str:
        """As the shop writes it, once whatever the case of its letters."""
        number = " ".join(str(self.cleaned_data["number"]).split())
        if not JOB_NUMBER.fullmatch(number):
            raise forms.ValidationError(
                f"A job number has letters, figures, spaces and . - / # + ( ) & : , _; {number} was given."
            )
        taken = Job.objects.filter(number__iexact=number)
        if self.job is not None:
            taken = taken.exclude(pk=self.job.pk)
        other = taken.first()
        if other is not None:
            number = other.number
            raise forms.ValidationError(f"There is already a job {number}. Give another number.")
        return number

    def clean(self) -> dict[str, Any]:
        """What belongs together: rows complete, sizes that can be."""
        values = super().clean() or {}
        self._settle_limits(values)
        self._guard_target(values)
        self._guard_only_trued(values)
        self._guard_quantity(values)
        self._guard_due(values)
        self._guard_way(values)
        self._guard_place(values)
        self._guard_shoulder(values)
        self.found = self._rows("found_z", "found_d", FOUND_ROWS)
        self.outside = self._rows("outside_l", "outside_d", OUTSIDE_ROWS)
        self.breaks = self.read_breaks(values.get("length_mm"))
        self.there = self.read_there()
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
            angle = self.cleaned_data.get(f"found_a_{place}") if first == "found_z" else None
            rows.append(Row(first_mm=a, second_mm=b, typed=kept, angle_deg=angle))
        return rows

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

    def _found_of(self) -> FoundOf:
        """Whose the sizes found are: of all pieces alike, of this one alone, or of this one no more."""
        if self.cleaned_data.get("found_alone"):
            return FoundOf(piece=self.piece)
        return FoundOf(piece=self.piece, no_more=True) if self.was_alone else FoundOf()

    def _wanted_text(self, limits: Limits) -> str:
        """As written; as they follow from a part; nothing where the surface is only read."""
        written = self._limits_text("wanted")
        if written or self.cleaned_data.get("only_trued"):
            return written
        return _range_words(limits, self.units)

    def work(self) -> WorkData:
        """The cleaned values as the service takes them."""
        values = self.cleaned_data
        plain = (
            "number", "part", "material", "due_on", "machine", "method", "holding", "reference",
            "room_behind_mm", "coaxiality_mm", "match_mm",
            "name", "start_mm", "length_mm", "ends", "runout_limit_mm", "roundness_limit_mm",
            "taper_limit_mm",
        )  # fmt: skip
        return WorkData(
            **{name: values[name] for name in plain},
            wanted=self._wanted_text(values["wanted"]),
            only_trued=bool(values.get("only_trued")),
            limits=values["wanted"],
            mate_mm=values.get("mate_mm"),
            mate_feature=values.get("mate_feature"),
            play_mm=values.get("play_mm"),
            quantity=values.get("quantity") or 1,
            depth_wanted=self._limits_text("depth_wanted"),
            depth=values.get("depth_wanted"),
            target=self._limits_text("target"),
            target_limits=values.get("target"),
            matters=values.get("matters") or Bore.Matters.DRAWN,
            notes=" ".join((values.get("notes") or "").split()),
            fixtures=list(values.get("fixtures") or []),
            breaks=self.breaks,
            there=self.there,
            found=self.found,
            found_of=self._found_of(),
            outside=self.outside,
            typed=self.typed(),
        )


def _range_words(limits: Limits, units: Units) -> str:
    """Limits that follow from a part, as they would be written."""
    return f"{units.planned(limits.lower_mm)}-{units.planned(limits.upper_mm)} {units.label}"

"""Forms of the six steps. They read and guard; the core decides what a figure means."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal
from typing import Any

from django import forms

from gyrocore import (
    InvalidInput,
    error_sentence,
    materials,
    pass_plan,
    reach_needed,
    read_indicator,
    unit_slip,
)
from gyrometra.bridge.fields import LengthField, LimitsField, TypedForm
from gyrometra.bridge.units import Units, to_decimal
from gyrometra.crib.models import Bar, Cutter, Gauge, Indicator, Machine
from gyrometra.cutting.models import CutEntry
from gyrometra.jobs.models import Bore, Job, LogEntry, SetUp
from gyrometra.jobs.reckon import Reckoning
from gyrometra.jobs.services import Row, WorkData
from gyrometra.truing.models import Round

FOUND_ROWS, OUTSIDE_ROWS = 5, 4


class WorkForm(TypedForm):
    """What is to be bored: part, machine, bore as found and wanted, outside."""

    number = forms.SlugField(label="Job number", max_length=20)
    part = forms.CharField(label="Part", max_length=80)
    material = forms.ChoiceField(label="Material", choices=[(k, m.label) for k, m in materials().items()])
    machine = forms.ModelChoiceField(Machine.objects.none(), label="Machine", empty_label=None)
    reference = forms.ChoiceField(label="Must run true to", choices=SetUp.Reference.choices)
    room_behind_mm = LengthField(label="Room behind the work", required=False, positive=False, least=0)
    length_mm = LengthField(label="Bore length")
    wanted = LimitsField(label="Wanted")
    runout_limit_mm = LengthField(label="Run-out, total reading, at most")
    roundness_limit_mm = LengthField(label="Roundness at most", required=False)
    taper_limit_mm = LengthField(label="Taper at most", required=False)

    def __init__(self, *args: Any, job: Job | None = None, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.job = job
        machines = Machine.objects.filter(retired=False)
        self.fields["machine"].queryset = machines  # type: ignore[attr-defined]
        for place in range(FOUND_ROWS):
            self._add(f"found_z_{place}", "Depth from the open face", least=0)
            self._add(f"found_d_{place}", "Bore found")
        for place in range(OUTSIDE_ROWS):
            self._add(f"outside_l_{place}", "Length of the step")
            self._add(f"outside_d_{place}", "Outside diameter")

    def _add(self, name: str, label: str, least: float | None = None) -> None:
        field = LengthField(label=label, required=False, positive=least is None, least=least)
        field.units = self.units
        field.widget.attrs["autocomplete"] = "off"
        self.fields[name] = field

    def pairs(self, first: str, second: str, count: int) -> Iterator[tuple[Any, Any]]:
        """The bound fields of a list, row by row."""
        for place in range(count):
            yield self[f"{first}_{place}"], self[f"{second}_{place}"]

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
        self.found = self._rows("found_z", "found_d", FOUND_ROWS)
        self.outside = self._rows("outside_l", "outside_d", OUTSIDE_ROWS)
        self._guard_found(values)
        self._guard_outside(values)
        return values

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
            elif float(row.second_mm) >= limits.middle_mm and "wanted" not in self.errors:
                self._say("wanted", f"The wanted size must be over what is there now: "
                                    f"{self._words(row.second_mm)} was found at {self._words(row.first_mm)}, "
                                    f"and the middle of the limits is {self._words(limits.middle_mm)}.")  # fmt: skip

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

    def work(self) -> WorkData:
        """The cleaned values as the service takes them."""
        values = self.cleaned_data
        plain = (
            "number", "part", "material", "machine", "reference", "room_behind_mm", "length_mm",
            "runout_limit_mm", "roundness_limit_mm", "taper_limit_mm",
        )  # fmt: skip
        return WorkData(
            **{name: values[name] for name in plain},
            wanted=str(self.data.get("wanted", "")).strip(),
            limits=values["wanted"],
            found=self.found,
            outside=self.outside,
            typed=self.typed(),
        )


def work_initial(job: Job, units: Units) -> dict[str, Any]:
    """What the Work form shows for a stored job: as typed, where that still means the same."""
    setup, bore = job.setup, job.setup.bore
    shown: dict[str, Any] = {
        "number": job.number, "part": job.part, "material": job.material, "machine": setup.machine_id,
        "reference": setup.reference, "wanted": bore.wanted,
        "room_behind_mm": units.shown(setup.room_behind_mm, setup.typed.get("room_behind_mm")),
    }  # fmt: skip
    for name in ("length_mm", "runout_limit_mm", "roundness_limit_mm", "taper_limit_mm"):
        shown[name] = units.shown(getattr(bore, name), bore.typed.get(name))
    for place, size in enumerate(bore.found.all()):
        shown[f"found_z_{place}"] = units.shown(size.z_mm, size.typed.get("first"))
        shown[f"found_d_{place}"] = units.shown(size.diameter_mm, size.typed.get("second"))
    for place, step in enumerate(bore.outside.all()):
        shown[f"outside_l_{place}"] = units.shown(step.length_mm, step.typed.get("first"))
        shown[f"outside_d_{place}"] = units.shown(step.diameter_mm, step.typed.get("second"))
    return shown


class PlanForm(TypedForm):
    """A part of the plan; the fields that are shown are the ones that are written."""

    def __init__(self, *args: Any, job: Job, **kwargs: Any) -> None:
        self.job = job
        super().__init__(*args, **kwargs)

    def initial_for(self) -> dict[str, Any]:
        """Stored values, as typed where that still means the same."""
        plan = self.job.setup.plan
        shown: dict[str, Any] = {}
        for name, field in self.fields.items():
            value = getattr(plan, name)
            if isinstance(field, LengthField):
                value = self.units.shown(value, plan.typed.get(name))
            elif isinstance(value, Decimal):
                value = f"{value.normalize():f}"
            shown[name] = getattr(value, "pk", value)
        return shown

    def trial(self) -> Reckoning:
        """The plan with these values, not stored: so that the core can refuse them."""
        for name, value in self.cleaned_data.items():
            setattr(self.job.setup.plan, name, value)
        return Reckoning(self.job)


class BarForm(PlanForm):
    """Reach, allowed spring, bar and cutter."""

    overrun_mm = LengthField(label="Past the far end", positive=False, least=0)
    clear_mm = LengthField(label="Clear of the holder", positive=False, least=0)
    chip_clearance_mm = LengthField(label="Room for chips", positive=False, least=0)
    budget_mm = LengthField(label="Allowed spring, on radius", required=False)
    bar = forms.ModelChoiceField(Bar.objects.filter(retired=False), label="Bar", required=False)
    cutter = forms.ModelChoiceField(Cutter.objects.filter(retired=False), label="Cutter", required=False)

    def clean(self) -> dict[str, Any]:
        """The core refuses an overrun past the room behind."""
        values = super().clean() or {}
        if self.errors:
            return values
        room = self.job.setup.room_behind_mm
        try:
            reach_needed(
                bore_length_mm=float(self.job.setup.bore.length_mm),
                overrun_mm=float(values["overrun_mm"]),
                clear_mm=float(values["clear_mm"]),
                room_behind_mm=None if room is None else float(room),
            )
        except InvalidInput as error:
            self.refuse(error, {})
        return values


class CutsForm(PlanForm):
    """Cutter, speeds, feeds, depths and passes."""

    cutter = forms.ModelChoiceField(Cutter.objects.filter(retired=False), label="Cutter", required=False)
    rough_speed_m_min = forms.DecimalField(
        label="Roughing, m/min", required=False, min_value=Decimal("0.1"), max_value=2000
    )
    finish_speed_m_min = forms.DecimalField(
        label="Finishing, m/min", required=False, min_value=Decimal("0.1"), max_value=2000
    )
    max_rpm = forms.IntegerField(label="Cap, rpm", required=False, min_value=1, max_value=20000)
    rough_feed_mm_rev = LengthField(label="Roughing feed a turn")
    finish_feed_mm_rev = LengthField(label="Finishing feed a turn")
    rough_depth_mm = LengthField(label="Roughing depth at most")
    finish_depth_mm = LengthField(label="Finishing depth")
    finish_passes = forms.IntegerField(label="Finish passes", min_value=1, max_value=9)
    spring_passes = forms.IntegerField(label="Spring passes", min_value=0, max_value=5)
    test_leave_mm = LengthField(label="Test cut short by, on diameter", required=False)

    _FIELDS = {
        "min_depth_mm": "cutter",
        "spindle_speeds_rpm": "max_rpm",
        "surface_speed_m_min": "rough_speed_m_min",
        "start_diameter_mm": "rough_depth_mm",
        "aim_diameter_mm": "rough_depth_mm",
    }

    def clean(self) -> dict[str, Any]:
        """The core refuses passes that rub, and a cap under every speed."""
        values = super().clean() or {}
        if self.errors or not self.job.setup.bore.found.all():
            return values
        trial = self.trial()
        try:
            if trial.start_mm is not None:
                pass_plan(
                    start_diameter_mm=trial.start_mm,
                    aim_diameter_mm=trial.bore.aim_mm,
                    rules=trial.rules,
                )
        except InvalidInput as error:
            self.refuse(error, self._FIELDS, "rough_depth_mm")
            return values
        _ = (trial.rough_speed, trial.finish_speed)
        for problem in trial.problems.values():
            self.refuse(problem, self._FIELDS, "max_rpm")
        return values


class RoundForm(forms.Form):
    """Begin a round."""

    method = forms.ChoiceField(choices=Round.Method.choices, initial=Round.Method.SWEEP)
    places = forms.TypedChoiceField(choices=[(4, "4"), (8, "8"), (12, "12")], coerce=int, initial=8)
    indicator = forms.ModelChoiceField(Indicator.objects.filter(retired=False), empty_label=None)

    def clean(self) -> dict[str, Any]:
        """Flats are read at the four jaws."""
        values = super().clean() or {}
        if values.get("method") == Round.Method.FLATS:
            values["places"] = 4
        return values


class EntryForm(forms.Form):
    """What every logged entry carries: its own id, and how it came."""

    client_id = forms.UUIDField()
    source = forms.ChoiceField(choices=LogEntry.Source.choices, required=False)

    def clean_source(self) -> str:
        """Typed unless the page knows better."""
        return str(self.cleaned_data.get("source") or LogEntry.Source.TYPED)


class ReadingForm(EntryForm):
    """One indicator reading."""

    value = forms.CharField(max_length=60, error_messages={"required": "Type the reading, then Enter."})
    place = forms.IntegerField(min_value=0, max_value=12)

    def __init__(self, *args: Any, units: Units, round: Round | None = None, **kwargs: Any) -> None:
        self.units, self.round = units, round
        self.likely: str | None = None
        super().__init__(*args, **kwargs)

    def clean_value(self) -> Decimal:
        """Read it as called out at the machine; refuse what the indicator cannot show."""
        text = self.cleaned_data["value"]
        try:
            size = read_indicator(text, self.units.unit).length_mm
        except InvalidInput as error:
            raise forms.ValidationError(_worded(error, self.units)) from None
        reach = float(self.round.indicator.range_mm) if self.round else None
        if reach is not None and abs(size) > reach:
            self._suggest(size, reach)
            raise forms.ValidationError(
                f"{text} reads as {self.units.plain(size)} {self.units.label}; "
                f"this indicator goes to {self.units.plain(reach)} {self.units.label}. "
                + (f"Did you mean {self.likely}?" if self.likely else "")
            )
        return to_decimal(size)

    def _suggest(self, size: float, reach: float) -> None:
        """The likely value: read as thousandths, or an inch reading taken for millimetres."""
        for factor in (1000.0, 25.4):
            if abs(size / factor) <= reach:
                self.likely = f"{size / factor:.3f} mm"
                return


def _worded(error: InvalidInput, units: Units) -> str:
    return error_sentence(error, units.unit)


class SizeEntryForm(EntryForm):
    """A measured diameter with a named gauge."""

    value = forms.CharField(max_length=60, error_messages={"required": "Type the size, then Enter."})
    gauge = forms.ModelChoiceField(Gauge.objects.filter(retired=False), empty_label=None)

    def __init__(self, *args: Any, units: Units, bore: Bore, **kwargs: Any) -> None:
        self.units, self.bore = units, bore
        super().__init__(*args, **kwargs)

    def clean(self) -> dict[str, Any]:
        """Read the size; refuse what this gauge cannot measure, and name a unit slip."""
        values = super().clean() or {}
        gauge, text = values.get("gauge"), values.get("value")
        if gauge is None or text is None:
            return values
        try:
            size = self.units.read(text)
        except InvalidInput as error:
            self.add_error("value", _worded(error, self.units))
            return values
        self._guard(size, gauge, text)
        values["value_mm"] = size
        return values

    def _guard(self, size: Decimal, gauge: Gauge, text: str) -> None:
        words = self.units.plain
        slip = unit_slip(value_mm=float(size), expected_mm=self.bore.aim_mm)
        if slip is not None:
            self.add_error("value", f"{text} is 25.4 times off. Did you mean "
                                    f"{words(slip.likely_mm)} {self.units.label}?")  # fmt: skip
        elif not gauge.range_low_mm <= size <= gauge.range_high_mm:
            self.add_error("value", f"{text} reads as {words(size)} {self.units.label}; {gauge.name} measures "
                                    f"{words(gauge.range_low_mm)} to {words(gauge.range_high_mm)}.")  # fmt: skip


class PassSizeForm(SizeEntryForm):
    """A size after a pass."""

    number = forms.IntegerField(min_value=1, max_value=99)


class CheckSizeForm(SizeEntryForm):
    """A size at a station of the finished bore."""

    z = forms.CharField(max_length=60)
    angle_deg = forms.DecimalField(min_value=0, max_value=Decimal("359.99"))
    part_temp_c = forms.DecimalField(min_value=-20, max_value=80, required=False)
    repeat = forms.BooleanField(required=False)

    def clean_z(self) -> Decimal:
        """Depth from the open face, inside the bore."""
        try:
            depth = self.units.read(self.cleaned_data["z"])
        except InvalidInput as error:
            raise forms.ValidationError(_worded(error, self.units)) from None
        if not 0 <= depth <= self.bore.length_mm:
            raise forms.ValidationError(
                f"The bore runs from 0 to {self.units.plain(self.bore.length_mm)} {self.units.label}; "
                f"{self.cleaned_data['z']} was given."
            )
        return depth

    def clean_part_temp_c(self) -> Decimal:
        """20 unless it was measured."""
        value = self.cleaned_data.get("part_temp_c")
        return Decimal(20) if value is None else Decimal(value)


class PassSetForm(EntryForm):
    """The dial was set for a pass."""

    number = forms.IntegerField(min_value=1, max_value=99)


class RemarkForm(EntryForm):
    """How a pass sounded and looked."""

    number = forms.IntegerField(min_value=1, max_value=99)
    sound = forms.ChoiceField(choices=CutEntry.Sound.choices)
    look = forms.ChoiceField(choices=CutEntry.Look.choices)


class GuardForm(EntryForm):
    """The three guard steps, all confirmed."""

    locked = forms.BooleanField(error_messages={"required": "Lock the spindle out before hands go in."})
    cleared = forms.BooleanField(error_messages={"required": "Indicator, stylus and chuck key out first."})
    swung = forms.BooleanField(error_messages={"required": "Turn a full swing by hand and watch the jaws."})

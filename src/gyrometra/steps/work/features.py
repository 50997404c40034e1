"""The form of a feature: a face, a face at an angle, an outside, a relief, a distance to another axis."""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal
from typing import Any

from django import forms

from gyrocore import InvalidInput, Limits, read_limits
from gyrometra.bridge.fields import LengthField, LimitsField, TypedForm
from gyrometra.bridge.units import to_decimal
from gyrometra.jobs.features import FeatureData
from gyrometra.jobs.models import Bore, Feature, SetUp
from gyrometra.steps.page import JobPage
from gyroplan.record import FeatureRecord, letter_of

Kind = Feature.Kind
_FACED = ("runout_limit_mm", "form_limit_mm", "outer_mm", "inner_mm", "stock_mm")
#: The fields of each kind, in the order in which they are asked.
FIELDS_OF: dict[str, tuple[str, ...]] = {
    Kind.FACE: ("name", "wanted", *_FACED), Kind.LENGTH: ("name", "wanted", "z_mm", *_FACED),
    Kind.BAND: ("name", "wanted", "angle", "z_mm", *_FACED),
    Kind.OUTSIDE: ("name", "wanted", "z_mm", "length_mm", "runout_limit_mm", "form_limit_mm", "stock_mm"),
    Kind.RELIEF: ("name", "wanted", "z_mm", "length_mm", "form_limit_mm"),
    Kind.DISTANCE: ("name", "wanted", "to_setup"),
}  # fmt: skip
#: What the size of each kind is.
SIZE_OF = {
    Kind.FACE: "Depth from the open face", Kind.LENGTH: "Length left", Kind.BAND: "Wide Ø", Kind.OUTSIDE: "Outside Ø",
    Kind.RELIEF: "Relief Ø", Kind.DISTANCE: "Centre to centre",
}  # fmt: skip
#: What the form of each kind is called.
FORM_OF: dict[str, str] = {
    "face": "flatness", "length": "flatness", "band": "straightness", "outside": "roundness", "relief": "roundness",
}  # fmt: skip
_HELP = {
    Kind.FACE: "12 ±0.1", Kind.LENGTH: "140 ±0.1", Kind.BAND: "90 ±0.1", Kind.OUTSIDE: "110 h7", Kind.RELIEF: "74 ±0.2",
    Kind.DISTANCE: "150 ±0.02",
}  # fmt: skip
_BEGINS = {
    Kind.FACE: "Face", Kind.LENGTH: "Face", Kind.BAND: "Band", Kind.OUTSIDE: "Outside", Kind.RELIEF: "Relief",
    Kind.DISTANCE: "Axis",
}  # fmt: skip
#: Two of these of one kind cannot share a stretch of the axis.
_STRETCHES = (Kind.OUTSIDE, Kind.RELIEF)


class FeatureForm(TypedForm):
    """One feature with its limits; the fields are those of its kind."""

    name = forms.CharField(label="Called", max_length=20)
    wanted = LimitsField(label="Size", required=False)
    angle = forms.CharField(label="Angle from square, °", max_length=40, required=False, help_text="30 ±0.5")
    z_mm = LengthField(label="At, from the open face", required=False, positive=False, least=0)
    length_mm = LengthField(label="Length of it", required=False)
    runout_limit_mm = LengthField(label="Run-out limit (TIR)", required=False, ask_over_mm=2)
    form_limit_mm = LengthField(label="Form limit", required=False, ask_over_mm=2)
    outer_mm = LengthField(label="Faced from Ø", required=False)
    inner_mm = LengthField(label="down to Ø", required=False, positive=False, least=0)
    stock_mm = LengthField(label="To come off, along the axis", required=False, positive=False, least=0)
    matters = forms.ChoiceField(
        label="Inspection", choices=Bore.Matters.choices, initial=Bore.Matters.DRAWN, required=False,
        help_text="critical: read twice",
    )  # fmt: skip
    to_setup = forms.TypedChoiceField(label="From the axis of set-up", required=False, coerce=int, empty_value=None)

    def __init__(
        self, *args: Any, page: JobPage, kind: str, setups: Sequence[SetUp] = (), place: int | None = None,
        **kwargs: Any,
    ) -> None:  # fmt: skip
        self.page, self.kind, self.place = page, kind, place
        self.others = {one.place: one for one in setups if one.place != page.record.setup.place
                       and not one.closed_reason}  # fmt: skip
        super().__init__(*args, units=page.units, **kwargs)
        self.fields = {name: self.fields[name] for name in (*FIELDS_OF[kind], "matters")}
        wanted = self.fields["wanted"]
        wanted.label, wanted.help_text = SIZE_OF[Kind(kind)], _HELP[Kind(kind)]
        if isinstance(wanted, LimitsField):
            wanted.outside = kind == Kind.OUTSIDE
        if "form_limit_mm" in self.fields:
            self.fields["form_limit_mm"].label = f"{FORM_OF[kind].capitalize()} limit"
        if kind == Kind.OUTSIDE:
            self.fields["stock_mm"].label = "To come off, on Ø"
        if "to_setup" in self.fields:
            choice: Any = self.fields["to_setup"]
            choice.choices = [("", "which?"), *((one, f"{letter_of(one)}, {setup.machine.name}")
                                                for one, setup in self.others.items())]  # fmt: skip

    def clean_name(self) -> str:
        """Once in a set-up."""
        name = str(self.cleaned_data["name"]).strip()
        taken = [one["name"].lower() for one in rows_of(self.page) if one["place"] != self.place]
        if name.lower() in (*taken, *(bore.name.lower() for bore in self.page.bores)):
            raise forms.ValidationError(f"There is a {name} in this set-up already. Call this one otherwise.")
        return name

    def clean_angle(self) -> Limits | None:
        """With its limits, from 0 to under 90 degrees."""
        text = str(self.cleaned_data["angle"]).replace("°", "").removesuffix("deg").strip()
        if not text:
            return None
        try:
            found = read_limits(text)
        except InvalidInput:
            found = None
        if found is None or not 0 <= found.lower_mm <= found.upper_mm < 90 or found.class_name:
            raise forms.ValidationError(
                f"Type the angle with its limits, from 0 to under 90 degrees: 30 ±0.5 or 29.5-30.5; "
                f"{self.cleaned_data['angle']} was given."
            )
        return found

    def clean(self) -> dict[str, Any]:
        """Something is asked of it; its ring and its stretch can be, and no other of its kind lies there."""
        values = super().clean() or {}
        limits = [values.get(name) for name in ("wanted", "angle", "runout_limit_mm", "form_limit_mm")]
        if not any(limits) and not self.errors:
            self.add_error(
                "wanted", "Give a limit: a size, an angle, a run-out or a form. Without one nothing is judged."
            )
        self._guard_ring(values)
        self._guard_stretch(values)
        if self.kind == Kind.DISTANCE and values.get("to_setup") is None and "to_setup" not in self.errors:
            self.add_error("to_setup", "Which other axis? It is another set-up of this job: add it first, under Add "
                                       "set-up." if not self.others else "From the axis of which set-up?")  # fmt: skip
        return values

    def _guard_ring(self, values: dict[str, Any]) -> None:
        outer, inner = values.get("outer_mm"), values.get("inner_mm")
        plain, unit = self.units.plain, self.units.label
        if outer is not None and inner is not None and inner >= outer:
            self.add_error("inner_mm", f"It is faced from Ø{plain(outer)} inward: {plain(inner)} {unit} is not inside "
                                       "that.")  # fmt: skip

    def _guard_stretch(self, values: dict[str, Any]) -> None:
        """Inside the part, as far as its length is known; apart from others of its kind."""
        part, plain = part_length_mm(self.page), self.units.plain
        depth = values["wanted"].upper_mm if self.kind == Kind.FACE and values.get("wanted") else None
        begins, length = float(values.get("z_mm") or 0), float(values.get("length_mm") or 0)
        end, where = (depth, "wanted") if depth is not None else (begins + length, "length_mm" if length else "z_mm")
        if end > part + 1e-9 and where in self.fields:
            self.add_error(where, f"The part is {plain(part)} {self.units.label} long; this would lie at "
                                  f"{plain(end)}.")  # fmt: skip
        if self.kind not in _STRETCHES or not length:
            return
        for one in self.page.record.setup.features:
            last = one.z_mm + (one.length_mm or 0)
            if one.kind == self.kind and one.place != self.place and begins < last and one.z_mm < begins + length:
                self.add_error("z_mm", f"{one.name} lies there already, {plain(one.z_mm)} to {plain(last)}.")

    def data_of(self) -> FeatureData:
        """What is to be stored."""
        values, wanted, angle = self.cleaned_data, self.cleaned_data["wanted"], self.cleaned_data.get("angle")
        kept: dict[str, Any] = {
            "name": values["name"], "matters": values.get("matters") or Bore.Matters.DRAWN,
            "wanted": str(self.data.get("wanted", "")).strip(),
            "lower_mm": to_decimal(wanted.lower_mm) if wanted else None,
            "upper_mm": to_decimal(wanted.upper_mm) if wanted else None,
        }  # fmt: skip
        if self.kind == Kind.BAND:
            kept |= {
                "angle": str(self.data.get("angle", "")).strip(),
                "angle_lower_deg": degrees(angle.lower_mm) if angle else None,
                "angle_upper_deg": degrees(angle.upper_mm) if angle else None,
            }  # fmt: skip
        for name in ("length_mm", "runout_limit_mm", "form_limit_mm", "outer_mm", "inner_mm", "stock_mm"):
            if name in self.fields:
                kept[name] = values.get(name)
        if "z_mm" in self.fields:
            kept["z_mm"] = values.get("z_mm") or Decimal(0)
        if "to_setup" in self.fields:
            kept["to_setup"] = self.others[values["to_setup"]]
        return FeatureData(kind=self.kind, values=kept, typed=self.typed())


def degrees(value: float) -> Decimal:
    """As an angle's column takes it."""
    return Decimal(repr(round(value, 4)))


def part_length_mm(page: JobPage) -> float:
    """As far as it is known: its outside, its bores."""
    outside = max((sum(length for length, _ in bore.outside_mm) for bore in page.bores), default=0.0)
    return max([outside, *(bore.end_mm for bore in page.bores)])


def feature_row(page: JobPage, place: int | None) -> dict[str, Any] | None:
    """The feature at a place of this set-up, as it is stored; None where there is none."""
    return next((row for row in rows_of(page) if row["place"] == place), None)


def rows_of(page: JobPage) -> list[dict[str, Any]]:
    """Every feature of this set-up as it is stored, also those that were taken off the list."""
    rows: list[dict[str, Any]] = getattr(page.job, "feature_rows", [])
    return sorted(rows, key=lambda row: int(row["place"]))


def initial_of(page: JobPage, row: dict[str, Any] | None, kind: str) -> dict[str, Any]:
    """As it is stored; of a new one a name that is free, and where the part's outside says so its ring."""
    units = page.units
    if row is None:
        count = 1 + sum(one["kind"] == kind for one in rows_of(page))
        return {"name": f"{_BEGINS[Kind(kind)]} {count}"}
    typed = row["typed"]
    lengths = ("z_mm", "length_mm", "runout_limit_mm", "form_limit_mm", "outer_mm", "inner_mm", "stock_mm")
    shown = {name: "" if row[name] is None else units.shown(row[name], typed.get(name)) for name in lengths}
    return {
        **shown, "name": row["name"], "matters": row["matters"],
        "wanted": units.limits_typed(row["wanted"], typed.get("wanted")),
        "angle": row["angle"], "to_setup": row["to_setup__place"],
    }  # fmt: skip


def form_of(page: JobPage, row: dict[str, Any], setups: Sequence[SetUp]) -> FeatureForm:
    """The form of a stored feature."""
    form = FeatureForm(
        page=page, kind=row["kind"], setups=setups, place=row["place"], initial=initial_of(page, row, row["kind"])
    )
    let_stand(form, row)
    return form


def let_stand(form: FeatureForm, row: dict[str, Any] | None) -> None:
    """What a field shows for a stored length means that length still, whichever unit it is read in."""
    if row is None:
        return
    for name in ("z_mm", "length_mm", "runout_limit_mm", "form_limit_mm", "outer_mm", "inner_mm", "stock_mm"):
        value, typed = row[name], row["typed"].get(name)
        stored = None if value is None else Decimal(str(value))
        form.stands(name, form.units.shown(stored, typed), stored, typed)


def size_words(page: JobPage, feature: FeatureRecord) -> str:
    """What is asked of a feature's size, in the reader's unit."""
    if feature.lower_mm is None or feature.upper_mm is None:
        return ""
    mark = "" if feature.kind in (Kind.FACE, Kind.LENGTH, Kind.DISTANCE) else "Ø"
    words = page.units.limits(feature.wanted, feature.wanted_unit, feature.lower_mm, feature.upper_mm)
    return f"{mark}{words}"


def angle_words(low: float, high: float) -> str:
    """`29.5° to 30.5°`."""
    return f"{low:g}° to {high:g}°"

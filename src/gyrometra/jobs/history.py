"""What was changed of a job, from what to what, and how that is told."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from decimal import Decimal
from typing import Any

from django.db import models

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Bar, Cutter, Head, Machine, Material
from gyrometra.jobs.models import Bore, Feature, Job, JobChange, SetUp
from gyroplan.record import letter_of

#: Limits of a bore by name, as they are told.
LIMITS = {
    "lower_mm": "bottom limit", "upper_mm": "top limit", "runout_limit_mm": "run-out limit (TIR)",
    "roundness_limit_mm": "roundness limit", "taper_limit_mm": "taper limit",
    "depth_lower_mm": "least shoulder depth", "depth_upper_mm": "largest shoulder depth",
}  # fmt: skip
#: Names of figures of setting up, as their fields are called.
SETTING_UP = {
    "side_depth_mm": "bored from this side to", "overlap_mm": "overlap of the two sides", "holding": "held in or on",
    "droop_mm": "indicator arm droops by",
    "face_read_mm": "face read on Ø", "supports_mm": "supports on Ø",
    "pivot_mm": "pivot behind the open face", "level_about": "what the supports do",
    "foot_mm": "bore axis over the foot", "axis_allowed_mm": "axis may lie off by", "falls_mm": "falls to the front",
    "falls_over_mm": "between the feet", "masses": "masses on the plate", "plate_radius_mm": "holes off the axis",
    "to_setup": "distance from the axis of", "mate_feature": "mating part measured in", "mate_mm": "mating part",
    "plate_holes": "holes round the plate", "weight_step_kg": "least weight, kg", "force_limit_n": "force allowed, N",
}  # fmt: skip
_LEFT_OUT = ("typed", "place", "setup", "job", "found_mm")
#: Columns that lead to a row of another table: what is stored is its key, what is told is its name.
_LINKS: dict[str, type[models.Model]] = {
    "machine": Machine, "bar": Bar, "opening_bar": Bar, "cutter": Cutter, "head": Head, "material": Material,
    "to_setup": SetUp, "mate_feature": Feature, "follows": Bore,
}  # fmt: skip

Values = dict[str, str]


def values_of(row: models.Model) -> Values:
    """Every figure of a row as text."""
    fields = [field for field in row._meta.concrete_fields if field.name not in _LEFT_OUT and not field.primary_key]
    return {field.name: _text(getattr(row, field.attname)) for field in fields}


def work_values(setup: SetUp, bore: Bore) -> tuple[Values, Values]:
    """The set-up's figures, and the bore's with the sizes as found and what stands round it."""
    found = "; ".join(
        f"{f'piece {size.piece} ' if size.piece else ''}{_text(size.z_mm)}: {_text(size.diameter_mm)}"
        for size in bore.found.order_by("piece", "z_mm")
    )
    return values_of(setup), {**values_of(bore), "found": found, **_round_it(bore)}


def _round_it(bore: Bore) -> Values:
    """The outside, what breaks the wall, what is only there, each as one text."""
    outside = (f"{_text(one.length_mm)} of {_text(one.diameter_mm)}" for one in bore.outside.order_by("place"))
    breaks = (f"{one.kind} {_text(one.from_mm)} to {_text(one.to_mm)}, {_text(one.width_mm)} wide at "
              f"{_text(one.angle_deg)}°" for one in bore.interruptions.order_by("place"))  # fmt: skip
    there = (f"{one.name} {_text(one.from_mm)} to {_text(one.to_mm)}, {_text(one.diameter_mm)}"
             for one in bore.there.order_by("place"))  # fmt: skip
    return {"outside": "; ".join(outside), "in the wall": "; ".join(breaks), "only there": "; ".join(there)}


def record(*, job: Job, user: User, of: str, before: Mapping[str, str], after: Mapping[str, str]) -> None:
    """Store what is different; nothing where nothing is."""
    changes = {name: [before.get(name, ""), text] for name, text in after.items() if before.get(name, "") != text}
    if changes:
        JobChange.objects.create(job=job, by=user, of=of, changes=changes)


#: Names of the rows that changes lead to, by column and key.
Names = Mapping[tuple[str, str], str]


def link_names(changes: Iterable[JobChange]) -> Names:
    """Read the name of every row that the changes lead to: one query a table, however many changes there are."""
    keys: dict[type[models.Model], set[int]] = {}
    told = [(name, key) for change in changes for name, pair in change.changes.items() if name in _LINKS
            for key in pair if str(key).isdecimal()]  # fmt: skip
    for name, key in told:
        keys.setdefault(_LINKS[name], set()).add(int(key))
    rows = {model: _rows_named(model, found) for model, found in keys.items()}
    return {(name, key): rows[_LINKS[name]].get(int(key), f"one taken out since ({key})") for name, key in told}


def _rows_named(model: type[models.Model], keys: set[int]) -> dict[int, str]:
    found: models.QuerySet[Any] = model._default_manager.filter(pk__in=keys)
    if model is SetUp:
        return {row.pk: f"set-up {letter_of(row.place)}" for row in found}
    if model is Feature:
        return {row.pk: f"{row.name} of {row.setup.job.number}" for row in found.select_related("setup__job")}
    return {row.pk: str(row.name) for row in found}


def change_words(change: JobChange, units: Units, names: Names) -> str:
    """One change in the reader's unit; `names` as `link_names` reads them."""
    parts = [f"{_name(name)} {_shown(name, old, units, names)} to {_shown(name, new, units, names)}"
             for name, (old, new) in change.changes.items()]  # fmt: skip
    return f"{change.of + ': ' if change.of else ''}{', '.join(parts)}"


def limits_changed(change: JobChange) -> bool:
    """Whether a limit is among what was changed."""
    return any(name in LIMITS for name in change.changes)


def _name(field: str) -> str:
    return LIMITS.get(field) or SETTING_UP.get(field, field.removesuffix("_mm").removesuffix("_id").replace("_", " "))


def _shown(field: str, text: str, units: Units, names: Names) -> str:
    if not text:
        return "none"
    if field in _LINKS:
        return names.get((field, text), text)
    if field.endswith("_mm") and field != "bearings_mm":
        return f"{units.fine(float(text))} {units.label}"
    return text


def _text(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, list) and value and isinstance(value[0], dict):
        masses = (f"{one['name']} {one['mass_kg']:g} kg, {one['radius_mm']:g} mm at {one['angle_deg']:g}°"
                  for one in value)  # fmt: skip
        return "; ".join(masses)
    if value == []:
        return ""
    return f"{value.normalize():f}" if isinstance(value, Decimal) else str(value)

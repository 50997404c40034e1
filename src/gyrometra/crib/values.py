"""A thing of the crib as plain text, field by field: for its form, its history, and for files."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from decimal import Decimal
from typing import Any

from gyrometra.bridge.fields import LengthField, SurfaceSpeedField
from gyrometra.bridge.units import Units
from gyrometra.crib.forms import FORMS, CribForm
from gyrometra.crib.models import CribChange, CribItem, Head, Machine

MM = Units("mm")
#: The key of each kind by its model.
KIND_OF = {form.model: key for key, form in FORMS.items()}


def field_names(kind: str) -> list[str]:
    """The fields of a kind in the order of its form: what it is first, notes last."""
    names = list(FORMS[kind].base_fields)
    return [name for name in names if name != "notes"] + ["notes"]


def lines_of(item: CribItem, name: str, units: Units) -> str | None:
    """Speeds of a machine, holes of a head: one a line; None for a plain field."""
    if name == "speeds" and isinstance(item, Machine) and item.stepless:
        return "-".join(f"{s.rpm.normalize():f}" for s in item.speeds.all())
    if name == "speeds" and isinstance(item, Machine):
        return "\n".join(f"{s.lever} {s.rpm.normalize():f}".strip() for s in item.speeds.all())
    if name == "holes" and isinstance(item, Head):
        return "\n".join(f"{hole.name} {units.fine(hole.offset_mm)}" for hole in item.holes.all())
    return _json_lines(item, name, units)


def _json_lines(item: CribItem, name: str, units: Units) -> str | None:
    """Steps and table of a bar, feeds of a machine, people and rods of a gauge."""
    if name not in ("steps_mm", "tuned", "feeds_mm_rev", "repeats_mm", "rods_mm"):
        return None
    value = getattr(item, name)
    if name == "steps_mm":
        return "\n".join(f"{units.fine(length)} {units.fine(diameter)}" for length, diameter in value)
    if name == "tuned":
        return "\n".join(f"{units.fine(out)} {turns:g}" for out, turns in value)
    if name in ("repeats_mm", "rods_mm"):
        return "\n".join(f"{person} {units.fine(sd)}" for person, sd in sorted(value.items()))
    return "; ".join(units.fine(feed) for feed in value)


def initial_of(item: CribItem, form_class: type[CribForm], units: Units) -> dict[str, Any]:
    """What the form shows for a stored thing: lengths as typed while that still means the same."""
    shown: dict[str, Any] = {}
    for name, field in form_class.base_fields.items():
        if isinstance(field, LengthField):
            shown[name] = units.shown(getattr(item, name), item.typed.get(name))
        elif isinstance(field, SurfaceSpeedField):
            shown[name] = units.surface_speed(getattr(item, name))
        else:
            lines = lines_of(item, name, units)
            value = getattr(item, name)
            plain = _plain(value) if isinstance(value, Decimal) else value
            shown[name] = plain if lines is None else lines
    return shown


def change_words(change: CribChange, units: Units) -> str:
    """`changed: Diameter, measured 40 mm to 39.98 mm`, in the reader's unit."""
    if change.what == "check":
        return f"check: {change.fields['check'][1]}"
    if change.what == "limit":
        return _limit_words(change.fields, units)
    if change.what != "changed":
        return change.what
    fields = FORMS[change.kind].base_fields
    parts = [
        f"{fields[name].label} {_told(fields[name], before, units)} to {_told(fields[name], after, units)}"
        for name in field_names(change.kind)
        for before, after in ([change.fields[name]] if name in change.fields else [])
    ]
    return f"changed: {'; '.join(parts)}"


def _limit_words(fields: Mapping[str, list[str]], units: Units) -> str:
    """`limit of Play: none to 0.005 mm, every 90 days`, in the reader's unit."""
    before, after = (f"{units.fine(float(one))} {units.label}" if one else "none" for one in fields["limit"])
    days = fields["days"][1]
    return f"limit of {fields['of'][1]}: {before} to {after}{f', every {days} days' if days else ''}"


def _told(field: Any, text: str, units: Units) -> str:
    """A stored figure in the reader's unit; a file and the history hold millimetres."""
    if not text:
        return "empty"
    if isinstance(field, LengthField):
        return f"{units.fine(float(text))} {units.label}"
    return units.surface_speed(float(text)) if isinstance(field, SurfaceSpeedField) else text


def plain_of(item: CribItem) -> dict[str, str]:
    """Every field as a file holds it: lengths in millimetres, nothing left out."""
    found: dict[str, str] = {}
    for name in field_names(KIND_OF[type(item)]):
        lines = lines_of(item, name, MM)
        found[name] = lines.replace("\n", "; ") if lines is not None else _plain(getattr(item, name))
    return found


def _plain(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, Decimal | float):
        return f"{Decimal(value).normalize():f}"
    return value.isoformat() if isinstance(value, date) else str(value)

"""A machine's history as a file: every check, change and what was taken back, as typed and in millimetres."""

from __future__ import annotations

import csv
import io

from django.utils.timezone import localtime

from gyrometra.crib.exchange import no_formula
from gyrometra.crib.models import Machine
from gyrometra.health.models import CHANGED, MachineCheck
from gyroplan.machine import KINDS, limited_mm

_FIELDS = ("machine", "day", "check", "figure_mm", "what", "value", "typed", "indicator", "who", "note", "logged",
           "taken_back")  # fmt: skip


def history_csv(machine: Machine) -> str:
    """One line a figure that was read, oldest first; lengths in millimetres, directions in degrees."""
    out = io.StringIO()
    writer = csv.DictWriter(out, fieldnames=_FIELDS, lineterminator="\n")
    writer.writeheader()
    rows = list(MachineCheck.objects.filter(machine=machine).select_related("by", "indicator").order_by("day", "pk"))
    gone = {row.supersedes_id for row in rows}
    for row in rows:
        if row.withdrawn:
            continue
        head = {
            "machine": machine.name, "day": f"{row.day:%Y-%m-%d}", "who": row.by.username, "note": row.note,
            "check": row.get_changed_display() if row.kind == CHANGED else KINDS[row.kind].label,
            "figure_mm": "" if row.kind == CHANGED else f"{limited_mm(row.kind, row.values):.6f}",
            "indicator": "" if row.indicator is None else row.indicator.name,
            "logged": f"{localtime(row.read_at):%Y-%m-%d %H:%M}", "taken_back": "yes" if row.pk in gone else "",
        }  # fmt: skip
        for name, value in (row.values or {"": ""}).items():
            line = {**head, "what": name, "value": value, "typed": _typed(row.typed.get(name))}
            writer.writerow({field: no_formula(str(text)) for field, text in line.items()})
    return out.getvalue()


def _typed(kept: object) -> str:
    return str(kept.get("text", "")) if isinstance(kept, dict) else str(kept or "")

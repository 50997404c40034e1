"""What the Work form shows for a stored bore: as typed, where that still means the same."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from datetime import date
from decimal import Decimal
from typing import Any

from gyrometra.bridge.units import Typed, Units, to_decimal
from gyrometra.jobs.models import Bore, Job
from gyrometra.jobs.records import child_rows


def play_words(bore: Bore, units: Units) -> str:
    """The clearance wanted, as typed while that still means the same."""
    if bore.play_least_mm is None or bore.play_most_mm is None:
        return ""
    return f"{units.plain(bore.play_least_mm)} to {units.plain(bore.play_most_mm)}"


def _day(day: date | None) -> str:
    return day.isoformat() if day else ""


def is_found_alone(bore: Bore, piece: int) -> bool:
    """Whether a piece has found sizes of its own."""
    return any(row["piece"] == piece for row in child_rows(bore, "found"))


def found_rows(bore: Bore, piece: int) -> list[Mapping[str, Any]]:
    """The sizes that a piece was found with: its own, else those of all alike."""
    of = piece if is_found_alone(bore, piece) else None
    return [row for row in child_rows(bore, "found") if row["piece"] == of]


def work_initial(bore: Bore, units: Units, piece: int = 1) -> dict[str, Any]:
    """What the Work form shows for a stored bore: as typed, where that still means the same."""
    setup, job = bore.setup, bore.setup.job
    shown: dict[str, Any] = {
        "number": job.number, "part": job.part, "material": job.material.name, "quantity": job.quantity,
        "due_on": _day(job.due_on), "notes": job.notes, "machine": setup.machine_id, "reference": setup.reference,
        "wanted": "" if bore.play_least_mm is not None else units.limits_typed(bore.wanted, bore.typed.get("wanted")),
        "play_mm": play_words(bore, units), "mate_feature": bore.mate_feature_id or "",
        "method": setup.method, "holding": setup.holding, "only_trued": setup.only_trued,
        "name": bore.name, "ends": bore.ends,
        "depth_wanted": units.limits_typed(bore.depth_wanted, bore.typed.get("depth_wanted")),
        "fixtures": _fixtures(job),
        "found_alone": is_found_alone(bore, piece),
        "target": units.limits_typed(bore.target, bore.typed.get("target")), "matters": bore.matters,
    }  # fmt: skip
    for place, row in enumerate(found_rows(bore, piece)):
        shown[f"found_a_{place}"] = "" if row["angle_deg"] is None else f"{float(row['angle_deg']):g}"
    for place, broken in enumerate(child_rows(bore, "interruptions")):
        shown |= {f"break_kind_{place}": broken["kind"], f"break_angle_{place}": f"{float(broken['angle_deg']):g}"}
    for place, one in enumerate(child_rows(bore, "there")):
        shown[f"there_name_{place}"] = one["name"]
    return shown | {name: units.shown(value, typed) for name, value, typed in stored_lengths(bore, piece)}


def stored_lengths(bore: Bore, piece: int = 1) -> Iterator[tuple[str, Decimal | None, Typed | None]]:
    """Every length of the Work form that is stored: its field, its value, and what was typed for it."""
    setup = bore.setup
    for name in ("coaxiality_mm", "match_mm", "room_behind_mm"):
        yield name, getattr(setup, name), setup.typed.get(name)
    for name in ("mate_mm", "start_mm", "length_mm", "runout_limit_mm", "roundness_limit_mm", "taper_limit_mm"):
        yield name, getattr(bore, name), bore.typed.get(name)
    for rows, fields in _ROWS.items():
        for place, row in enumerate(found_rows(bore, piece) if rows == "found" else child_rows(bore, rows)):
            for field, column, key in fields:
                value = row[column]
                yield f"{field}_{place}", None if value is None else to_decimal(float(value)), row["typed"].get(key)


#: Lists of the Work form: field, column, key of what was typed.
_ROWS = {
    "there": (("there_from", "from_mm", "from_mm"), ("there_to", "to_mm", "to_mm"),
              ("there_d", "diameter_mm", "diameter_mm")),
    "found": (("found_z", "z_mm", "first"), ("found_d", "diameter_mm", "second")),
    "outside": (("outside_l", "length_mm", "first"), ("outside_d", "diameter_mm", "second")),
    "interruptions": (
        ("break_from", "from_mm", "from_mm"), ("break_to", "to_mm", "to_mm"), ("break_width", "width_mm", "width_mm"),
    ),
}  # fmt: skip


def _fixtures(job: Job) -> list[int]:
    """What holds the work: read with the job, or now."""
    rows = getattr(job, "fixture_rows", None)
    return [fixture.pk for fixture in job.setup.fixtures.all()] if rows is None else [row["id"] for row in rows]

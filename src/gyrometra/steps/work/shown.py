"""What the Work form shows for a stored bore: as typed, where that still means the same."""

from __future__ import annotations

from datetime import date
from typing import Any

from gyrometra.bridge.units import Units
from gyrometra.jobs.models import Bore, Job
from gyrometra.jobs.records import child_rows


def _play_words(bore: Bore, units: Units) -> str:
    """The clearance wanted, as typed while that still means the same."""
    if bore.play_least_mm is None or bore.play_most_mm is None:
        return ""
    return f"{units.plain(bore.play_least_mm)} to {units.plain(bore.play_most_mm)}"


def _day(day: date | None) -> str:
    return day.isoformat() if day else ""


def work_initial(bore: Bore, units: Units) -> dict[str, Any]:
    """What the Work form shows for a stored bore: as typed, where that still means the same."""
    setup, job = bore.setup, bore.setup.job
    shown: dict[str, Any] = {
        "number": job.number, "part": job.part, "material": job.material.name, "quantity": job.quantity,
        "due_on": _day(job.due_on), "machine": setup.machine_id, "reference": setup.reference,
        "wanted": "" if bore.play_least_mm is not None else units.limits_typed(bore.wanted, bore.typed.get("wanted")),
        "mate_mm": units.shown(bore.mate_mm, bore.typed.get("mate_mm")), "play_mm": _play_words(bore, units),
        "method": setup.method, "name": bore.name, "ends": bore.ends,
        "depth_wanted": units.limits_typed(bore.depth_wanted, bore.typed.get("depth_wanted")),
        "coaxiality_mm": units.shown(setup.coaxiality_mm, setup.typed.get("coaxiality_mm")),
        "match_mm": units.shown(setup.match_mm, setup.typed.get("match_mm")),
        "fixtures": _fixtures(job),
        "target": units.limits_typed(bore.target, bore.typed.get("target")), "matters": bore.matters,
        "room_behind_mm": units.shown(setup.room_behind_mm, setup.typed.get("room_behind_mm")),
    }  # fmt: skip
    for name in ("start_mm", "length_mm", "runout_limit_mm", "roundness_limit_mm", "taper_limit_mm"):
        shown[name] = units.shown(getattr(bore, name), bore.typed.get(name))
    for place, size in enumerate(child_rows(bore, "found")):
        shown[f"found_z_{place}"] = units.shown(size["z_mm"], size["typed"].get("first"))
        shown[f"found_d_{place}"] = units.shown(size["diameter_mm"], size["typed"].get("second"))
    for place, step in enumerate(child_rows(bore, "outside")):
        shown[f"outside_l_{place}"] = units.shown(step["length_mm"], step["typed"].get("first"))
        shown[f"outside_d_{place}"] = units.shown(step["diameter_mm"], step["typed"].get("second"))
    for place, broken in enumerate(child_rows(bore, "interruptions")):
        shown |= {
            f"break_kind_{place}": broken["kind"],
            f"break_from_{place}": units.shown(broken["from_mm"], broken["typed"].get("from_mm")),
            f"break_to_{place}": units.shown(broken["to_mm"], broken["typed"].get("to_mm")),
            f"break_width_{place}": units.shown(broken["width_mm"], broken["typed"].get("width_mm")),
            f"break_angle_{place}": f"{float(broken['angle_deg']):g}",
        }
    return shown


def _fixtures(job: Job) -> list[int]:
    """What holds the work: read with the job, or now."""
    rows = getattr(job, "fixture_rows", None)
    return [fixture.pk for fixture in job.setup.fixtures.all()] if rows is None else [row["id"] for row in rows]

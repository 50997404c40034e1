"""Plates and rows of Cuts: speeds, passes, the first dial."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from gyrocore import Speed, sentence
from gyrodraw import lever_gate
from gyrometra.jobs.reckon import Reckoning
from gyrometra.steps.page import JobPage
from gyrometra.steps.plates.base import Because, Plate
from gyrometra.steps.plates.depth import depth_plate
from gyrometra.steps.plates.setting import SETTING_COLUMN, setting_plate, setting_words


@dataclass(frozen=True, kw_only=True)
class PassLine:
    """One pass in the list."""

    number: int
    kind: str
    depth: str
    size: str
    dial: str
    at: str
    rpm: str
    feed: str
    minutes: str
    measure: bool


def pass_rows(page: JobPage) -> list[PassLine]:
    """The passes with their dials."""
    units = page.units
    return [
        PassLine(
            number=row.cut.number,
            kind=row.cut.kind,
            depth=units.planned(row.cut.depth_mm),
            size=units.planned(row.cut.diameter_mm),
            dial=setting_words(row.setting, units) if row.cut.depth_mm else "leave the setting",
            at=f"{row.setting.stands_at:.1f}".removesuffix(".0") if row.setting.move else "",
            rpm=f"{row.rpm:.0f}" if row.rpm else "",
            feed=units.plain(row.feed_mm_rev),
            minutes=f"{row.time.minutes:.1f}" if row.time else "",
            measure=row.cut.measure_after,
        )
        for row in page.reckoning.planned
    ]


def cut_totals(page: JobPage) -> dict[str, Any]:
    """Under the list: total time, roughness, notes."""
    reckoning, units = page.reckoning, page.units
    ra = reckoning.finish_of(float(reckoning.plan.finish_feed_mm_rev))
    rough = reckoning.finish_of(float(reckoning.plan.rough_feed_mm_rev))
    return {
        "minutes": f"{reckoning.minutes:.1f}" if reckoning.minutes else "",
        **_batch(page),
        "ra": f"{ra.ra_um:.2f}" if ra else "",
        "ra_rough": f"{rough.ra_um:.1f}" if rough else "",
        "column": SETTING_COLUMN[page.job.setup.way.set_by],
        "copied": _copied_words(page),
        "has_dial": reckoning.dial is not None,
        "notes": [sentence(n, units.unit) for n in (reckoning.passes.notes if reckoning.passes else ())],
    }


def _copied_words(page: JobPage) -> str:
    """How soon an eccentric or oval hole is bored round: the bar copies a share of its swing at each pass."""
    found = page.reckoning.copied
    if found is None:
        return ""
    swing, ratio, count = found
    units, limit = page.units, page.units.fine(page.bore.runout_limit_mm)
    return (
        f"The first cut swings {units.planned(swing)} round the wall; the bar copies {100 * ratio:.1f} % of it a pass, "
        f"so pass {count} is within {limit}."
    )


def _batch(page: JobPage) -> dict[str, str]:
    """All bores of the piece, and of all pieces, in hours where that reads better; under feed only."""
    times = [one.reckoning.minutes for one in page.each]
    pieces = page.job.quantity
    if not all(times) or (len(times) == 1 and pieces == 1):
        return {"job_time": "", "batch_time": ""}
    total = sum(time for time in times if time)
    return {
        "job_time": _time_words(total) if len(times) > 1 else "",
        "batch_time": f"{_time_words(total * pieces)} for {pieces} pieces" if pieces > 1 else "",
    }


def _time_words(minutes: float) -> str:
    return f"{minutes:.0f} min" if minutes < 120 else f"{minutes / 60:.1f} h"


def cuts(page: JobPage) -> list[Plate]:
    """Roughing speed, finishing speed, first setting; the depth stop of a counterbore."""
    reckoning = page.reckoning
    plates = [
        _speed_plate("Spindle, roughing", reckoning.rough_speed, "rough", page),
        _speed_plate("Spindle, finishing", reckoning.finish_speed, "finish", page),
        _first_dial(page),
    ]
    return [*plates, depth_plate(page)] if page.bore.has_shoulder else plates


def spindle_plate(page: JobPage) -> Plate:
    """The roughing speed, else the finishing speed where nothing is roughed."""
    reckoning = page.reckoning
    if reckoning.rough_speed is None and reckoning.finish_speed is not None:
        return _speed_plate("Spindle", reckoning.finish_speed, "finish", page)
    return _speed_plate("Spindle", reckoning.rough_speed, "rough", page)


def _speed_plate(label: str, speed: Speed | None, stage: str, page: JobPage) -> Plate:
    reckoning, units = page.reckoning, page.units
    if speed is None:
        needs = "the cutter" if reckoning.cutter is None else "a pass of this kind"
        return Plate(label=label, governs="Missing:", reason=needs)
    lever = reckoning.machine.lever_for(speed.set_rpm)
    wanted = reckoning.surface_speed(stage) or 0.0
    over = speed.set_rpm > speed.exact_rpm * (1 + 1e-9)
    words = (
        f"lever {lever} = {speed.set_rpm:.0f} rpm" if lever else f"{speed.set_rpm:.0f} rpm",
        f"{100 * (speed.set_rpm / speed.exact_rpm - 1):.1f} % over" if over else "",
    )
    return Plate(
        label=label,
        number=f"{speed.set_rpm:.0f}",
        unit="rpm",
        scene=lever_gate([s.lever for s in reckoning.machine.speeds.all()], lever) if lever else None,
        words=[word for word in words if word],
        governs=_speed_governor(speed, reckoning),
        reason=f"{wanted:g} m/min asks {speed.exact_rpm:.0f}",
        because=Because(
            formula="n = 1000 v / (pi D), then the machine's next speed down, never over the cap",
            inputs=[
                ("surface speed", f"{wanted:g} m/min"),
                ("at this speed", f"{speed.surface_speed_at_set_m_min:.1f} m/min"),
                ("four-times rule says", f"{speed.rule_of_thumb_rpm:.0f} rpm"),
                *((sentence(n, units.unit), "") for n in speed.notes),
            ],
            source=f"Speed: {reckoning.material.source}.",
        ),
    )


def _speed_governor(speed: Speed, reckoning: Reckoning) -> str:
    code = speed.notes[0].code
    if code == "cap_governs":
        return f"Cap of {reckoning.cap_rpm:.0f} governs:"
    return "Slowest speed, still over:" if code == "slowest_is_over" else "Cutter governs:"


def _first_dial(page: JobPage) -> Plate:
    reckoning = page.reckoning
    if not reckoning.planned:
        return Plate(label="First cut, bore to", governs="Missing:", reason="the bore as found")
    row = reckoning.planned[0]
    return setting_plate("First cut, bore to", row.setting, page, "from touch")

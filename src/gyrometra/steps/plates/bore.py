"""The Bore page: ledger, next setting, what is left."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from gyrometra.bridge.units import Units, to_decimal
from gyrometra.cutting.ledger import Ledger, PassRow
from gyrometra.jobs.setting import Setting
from gyrometra.steps import scenes
from gyrometra.steps.page import JobPage
from gyrometra.steps.plates.base import Plate
from gyrometra.steps.plates.setting import setting_plate


@dataclass(frozen=True, kw_only=True)
class LedgerLine:
    """One pass of the ledger."""

    number: int
    kind: str
    wanted: str
    dialled: str
    came: str
    spread: str
    off: str
    state: str
    remark: str
    slip: str
    is_now: bool


def bore(page: JobPage) -> dict[str, Any]:
    """All that the Bore page prints."""
    units, ledger = page.units, page.ledger
    current = ledger.current
    lines = [_ledger_line(row, ledger, units) for row in ledger.rows]
    return {
        "rests_until": ledger.rests_until(page.today),
        "ledger": ledger,
        "current": current,
        "bundle": bundle(page),
        "touched": _touched_words(page),
        "lines": lines,
        "bands": scenes.bore_scenes(page),
        "plates": _bore_plates(page, ledger, current),
        "settled": current is not None and current.set_entry is not None,
        "last_set": next((r for r in reversed(ledger.rows) if r.set_entry is not None), None),
    }


def _touched_words(page: JobPage) -> str:
    """What a touched tip voids, and what to do before the next pass."""
    ledger, bar = page.ledger, page.reckoning.bar
    if not ledger.touched:
        return ""
    parts = ["Measure the bore first." if ledger.needs_size else "Touch the wall again: the dial counts from there."]
    if ledger.reckoning.dial is None:
        parts = ["Measure the bore first." if ledger.needs_size else "Set it anew, from the last measured size."]
    if page.bore.has_shoulder:
        parts.append("Touch the face again too: the depth stop is void.")
    if bar is not None and bar.bits_apart_mm is not None:
        parts.append("The other bit of the pair is void with it.")
    return " ".join(parts)


def _dialled(row: PassRow, units: Units) -> str:
    """What was set: divisions moved, or the reading over the bar."""
    if row.set_entry is None:
        return ""
    if row.set_entry.setting_mm is not None:
        return units.planned(row.set_entry.setting_mm)
    return f"{float(row.set_entry.divisions or 0):.1f} div"


def _ledger_line(row: PassRow, ledger: Ledger, units: Units) -> LedgerLine:
    cut = row.planned.cut
    gauge = row.sizes[0].gauge if row.sizes else None
    step = float(gauge.resolution_mm) if gauge else 0.001
    off = row.off_mm
    remark = f"{row.remark.get_sound_display()}, {row.remark.get_look_display()}" if row.remark else ""
    return LedgerLine(
        number=cut.number,
        kind=cut.kind,
        wanted=units.planned(cut.diameter_mm),
        dialled=_dialled(row, units),
        came=units.measured(row.came_mm, step) if row.came_mm is not None else "",
        spread=f"spread {units.measured(row.spread_mm, step)}" if row.spread_mm else "",
        off="" if off is None else "on size" if abs(off) < step else
        f"{units.measured(abs(off), step)} {'large' if off > 0 else 'small'}",
        state="" if off is None else "ok" if abs(off) < step else "warn",
        remark=remark,
        slip=_slip_words(row, units),
        is_now=row is ledger.current,
    )  # fmt: skip


def _slip_words(row: PassRow, units: Units) -> str:
    if row.slip is None:
        return ""
    return (
        f"The change came out {row.slip.kind} of what was commanded: was the dial taken for "
        f"{'diameter' if row.slip.kind == 'twice' else 'radius'}? "
        f"As read, it would be {units.planned(row.slip.likely_mm)}; what was typed stays."
    )


def _bore_plates(page: JobPage, ledger: Ledger, current: PassRow | None) -> list[Plate]:
    units = page.units
    known, passes = ledger.known_size_mm, page.reckoning.passes
    aim = passes.bored_diameter_mm if passes else page.bore.aim_mm
    plates = []
    if current is not None:
        label = f"Pass {current.planned.cut.number}, bore to"
        plates.append(setting_plate(label, ledger.next_setting(current), page, "from here"))
    if known is not None:
        left = aim - known
        measured = any(row.came_mm is not None for row in ledger.rows)
        plates.append(
            Plate(
                label="Left to the aim, on diameter",
                number=units.planned(left),
                unit=units.label,
                words=(f"aim {units.planned(aim)}", f"now {units.planned(known)}"),
                governs="Last measured size:" if measured else "As found:",
                reason=units.planned(known),
            )
        )
    if current is not None and current.planned.rpm:
        rpm = current.planned.rpm
        lever = page.reckoning.machine.lever_for(rpm)
        plates.append(
            Plate(
                label="Spindle",
                number=f"{rpm:.0f}",
                unit="rpm",
                words=(
                    f"lever {lever}" if lever else "",
                    f"feed {units.plain(current.planned.feed_mm_rev)} a turn",
                ),
                governs="One lever for the group:",
                reason="roughing" if current.planned.is_roughing else "finishing",
            )
        )
    return plates


def cut_values(page: JobPage, kind: str, cleaned: Mapping[str, Any], text: str) -> dict[str, Any]:
    """What a cutting-log entry stores beside the form's values."""
    base = {"client_id": cleaned["client_id"], "source": cleaned["source"]}
    if kind in ("guard", "touched"):
        return base
    if kind == "remark":
        return {**base, "number": cleaned["number"], "sound": cleaned["sound"], "look": cleaned["look"]}
    if kind == "size":
        return {**base, "number": cleaned["number"], "value_mm": cleaned["value_mm"],
                "gauge": cleaned["gauge"], "text": text.strip()[:60]}  # fmt: skip
    row = next((r for r in page.ledger.rows if r.planned.cut.number == cleaned["number"]), None)
    if row is None:
        return {**base, "number": cleaned["number"]}
    return {**base, **_set_values(row, page.ledger.next_setting(row))}


def _set_values(row: PassRow, setting: Setting) -> dict[str, Any]:
    """What the log keeps of a pass that is set."""
    rpm = row.planned.rpm
    return {
        "number": row.planned.cut.number,
        "pass_kind": row.planned.cut.kind,
        "rpm": None if rpm is None else round(rpm, 2),
        "value_mm": to_decimal(row.planned.cut.diameter_mm),
        "change_mm": to_decimal(setting.change_mm),
        "divisions": round(setting.divisions, 3) if setting.move else None,
        "setting_mm": None if setting.reads_mm is None else to_decimal(setting.reads_mm),
    }


def bundle(page: JobPage) -> list[PassRow]:
    """The roughing passes from the current one on that nothing is measured between: one tap logs them all."""
    row = page.ledger.current
    if row is None or row.set_entry is not None:
        return []
    rows = page.ledger.rows[page.ledger.rows.index(row) :]
    found: list[PassRow] = []
    for one in rows:
        if not one.planned.is_roughing:
            break
        found.append(one)
        if one.planned.cut.measure_after:
            break
    return found if len(found) > 1 else []


def bundle_values(page: JobPage, through: int) -> list[dict[str, Any]]:
    """What the log keeps of each pass of a bundle, up to and with pass `through`: each counts from the one before."""
    rows = [row for row in bundle(page) if row.planned.cut.number <= through]
    if not rows:
        return []
    size, stand = page.ledger.size_before(rows[0]), page.ledger.dial_at
    found = []
    for row in rows:
        setting = page.reckoning.setting(size, row.planned.cut.diameter_mm, stand, history=page.ledger.history)
        found.append(_set_values(row, setting))
        size, stand = row.planned.cut.diameter_mm, setting.stands_at
    return found


# ---------------------------------------------------------------- Check

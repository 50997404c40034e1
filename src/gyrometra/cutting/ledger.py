"""The pass ledger: planned passes joined with what was set and what came out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from statistics import fmean

from gyrocore import SetAndMeasured, Slip, radius_diameter_slip
from gyrometra.cutting.models import CutEntry
from gyrometra.jobs.cutting_plan import DonePass
from gyrometra.jobs.models import Bore, SetUp
from gyrometra.jobs.reckon import PlannedPass, Reckoning
from gyrometra.jobs.setting import Setting


@dataclass
class PassRow:
    """One pass: plan, setting, sizes, remarks."""

    planned: PlannedPass
    set_entry: CutEntry | None = None
    sizes: list[CutEntry] = field(default_factory=list)
    remark: CutEntry | None = None
    slip: Slip | None = None

    @property
    def came_mm(self) -> float | None:
        """The mean of the sizes measured after it."""
        return fmean(float(size.value_mm or 0) for size in self.sizes) if self.sizes else None

    @property
    def spread_mm(self) -> float | None:
        """Largest less smallest of these sizes."""
        values = [float(size.value_mm or 0) for size in self.sizes]
        return max(values) - min(values) if len(values) > 1 else None

    @property
    def off_mm(self) -> float | None:
        """How far it came out from what was wanted, on diameter."""
        return None if self.came_mm is None else self.came_mm - self.planned.cut.diameter_mm

    @property
    def is_done(self) -> bool:
        """Set, and measured where the plan asks for it."""
        return self.set_entry is not None and (bool(self.sizes) or not self.planned.cut.measure_after)


@dataclass
class Ledger:
    """All passes, the guard steps, and what is to do now."""

    rows: list[PassRow]
    guarded: bool
    reckoning: Reckoning
    #: The tip was touched after the last pass that was set: its setting is void.
    touched: bool = False

    @property
    def needs_size(self) -> bool:
        """Whether the bore must be measured before anything is set: the tip was touched since an unmeasured pass."""
        last = next((row for row in reversed(self.rows) if row.set_entry is not None), None)
        return self.touched and last is not None and not last.sizes

    @property
    def current(self) -> PassRow | None:
        """The pass to be set or measured now."""
        return next((row for row in self.rows if not row.is_done), None)

    @property
    def known_size_mm(self) -> float | None:
        """The bore's last measured size, or as found before any measurement."""
        measured = [row.came_mm for row in self.rows if row.came_mm is not None]
        return measured[-1] if measured else self.reckoning.start_mm

    def size_before(self, row: PassRow) -> float:
        """What the bore should be before this pass: measured, else as set since."""
        size = self.reckoning.start_mm or 0.0
        for earlier in self.rows:
            if earlier is row:
                break
            if earlier.came_mm is not None:
                size = earlier.came_mm
            elif earlier.set_entry is not None:
                size += float(earlier.set_entry.change_mm or 0)
        return size

    def next_setting(self, row: PassRow) -> Setting:
        """The setting for this pass, from what the last ones really came to."""
        return self.reckoning.setting(
            self.size_before(row), row.planned.cut.diameter_mm, self.dial_at, history=self.history
        )

    @property
    def history(self) -> list[SetAndMeasured]:
        """What a micrometer was set to and what came out, pass by pass: the bar's habit shows in it."""
        return [
            SetAndMeasured(set_diameter_mm=float(row.set_entry.setting_mm), measured_diameter_mm=row.came_mm)
            for row in self.rows
            if row.set_entry is not None and row.set_entry.setting_mm is not None and row.came_mm is not None
        ]

    @property
    def dial_at(self) -> float:
        """Where the dial stands after all that was set, from 0 at touch; 0 where there is none."""
        return self.reckoning.dial_stands_at

    def rests_until(self, today: date) -> date | None:
        """The day that roughed work waits for, while it does: before it, no finish pass."""
        until: date | None = self.reckoning.plan.rest_until
        row = self.current
        if until is None or until <= today or row is None or row.planned.is_roughing or row.set_entry is not None:
            return None
        return until

    @property
    def is_finished(self) -> bool:
        """Whether every pass is done."""
        return bool(self.rows) and self.current is None


def cuts_of(setup: SetUp) -> list[CutEntry]:
    """All standing entries of a set-up, whichever bore; one query."""
    return list(CutEntry.objects.standing().filter(setup=setup).select_related("by", "gauge"))


def ledger_of(entries: Sequence[CutEntry], reckoning: Reckoning) -> Ledger:
    """Join the plan of one bore with the set-up's log."""
    rows = [PassRow(planned) for planned in reckoning.planned]
    for entry in entries:
        if entry.bore_id != reckoning.bore.pk:
            continue
        row = next((r for r in rows if r.planned.cut.number == entry.number), None)
        if row is None:
            continue
        if entry.kind == CutEntry.Kind.SET:
            row.set_entry = entry
        elif entry.kind == CutEntry.Kind.SIZE:
            row.sizes.append(entry)
        elif entry.kind == CutEntry.Kind.REMARK:
            row.remark = entry
    _name_slips(rows, reckoning)
    return Ledger(
        rows,
        guarded=any(e.kind == CutEntry.Kind.GUARD for e in entries),
        reckoning=reckoning,
        touched=_touched_since([e for e in entries if e.bore_id == reckoning.bore.pk]),
    )


def _touched_since(own: Sequence[CutEntry]) -> bool:
    """Whether a touched tip is the last word on the setting."""
    kinds = [e.kind for e in own if e.kind in (CutEntry.Kind.SET, CutEntry.Kind.TOUCHED)]
    return bool(kinds) and kinds[-1] == CutEntry.Kind.TOUCHED


def done_of(entries: Sequence[CutEntry], bore: Bore, start_mm: float | None) -> tuple[list[DonePass], float | None]:
    """The passes of a bore that are set, and its size after them: measured, else as set since."""
    done: list[DonePass] = []
    size = start_mm
    own = [entry for entry in entries if entry.bore_id == bore.pk]
    for entry in own:
        if entry.kind == CutEntry.Kind.TOUCHED:
            done = [replace(one, divisions=0.0) for one in done]  # the dial counts anew, from the next touch
        if entry.kind != CutEntry.Kind.SET or size is None:
            continue
        target, change = float(entry.value_mm or 0), float(entry.change_mm or 0)
        done.append(
            DonePass(number=entry.number, kind=entry.pass_kind, start_mm=target - change, target_mm=target,
                     divisions=float(entry.divisions or 0))
        )  # fmt: skip
        measured = [float(e.value_mm or 0) for e in own if e.kind == CutEntry.Kind.SIZE and e.number == entry.number]
        size = fmean(measured) if measured else target
    return done, size if done else None


def why_begun(setup: SetUp, bore: Bore | None = None) -> str:
    """Why what the log began with cannot be changed: it counts from there. Empty where no pass is set."""
    setting = CutEntry.objects.standing().filter(setup=setup, kind=CutEntry.Kind.SET)
    begun = (setting if bore is None else setting.filter(bore=bore)).count()
    if not begun:
        return ""
    already = "Pass 1 is set" if begun == 1 else f"{begun} passes are set"
    return f"{already} already: take them back on Bore before this is changed."


def _name_slips(rows: Sequence[PassRow], reckoning: Reckoning) -> None:
    """Compare each measured change with what was commanded since the last measured size."""
    before, commanded = reckoning.start_mm or 0.0, 0.0
    for row in rows:
        if row.set_entry is not None:
            commanded += float(row.set_entry.change_mm or 0)
        if row.came_mm is not None:
            row.slip = radius_diameter_slip(
                commanded_mm=commanded, came_mm=row.came_mm - before, scatter_mm=_scatter(row)
            )
            before, commanded = row.came_mm, 0.0


def _scatter(row: PassRow) -> float:
    gauge = row.sizes[0].gauge if row.sizes else None
    return float(gauge.single_sd_mm or 0) if gauge else 0.0

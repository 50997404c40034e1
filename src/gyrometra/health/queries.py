"""What stands of a machine's checks."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from django.db.models import Max

from gyrometra.crib.models import Machine
from gyrometra.health.models import CHANGED, MachineCheck, MachineLimit
from gyroplan.machine import KINDS, Checked, Health, Kind, health_of, kinds_of, limited_mm


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckStanding:
    """One kind of check of one machine: its rows, its limit, what it comes to."""

    kind: Kind
    rows: Sequence[MachineCheck]
    limit_mm: float | None
    limit: MachineLimit | None
    every_days: int
    health: Health

    @property
    def last(self) -> MachineCheck | None:
        """The last check, by day."""
        return next((one for one in reversed(self.rows) if one.kind != CHANGED), None)

    @property
    def value_mm(self) -> float | None:
        """The figure of the last check [mm]."""
        return None if self.health.last is None else self.health.last.value_mm


def standing_of(machine: Machine, today: date) -> dict[str, CheckStanding]:
    """All checks of a machine, by kind, in two queries."""
    return standings([machine], today)[machine.pk]


def standings(machines: Sequence[Machine], today: date) -> dict[int, dict[str, CheckStanding]]:
    """All checks of some machines, in two queries however many there are."""
    keys = [one.pk for one in machines]
    rows = defaultdict(list)
    for row in MachineCheck.objects.standing().filter(machine__in=keys).select_related("by", "indicator"):
        rows[row.machine_id].append(row)
    limits = {(one.machine_id, one.kind): one for one in MachineLimit.objects.filter(machine__in=keys)}
    return {
        one.pk: {kind.key: _standing(kind, rows[one.pk], limits.get((one.pk, kind.key)), today)
                 for kind in kinds_of(one.kind)}
        for one in machines
    }  # fmt: skip


def _standing(kind: Kind, rows: Sequence[MachineCheck], limit: MachineLimit | None, today: date) -> CheckStanding:
    own = [one for one in rows if one.kind in (kind.key, CHANGED)]
    first = next((place for place, one in enumerate(own) if one.kind != CHANGED), len(own))
    own = own[first:]  # what was changed before the first check says nothing of it
    every = limit.every_days if limit is not None and limit.every_days else kind.every_days
    limit_mm = None if limit is None or limit.limit_mm is None else float(limit.limit_mm)
    entries = [
        Checked(day=one.day, value_mm=None, changed=one.get_changed_display()) if one.kind == CHANGED
        else Checked(day=one.day, value_mm=limited_mm(kind.key, one.values))
        for one in own
    ]  # fmt: skip
    return CheckStanding(kind=kind, rows=own, limit_mm=limit_mm, limit=limit, every_days=every,
                         health=health_of(entries, limit_mm, every, today))  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckDue:
    """A check of a machine that is due, and when."""

    machine: str
    label: str
    day: date


def checks_due_by(day: date) -> list[CheckDue]:
    """Checks that are due by a day, the first first; of those that were made once, in two queries."""
    checks = MachineCheck.objects.standing().exclude(kind=CHANGED).filter(machine__retired=False)
    last = checks.values("machine", "machine__name", "kind").annotate(on=Max("day")).order_by()
    own = {(one.machine_id, one.kind): one.every_days for one in MachineLimit.objects.filter(every_days__isnull=False)}
    found = [
        CheckDue(
            machine=row["machine__name"], label=KINDS[row["kind"]].label,
            day=row["on"] + timedelta(days=own.get((row["machine"], row["kind"])) or KINDS[row["kind"]].every_days),
        ) for row in last
    ]  # fmt: skip
    return sorted((one for one in found if one.day <= day), key=lambda one: (one.day, one.machine, one.label))

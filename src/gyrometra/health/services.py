"""Logging checks of a machine, and its limits."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from decimal import Decimal
from typing import Any

from django.db import transaction

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Typed
from gyrometra.crib.models import Indicator, Machine
from gyrometra.crib.services import line_of
from gyrometra.health.models import CHANGED, MachineCheck, MachineLimit
from gyrometra.jobs.entries import NotTheLast, Sent, stored_before
from gyroplan.machine import KINDS


@transaction.atomic
def log_check(
    *, sent: Sent, machine: Machine, kind: str, day: date, values: Mapping[str, float], typed: Mapping[str, Typed],
    indicator: Indicator | None = None, note: str = "",
) -> MachineCheck:  # fmt: skip
    """Log a check; one sent twice is stored once."""
    known = stored_before(MachineCheck, sent)
    if known is not None:
        return known
    return MachineCheck.objects.create(
        machine=machine, kind=kind, day=day, values=dict(values), typed=dict(typed), indicator=indicator, note=note,
        **sent.columns,
    )  # fmt: skip


@transaction.atomic
def log_changed(*, sent: Sent, machine: Machine, day: date, changed: str, note: str = "") -> MachineCheck:
    """Log what was changed of a machine: the run of every check begins anew."""
    known = stored_before(MachineCheck, sent)
    if known is not None:
        return known
    return MachineCheck.objects.create(
        machine=machine, kind=CHANGED, day=day, changed=changed, note=note, **sent.columns
    )


@transaction.atomic
def take_back(*, sent: Sent, machine: Machine, undo: int) -> MachineCheck:
    """Withdraw an entry that stands; it stays in the log, crossed out. Raises NotTheLast where it does not stand."""
    known = stored_before(MachineCheck, sent)
    if known is not None:
        return known
    Machine.objects.select_for_update().get(pk=machine.pk)
    last = MachineCheck.objects.standing().filter(machine=machine, pk=undo).first()
    if last is None:
        raise NotTheLast
    return MachineCheck.objects.create(
        machine=machine, kind=last.kind, day=last.day, values=last.values, typed=last.typed, changed=last.changed,
        indicator=last.indicator, note=last.note, supersedes=last, withdrawn=True,
        **{**sent.columns, "text": last.text},
    )  # fmt: skip


@transaction.atomic
def set_limit(
    *, user: User, machine: Machine, kind: str, limit_mm: Decimal | None, every_days: int | None, typed: dict[str, Any]
) -> None:
    """Set what is allowed of a check and how often it is due; the change stands in the machine's history."""
    before = MachineLimit.objects.filter(machine=machine, kind=kind).first()
    was = (before.limit_mm, before.every_days) if before else (None, None)
    if was == (limit_mm, every_days):
        return
    MachineLimit.objects.update_or_create(
        machine=machine, kind=kind, defaults={"limit_mm": limit_mm, "every_days": every_days, "typed": typed}
    )
    fields = {
        "of": ["", KINDS[kind].label], "limit": ["" if one is None else str(one) for one in (was[0], limit_mm)],
        "days": [str(one or "") for one in (was[1], every_days)],
    }  # fmt: skip
    line_of(user, machine, "limit", fields).save()

"""Logging the cuts."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db import transaction

from gyrometra.accounts.models import User
from gyrometra.cutting.models import CutEntry
from gyrometra.jobs.models import SetUp
from gyrometra.jobs.permissions import require_open


@transaction.atomic
def log_cut(*, user: User, setup: SetUp, kind: str, client_id: UUID, **values: Any) -> CutEntry:
    """Append an entry; one sent twice is stored once."""
    SetUp.objects.select_for_update().get(pk=setup.pk)
    known: CutEntry | None = CutEntry.objects.filter(client_id=client_id).first()
    if known is not None:
        return known
    require_open(setup.job)
    return CutEntry.objects.create(by=user, setup=setup, kind=kind, client_id=client_id, **values)


@transaction.atomic
def take_back(*, user: User, setup: SetUp, client_id: UUID) -> CutEntry | None:
    """Withdraw the last standing size or setting; it stays in the log, crossed out."""
    SetUp.objects.select_for_update().get(pk=setup.pk)
    require_open(setup.job)
    kinds = (CutEntry.Kind.SIZE, CutEntry.Kind.SET)
    last = CutEntry.objects.standing().filter(setup=setup, kind__in=kinds).order_by("-pk").first()
    if last is None or CutEntry.objects.filter(client_id=client_id).exists():
        return None
    same = {
        name: getattr(last, name) for name in ("kind", "number", "value_mm", "change_mm", "divisions", "gauge", "text")
    }
    return CutEntry.objects.create(by=user, setup=setup, client_id=client_id, supersedes=last, withdrawn=True, **same)

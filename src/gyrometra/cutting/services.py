"""Logging the cuts."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any
from uuid import UUID, uuid5

from django.db import transaction

from gyrometra.accounts.models import User
from gyrometra.cutting.models import CutEntry
from gyrometra.jobs.models import Bore, SetUp
from gyrometra.jobs.permissions import require_open


@transaction.atomic
def log_cut(*, user: User, bore: Bore, kind: str, client_id: UUID, **values: Any) -> CutEntry:
    """Append an entry; one sent twice is stored once. The guard steps count for the whole set-up of a piece."""
    setup = SetUp.objects.select_for_update(of=("self",)).select_related("job").get(pk=bore.setup_id)
    known: CutEntry | None = CutEntry.objects.filter(client_id=client_id).first()
    if known is not None:
        return known
    require_open(setup.job)
    if kind == CutEntry.Kind.SET:
        # two people tapped the same pass: it was set once
        same = {"bore": bore, "piece": values.get("piece", 1), "number": values.get("number", 0)}
        standing: CutEntry | None = CutEntry.objects.standing().filter(kind=kind, **same).first()
        if standing is not None:
            return standing
    of_bore = None if kind == CutEntry.Kind.GUARD else bore
    return CutEntry.objects.create(by=user, setup=setup, bore=of_bore, kind=kind, client_id=client_id, **values)


@transaction.atomic
def log_settings(
    *, user: User, bore: Bore, client_id: UUID, source: str, settings: Sequence[Mapping[str, Any]], piece: int = 1
) -> list[CutEntry]:
    """Append the settings of a bundle of passes, all or none; sent twice they are stored once."""
    return [
        log_cut(
            user=user, bore=bore, kind=CutEntry.Kind.SET, source=source, piece=piece,
            client_id=client_id if place == 0 else uuid5(client_id, str(place)), **values,
        )
        for place, values in enumerate(settings)
    ]  # fmt: skip


@transaction.atomic
def take_back(*, user: User, bore: Bore, client_id: UUID, piece: int = 1) -> CutEntry | None:
    """Withdraw the bore's last standing size, setting or touch; it stays in the log, crossed out."""
    setup = SetUp.objects.select_for_update(of=("self",)).select_related("job").get(pk=bore.setup_id)
    require_open(setup.job)
    kinds = (CutEntry.Kind.SIZE, CutEntry.Kind.SET, CutEntry.Kind.TOUCHED)
    last = CutEntry.objects.standing().filter(bore=bore, piece=piece, kind__in=kinds).order_by("-pk").first()
    if last is None or CutEntry.objects.filter(client_id=client_id).exists():
        return None
    same = {
        name: getattr(last, name)
        for name in (
            "kind",
            "piece",
            "number",
            "value_mm",
            "change_mm",
            "divisions",
            "setting_mm",
            "pass_kind",
            "rpm",
            "gauge",
            "text",
        )
    }
    return CutEntry.objects.create(
        by=user, setup=setup, bore=bore, client_id=client_id, supersedes=last, withdrawn=True, **same
    )

"""Logging sizes of the finished bore, and signing off."""

from __future__ import annotations

from decimal import Decimal
from typing import Any
from uuid import UUID

from django.db import transaction

from gyrometra.accounts.models import User
from gyrometra.crib.models import Gauge
from gyrometra.inspection.models import SizeReading
from gyrometra.jobs.models import Bore, Job, SignOff
from gyrometra.jobs.permissions import can_sign_verdict, lock_open


class NotAllowed(Exception):
    """This person may not do that."""


@transaction.atomic
def log_size(
    *, user: User, bore: Bore, gauge: Gauge, z_mm: Decimal, angle_deg: Decimal, value_mm: Decimal,
    part_temp_c: Decimal, text: str, source: str, client_id: UUID, repeat: bool = False, piece: int = 1,
) -> SizeReading:  # fmt: skip
    """Log one diameter; one sent twice is stored once. A repeat adds, else it supersedes."""
    lock_open(bore.setup.job)
    known: SizeReading | None = SizeReading.objects.filter(client_id=client_id).first()
    if known is not None:
        return known
    place = {"setup": bore.setup, "bore": bore, "piece": piece, "z_mm": z_mm, "angle_deg": angle_deg}
    standing = None if repeat else SizeReading.objects.standing().filter(**place).order_by("-pk").first()
    return SizeReading.objects.create(
        **place, gauge=gauge, value_mm=value_mm, part_temp_c=part_temp_c, text=text, source=source,
        client_id=client_id, by=user, supersedes=standing,
    )  # fmt: skip


@transaction.atomic
def take_back(*, user: User, bore: Bore, client_id: UUID, piece: int = 1) -> SizeReading | None:
    """Withdraw the bore's last standing size; it stays in the log, crossed out."""
    lock_open(bore.setup.job)
    last = SizeReading.objects.standing().filter(bore=bore, piece=piece).order_by("-pk").first()
    if last is None or SizeReading.objects.filter(client_id=client_id).exists():
        return None
    return SizeReading.objects.create(
        setup=bore.setup, bore=bore, piece=piece, gauge=last.gauge, z_mm=last.z_mm,
        angle_deg=last.angle_deg, value_mm=last.value_mm,
        part_temp_c=last.part_temp_c, client_id=client_id, by=user, supersedes=last, withdrawn=True,
    )  # fmt: skip


@transaction.atomic
def sign_off(*, user: User, job: Job, verdict: dict[str, Any]) -> SignOff:
    """The lead signs the verdict as it stands; afterwards nothing about the job changes."""
    if not can_sign_verdict(user):
        raise NotAllowed
    lock_open(job)
    return SignOff.objects.create(job=job, by=user, verdict=verdict)

"""Logging rounds and readings."""

from __future__ import annotations

from decimal import Decimal
from uuid import UUID

from django.db import transaction

from gyrometra.accounts.models import User
from gyrometra.crib.models import Indicator
from gyrometra.jobs.models import Bore, SetUp
from gyrometra.jobs.permissions import require_open
from gyrometra.truing.models import Reading, Round


class PlaceTaken(Exception):
    """Another reading stands at this place already."""


@transaction.atomic
def open_round(
    *,
    user: User,
    setup: SetUp,
    indicator: Indicator,
    places: int,
    method: str,
    purpose: str,
    bore: Bore | None = None,
    piece: int = 1,
    closing_mm: Decimal | None = None,
) -> Round:
    """Begin the next round of a piece: of the set-up, or of one finished bore for the check."""
    SetUp.objects.select_for_update().get(pk=setup.pk)
    require_open(setup.job)
    last = Round.objects.filter(setup=setup, purpose=purpose, bore=bore, piece=piece).order_by("-number").first()
    number = 1 if last is None else last.number + 1
    return Round.objects.create(
        setup=setup,
        bore=bore,
        piece=piece,
        number=number,
        purpose=purpose,
        method=method,
        places=places,
        surface="inside" if purpose == Round.Purpose.CHECK else setup.surface,
        indicator=indicator,
        closing_mm=closing_mm,
        by=user,
    )


@transaction.atomic
def log_reading(
    *,
    user: User,
    round: Round,
    place: int,
    value_mm: Decimal | None,
    text: str,
    source: str,
    client_id: UUID,
    correct: bool = False,
) -> Reading:
    """Log one reading, None for a blocked place; one sent twice is stored once, a correction supersedes what stands."""
    Round.objects.select_for_update().get(pk=round.pk)
    known: Reading | None = Reading.objects.filter(client_id=client_id).first()
    if known is not None:
        return known
    require_open(round.setup.job)
    standing = Reading.objects.standing().filter(round=round, place=place).first()
    if standing is not None and not correct:
        raise PlaceTaken
    return Reading.objects.create(
        round=round,
        place=place,
        value_mm=value_mm,
        text=text,
        source=source,
        client_id=client_id,
        by=user,
        supersedes=standing,
    )


@transaction.atomic
def take_back(*, user: User, round: Round, client_id: UUID) -> Reading | None:
    """Withdraw the last standing reading; it stays in the log, crossed out."""
    Round.objects.select_for_update().get(pk=round.pk)
    require_open(round.setup.job)
    if Reading.objects.filter(client_id=client_id).exists():
        return None
    last = Reading.objects.standing().filter(round=round).order_by("-pk").first()
    if last is None:
        return None
    return Reading.objects.create(
        round=round,
        place=last.place,
        value_mm=last.value_mm,
        text=last.text,
        client_id=client_id,
        by=user,
        supersedes=last,
        withdrawn=True,
    )

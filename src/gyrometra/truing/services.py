"""Logging rounds and readings."""

from __future__ import annotations

from decimal import Decimal
from uuid import UUID

from django.db import transaction

from gyrometra.accounts.models import User
from gyrometra.crib.models import Indicator
from gyrometra.jobs.models import Bore, SetUp
from gyrometra.jobs.permissions import lock_open
from gyrometra.truing.models import Between, Reading, Round


class PlaceTaken(Exception):
    """Another reading stands at this place already."""


class RoundClosed(Exception):
    """The round is closed, or void: nothing more is read in it."""


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
    lock_open(setup.job)
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
    pointed: str = "",
) -> Reading:
    """Log one reading, None for a blocked place; one sent twice is stored once, a correction supersedes what stands."""
    lock_open(round.setup.job)
    known: Reading | None = Reading.objects.filter(client_id=client_id).first()
    if known is not None:
        return known
    if _is_over(round):
        raise RoundClosed
    if pointed in Indicator.Pointed.values and pointed and not round.indicator.pointed:
        Indicator.objects.filter(pk=round.indicator_id).update(pointed=pointed)
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


def _is_over(round: Round) -> bool:
    """Whether "first again" was read, something was moved or disturbed, or another round was begun since."""
    if Reading.objects.standing().filter(round=round, place=round.places).exists():
        return True
    of = {"setup": round.setup, "piece": round.piece}
    if Round.objects.filter(**of, purpose=round.purpose, bore=round.bore, number__gt=round.number).exists():
        return True
    if round.purpose != Round.Purpose.TRUE:
        return False
    return Between.objects.standing().filter(**of, bore=round.bore, after_round=round.number).exists()


@transaction.atomic
def log_between(
    *, user: User, setup: SetUp, kind: str, client_id: UUID, bore: Bore | None = None, piece: int = 1
) -> Between:
    """Log that the jaws were moved as told, or that the work was disturbed; one sent twice is stored once."""
    lock_open(setup.job)
    known: Between | None = Between.objects.filter(client_id=client_id).first()
    if known is not None:
        return known
    of = {"setup": setup, "bore": bore, "piece": piece}
    last = Round.objects.filter(**of, purpose=Round.Purpose.TRUE).order_by("-number").first()
    number = last.number if last else 0
    same: Between | None = Between.objects.standing().filter(**of, after_round=number, kind=kind).first()
    if kind == Between.Kind.MOVED and same is not None:
        return same  # two people tapped the same move: it was made once
    return Between.objects.create(by=user, client_id=client_id, kind=kind, after_round=number, **of)


@transaction.atomic
def take_back(*, user: User, round: Round, client_id: UUID) -> Reading | None:
    """Withdraw the last standing reading; it stays in the log, crossed out."""
    lock_open(round.setup.job)
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

"""Logging rounds and readings."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from decimal import Decimal
from typing import Any
from uuid import UUID

from django.db import transaction

from gyrometra.crib.models import Indicator
from gyrometra.jobs.entries import NotTheLast, Sent, stored_before
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
    sent: Sent,
    setup: SetUp,
    indicator: Indicator,
    places: int,
    method: str,
    purpose: str,
    bore: Bore | None = None,
    piece: int = 1,
    closing_mm: Decimal | None = None,
    plane_mm: Decimal | None = None,
    depths_mm: Sequence[float] = (),
    plus_out: bool = False,
    seen_other: bool = False,
    target_mm: Decimal | None = None,
    target_deg: Decimal | None = None,
    ticked: Sequence[str] | None = None,
) -> Round:
    """Begin the next round of a piece: of the set-up, or of one finished bore for the check; one tap, one round."""
    lock_open(setup.job)
    of = {"setup": setup, "purpose": purpose, "bore": bore, "piece": piece}
    known = stored_before(Round, sent)
    if known is not None:
        return known
    return Round.objects.create(
        **of,
        client_id=sent.client_id,
        digest=sent.digest,
        number=_next_number(of),
        method=method,
        places=places,
        surface="inside" if purpose == Round.Purpose.CHECK else setup.surface,
        indicator=indicator,
        closing_mm=closing_mm,
        plane_mm=plane_mm,
        depths_mm=list(depths_mm),
        plus_out=plus_out,
        seen_other=seen_other,
        target_mm=target_mm,
        target_deg=target_deg if target_mm is not None else None,
        values={} if ticked is None else {"ticked": list(ticked)},
        rests_on={"name": indicator.name, "step_mm": str(indicator.step_mm), "range_mm": str(indicator.range_mm)},
        by=sent.user,
    )


def _next_number(of: Mapping[str, Any]) -> int:
    last = Round.objects.filter(**of).order_by("-number").first()
    return 1 if last is None else last.number + 1


@transaction.atomic
def log_centred(
    *, sent: Sent, setup: SetUp, how: str, bound_mm: float, values: Mapping[str, Any], bore: Bore | None = None,
    piece: int = 1,
) -> Round:  # fmt: skip
    """Log that the work was centred by eye, plug, coaxial indicator or edge-finder; one sent twice is stored once."""
    lock_open(setup.job)
    known = stored_before(Round, sent)
    if known is not None:
        return known
    of = {"setup": setup, "purpose": Round.Purpose.TRUE, "bore": bore, "piece": piece}
    return Round.objects.create(
        **of, client_id=sent.client_id, digest=sent.digest, number=_next_number(of), method=how, places=2,
        surface=setup.surface, bound_mm=Decimal(f"{bound_mm:.6f}"), values=dict(values), by=sent.user,
    )  # fmt: skip


@transaction.atomic
def log_reading(
    *, sent: Sent, round: Round, place: int, value_mm: Decimal | None, correct: bool = False, pointed: str = ""
) -> Reading:
    """Log one reading, None for a blocked place; one sent twice is stored once, a correction supersedes what stands."""
    lock_open(round.setup.job)
    known = stored_before(Reading, sent)
    if known is not None:
        return known
    if round.bound_mm is not None or _is_over(round):
        raise RoundClosed
    indicator = round.indicator
    if indicator is not None and pointed in Indicator.Pointed.values and pointed and not indicator.pointed:
        Indicator.objects.filter(pk=indicator.pk).update(pointed=pointed)
    standing = Reading.objects.standing().filter(round=round, place=place).first()
    if standing is not None and not correct:
        raise PlaceTaken
    return Reading.objects.create(round=round, place=place, value_mm=value_mm, supersedes=standing, **sent.columns)


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
    *, sent: Sent, setup: SetUp, kind: str, bore: Bore | None = None, piece: int = 1, how: str = "",
    really_mm: Sequence[float] = (),
) -> Between:  # fmt: skip
    """Log that the work was moved, as told or otherwise, or that it was disturbed; one sent twice is stored once."""
    lock_open(setup.job)
    known = stored_before(Between, sent)
    if known is not None:
        return known
    of = {"setup": setup, "bore": bore, "piece": piece}
    last = Round.objects.filter(**of, purpose=Round.Purpose.TRUE).order_by("-number").first()
    number = last.number if last else 0
    same: Between | None = Between.objects.standing().filter(**of, after_round=number, kind=kind).first()
    if kind == Between.Kind.MOVED and same is not None:
        return same  # two people tapped the same move: it was made once
    return Between.objects.create(
        kind=kind, how=how, after_round=number, really_mm=[round(one, 6) for one in really_mm], **of, **sent.columns
    )


def last_happened(setup: SetUp, bore: Bore | None, piece: int) -> Round | Between | None:
    """What can be taken back of a truing that is not being read: the last disturbance or move, else a centring."""
    of = {"setup": setup, "bore": bore, "piece": piece}
    centrings = Between.objects.standing().filter(**of, kind=Between.Kind.WITHDRAWN).values("after_round")
    last = Round.objects.filter(**of, purpose=Round.Purpose.TRUE).exclude(number__in=centrings).order_by("-number")
    newest = last.first()
    if newest is None:
        return None
    happened = Between.objects.standing().filter(**of, after_round__gte=newest.number)
    since: Between | None = happened.exclude(kind=Between.Kind.WITHDRAWN).order_by("-pk").first()
    return since or (newest if newest.bound_mm is not None else None)


@transaction.atomic
def take_back_happened(
    *, sent: Sent, setup: SetUp, undo: UUID | None, bore: Bore | None = None, piece: int = 1
) -> Between:
    """Withdraw the last centring, move or disturbance, the one named; it stays in the log. Raises NotTheLast."""
    lock_open(setup.job)
    known = stored_before(Between, sent)
    if known is not None:
        return known
    last = last_happened(setup, bore, piece)
    if last is None or last.client_id != undo:
        raise NotTheLast
    of = {"setup": setup, "bore": bore, "piece": piece}
    if isinstance(last, Round):
        return Between.objects.create(kind=Between.Kind.WITHDRAWN, after_round=last.number, **of, **sent.columns)
    return Between.objects.create(
        kind=last.kind, how=last.how, after_round=last.after_round, supersedes=last, withdrawn=True, **of,
        **sent.columns,
    )  # fmt: skip


@transaction.atomic
def take_back(*, sent: Sent, round: Round, undo: UUID | None) -> Reading:
    """Withdraw the last standing reading, the one named; it stays in the log, crossed out. Raises NotTheLast."""
    lock_open(round.setup.job)
    known = stored_before(Reading, sent)
    if known is not None:
        return known
    last = Reading.objects.standing().filter(round=round).order_by("-pk").first()
    if last is None or last.client_id != undo:
        raise NotTheLast
    return Reading.objects.create(
        round=round, place=last.place, value_mm=last.value_mm, supersedes=last, withdrawn=True,
        **{**sent.columns, "text": last.text},
    )  # fmt: skip

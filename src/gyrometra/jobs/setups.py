"""Set-ups of a job, in order: one more, one that goes on where another was given up, closing, reopening, removing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from gyrometra.accounts.models import User
from gyrometra.crib.models import Machine
from gyrometra.jobs import history
from gyrometra.jobs.models import Bore, Feature, FoundSize, Job, SetUp
from gyrometra.jobs.services import StillNeeded, begin_plan, lock_job, stamp, take_in_hand

_LOGS = ("cuts", "rounds", "sizes", "shoulder_depths", "feature_readings", "between_rounds")
#: Letters of the alphabet: more set-ups than that no job has.
MOST_SETUPS = 26


@dataclass(frozen=True, slots=True, kw_only=True)
class NewSetUp:
    """How the next set-up stands."""

    machine: Machine
    method: str
    reference: str
    side: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """A bore as the set-up before left it: each (piece or None for all, depth, diameter)."""

    bore: Bore
    rows: Sequence[tuple[int | None, Decimal, Decimal]]


@transaction.atomic
def add_setup(*, user: User, like: SetUp, version: int, new: NewSetUp, unit: str) -> SetUp:
    """One more set-up of the part, begun with the last bore of another one, not measured yet and to be changed."""
    locked = lock_job(job=like.job, version=version)
    bore = Bore.objects.filter(setup=like).order_by("-place")[0]
    setup = _make(locked, user, new)
    _copy(bore, setup, place=1, name=bore.name, follows=None)
    _begin(locked, user, setup, float(bore.upper_mm), unit)
    return setup


@transaction.atomic
def go_on(
    *, user: User, after: SetUp, version: int, new: NewSetUp, found: Sequence[Found], reason: str, unit: str
) -> SetUp:
    """Go on with the bores of a set-up in another one: the first is closed with its reason, the bores handed on.

    What was cut stands as cut in the logs of the first; the next finds the bores as they were measured.
    """
    locked = lock_job(job=after.job, version=version)
    setup = _make(locked, user, new)
    for place, one in enumerate(found):
        bore = _copy(one.bore, setup, place=place + 1, name=one.bore.name, follows=one.bore)
        FoundSize.objects.bulk_create(
            FoundSize(bore=bore, piece=piece, z_mm=z, diameter_mm=diameter) for piece, z, diameter in one.rows
        )
    for feature in after.features.filter(dropped=False):
        feature.pk, feature._state.adding, feature.setup = None, True, setup
        feature.save()
    # a distance that was taken from the axis that is left is taken from the one that goes on with its bores
    Feature.objects.filter(to_setup=after).update(to_setup=setup)
    _close(locked, user, after, reason or f"goes on in set-up {setup.letter}")
    _begin(locked, user, setup, float(max(one.bore.upper_mm for one in found)), unit)
    return setup


@transaction.atomic
def close_setup(*, user: User, setup: SetUp, version: int, reason: str) -> None:
    """Give a set-up up: nothing of it is judged any more, and its logs stay. One set-up stays open."""
    locked = lock_job(job=setup.job, version=version)
    if not locked.setups.filter(closed_reason="").exclude(pk=setup.pk).exists():
        raise StillNeeded("One set-up stays open. Close the job instead, or go on in another set-up.")
    _close(locked, user, setup, reason)
    stamp(locked, user)


@transaction.atomic
def reopen_setup(*, user: User, setup: SetUp, version: int) -> None:
    """Take a set-up up again; refused while another one goes on with its bores."""
    locked = lock_job(job=setup.job, version=version)
    after = SetUp.objects.filter(bores__follows__setup=setup, closed_reason="").order_by("place").first()
    if after is not None:
        raise StillNeeded(f"Set-up {after.letter} goes on with its bores: give that up first.")
    _close(locked, user, setup, "")
    stamp(locked, user)


@transaction.atomic
def remove_setup(*, user: User, setup: SetUp, version: int) -> None:
    """Take a set-up away that nothing is logged of; what it went on with is open again."""
    locked = lock_job(job=setup.job, version=version)
    others = locked.setups.exclude(pk=setup.pk)
    if not others.exists():
        raise StillNeeded("A job keeps one set-up at least.")
    if any(getattr(setup, log).exists() for log in _LOGS):
        raise StillNeeded(f"Set-up {setup.letter} has entries in its logs: they must stay, and so must it.")
    if Bore.objects.filter(follows__setup=setup).exists():
        raise StillNeeded(f"Another set-up goes on with the bores of set-up {setup.letter}.")
    if Feature.objects.filter(to_setup=setup, dropped=False).exists():
        raise StillNeeded(f"A distance is taken from the axis of set-up {setup.letter}.")
    Feature.objects.filter(to_setup=setup).update(to_setup=None)
    before = SetUp.objects.filter(bores__followed_by__setup=setup).distinct()
    for one in list(before):
        _close(locked, user, one, "")
    if locked.setup_id == setup.pk:
        take_in_hand(locked, others.order_by("closed_reason", "place")[0])
    locked.setup_summaries = {key: kept for key, kept in locked.setup_summaries.items() if key != str(setup.pk)}
    setup.delete()
    stamp(locked, user)


def _make(job: Job, user: User, new: NewSetUp) -> SetUp:
    last = job.setups.aggregate(last=Max("place"))["last"] or 0
    if last >= MOST_SETUPS:
        raise StillNeeded(f"A job has {MOST_SETUPS} set-ups at most.")
    return SetUp.objects.create(
        job=job, place=last + 1, machine=new.machine, method=new.method, reference=new.reference, side=new.side
    )


def _begin(job: Job, user: User, setup: SetUp, bore_mm: float, unit: str) -> None:
    begin_plan(setup, bore_mm, unit)
    take_in_hand(job, setup)
    history.record(
        job=job, user=user, of="", before={"set-up": ""}, after={"set-up": f"{setup.letter}, {setup.machine.name}"}
    )
    stamp(job, user)


def _close(job: Job, user: User, setup: SetUp, reason: str) -> None:
    of = f"set-up {setup.letter}"
    history.record(job=job, user=user, of=of, before={"closed": setup.closed_reason}, after={"closed": reason})
    setup.closed_reason = reason
    setup.closed_by, setup.closed_at = (user, timezone.now()) if reason else (None, None)
    setup.save(update_fields=["closed_reason", "closed_by", "closed_at"])


def _copy(bore: Bore, setup: SetUp, *, place: int, name: str, follows: Bore | None) -> Bore:
    """The same bore in another set-up: what is asked of it, its outside and what breaks its wall; no sizes found."""
    made = Bore.objects.get(pk=bore.pk)
    made.pk, made._state.adding = None, True
    made.setup, made.place, made.name, made.follows = setup, place, name, follows
    made.save()
    for rows in ("outside", "interruptions", "there"):
        for row in getattr(bore, rows).all():
            row.pk, row._state.adding, row.bore = None, True, made
            row.save()
    return made

"""The same job once more: a part that comes again is planned as it was, and measured anew."""

from __future__ import annotations

from typing import TypeVar

from django.db import models, transaction

from gyrometra.accounts.models import User
from gyrometra.jobs.models import Bore, Job, Plan, SetUp
from gyrometra.jobs.services import take_in_hand

_Row = TypeVar("_Row", bound=models.Model)
#: Of a set-up and of the job: how it ended is not copied.
_ENDED = ("closed_reason", "closed_by", "closed_at")


@transaction.atomic
def copy_job(*, user: User, job: Job, number: str) -> Job:
    """Make a job like another: part, set-ups that were not given up, plans, what is asked of the bores.

    Nothing that was found, logged, signed or due comes along: the part is another one. Raises IntegrityError where the
    number was taken in the same moment.
    """
    made = Job.objects.create(
        number=number,
        part=job.part,
        material=job.material,
        quantity=job.quantity,
        notes=job.notes,
        made_by=user,
        changed_by=user,
    )
    setups = [_copy_setup(setup, made, place) for place, setup in enumerate(_left(job), start=1)]
    _copy_features(_left(job), setups)
    take_in_hand(made, setups[0])
    return made


def _copy_features(were: list[SetUp], made: list[SetUp]) -> None:
    """Features of each set-up; a distance is taken from the same axis of the new job."""
    new_of = {one.pk: new for one, new in zip(were, made, strict=True)}
    for one in were:
        for feature in list(one.features.filter(dropped=False)):
            to = new_of.get(feature.to_setup_id) if feature.to_setup_id else None
            if feature.to_setup_id is None or to is not None:
                _new(feature, setup=new_of[one.pk], to_setup=to, found_mm=None)


def _left(job: Job) -> list[SetUp]:
    """Those that were not given up; of a job that was given up as a whole, all."""
    every = list(job.setups.prefetch_related("fixtures"))
    return [setup for setup in every if not setup.closed_reason] or every


def _copy_setup(setup: SetUp, job: Job, place: int) -> SetUp:
    fixtures, plan = list(setup.fixtures.all()), Plan.objects.get(setup=setup)
    bores = list(setup.bores.prefetch_related("outside", "interruptions", "there"))
    made = _new(setup, job=job, place=place, **dict.fromkeys(_ENDED, None) | {"closed_reason": ""})
    made.fixtures.set(fixtures)
    _new(plan, setup=made, rest_until=None)
    for bore in bores:
        rows = [*bore.outside.all(), *bore.interruptions.all(), *bore.there.all()]
        copy: Bore = _new(bore, setup=made, follows=None, typed=_not_found(bore))
        for row in rows:
            _new(row, bore=copy)
    return made


def _not_found(bore: Bore) -> dict[str, object]:
    """What was typed, but for the sizes found."""
    return {name: typed for name, typed in bore.typed.items() if not name.startswith("found_")}


def _new(row: _Row, **changed: object) -> _Row:
    """The same row once more, with some columns changed."""
    row.pk, row._state.adding = None, True
    for name, value in changed.items():
        setattr(row, name, value)
    row.save()
    return row

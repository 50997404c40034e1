"""Writing what a set-up makes beside its bores: a feature with its limits, taken off the list, put back."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from django.db import models, transaction
from django.db.models import Max

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Typed, to_decimal
from gyrometra.jobs import history
from gyrometra.jobs.models import Feature, Job, SetUp
from gyrometra.jobs.services import StillNeeded, lock_job, stamp


@dataclass(frozen=True, slots=True, kw_only=True)
class FeatureData:
    """What the form of a feature gives, read and guarded: columns by name, and what was typed."""

    kind: str
    values: Mapping[str, Any]
    typed: Mapping[str, Typed] = field(default_factory=dict)


@transaction.atomic
def save_feature(*, user: User, setup: SetUp, version: int, place: int | None, data: FeatureData) -> Feature:
    """Add a feature to a set-up, or change the one at a place; what is changed is told in the history.

    Raises JobClosed, ChangedMeanwhile, and Feature.DoesNotExist where there is none at that place.
    """
    locked = lock_job(job=setup.job, version=version)
    if place is None:
        last = setup.features.aggregate(last=Max("place"))["last"] or 0
        feature, before = Feature(setup=setup, place=last + 1, kind=data.kind), dict[str, str]()
    else:
        feature = setup.features.get(place=place)
        before = history.values_of(feature)
    for name, value in data.values.items():
        setattr(feature, name, value)
    feature.typed = dict(data.typed)
    feature.save()
    history.record(job=locked, user=user, of=feature.name, before=before, after=history.values_of(feature))
    stamp(locked, user)
    return feature


def keep_found(setup: SetUp, found: Mapping[int, float | None]) -> None:
    """The sizes that outsides were measured at, each by its place, for what must suit them."""
    for place, size in found.items():
        value = None if size is None else to_decimal(size)
        setup.features.filter(place=place).exclude(found_mm=value).update(found_mm=value)


def measured_outsides(job: Job | None, chosen: int | None = None) -> models.QuerySet[Feature]:
    """Outsides of other jobs that were measured: what a bore can be made to suit; and the one that is chosen."""
    measured = models.Q(kind=Feature.Kind.OUTSIDE, dropped=False, found_mm__isnull=False)
    found = Feature.objects.filter(measured | models.Q(pk=chosen))
    rows = found.select_related("setup__job").order_by("-setup__job__changed_at", "place")
    return rows if job is None else rows.exclude(setup__job=job)


@transaction.atomic
def drop_feature(*, user: User, setup: SetUp, version: int, place: int, back: bool) -> None:
    """Take a feature off the list, or put it back; refused once anything of it was read."""
    locked = lock_job(job=setup.job, version=version)
    feature = setup.features.get(place=place)
    if not back and feature.readings.exists():
        raise StillNeeded(f"{feature.name} has readings in its log: they must stay, and so must it.")
    before = history.values_of(feature)
    feature.dropped = not back
    feature.save(update_fields=["dropped"])
    history.record(job=locked, user=user, of=feature.name, before=before, after=history.values_of(feature))
    stamp(locked, user)

"""Putting things into the crib and changing them."""

from __future__ import annotations

from collections.abc import Mapping
from decimal import Decimal
from typing import Any

from django.db import transaction
from django.utils import timezone

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Typed
from gyrometra.crib.models import Bar, CribChange, CribItem, Fixture, Head, Hole, Machine, MachineSpeed
from gyrometra.crib.queries import used_by
from gyrometra.crib.values import KIND_OF, plain_of


class ChangedMeanwhile(Exception):
    """Another has changed the thing since it was read."""


class StillUsed(Exception):
    """Open jobs rest on this thing."""


@transaction.atomic
def retire_item(*, user: User, item: CribItem) -> None:
    """Take a thing off the lists; it stays in the crib and can be put back. Refused while open jobs use it."""
    numbers = used_by(item)
    if numbers:
        raise StillUsed(f"{item.name} is used by {', '.join(numbers)}: plan with another one there first.")
    item.retired = True
    item.save(update_fields=["retired"])
    _log(user, item, "out of use", {})


@transaction.atomic
def note_check(*, user: User, item: CribItem, words: str) -> None:
    """A check of a thing into its history: what was read, and what came of it."""
    _log(user, item, "check", {"check": ["", words]})


@transaction.atomic
def note_damper(*, user: User, bar: Bar, turns: Decimal) -> None:
    """Where the damper of a tuned bar stands now, as found at the machine; into its card and its history."""
    held: Bar = Bar.objects.select_for_update(of=("self",)).get(pk=bar.pk)
    before = plain_of(held)
    held.tuned_turns = turns
    held.save()
    _note_change(user, held, before)


@transaction.atomic
def keep_picture(*, user: User, item: Fixture, jpeg: bytes) -> None:
    """A fixture's picture in place of the one before."""
    item.picture = jpeg
    item.save(update_fields=["picture"])
    _log(user, item, "picture", {})


@transaction.atomic
def put_back(*, user: User, item: CribItem) -> None:
    """Offer a thing again."""
    item.retired = False
    item.save(update_fields=["retired"])
    _log(user, item, "in use again", {})


#: What a thing has in tables of its own.
IN_LINES = ("speeds", "holes")


def fill(item: CribItem, values: Mapping[str, Any], typed: Mapping[str, Typed]) -> None:
    """Put what a form read into the thing, but for its lines."""
    for name, value in values.items():
        if name not in IN_LINES:
            setattr(item, name, value)
    item.typed = dict(typed)


def changes(before: Mapping[str, str], after: Mapping[str, str]) -> dict[str, list[str]]:
    """Field -> before and after, of those that differ."""
    return {name: [before.get(name, ""), value] for name, value in after.items() if before.get(name, "") != value}


def _note_change(user: User, item: CribItem, before: Mapping[str, str]) -> None:
    """One entry of the thing's history; none where nothing changed."""
    item.refresh_from_db()
    changed = changes(before, plain_of(item))
    if changed:
        if before:
            stamp(item)
            item.save(update_fields=["version", "changed_at"])
        _log(user, item, "changed" if before else "put in", changed)


def stamp(item: CribItem) -> None:
    """A new version: who opened the one before is told, and jobs that rest on it say so."""
    item.version, item.changed_at = item.version + 1, timezone.now()


def line_of(user: User, item: CribItem, what: str, fields: Mapping[str, list[str]]) -> CribChange:
    """A line of the thing's history, not yet stored."""
    return CribChange(kind=KIND_OF[type(item)], item_id=item.pk, by=user, what=what, fields=dict(fields))


def _log(user: User, item: CribItem, what: str, fields: Mapping[str, list[str]]) -> None:
    line_of(user, item, what, fields).save()


@transaction.atomic
def keep_item(*, user: User, item: CribItem, values: Mapping[str, Any], typed: Mapping[str, Typed]) -> CribItem:
    """Write a thing of the crib, a machine's speeds and a head's holes with it, and what was changed.

    Raises ChangedMeanwhile where another has changed it since `item` was read.
    """
    if item.pk:
        stored = type(item)._default_manager.select_for_update(of=("self",)).get(pk=item.pk)
        if stored.version != item.version:
            raise ChangedMeanwhile
    before = plain_of(item) if item.pk else {}
    fill(item, values, typed)
    item.save()
    if isinstance(item, Machine) and "speeds" in values:
        item.speeds.all().delete()
        MachineSpeed.objects.bulk_create(
            MachineSpeed(machine=item, lever=lever, rpm=rpm) for lever, rpm in values["speeds"]
        )
    if isinstance(item, Head) and "holes" in values:
        item.holes.all().delete()
        Hole.objects.bulk_create(Hole(head=item, name=name, offset_mm=offset) for name, offset in values["holes"])
    _note_change(user, item, before)
    return item

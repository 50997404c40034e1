"""Putting things into the crib and changing them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.db import transaction

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Typed
from gyrometra.crib.models import CribItem, Head, Hole, Machine, MachineSpeed
from gyrometra.crib.queries import used_by


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


def put_back(*, user: User, item: CribItem) -> None:
    """Offer a thing again."""
    item.retired = False
    item.save(update_fields=["retired"])


@transaction.atomic
def keep_item(*, user: User, item: CribItem, values: Mapping[str, Any], typed: Mapping[str, Typed]) -> CribItem:
    """Write a thing of the crib; a machine's speeds and a head's holes with it."""
    plain = {name: value for name, value in values.items() if name not in ("speeds", "holes")}
    for name, value in plain.items():
        setattr(item, name, value)
    item.typed = dict(typed)
    item.save()
    if isinstance(item, Machine) and "speeds" in values:
        item.speeds.all().delete()
        MachineSpeed.objects.bulk_create(
            MachineSpeed(machine=item, lever=lever, rpm=rpm) for lever, rpm in values["speeds"]
        )
    if isinstance(item, Head) and "holes" in values:
        item.holes.all().delete()
        Hole.objects.bulk_create(Hole(head=item, name=name, offset_mm=offset) for name, offset in values["holes"])
    return item

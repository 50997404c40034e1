"""Putting things into the crib and changing them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.db import transaction

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Typed
from gyrometra.crib.models import CribItem, Machine, MachineSpeed


@transaction.atomic
def keep_item(*, user: User, item: CribItem, values: Mapping[str, Any], typed: Mapping[str, Typed]) -> CribItem:
    """Write a thing of the crib; a machine's speeds with it."""
    plain = {name: value for name, value in values.items() if name != "speeds"}
    for name, value in plain.items():
        setattr(item, name, value)
    item.typed = dict(typed)
    item.save()
    if isinstance(item, Machine) and "speeds" in values:
        item.speeds.all().delete()
        MachineSpeed.objects.bulk_create(
            MachineSpeed(machine=item, lever=lever, rpm=rpm) for lever, rpm in values["speeds"]
        )
    return item

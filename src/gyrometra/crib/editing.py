"""A thing of the crib opened by two people: what each changed is put together, on one field the second is told."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.http import QueryDict
from django.utils.timezone import localtime

from gyrometra.bridge.merge import as_posted, merged
from gyrometra.bridge.units import Units
from gyrometra.crib.forms import CribForm
from gyrometra.crib.models import CribItem
from gyrometra.crib.queries import history_of
from gyrometra.crib.values import KIND_OF, initial_of


@dataclass(frozen=True, slots=True)
class Opened:
    """A thing as a form shows it: its version, its unit, and every field."""

    version: int
    fields: dict[str, str]

    @property
    def was(self) -> str:
        """The fields, as the form carries them."""
        return json.dumps(self.fields)


def opened(item: CribItem, form_class: type[CribForm], units: Units) -> Opened:
    """A thing as a form that is opened now shows it."""
    shown = initial_of(item, form_class, units)
    return Opened(item.version, {name: as_posted(value) for name, value in shown.items()})


def put_together(
    posted: QueryDict, item: CribItem, form_class: type[CribForm], units: Units
) -> tuple[Mapping[str, Any], dict[str, str]]:
    """What is wanted now of a form that was opened at an older version, and a sentence for each field both changed."""
    now = opened(item, form_class, units)
    if posted.get("version") == str(now.version):
        return posted, {}
    found, both = merged(now.fields, posted, _was(posted, now), now.fields)
    last = next(iter(history_of(KIND_OF[type(item)], item)), None)
    who = f"{last.by.username} changed this at {localtime(last.at):%H:%M}" if last else "This was changed"
    told = {
        name: f"{who}, after you opened it, to {now.fields[name] or 'nothing'}. Yours is kept here: save again to put "
        "it in its place." for name in both
    }  # fmt: skip
    return found, told


def _was(posted: QueryDict, now: Opened) -> dict[str, str]:
    """What the form showed when it was opened; where it does not say, what stands now."""
    try:
        was = json.loads(posted.get("was", "")[:20_000])
    except ValueError:
        return now.fields
    if not isinstance(was, dict):
        return now.fields
    return {name: as_posted(was.get(name, "")) for name in now.fields}

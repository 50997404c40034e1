"""Reads of the crib across what uses it."""

from __future__ import annotations

from gyrometra.crib.models import Bar, CribChange, CribItem, Cutter, Gauge, Head, Indicator, Machine

#: Where each kind of thing is used: the relation back, and the way from there to the job.
_USES = {
    Machine: ("setups", "job"),
    Bar: ("plans", "setup__job"),
    Head: ("plans", "setup__job"),
    Cutter: ("plans", "setup__job"),
    Gauge: ("sizes", "setup__job"),
    Indicator: ("rounds", "setup__job"),
}


def history_of(kind: str, item: CribItem) -> list[CribChange]:
    """The changes of a thing, newest first."""
    return list(CribChange.objects.filter(kind=kind, item_id=item.pk).select_related("by")[:30])


def used_by(item: CribItem) -> list[str]:
    """Numbers of the open jobs that use a thing."""
    relation, job = _USES[type(item)]
    rows = getattr(item, relation).filter(**{f"{job}__signoff__isnull": True})
    return sorted(set(rows.values_list(f"{job}__number", flat=True)))

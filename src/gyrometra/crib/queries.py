"""Reads of the crib across what uses it."""

from __future__ import annotations

from gyrometra.crib.models import Bar, CribChange, CribItem, Cutter, Fixture, Gauge, Head, Indicator, Machine, Material

#: Where each kind of thing is used: the relation back, and the way from there to the job.
_USES = {
    Machine: ("setups", "job"),
    Bar: ("plans", "setup__job"),
    Head: ("plans", "setup__job"),
    Cutter: ("plans", "setup__job"),
    Gauge: ("sizes", "setup__job"),
    Indicator: ("rounds", "setup__job"),
    Fixture: ("setups", "job"),
}


def history_of(kind: str, item: CribItem) -> list[CribChange]:
    """The changes of a thing, newest first."""
    return list(CribChange.objects.filter(kind=kind, item_id=item.pk).select_related("by")[:30])


def used_by(item: CribItem) -> list[str]:
    """Numbers of the open jobs that use a thing."""
    if isinstance(item, Material):
        return sorted(item.jobs.filter(signoff__isnull=True).values_list("number", flat=True))
    found = _numbers(item, *_USES[type(item)])
    return sorted(found | _numbers(item, "opening_plans", "setup__job") if isinstance(item, Bar) else found)


def _numbers(item: CribItem, relation: str, job: str) -> set[str]:
    rows = getattr(item, relation).filter(**{f"{job}__signoff__isnull": True})
    return set(rows.values_list(f"{job}__number", flat=True))

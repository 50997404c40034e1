"""Reads of the crib across what uses it."""

from __future__ import annotations

from typing import Any

from django.db.models import F

from gyrometra.crib.models import (
    Bar,
    CribChange,
    CribItem,
    Cutter,
    Fixture,
    Gauge,
    Head,
    Indicator,
    Machine,
    Material,
    Size,
)

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


def in_table(model: type[CribItem]) -> list[Any]:
    """All things of a kind with what their table prints."""
    rows = {Machine: "speeds", Head: "holes"}.get(model)
    found = model._default_manager.order_by("name")
    if model is Fixture:
        found = found.defer("picture")
    return list(found.prefetch_related(rows) if rows else found)


def uses_of(model: type[CribItem]) -> dict[int, list[str]]:
    """By the key of a thing, the numbers of the open jobs that use it; two queries at most for all of a kind."""
    if model is Size:  # no job holds one: it is looked up when a bore is over
        return {}
    ways = [_USES[model]] if model in _USES else [("jobs", "")]
    ways += [("opening_plans", "setup__job")] if model is Bar else []
    found: dict[int, set[str]] = {}
    for relation, job in ways:
        way = f"{relation}__{job}" if job else relation
        rows = model._default_manager.filter(**{f"{way}__signoff__isnull": True, f"{way}__closed_reason": ""})
        for pk, number in rows.values_list("pk", f"{way}__number").distinct():
            found.setdefault(pk, set()).add(number)
    return {pk: sorted(numbers) for pk, numbers in found.items()}


def used_by(item: CribItem) -> list[str]:
    """Numbers of the open jobs that use a thing."""
    if isinstance(item, Size):
        return []
    if isinstance(item, Material):
        return sorted(item.jobs.filter(signoff__isnull=True).values_list("number", flat=True))
    found = _numbers(item, *_USES[type(item)])
    return sorted(found | _numbers(item, "opening_plans", "setup__job") if isinstance(item, Bar) else found)


def _numbers(item: CribItem, relation: str, job: str) -> set[str]:
    rows = getattr(item, relation).filter(**{f"{job}__signoff__isnull": True})
    return set(rows.values_list(f"{job}__number", flat=True))


def sizes_from(diameter_mm: float, upto_mm: float) -> list[Size]:
    """Sizes in use whose bore lies in a range, the smallest first; one query."""
    rows = Size.objects.filter(retired=False).annotate(bore_mm=F("diameter_mm") + F("play_mm"))
    return list(rows.filter(bore_mm__gte=diameter_mm, bore_mm__lte=upto_mm).order_by("bore_mm", "name")[:40])

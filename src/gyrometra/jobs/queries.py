"""Reads of jobs, by name."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.db import models

from gyrometra.crib.models import Bar, CribItem, Cutter, Gauge, Head, Machine, Material

#: Words of the bench's search that name a state.
_STATES = {
    "open": models.Q(signoff__isnull=True),
    "signed": models.Q(signoff__isnull=False),
    "settling": models.Q(stations__next__code="settling", signoff__isnull=True),
}


class JobQuerySet(models.QuerySet[Any]):
    """Jobs with what their pages print."""

    def on_bench(self) -> JobQuerySet:
        """With all that a job strip draws; the number of queries does not grow with the list."""
        return self.select_related("material", "setup__machine", "setup__plan", "signoff").prefetch_related(
            "setup__bores__outside", "setup__bores__found"
        )

    def newest_first(self) -> JobQuerySet:
        """Unsigned jobs first, then by the newest change."""
        return self.order_by(models.F("signoff__pk").asc(nulls_first=True), "-changed_at")

    def matching(self, text: str) -> JobQuerySet:
        """Jobs whose number, part, material or machine has every word of the text; `open`, `signed`, `settling` too."""
        found = self
        for word in text.split():
            state = _STATES.get(word.lower())
            if state is not None:
                found = found.filter(state)
                continue
            found = found.filter(
                models.Q(number__icontains=word)
                | models.Q(part__icontains=word)
                | models.Q(material__name__icontains=word)
                | models.Q(setup__machine__name__icontains=word)
            )
        return found

    def resting_after(self, today: date) -> list[tuple[str, str, date]]:
        """Number, part and day of the open jobs whose work rests past today, the nearest day first."""
        resting = self.filter(signoff__isnull=True, setup__plan__rest_until__gt=today)
        rows = resting.order_by("setup__plan__rest_until", "number")
        return list(rows.values_list("number", "part", "setup__plan__rest_until"))

    def whole(self) -> JobQuerySet:
        """With all that a step page works from."""
        return self.select_related(
            "material", "setup__machine", "setup__plan__bar", "setup__plan__opening_bar", "setup__plan__cutter",
            "setup__plan__head", "signoff__by",
        ).prefetch_related(
            "setup__machine__speeds", "setup__plan__head__holes", "setup__bores__outside",
            "setup__bores__found", "setup__bores__interruptions",
        )  # fmt: skip

    def still_open(self) -> JobQuerySet:
        """Unsigned jobs, newest change first."""
        return self.filter(signoff__isnull=True).only("pk", "number", "part").order_by("-changed_at")

    def open_using(self, item: CribItem) -> JobQuerySet:
        """Unsigned jobs on this machine, or planned with this bar or cutter, or measured with this gauge."""
        used = {
            Machine: models.Q(setup__machine=item.pk),
            Bar: models.Q(setup__plan__bar=item.pk) | models.Q(setup__plan__opening_bar=item.pk),
            Head: models.Q(setup__plan__head=item.pk),
            Cutter: models.Q(setup__plan__cutter=item.pk),
            Gauge: models.Q(setup__sizes__gauge=item.pk),
            Material: models.Q(material=item.pk),
        }
        return self.filter(used.get(type(item), models.Q(pk=None)), signoff__isnull=True).distinct()

"""What a link shows of its gauge."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import timedelta
from typing import Any

from django.db.models import Avg, Count, F, Max, Min
from django.utils.timezone import now

from gyrometra.crib.models import Gauge, Indicator
from gyrometra.links.models import GaugeLink, LinkReading
from gyroplan.needle import SILENT_S, STILL_S, Watched


def watched(link: GaugeLink) -> Watched | None:
    """What came of a gauge in the last moment; None where it is silent."""
    here = now()
    if link.seen_at is None or (here - link.seen_at).total_seconds() > SILENT_S:
        return None
    rows = LinkReading.objects.filter(link=link)
    newest = rows.order_by("-came_at", "-pk").values_list("value_mm", "came_at").first()
    if newest is None:
        return None
    of = rows.filter(came_at__gt=here - timedelta(seconds=STILL_S)).aggregate(
        least=Min("value_mm"), greatest=Max("value_mm"), mean=Avg("value_mm"), count=Count("pk"), oldest=Min("came_at")
    )
    value, came = float(newest[0]), newest[1]
    if not of["count"]:
        of = {"least": value, "greatest": value, "mean": value, "count": 0, "oldest": came}
    return Watched(
        newest_mm=value, least_mm=float(of["least"]), greatest_mm=float(of["greatest"]), mean_mm=float(of["mean"]),
        count=of["count"], newest_age_s=(here - came).total_seconds(),
        oldest_age_s=(here - of["oldest"]).total_seconds(),
    )  # fmt: skip


def links_of(item: Indicator | Gauge) -> list[GaugeLink]:
    """All that were made for an indicator or a gauge, those in use first."""
    of: dict[str, Any] = {"gauge": item} if isinstance(item, Gauge) else {"indicator": item}
    rows = GaugeLink.objects.filter(**of).select_related("made_by")
    return list(rows.order_by(F("ended_at").desc(nulls_first=True), "-pk"))


def link_in_use(indicator_id: int) -> GaugeLink | None:
    """The link of an indicator: the one that sent last, where it has several."""
    rows = GaugeLink.objects.in_use().filter(indicator_id=indicator_id)
    found: GaugeLink | None = rows.order_by(F("seen_at").desc(nulls_last=True), "-pk").first()
    return found


def gauge_link_in_use(gauges: Sequence[Gauge]) -> GaugeLink | None:
    """The link of one of these gauges: the one that sent last."""
    rows = GaugeLink.objects.in_use().filter(gauge__in=[one.pk for one in gauges]).select_related("gauge")
    found: GaugeLink | None = rows.order_by(F("seen_at").desc(nulls_last=True), "-pk").first()
    return found


def pressed_after(link: GaugeLink, after: int) -> list[LinkReading]:
    """What was pressed since, the oldest first; a few at a time."""
    return list(LinkReading.objects.filter(link=link, pressed=True, pk__gt=after).order_by("pk")[:8])

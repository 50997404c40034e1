"""What measured passes said of their bars, kept from job to job; worked out by `gyroplan.assess.habit`."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from django.db import transaction

from gyrometra.cutting.models import BarSeen
from gyrometra.jobs.models import Bore
from gyroplan.assess import CutSeen

#: So many of a bar's newest cuts are looked at.
_LOOKED_AT = 60


@transaction.atomic
def keep_seen(bore: Bore, piece: int, seen: Sequence[tuple[CutSeen, datetime]]) -> None:
    """Keep what the passes of one bore of one piece say, in place of what was kept of them."""
    BarSeen.objects.filter(bore=bore, piece=piece).delete()
    BarSeen.objects.bulk_create([
        BarSeen(
            setup_id=bore.setup_id, bore=bore, piece=piece, number=one.number, bar_id=one.bar, cutter_id=one.cutter,
            material=one.material, kind=one.kind, way=one.way, off_mm=one.off_mm, model_mm=one.model_mm,
            out_mm=one.out_mm, diameter_mm=one.diameter_mm, depth_mm=one.depth_mm, at=at,
        ) for one, at in seen
    ])  # fmt: skip


def seen_elsewhere(bar: int, bore: Bore, piece: int) -> list[CutSeen]:
    """What other bores, pieces and jobs say of a bar, oldest first; one query."""
    rows = BarSeen.objects.filter(bar=bar).exclude(bore=bore, piece=piece).order_by("-at", "-pk")
    found = rows.values_list(
        "setup__job__number", "piece", "bore__name", "number", "kind", "off_mm", "model_mm", "bar", "cutter",
        "material", "way", "out_mm", "diameter_mm", "depth_mm",
    )[:_LOOKED_AT]  # fmt: skip
    return [
        CutSeen(job=job, piece=piece, bore=name, number=number, kind=kind, off_mm=off, model_mm=model, bar=key,
                cutter=cutter, material=material, way=way, out_mm=out, diameter_mm=size, depth_mm=depth)
        for job, piece, name, number, kind, off, model, key, cutter, material, way, out, size, depth
        in reversed(found)
    ]  # fmt: skip

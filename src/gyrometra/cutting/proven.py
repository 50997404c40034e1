"""Surface speeds that cut well: quiet and clean, in this material, with this cutter."""

from __future__ import annotations

from dataclasses import dataclass

from django.db.models import OuterRef, Subquery

from gyrocore import surface_speed_m_min
from gyrometra.cutting.models import CutEntry
from gyrometra.jobs.models import Plan
from gyroplan.plan import ROUGHING

#: So many passes are looked through, the newest remark first.
_LOOKED_AT = 80


@dataclass(frozen=True, slots=True, kw_only=True)
class Proven:
    """One speed with where it was proved."""

    job: str
    is_roughing: bool
    diameter_mm: float
    rpm: float

    @property
    def speed_m_min(self) -> float:
        """What carries over to another diameter."""
        return surface_speed_m_min(self.diameter_mm, self.rpm)


def proven_speeds(plan: Plan) -> list[Proven]:
    """The newest proven speed of each stage; one query, however long the logs."""
    if plan.cutter_id is None:
        return []
    remarks = CutEntry.objects.standing().filter(
        kind=CutEntry.Kind.REMARK, sound=CutEntry.Sound.QUIET, look=CutEntry.Look.CLEAN, bore=OuterRef("bore"),
        piece=OuterRef("piece"), number=OuterRef("number"),
    ).order_by("-pk").values("pk")[:1]  # fmt: skip
    made = CutEntry.objects.standing().filter(
        kind__in=(CutEntry.Kind.SET, CutEntry.Kind.CUT), rpm__isnull=False, value_mm__isnull=False,
        setup__job__material=plan.setup.job.material_id,
    ).annotate(remark=Subquery(remarks)).filter(remark__isnull=False).order_by("-remark", "-pk").values_list(
        "pass_kind", "value_mm", "rpm", "rests_on", "setup__job__number", "setup__plan__cutter"
    )[:_LOOKED_AT]  # fmt: skip
    found: dict[bool, Proven] = {}
    for kind, value_mm, rpm, rests_on, number, planned in made:
        # an entry of an older make knows only its plan's cutter
        if rests_on.get("cutter_id", planned) == plan.cutter_id:
            proven = Proven(job=number, is_roughing=kind in ROUGHING, diameter_mm=float(value_mm), rpm=float(rpm))
            found.setdefault(proven.is_roughing, proven)
    return [found[stage] for stage in (True, False) if stage in found]

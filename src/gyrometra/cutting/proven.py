"""Surface speeds that cut well: quiet and clean, in this material, with this cutter."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import surface_speed_m_min
from gyrometra.cutting.models import CutEntry
from gyrometra.jobs.models import Plan
from gyroplan.plan import ROUGHING

#: So many remarks are looked through, newest first.
_LOOKED_AT = 40


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
    """The newest proven speed of each stage; two queries, however long the logs."""
    if plan.cutter_id is None:
        return []
    good = CutEntry.objects.standing().filter(
        kind=CutEntry.Kind.REMARK, sound=CutEntry.Sound.QUIET, look=CutEntry.Look.CLEAN,
        setup__job__material=plan.setup.job.material_id,
    ).order_by("-pk").values_list("bore", "piece", "number")[:_LOOKED_AT]  # fmt: skip
    order = list(dict.fromkeys(good))
    if not order:
        return []
    made = CutEntry.objects.standing().filter(
        kind__in=(CutEntry.Kind.SET, CutEntry.Kind.CUT), rpm__isnull=False, bore__in={bore for bore, _, _ in order}
    ).select_related("setup__job", "setup__plan")  # fmt: skip
    by_pass = {
        (entry.bore_id, entry.piece, entry.number): entry for entry in made if _cutter_of(entry) == plan.cutter_id
    }
    found: dict[bool, Proven] = {}
    for key in order:
        entry = by_pass.get(key)
        if entry is None or entry.rpm is None or entry.value_mm is None:
            continue
        roughing = entry.pass_kind in ROUGHING
        found.setdefault(
            roughing,
            Proven(job=entry.setup.job.number, is_roughing=roughing, diameter_mm=float(entry.value_mm),
                   rpm=float(entry.rpm)),
        )  # fmt: skip
    return [found[stage] for stage in (True, False) if stage in found]


def _cutter_of(entry: CutEntry) -> int | None:
    """The cutter that made it, as the entry keeps it; an older entry knows only its plan's."""
    kept: int | None = entry.rests_on.get("cutter_id", entry.setup.plan.cutter_id)
    return kept

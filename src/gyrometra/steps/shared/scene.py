"""Scenes that several steps share: the widths of a band, the work round a bore, a job at strip size."""

from __future__ import annotations

from collections.abc import Callable

from gyrocore import Material
from gyrodraw import (
    Broken,
    Housing,
    Part,
    Scene,
    strip_line,
    strip_section,
)
from gyrometra.bridge.units import Units
from gyrometra.jobs.models import Interruption, Job
from gyrometra.jobs.records import bore_record
from gyroplan.record import BoreRecord, BreakRecord

#: Widths a band is drawn for; the style sheet shows the one that fits.
WIDTHS = {"wide": 1280.0, "middle": 760.0, "narrow": 390.0}


def bands(draw: Callable[[float], Scene]) -> list[tuple[str, Scene]]:
    """The same band at each width."""
    return [(name, draw(width)) for name, width in WIDTHS.items()]


def part_of(material: Material, bore: BoreRecord, *, words: bool = False) -> Part:
    """The work round one bore, as it is drawn; with what breaks its wall where its words have room."""
    return Part(
        length_mm=bore.length_mm,
        found=list(bore.found_mm),
        aim_mm=bore.aim_mm,
        outside=list(bore.outside_mm),
        hatch=material.hatch,
        shoulder=bore.ends == "shoulder",
        breaks=[_broken(broken) for broken in bore.breaks] if words else (),
    )


def _broken(broken: BreakRecord) -> Broken:
    """A keyway or a slot is a groove, as deep as half its width (drawn so: its depth is not asked)."""
    groove = broken.kind in (Interruption.Kind.KEYWAY, Interruption.Kind.SLOT)
    return Broken(
        start_mm=broken.from_mm, end_mm=broken.to_mm, groove_mm=broken.width_mm / 2 if groove else None,
        words=f"{Interruption.Kind(broken.kind).label} at {broken.angle_deg:g}°",
    )  # fmt: skip


def housing(bore: BoreRecord, units: Units) -> Housing:
    words = units.limits(bore.wanted, bore.wanted_unit, bore.lower_mm, bore.upper_mm)
    return Housing(
        name=bore.name, start_mm=bore.start_mm, end_mm=bore.end_mm, outside_mm=outside_mm(bore), bore_mm=bore.aim_mm,
        words=f"Ø{words}",
    )  # fmt: skip


def outside_mm(bore: BoreRecord) -> float:
    """How thick it is drawn round a bore."""
    return max((diameter for _, diameter in bore.outside_mm), default=bore.aim_mm * 1.5)


def strip_scene(job: Job) -> Scene:
    """The work at strip size; of several bores, all of them with the bar."""
    bores = [bore_record(bore) for bore in job.setup.bores.all()]
    if len(bores) > 1:
        return strip_line([housing(bore, Units()) for bore in bores], 0.6 * bores[0].aim_mm)
    return strip_section(part_of(job.material.data, bores[0]))

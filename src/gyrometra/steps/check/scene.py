"""The Check band: the walls against the limits."""

from __future__ import annotations

from gyrodraw import (
    Scene,
    WallPoint,
    Walls,
    check_band,
)
from gyrometra.bridge.units import Units
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.scene import bands
from gyroplan.assess import Checked
from gyroplan.judge import Place


def check_scenes(page: JobPage, angles: tuple[float, float]) -> list[tuple[str, Scene]]:
    """The Check band: walls against limits."""
    units, judged, bore = page.units, page.judged, page.bore
    wall = Walls(
        length_mm=bore.length_mm,
        lower_mm=bore.lower_mm,
        upper_mm=bore.upper_mm,
        guard_mm=judged.expanded_mm,
        lower_words=f"{units.lowest(bore.lower_mm)} bottom limit",
        upper_words=f"{units.highest(bore.upper_mm)} top limit",
        first=[_point(p, judged, units) for p in judged.places if p.angle_deg == angles[0]],
        second=[_point(p, judged, units) for p in judged.places if p.angle_deg == angles[1]],
        names=(f"Ø at {angles[0]:.0f}°", f"Ø at {angles[1]:.0f}°"),
        hatch=page.at.material.hatch,
        depths=[(z, units.length(z)) for z in judged.stations_mm],
    )
    return bands(lambda width: check_band(wall, width))


def _point(place: Place, judged: Checked, units: Units) -> WallPoint:
    step = min(one.gauge.resolution_mm for one in judged.sizes_at(place))
    return WallPoint(
        z_mm=place.z_mm, value_mm=place.value_mm, words=units.measured(place.value_mm, step), verdict=place.verdict
    )

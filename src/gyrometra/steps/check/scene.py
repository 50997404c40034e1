"""The Check band: the bore with its places to touch, the directions end on, the walls against the limits."""

from __future__ import annotations

from typing import Any

from gyrodraw import (
    CheckGrid,
    PlaceCell,
    Scene,
    WallPoint,
    Walls,
    check_band,
    check_grid,
    end_view,
)
from gyrometra.bridge.units import Units
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.scene import WIDTHS, bands, part_of
from gyroplan.assess import Checked
from gyroplan.judge import Place

#: More depths than this have no room for their cells: the walls and the table show them all.
_MOST_DEPTHS = 7


def _walls(page: JobPage, angles: tuple[float, float]) -> Walls:
    units, judged, bore = page.units, page.judged, page.bore
    return Walls(
        length_mm=bore.length_mm,
        lower_mm=bore.lower_mm,
        upper_mm=bore.upper_mm,
        guard_mm=judged.expanded_mm,
        lower_words=f"{units.lowest(bore.lower_mm)} bottom limit",
        upper_words=f"{units.highest(bore.upper_mm)} top limit",
        first=[_point(p, judged, units) for p in judged.places if p.angle_deg == angles[0]],
        second=[_point(p, judged, units) for p in judged.places if p.angle_deg == angles[1]],
        names=(f"Ø at {angles[0]:.0f}°", f"Ø at {angles[1]:.0f}°"),
        hatch=page.record.material.hatch,
        depths=[(z, units.length(z)) for z in judged.stations_mm],
    )


def check_scenes(page: JobPage, angles: tuple[float, float]) -> list[tuple[str, Scene]]:
    """The walls against the limits alone, as wide as the page, where nothing is to be touched."""
    walls = _walls(page, angles)
    return bands(lambda width: check_band(walls, width))


def report_scene(page: JobPage, angles: tuple[float, float]) -> Scene:
    """The same at the width of a report."""
    return check_band(_walls(page, angles), WIDTHS["middle"])


def _point(place: Place, judged: Checked, units: Units) -> WallPoint:
    step = min(one.gauge.resolution_mm for one in judged.sizes_at(place))
    return WallPoint(
        z_mm=place.z_mm, value_mm=place.value_mm, words=units.measured(place.value_mm, step), verdict=place.verdict
    )


def grid_scenes(
    page: JobPage, asked: list[tuple[float, float]], now: tuple[float, float], angles: tuple[float, float]
) -> dict[str, Any]:
    """The band as the grid of places; nothing where there are too many depths for their cells."""
    judged, units = page.judged, page.units
    places = sorted({*asked, *((one.z_mm, one.angle_deg) for one in judged.places)})
    depths = sorted({z for z, _ in places})
    if len(depths) > _MOST_DEPTHS:
        return {}
    grid = CheckGrid(
        part=part_of(page.record.material, page.bore), length_words=units.length(page.bore.length_mm),
        depths=[(z, units.length(z)) for z in depths], angles=sorted({angle for _, angle in places}),
        cells=[_cell(page, z, angle, now) for z, angle in places],
    )  # fmt: skip
    seen = sorted({one.angle_deg for one in judged.places})
    return {
        "grid_scenes": (check_grid(grid, 560), check_grid(grid, 390, 300)),
        "end_scene": end_view(grid.angles, now[1], seen), "wall_scene": check_band(_walls(page, angles), 440),
    }  # fmt: skip


def _cell(page: JobPage, z: float, angle: float, now: tuple[float, float]) -> PlaceCell:
    place = page.judged.place(z, angle)
    is_now = not page.is_locked and abs(z - now[0]) < 1e-6 and abs(angle - now[1]) < 1e-6
    typed = f"{page.units.plain(z)}|{angle:.0f}"
    if place is None:
        return PlaceCell(z_mm=z, angle_deg=angle, typed=typed, is_now=is_now)
    words = _point(place, page.judged, page.units).words
    return PlaceCell(z_mm=z, angle_deg=angle, typed=typed, words=words, verdict=place.verdict, is_now=is_now)

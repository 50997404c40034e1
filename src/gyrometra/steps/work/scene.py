"""The Work band."""

from __future__ import annotations

from gyrodraw import (
    Labels,
    Scene,
    work_band,
)
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.scene import bands, part_of


def labels_of(page: JobPage) -> Labels:
    """The figures of the work drawing."""
    bore, units, start, wall = page.bore, page.units, page.at.start_mm, page.boring.wall_left_mm
    nominal = bore.aim_mm if bore.nominal_mm is None else bore.nominal_mm
    as_written = bore.nominal_mm is not None and page.wanted_words == bore.wanted
    return Labels(
        length=units.length(bore.length_mm),
        now=f"Ø{units.planned(start)}" if start else "Ø ?",
        wanted=f"Ø{bore.wanted}" if as_written else f"Ø{units.planned(nominal)}",
        upper=units.signed(bore.upper_mm - nominal),
        lower=units.signed(bore.lower_mm - nominal),
        wall=f"{units.plain(wall)} wall left" if wall is not None else "",
        stations=[(units.length(z), units.planned(diameter)) for z, diameter in bore.found_mm],
    )


def work_scenes(page: JobPage) -> list[tuple[str, Scene]]:
    """The Work band."""
    part, labels = part_of(page.at.material, page.bore, words=True), labels_of(page)
    return bands(lambda width: work_band(part, labels, width))

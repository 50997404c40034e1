"""The Cuts band."""

from __future__ import annotations

from gyrodraw import (
    Scene,
    Shell,
    cuts_band,
)
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.scene import bands, part_of
from gyrometra.steps.work.scene import work_scenes


def cuts_scenes(page: JobPage) -> list[tuple[str, Scene]]:
    """The Cuts band."""
    units = page.units
    done = {cut.number for cut in page.passes.done}
    shells = [
        Shell(
            number=row.cut.number,
            depth_mm=row.cut.depth_mm,
            kind=row.cut.kind,
            depth=units.planned(row.cut.depth_mm),
            feed=units.plain(row.feed_mm_rev),
            size=f"Ø{units.planned(row.cut.diameter_mm)}",
            done=row.cut.number in done,
        )
        for row in page.speeds.planned
    ]
    if not shells:
        return work_scenes(page)
    part, length = part_of(page.record.material, page.bore), units.length(page.bore.length_mm)
    return bands(lambda width: cuts_band(part, shells, length, width))

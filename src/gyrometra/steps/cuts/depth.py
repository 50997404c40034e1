"""The depth of a counterbore: stop, mark, and when it must be touched again."""

from __future__ import annotations

from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import Because, Plate


def depth_plate(page: JobPage) -> Plate:
    """Where to set the stop: the middle of the shoulder's limits, from touch at the open face."""
    units, bore = page.units, page.bore
    low, high = bore.depth_lower_mm, bore.depth_upper_mm
    if low is None or high is None:
        return Plate(label="Depth stop", governs="Missing:", reason="limits of the shoulder's depth")
    middle = (low + high) / 2
    return Plate(
        label="Depth stop, from touch at the face",
        number=units.planned(middle),
        unit=units.label,
        words=("set the stop, mark the bar too", "touch again when the bit was disturbed"),
        governs="Limited by the shoulder:",
        reason=units.between(low, high),
        because=Because(
            formula="stop = middle of the shoulder's limits",
            inputs=[
                ("every pass", "ends at the same stop; the last one dwells a turn or two"),
                ("tool reground, indexed or bumped", "its depth is void: touch the face again"),
            ],
            source="Shop practice.",
        ),
    )

"""The plates of the set-up sheet."""

from __future__ import annotations

from gyrometra.steps.page import JobPage
from gyrometra.steps.plates.bar import bar
from gyrometra.steps.plates.base import Plate
from gyrometra.steps.plates.cuts import cuts


def sheet_plates(page: JobPage) -> list[Plate]:
    """The plates of Bar and Cuts, each figure once."""
    seen: dict[str, Plate] = {}
    for plate in [*bar(page), *cuts(page)]:
        seen.setdefault(f"{plate.number} {plate.unit}" if plate.number else plate.label, plate)
    return list(seen.values())

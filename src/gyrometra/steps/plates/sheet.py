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


def packing_words(page: JobPage) -> str:
    """What lies under the work, and how high its own axis must then lie over its foot."""
    units, height = page.units, page.job.setup.machine.axis_height_mm
    if height is None:
        return ""
    under = [fixture for fixture in page.job.setup.fixtures.all() if fixture.height_mm is not None]
    if not under:
        return ""
    packed = sum(fixture.height_mm for fixture in under if fixture.height_mm is not None)
    names = " and ".join(f"{fixture.name} {units.plain(fixture.height_mm or 0)}" for fixture in under)
    left = height - packed
    if left <= 0:
        return f"{names} stand higher than the axis, {units.plain(height)} over the table: the work cannot lie on them."
    return (
        f"The axis lies {units.plain(height)} over table or saddle; {names} under the work: its own axis must lie "
        f"{units.plain(left)} over its foot."
    )


def sheet_facts(page: JobPage) -> list[tuple[str, str]]:
    """What else the hands must know: what holds it, keyways, ports and slots, own target, alike, the opening bar."""
    setup, units = page.job.setup, page.units
    facts = [("Held with:", fixture.name) for fixture in setup.fixtures.all()]
    for bore in page.bores:
        of = f" of {bore.name}" if page.is_several else ""
        facts += [
            (f"{broken.get_kind_display().capitalize()}{of}:",
             f"{units.plain(broken.from_mm)} to {units.plain(broken.to_mm)}, at {broken.angle_deg.normalize():f}°")
            for broken in bore.interruptions.all()
        ]  # fmt: skip
        if bore.target:
            target = units.limits(bore.target, bore.typed.get("target"), float(bore.target_lower_mm or 0),
                                  float(bore.target_upper_mm or 0))  # fmt: skip
            facts.append((f"Own target{of}:", target))
    if packing_words(page):
        facts.append(("Packing:", packing_words(page).rstrip(".")))
    if setup.match_mm is not None:
        facts.append(("Alike within:", f"{units.plain(setup.match_mm)} on diameter"))
    if page.reckoning.opening_bar is not None:
        facts.append(("Roughed with:", page.reckoning.opening_bar.name))
    return facts

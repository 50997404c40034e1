"""Where the bit of a bar held at both ends is set and taken out: the cutter's way home from each bore of the line."""

from __future__ import annotations

from gyrocore import InvalidInput, Narrow, WayHome, way_home
from gyroplan.assess.at import AtBore

#: A gap narrower than this takes no hand and no bit (chosen here).
LEAST_ROOM_MM = 15.0


def way_home_of(at: AtBore) -> WayHome | None:
    """Return how far the bit runs free past both ends of a bore; None where a bearing stands inside it.

    Other bores of the line count at the smallest they are now: as found, which a bit that cuts larger does not pass;
    bearings, and between centres driver and tail, are passed by nothing.
    """
    bore = at.bore
    others = [
        Narrow(name=one.name, start_mm=one.start_mm, end_mm=one.end_mm, size_mm=one.smallest_found_mm or 0.0)
        for one in at.setup.bores if one.place != bore.place
    ]  # fmt: skip
    others += [
        Narrow(name=there.name, start_mm=there.from_mm, end_mm=there.to_mm, size_mm=there.diameter_mm)
        for there in bore.there
    ]
    others += [
        Narrow(name=f"bearing {number}", start_mm=place, end_mm=place)
        for number, place in enumerate(at.plan.bearings_mm, start=1)
        if at.setup.way.bar_in == "bearings"
    ]  # fmt: skip
    try:
        return way_home(start_mm=bore.start_mm, end_mm=bore.end_mm, cut_diameter_mm=bore.aim_mm, others=others)
    except InvalidInput:
        return None

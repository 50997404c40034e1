"""A taper read on the work: what takes it out at the tailstock, or at the head that is turned."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpRequest

from gyrocore import InvalidInput, error_sentence, taper_correction
from gyrometra.bridge.units import Units

#: The checks on whose page it is asked: what is moved to take a taper out.
ASKED_ON = ("tailstock", "slope")


@dataclass(frozen=True, slots=True, kw_only=True)
class TaperOnWork:
    """What was typed, and what it comes to; `fault` where it cannot be."""

    taper: str
    over: str
    lever: str
    move: str = ""
    says: str = ""
    fault: str = ""


def taper_on_work(request: HttpRequest, units: Units, lever_mm: float | None) -> TaperOnWork:
    """Read the three figures of the address; the lever is the length between centres where it is known."""
    texts = {name: request.GET.get(name, "").strip()[:60] for name in ("taper", "over", "lever")}
    lever = texts["lever"] or ("" if lever_mm is None else units.plain(lever_mm))
    typed = TaperOnWork(taper=texts["taper"], over=texts["over"], lever=lever)
    if not texts["taper"]:
        return typed
    try:
        taper, over, far = (float(units.read(one)) for one in (texts["taper"], texts["over"], lever))
        found = taper_correction(taper_mm=taper, over_mm=over, lever_mm=far)
    except InvalidInput as fault:
        return TaperOnWork(taper=texts["taper"], over=texts["over"], lever=lever,
                           fault=error_sentence(fault, units.unit))  # fmt: skip
    way = "away from the axis" if found.move_mm > 0 else "toward the axis"
    slope = f"{units.small(abs(found.angle_mm_m) * 0.3)} over {units.length(300)}"
    says = f"{way}, at {lever} from the pivot; the wall runs out by {slope} on radius"
    return TaperOnWork(taper=texts["taper"], over=texts["over"], lever=lever, move=units.small(abs(found.move_mm)),
                       says=says)  # fmt: skip

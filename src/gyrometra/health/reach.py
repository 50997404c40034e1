"""For which tool and bore a machine's figures are asked: typed, or of a job."""

from __future__ import annotations

from django.http import HttpRequest

from gyrocore import InvalidInput
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Machine
from gyrometra.health.shown import Reach
from gyrometra.jobs.models import Bore, SetUp

#: Where nothing is asked [mm]: chosen here, a bar of middling length in a bore of middling length.
_TOOL_MM, _BORE_MM = 200.0, 100.0
_LONGEST_MM = 5000.0
#: Kinds of machine on which the bar turns and the work stands.
BAR_TURNS = ("mill", "borer", "portable", "stand")


def reach_asked(request: HttpRequest, machine: Machine, units: Units) -> tuple[Reach, list[SetUp], dict[str, str]]:
    """What the figures are worked out for, the open jobs on this machine, and what the fields show."""
    setups = list(
        SetUp.objects.filter(machine=machine, job__closed_reason="", job__signoff__isnull=True, closed_reason="")
        .select_related("job", "plan").order_by("job__number", "pk")[:40]
    )  # fmt: skip
    chosen = next((one for one in setups if str(one.pk) == request.GET.get("setup", "")), None)
    tool, bore, bar_turns = _TOOL_MM, _BORE_MM, machine.kind in BAR_TURNS
    if chosen is not None:
        bores = list(Bore.objects.filter(setup=chosen).order_by("pk"))
        bore = float(bores[0].length_mm) if bores else bore
        tool = bore + float(chosen.plan.overrun_mm) + float(chosen.plan.clear_mm)
        bar_turns = chosen.way.turns == "bar"
    tool, fault = _typed(request.GET.get("tool", ""), units, tool)
    bore, other = _typed(request.GET.get("bore", ""), units, bore)
    centres = None if machine.centres_mm is None else float(machine.centres_mm)
    asked = {"tool": units.length(tool), "bore": units.length(bore), "fault": fault or other,
             "setup": str(chosen.pk) if chosen is not None else ""}  # fmt: skip
    return Reach(tool_mm=tool, bore_mm=bore, bar_turns=bar_turns, centres_mm=centres), setups, asked


def _typed(text: str, units: Units, otherwise: float) -> tuple[float, str]:
    """A length of the address; a sentence where it cannot be one."""
    if not text.strip():
        return otherwise, ""
    try:
        found = float(units.read(text[:60]))
    except InvalidInput:
        return otherwise, f"{text[:20]} cannot be read as a length."
    if not 0 < found <= _LONGEST_MM:
        return otherwise, f"A length is over 0 and up to {units.length(_LONGEST_MM)}; {text[:20]} was given."
    return found, ""

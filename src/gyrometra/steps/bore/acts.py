"""What was tapped on Bore, as an act of the loop; and what an entry rests on, as it is then."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from gyrocore import InvalidInput, error_sentence
from gyrometra.bridge.units import to_decimal
from gyrometra.inspection.repeats import gauge_in_hand
from gyrometra.steps.page import JobPage
from gyroplan.loop import Cut, DialWay, Set, Size


class NotRead(Exception):
    """What was typed as the actual setting cannot be read."""


def act_of(page: JobPage, values: Mapping[str, Any], *, cut: bool) -> Set | Cut:
    """The act of a tap on the main action."""
    if cut:
        return Cut(number=values["number"], through=values["through"])
    text = str(values["actual"] or "").strip()
    return Set(number=values["number"], actual=_actual(page, text) if text else None)


def _actual(page: JobPage, text: str) -> float:
    """The dial as it really stands, as divisions moved from where it stood; a reading or an advance as typed."""
    ladder, state = page.passes.ladder, page.passes.state
    way = page.passes.by.way
    if isinstance(way, DialWay):
        number = _division(text, way)
        told = state.told if state else None
        meant = (told.divisions or 0.0) if told else 0.0
        from_number = ladder.replay.memory.dial if ladder else way.at_division
        return way.nearest(from_number, number, meant)
    try:
        size = float(page.units.read(text))
    except InvalidInput as error:
        raise NotRead(error_sentence(error, page.units.unit)) from None
    return size


def _division(text: str, way: DialWay) -> float:
    try:
        number = float(text.replace(",", "."))
    except ValueError:
        raise NotRead(f"{text} is no number on the dial. Type what stands under its mark, like 80.5.") from None
    if not 0 <= number < way.divisions_per_turn:
        raise NotRead(f"The dial goes from 0 to under {way.divisions_per_turn:g}; {text} was given.")
    return number


def rests_on(page: JobPage, number: int) -> dict[str, Any]:
    """Bar, cutter, feed and speed of a pass, and the size it is set to, as they are when it is set or cut."""
    row = next((one for one in page.speeds.planned if one.cut.number == number), None)
    plan = page.job.setup.plan
    if row is None:
        return {}
    return {
        "pass_kind": row.cut.kind,
        "rpm": None if row.rpm is None else round(row.rpm, 2),
        "value_mm": to_decimal(row.cut.diameter_mm),
        "rests_on": {
            "bar": str(plan.bar or ""), "cutter": str(plan.cutter or ""), "cutter_id": plan.cutter_id,
            "feed_mm_rev": row.feed_mm_rev, "rpm": row.rpm, "depth_mm": row.cut.depth_mm,
        },
    }  # fmt: skip


def size_act(page: JobPage, values: Mapping[str, Any], username: str) -> tuple[Size, dict[str, Any]]:
    """A size as an act, and what its entry keeps beside it: the gauge as it is in this person's hands."""
    act = Size(
        gauge=values["gauge"].name, readings_mm=[float(values["value_mm"])], part_temp_c=float(values["part_temp_c"]),
        instrument_temp_c=float(values["gauge_temp_c"]), temp_u_c=float(values["temp_u_c"]),
    )  # fmt: skip
    kept = {
        "value_mm": values["value_mm"], "gauge": values["gauge"], "number": len(page.passes.done),
        "rests_on": gauge_in_hand(values["gauge"], username, page.job.setup),
    }  # fmt: skip
    return act, kept

"""What is said of the picked bar beside its figures: its damper, its guide pads, the bit's way home."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import Free
from gyrometra.bridge.units import Units
from gyrometra.steps.page import JobPage
from gyroplan.assess import LEAST_ROOM_MM, pads_of, way_home_of


@dataclass(frozen=True, kw_only=True)
class StateLine:
    """One line with its mark."""

    state: str
    words: str


def bar_says(page: JobPage) -> list[StateLine]:
    """Every line that the picked bar has."""
    return [line for line in (tuning_line(page), pads_line(page), _home_line(page)) if line is not None]


def tuning_line(page: JobPage) -> StateLine | None:
    """Where the damper of a tuned bar must stand; only its owner's own points are used."""
    found, bar, units = page.bar.tuning.value, page.at.bar, page.units
    if found is None or bar is None:
        return None
    if found.turns is None:
        near = [p for p in (found.before, found.after) if p is not None]
        points = " or ".join(f"{units.length(p.overhang_mm)} ({p.turns:g} turns)" for p in near)
        words = f"{bar.name} is not tuned for this overhang: its table has {points}. Nothing is guessed between."
        return StateLine(state="advice", words=words)
    move = found.move_turns
    if move is None:
        return StateLine(state="advice", words=f"Damper to {found.turns:g} turns out; where it stands is not known")
    if abs(move) < 1e-9:
        return StateLine(state="in", words=f"Damper stands at {found.turns:g} turns out, right for this overhang")
    way = "out" if move > 0 else "in"
    return StateLine(state="advice", words=f"Turn the damper {abs(move):g} turns {way}, to {found.turns:g} out")


def pads_line(page: JobPage) -> StateLine | None:
    """Guide pads: whether they run in the finished bore, and what the bar springs with them."""
    pads, units = pads_of(page.passes, page.bar), page.units
    if pads is None:
        return None
    size, behind = units.plain(pads.size_mm), units.length(pads.behind_mm)
    if pads.state == "tight":
        return StateLine(state="over", words=f"The guide pads stand at Ø{size}, {units.small(-pads.play_mm)} over the "
                                             "last pass: they do not enter. Set them smaller.")  # fmt: skip
    if pads.state == "outside":
        return StateLine(state="advice", words=f"The guide pads, {behind} behind the cutter, never enter this bore.")
    if pads.state == "loose":
        return StateLine(state="advice", words=f"The guide pads at Ø{size} have {units.small(pads.play_mm)} play in "
                                               "the last pass: too much to guide.")  # fmt: skip
    words = f"The guide pads run in the last pass from {behind} deep, with {units.small(pads.play_mm)} play on Ø"
    if pads.held_mm is not None and pads.free_mm is not None:
        less = "" if pads.helps else ", no less than without"
        words += (f": the bar deflects {units.small(pads.held_mm)} at most{less}, before {units.small(pads.free_mm)}. "
                  "They follow the bore as it was begun")  # fmt: skip
    return StateLine(state="in" if pads.helps or pads.held_mm is None else "advice", words=words + ".")


def _home_line(page: JobPage) -> StateLine | None:
    """A bar from one side: what lies in the bit's way out through the open face, where anything does."""
    found, held = way_home_of(page.at), page.record.setup.way.bar_in
    if held == "bearings" or found is None or page.at.bar is None:
        return None
    if held == "centres":
        return StateLine(state="in", words=home_words(page))
    stop, units = found.towards_start, page.units
    if stop.room_mm is None:
        return None
    room = "there is no room for that" if stop.room_mm < LEAST_ROOM_MM else f"{units.length(stop.room_mm)} are free"
    return StateLine(
        state="over" if stop.room_mm < LEAST_ROOM_MM else "advice",
        words=f"The bit at Ø{units.plain(page.bore.aim_mm)} does not come out through {stop.meets}: set it and take it "
              f"out, or draw it in, between the two; {room}.",
    )  # fmt: skip


def home_words(page: JobPage) -> str:
    """Where the bit is set and taken out, and what it meets on the way there; empty while it is not known."""
    found, units = way_home_of(page.at), page.units
    if found is None or page.at.bar is None:
        return ""
    out = (page.bore.aim_mm - page.at.bar.diameter_mm) / 2
    sides = [_side_words(free, towards, units) for free, towards in (
        (found.towards_start, "towards the first face"), (found.towards_end, "towards the far end"))]  # fmt: skip
    rooms = [free.room_mm for free in (found.towards_start, found.towards_end)]
    best = max(float("inf") if room is None else room for room in rooms)
    where = "Set and take out the bit" if best >= LEAST_ROOM_MM else "No room to set or take out the bit"
    return f"{where} {units.length(out)} out of the bar: {'; '.join(sides)}."


def _side_words(free: Free, towards: str, units: Units) -> str:
    if free.room_mm is None:
        return f"{towards} nothing is in its way"
    room = f"{units.length(free.room_mm)} free" if free.room_mm >= LEAST_ROOM_MM else "no room"
    return f"{towards} {room}, then {free.meets}, which it does not pass"

"""What the next round is like: read as the last one was, in which plane, and what it should show."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from django.http import HttpRequest

from gyrometra.bridge.units import Units
from gyrometra.steps.page import JobPage
from gyroplan.assess import RoundStanding

_LETTERS = "ABCDEF"
#: The planes that are offered lie so far in from each end, as shares of the length (chosen here: clear of the edges).
_SHARES = (0.1, 0.9)
#: A plane nearer to an end than this is at its edge, a chamfer or a burr [mm].
_CLEAR_MM = 3.0


@dataclass(frozen=True, slots=True, kw_only=True)
class PlaneChip:
    """A plane that is read: how it is called, its depth as it is typed, whether it is the next one's turn."""

    words: str
    depth: str
    next: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class NextRound:
    """The round that is expected after the moves."""

    number: int
    off: str
    total: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Tick:
    """A step before the hands go in: what a round keeps, and its words."""

    name: str
    words: str


#: What is in for reading; before power it is out again (the steps of Bore).
TICKS = (
    Tick(name="locked", words="Spindle out of gear"),
    Tick(name="stop", words="Rotary stop set"),
    Tick(name="holder", words="Indicator stands firm"),
)


def ticked_of(request: HttpRequest) -> list[str] | None:
    """Which steps were ticked; None where the page did not ask."""
    if request.POST.get("ticks") != "asked":
        return None
    ticked = request.POST.getlist("guard")
    return [one.name for one in TICKS if one.name in ticked]


def not_ticked(page: JobPage, view: RoundStanding | None) -> str:
    """The steps that were not ticked before a round that asked for them."""
    ticked = None if view is None else page.rows.rounds[view.round.key].values.get("ticked")
    missing = [one.words[0].lower() + one.words[1:] for one in TICKS if ticked is not None and one.name not in ticked]
    return f"Not ticked before it: {', '.join(missing)}." if missing else ""


def planes_offered_mm(length_mm: float) -> tuple[float, ...]:
    """Two planes of a bore [mm], the inner one first, for it is nearest to what holds it; none in a short one."""
    outer, inner = (share * length_mm for share in _SHARES)
    depths = float(int(min(length_mm - _CLEAR_MM, inner))), float(round(max(_CLEAR_MM, outer)))
    return depths if depths[1] < depths[0] else ()


def outside_of(page: JobPage) -> float | None:
    """The widest outside of the work, where it is known; one that is no wider than the bore is none."""
    widest = max((diameter for _, diameter in page.bore.outside_mm), default=0.0)
    return widest if widest > (page.at.start_mm or page.bore.aim_mm) else None


def plane_next(views: Sequence[RoundStanding]) -> float | None:
    """The plane whose turn it is: after a valid round the other one, else the same again."""
    views = [one for one in views if not one.round.is_bound]
    last = views[-1].round.plane_mm if views else None
    if last is None or not views[-1].holds:
        return last
    others = [one.round.plane_mm for one in views if one.round.plane_mm not in (None, last)]
    return others[-1] if others else last


def plane_chips(page: JobPage, views: Sequence[RoundStanding]) -> list[PlaneChip]:
    """The planes that are read apart, from the inner one out; of one plane the other one that would show tilt."""
    depths = {one.round.plane_mm for one in page.truing.last if one.round.plane_mm is not None}
    if not depths:
        return []
    if len(depths) == 1:
        (read,) = depths
        depths |= set(sorted(planes_offered_mm(page.bore.length_mm), key=lambda one: -abs(one - read))[:1])
    following, units = plane_next(views), page.units
    return [PlaneChip(words=f"{letter}, {units.length(depth)} deep", depth=units.plain(depth), next=depth == following)
            for letter, depth in zip(_LETTERS, sorted(depths, reverse=True), strict=False)]  # fmt: skip


def as_before(page: JobPage, views: Sequence[RoundStanding]) -> str:
    """How the next round is read where nobody says otherwise: as the last one; empty before there is one."""
    last = next((one.round for one in reversed(views) if not one.round.is_bound), None)
    if last is None:
        return ""
    units, indicator = page.units, page.rows.rounds[last.key].indicator
    if last.is_walls:
        how = f"{last.sides} walls at {len(last.depths_mm)} depths"
    elif last.method == "flats":
        how = "Flats"
    else:
        how = f"Sweep of {last.places}"
    plane = plane_next(views)
    at = "" if plane is None or last.is_walls else f", {units.length(plane)} deep"
    return f"{how}{at}, {indicator.name}" if indicator is not None else f"{how}{at}"


def last_to_undo(page: JobPage, views: Sequence[RoundStanding]) -> dict[str, str]:
    """What an undo takes back while nothing is read: a move or disturbance logged last, else a centring."""
    if not views or page.truing.open_round is not None:
        return {}
    row = page.rows.rounds[views[-1].round.key]
    # what was logged after a centring that was taken back stands behind that one
    since = [one for one in page.rows.rounds.values() if one.number >= row.number and one.piece == row.piece
             and one.purpose == row.purpose and one.bore_id == row.bore_id]  # fmt: skip
    rows: list[dict[str, Any]] = [what for one in since for what in one.between_rows]  # type: ignore[attr-defined]
    happened = [one for one in rows if one["bore_id"] == row.bore_id and one["kind"] in ("moved", "disturbed")]
    if happened:
        last = max(happened, key=lambda one: int(one["id"]))
        return {"entry": str(last["client_id"]), "words": "what was moved" if last["kind"] == "moved" else "disturbed"}
    return {"entry": str(row.client_id), "words": "the centring"} if views[-1].round.is_bound else {}


def told_before(page: JobPage, views: Sequence[RoundStanding]) -> RoundStanding | None:
    """The round whose moves were told before the work was moved: of several planes the inner one that had any."""
    last = page.truing.last_valid
    if last is None or page.truing.standing is not None:
        return None
    stood = {one.round.plane_mm: one for one in views if one.stands and one.moves}
    apart = [one for plane, one in stood.items() if plane is not None]
    if last.round.plane_mm is None or not apart:
        return last
    return max(apart, key=lambda one: one.round.plane_mm or 0.0)


def next_round(views: Sequence[RoundStanding], told: RoundStanding | None, units: Units) -> NextRound | None:
    """What the next round should show once the moves that are told are made: the form alone."""
    if told is None or not told.moves or told.expected_mm is None or told.round.method == "flats":
        return None
    return NextRound(number=views[-1].round.number + 1, off=units.planned(0.0), total=units.planned(told.expected_mm))

"""Two bits on one bar that cut two bores at once: set, cut, voided and taken back as a pair, each by its own figure."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from uuid import UUID, uuid5

from gyrometra.cutting import services as cutting
from gyrometra.jobs.entries import Sent
from gyrometra.steps.bore.acts import rests_on
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.setting import figure
from gyroplan.assess import bit_apart, pair_of
from gyroplan.loop import Act, Cut, Set, Touched
from gyroplan.refusal import Refused


def partner(page: JobPage) -> JobPage | None:
    """The page of the bore that the other bit cuts in the same stroke; None where there is none."""
    names = pair_of(page.at)
    if names is None or page.bore.name not in names:
        return None
    other = next(bore for bore in page.bores if bore.name in names and bore.name != page.bore.name)
    return replace(page, place=other.place)


def _stand_alike(page: JobPage, other: JobPage) -> bool:
    own, its = page.passes.state, other.passes.state
    return own is not None and its is not None and (own.phase, own.in_hand) == (its.phase, its.in_hand)


def log_with_it(page: JobPage, header: cutting.Header, act: Act) -> None:
    """Log for the other bit what was tapped for this one: both stand at the same pass, and each is set as it is told.

    A setting that was typed is this bit's own; a touched tool voids both, wherever they stand.
    """
    other = partner(page)
    if other is None or (isinstance(act, Set) and act.actual is not None):
        return
    if not isinstance(act, (Set, Cut, Touched)) or not (isinstance(act, Touched) or _stand_alike(page, other)):
        return
    sent = replace(header.sent, client_id=_beside(header.sent.client_id))
    values = None if isinstance(act, Touched) else rests_on(other, act.number)
    planned = (other.passes.work, other.at.log.planned_last)
    try:
        cutting.log_act(
            header=replace(header, sent=sent, bore=other.bore_row), act=act, planned=lambda: planned, values=values
        )
    except (Refused, cutting.NothingPlanned):
        return  # it does not fit there: that bore is tapped by itself


def take_back_with_it(page: JobPage, sent: Sent, undo: UUID | None) -> None:
    """Take back for the other bit what was logged with this entry, where nothing was logged there since."""
    other = partner(page)
    rows = [] if other is None or undo is None else [row for row in other.cuts_logged.rows if row.kind != "plan"]
    if not rows or other is None or undo is None:
        return
    last = rows[-1].client_id
    if last == _beside(undo) or undo == _beside(last):
        cutting.take_back(
            sent=replace(sent, client_id=_beside(sent.client_id)), bore=other.bore_row, undo=last, piece=page.piece
        )


def _beside(entry: UUID) -> UUID:
    return uuid5(entry, "pair")


def pair_notes(page: JobPage) -> list[str]:
    """What the other bit is set to, or that it is tapped by itself; and how it cuts against this one."""
    other, state = partner(page), page.passes.state
    if other is None or state is None:
        return []
    name = other.bore.name
    if not _stand_alike(page, other):
        head = f"Two bits cut {page.bore.name} and {name} at once, but {name} stands at another pass: tap it there."
    elif state.phase == "set":
        head = f"Two bits, set as a pair: {_told(other)} for {name}."
    else:
        head = f"Two bits: {name} is set, cut and voided with this one. Each is measured by itself."
    apart = bit_apart(page.passes.done, other.passes.done)
    if apart is None or abs(apart.larger_mm) < _SAME_MM:
        return [head]
    units, way = page.units, "larger" if apart.larger_mm > 0 else "smaller"
    hand = "farther out" if apart.out_mm > 0 else "farther in"
    return [head, f"The bit of {name} cuts {units.planned(abs(apart.larger_mm))} {way} on Ø than this one: it stands "
                  f"{units.planned(abs(apart.out_mm))} {hand}, on radius. Each figure told counts it."]  # fmt: skip


#: Bits that cut within this of each other are alike: no gauge of a shop tells less apart (chosen here) [mm].
_SAME_MM = 0.001


def _told(other: JobPage) -> str:
    state = other.passes.state
    row = next((one for one in other.speeds.planned if state and one.cut.number == state.in_hand), None)
    setting: Any = row.setting if row is not None else None
    if setting is None or setting.told is None:
        return "leave it"
    number, unit, hands = figure(setting.told, setting.way, other.units)
    return f"{hands.lower()} {number} {unit}"

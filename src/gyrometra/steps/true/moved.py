"""What is moved in words: jaws, a tap at a clock position, and what was really moved where it was not as told."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from django import forms

from gyrocore import JawMove
from gyrometra.bridge.fields import LengthField, TypedForm
from gyrometra.bridge.units import Units
from gyrometra.steps.page import JobPage
from gyrometra.steps.true.bound import dial_words
from gyroplan.assess import RoundStanding, Tap, moved_otherwise, tap_of, tilt_of, told_moves
from gyroplan.record import MachineRecord


@dataclass(frozen=True, kw_only=True)
class MoveWords:
    """One move: what to do, how much, what to read after; of jaws which to slacken and which to tighten."""

    slacken: str
    tighten: str
    order: str
    amount: str
    #: In divisions of the dial that is turned, where there is one.
    dial: str
    before: str
    after: str


def moves_words(view: RoundStanding, units: Units, machine: MachineRecord) -> list[MoveWords]:
    """What to do at the jaws, at the table's dials, or with a mallet."""
    tap = tap_of(view)
    if tap is not None:
        return [MoveWords(slacken="", tighten="", order=_tap_order(view, tap), amount=units.planned(tap.by_mm),
                          dial=f"By the clock, {view.way.seen_from}.", before="", after="")]  # fmt: skip
    return [
        MoveWords(
            slacken=move.slacken,
            tighten=move.tighten,
            order=_order(view, move),
            amount=units.planned(move.by_mm),
            dial=dial_words(machine, view.way, move.by_mm),
            before=_signed(view.reading_before_mm(move), units),
            after=_signed(view.reading_after_mm(move), units),
        )
        for move in view.told
    ]


def clock_words(angle_deg: float) -> str:
    """A direction as the hour hand points there, to the half hour: 45 degrees are half past one."""
    halves = round((angle_deg % 360) / 15) % 24
    return f"{halves // 2 or 12}:{'30' if halves % 2 else '00'}"


def _tap_order(view: RoundStanding, tap: Tap) -> str:
    place = view.way.place_name(45 * round(tap.toward_deg / 45))
    toward = f"{view.way.place_word}{place}" if "-" in place else place
    return f"Tap {view.way.moved} at {clock_words(tap.at_deg)}, toward {clock_words(tap.toward_deg)} ({toward})"


def _order(view: RoundStanding, move: JawMove) -> str:
    """What to do where there are no jaws: the work goes toward the place that would be slackened."""
    way = view.way
    if way.jaws:
        return ""
    return f"Move {way.moved} to the {move.slacken if way.moved_is == 'work' else move.tighten}"


def _signed(value: float | None, units: Units) -> str:
    return "" if value is None else units.signed(value)


class MovedForm(TypedForm):
    """By how much each told move was really made; one left empty was not made."""

    client_id = forms.UUIDField()

    def __init__(self, *args: Any, moves: Sequence[JawMove | Tap], labels: Sequence[str], **kwargs: Any) -> None:
        self.moves, self.asked_of = moves, len(labels)
        super().__init__(*args, **kwargs)
        for place, label in enumerate(labels):
            asked = LengthField(label=label, required=False, positive=False, ask_over_mm=2)
            asked.units = self.units
            self.fields[f"really_{place}"] = asked

    @property
    def asked(self) -> list[forms.BoundField]:
        """One field a move that is told."""
        return [self[f"really_{place}"] for place in range(self.asked_of)]

    def clean(self) -> dict[str, Any]:
        """Something was moved."""
        values = super().clean() or {}
        typed = {place: values.get(f"really_{place}") for place in range(len(self.moves))}
        if not self.errors and all(one is None for one in typed.values()):
            self.add_error("really_0" if self.moves else None, "Type by how much it was really moved.")
        values["amounts_mm"] = [float(typed[place] or 0) for place in range(len(self.moves))]
        return values


def told_of(page: JobPage) -> RoundStanding | None:
    """The round whose moves are told: of two planes that hold the inner one's, the outer is tapped after it."""
    standing, tilt = page.truing.standing, tilt_of(page.assessment, page.piece, page.place)
    return tilt.at if tilt is not None and standing is not None else standing


def moved_form(page: JobPage, posted: Any = None) -> MovedForm | None:
    """The form for the moves that are told now; None where none is."""
    told = told_of(page)
    moves = told_moves(told)
    if told is None or not moves:
        return None
    words = moves_words(told, page.units, page.at.machine)
    labels = [_really(one) for one in words]
    return MovedForm(posted, units=page.units, moves=moves, labels=labels)


def _really(one: MoveWords) -> str:
    """What is asked of a move that was made otherwise."""
    if not one.order:
        return f"Jaw {one.tighten} tightened by"
    return f"{one.order.split(' at ')[0].replace('Tap', 'Tapped', 1)} by" if one.order.startswith("Tap") else one.order


def otherwise_words(page: JobPage) -> str:
    """What was moved otherwise than told, and how far off centre that should leave the work; empty for as told."""
    several = page.record.setup.way.several
    happened = [one for one in page.record.between
                if one.piece == page.piece and one.bore == (page.place if several else None)]  # fmt: skip
    found = moved_otherwise(page.truing.last_valid, happened)
    if found is None or page.truing.standing is not None:
        return ""
    left, unit = page.units.planned(found.left_mm), page.units.label
    return f"Moved otherwise than told: it should lie {left} {unit} off centre now. Sweep it."

"""The True page: reading line, moves at the jaws, rounds."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import degrees
from typing import Any

from gyrocore import Method, error_sentence, sentence
from gyrometra.bridge.units import Units
from gyrometra.jobs.models import Bore
from gyrometra.steps import scenes
from gyrometra.steps.page import JobPage
from gyrometra.truing.rounds import RoundView


@dataclass(frozen=True, kw_only=True)
class Cell:
    """One place of the reading line."""

    place: int
    name: str
    value: str
    was: str
    active: bool


@dataclass(frozen=True, kw_only=True)
class MoveWords:
    """One pair of jaws: what to do, how much, what to read after."""

    slacken: str
    tighten: str
    order: str
    amount: str
    before: str
    after: str


@dataclass(frozen=True, kw_only=True)
class RoundLine:
    """One closed round in the list."""

    number: int
    total: str
    off: str
    towards: str
    state: str


def broken_at(bore: Bore, angle_deg: float) -> str:
    """What breaks the wall at an angle; a stylus there falls in."""
    for broken in bore.interruptions.all():
        half = max(5.0, degrees(float(broken.width_mm) / bore.aim_mm))
        if abs((float(broken.angle_deg) - angle_deg + 180) % 360 - 180) <= half:
            return str(broken.get_kind_display())
    return ""


def cells(
    view: RoundView, before: RoundView | None, units: Units, bore: Bore, correct: int | None = None
) -> list[Cell]:
    """The reading line of a round, with the last round's values; `correct` opens a read cell again."""
    was = before.values_mm if before and before.round.places == view.round.places else None
    found, active = [], view.next_place if correct is None else correct
    for place, value in enumerate(view.values_mm):
        old, broken = was[place] if was else None, ""
        if view.round.surface == "inside":
            broken = broken_at(bore, 360 * place / view.round.places)
        found.append(
            Cell(
                place=place,
                name=view.way.place_name(360 * place / view.round.places),
                value=_cell_words(value, place in view.by_place, units),
                was=f"{broken}: x skips" if broken else "" if old is None else f"was {units.signed(old)}",
                active=place == active,
            )
        )
    again = view.by_place.get(view.round.places)
    found.append(
        Cell(
            place=view.round.places,
            name="first again",
            value=units.signed(again.value_mm) if again and again.value_mm is not None else "",
            was="",
            active=active == view.round.places,
        )
    )
    return found


def _cell_words(value: float | None, is_read: bool, units: Units) -> str:
    if value is not None:
        return units.signed(value)
    return "blocked" if is_read else ""


def moves_words(view: RoundView, units: Units) -> list[MoveWords]:
    """What to do at the jaws."""
    return [
        MoveWords(
            slacken=move.slacken,
            tighten=move.tighten,
            order=move_order(view.way, move.slacken, move.tighten),
            amount=units.planned(move.by_mm),
            before=_signed(view.reading_before_mm(move), units),
            after=_signed(view.reading_after_mm(move), units),
        )
        for move in view.moves
    ]


def move_order(way: Method, slacken: str, tighten: str) -> str:
    """What to do where there are no jaws: the work goes toward the place that would be slackened."""
    if way.set_by == "dial":
        return ""
    return f"Move {way.moved} to the {slacken if way.moved_is == 'work' else tighten}"


def _signed(value: float | None, units: Units) -> str:
    return "" if value is None else units.signed(value)


def round_lines(views: Sequence[RoundView], units: Units) -> list[RoundLine]:
    """Closed rounds, oldest first."""
    lines = []
    for view in views:
        if not view.is_closed:
            continue
        angle = view.sweep.offset_angle_deg if view.sweep else 0.0
        lines.append(
            RoundLine(
                number=view.round.number,
                total=planned(view.total_mm, units),
                off=planned(view.off_centre_mm, units),
                towards=view.way.place_name(45 * round(angle / 45)),
                state="void" if view.is_void else "in" if view.within else "over",
            )
        )
    return lines


def planned(value: float | None, units: Units) -> str:
    return "" if value is None else units.planned(value)


def round_initial(views: Sequence[RoundView], units: Units) -> dict[str, Any]:
    """The next round is like the last."""
    if not views:
        return {}
    last = views[-1].round
    closing = "" if last.closing_mm is None else units.plain(last.closing_mm)
    return {"method": last.method, "places": last.places, "indicator": last.indicator_id, "closing_mm": closing}


def true(page: JobPage, correct: int | None = None) -> dict[str, Any]:
    """All that the True page prints."""
    units, views = page.units, page.rounds
    current = views[-1] if views else None
    open_round = current if current and not current.is_closed else None
    earlier = [v for v in views if v is not open_round]
    decided = page.trued
    shown = open_round if open_round and len(open_round.by_place) >= 3 else (earlier[-1] if earlier else open_round)
    return {
        "last_bore": page.bores[-1],
        "open_round": open_round,
        "cells": cells(open_round, earlier[-1] if earlier else None, units, page.bore, correct) if open_round else [],
        "shown": shown,
        "face": scenes.face_scene(shown, units) if shown else None,
        "face_small": scenes.face_scene(shown, units, small=True) if shown else None,
        "chart": scenes.chart_scene(page),
        "lines": round_lines(views, units)[-6:],
        "decided": decided,
        "moves": moves_words(decided, units) if decided and not decided.within else [],
        "expected": planned(decided.expected_mm, units) if decided else "",
        "total": planned(shown.total_mm, units) if shown else "",
        "off": planned(shown.off_centre_mm, units) if shown else "",
        "limit": units.planned(page.bore.runout_limit_mm),
        "round_notes": [
            sentence(n, units.unit)
            for n in [*(shown.sweep.notes if shown and shown.sweep else ()),
                      *(shown.closing.notes if shown and shown.closing else ())]
        ],
        "cannot_tell": error_sentence(shown.cannot_tell, units.unit) if shown and shown.cannot_tell else "",
        "half_rule": units.planned((shown.total_mm or 0) / 2) if shown and shown.total_mm else "",
    }  # fmt: skip


# ---------------------------------------------------------------- Bore

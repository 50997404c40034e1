"""The three states of the work on the JSON face: field names are public interface."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from typing_extensions import TypedDict

from gyrocore import JawMove
from gyrocore.contract.table import Calculation
from gyrocore.notes import Note
from gyrocore.wording import error_sentence
from gyroplan.judge import CheckState, CheckWork, check_state
from gyroplan.loop import BoreState, BoreWork, PassLeft, Told, bore_state
from gyroplan.refusal import Refusal
from gyroplan.rounds import TrueState, TrueWork, true_state


class RefusedOut(TypedDict):
    """Which field of the entry does not fit, and why."""

    field: str
    message: str


class PassOut(TypedDict):
    """One pass that is left."""

    number: int
    kind: str
    depth_mm: float
    diameter_mm: float
    measure_after: bool


class ToldOut(TypedDict, total=False):
    """What is told: the fields of this way of setting."""

    divisions: float
    to_division: float
    advance_mm: float
    reading_mm: float


#: `pass` is a keyword of Python.
BoreStateOut = TypedDict(
    "BoreStateOut",
    {
        "phase": str, "passes_left": list[PassOut], "pass": int | None, "told": ToldOut | None,
        "stands_at": float | None, "set_diameter_mm": float | None, "known_mm": float, "known_from": str,
        "expanded_mm": float | None, "agree": bool | None, "to_come_off_mm": float, "verdict": str | None,
        "suspect": str | None, "refused": RefusedOut | None,
    },
)  # fmt: skip


class BoreStatesOut(TypedDict):
    """One state before the first entry and one after each."""

    states: list[BoreStateOut]
    notes: list[Note]


class MoveOut(TypedDict):
    """Slacken one jaw, tighten its opposite."""

    slacken: str
    tighten: str
    by_mm: float


class TrueStateOut(TypedDict):
    """The state of truing."""

    phase: str
    round: int
    place_deg: float | None
    validity: str
    total_reading_mm: float | None
    eccentricity_mm: float | None
    offset_x_mm: float | None
    offset_y_mm: float | None
    swing_mm: float | None
    moves: list[MoveOut] | None
    within: bool | None
    judged_by: str | None
    suspect: str | None
    refused: RefusedOut | None


class TrueStatesOut(TypedDict):
    """One state before the first entry and one after each."""

    states: list[TrueStateOut]
    notes: list[Note]


class PlaceOut(TypedDict):
    """One place measured."""

    z_mm: float
    angle_deg: float
    value_mm: float
    expanded_mm: float
    verdict: str
    agree: bool | None


class FigureOut(TypedDict):
    """One limit judged."""

    value_mm: float | None
    expanded_mm: float | None
    verdict: str


class LimitsOut(TypedDict):
    """Every limit; null where it is not asked."""

    size: FigureOut
    taper: FigureOut | None
    roundness: FigureOut | None
    runout: FigureOut | None
    depth: FigureOut | None


class CheckStateOut(TypedDict):
    """The state of the check."""

    places: list[PlaceOut]
    limits: LimitsOut
    missing: list[str]
    overall: str
    refused: RefusedOut | None


class CheckStatesOut(TypedDict):
    """One state before the first entry and one after each."""

    states: list[CheckStateOut]
    notes: list[Note]


def _refused(refusal: Refusal | None) -> RefusedOut | None:
    return None if refusal is None else {"field": refusal.field, "message": error_sentence(refusal.error)}


def _pass(cut: PassLeft) -> PassOut:
    return {"number": cut.number, "kind": cut.kind, "depth_mm": cut.depth_mm, "diameter_mm": cut.diameter_mm,
            "measure_after": cut.measure_after}  # fmt: skip


def _told(told: Told | None) -> Any:
    return None if told is None else {name: value for name, value in asdict(told).items() if value is not None}


def _bore_state(state: BoreState) -> BoreStateOut:
    return {
        "phase": state.phase, "passes_left": [_pass(cut) for cut in state.passes_left], "pass": state.in_hand,
        "told": _told(state.told), "stands_at": state.stands_at, "set_diameter_mm": state.set_diameter_mm,
        "known_mm": state.known_mm, "known_from": state.known_from, "expanded_mm": state.expanded_mm,
        "agree": state.agree, "to_come_off_mm": state.to_come_off_mm, "verdict": state.verdict,
        "suspect": state.suspect, "refused": _refused(state.refused),
    }  # fmt: skip


def _bore(work: BoreWork) -> BoreStatesOut:
    found = bore_state(work)
    return {"states": [_bore_state(state) for state in found.states], "notes": list(found.notes)}


def _true_state(state: TrueState) -> TrueStateOut:
    found = state.figures
    swept = None if found is None else found.sweep
    return {
        "phase": state.phase,
        "round": state.round,
        "place_deg": state.place_deg,
        "validity": state.validity,
        "total_reading_mm": None if swept is None else swept.total_reading_mm,
        "eccentricity_mm": None if swept is None else swept.eccentricity_mm,
        "offset_x_mm": None if swept is None else swept.offset_x_mm,
        "offset_y_mm": None if swept is None else swept.offset_y_mm,
        "swing_mm": None if found is None else found.swing_mm,
        "moves": None if found is None else [_move(move) for move in found.moves],
        "within": None if found is None else found.within,
        "judged_by": None if found is None else found.judged_by,
        "suspect": None if found is None else found.suspect,
        "refused": _refused(state.refused),
    }


def _move(move: JawMove) -> MoveOut:
    return {"slacken": move.slacken, "tighten": move.tighten, "by_mm": move.by_mm}


def _true(work: TrueWork) -> TrueStatesOut:
    found = true_state(work)
    return {"states": [_true_state(state) for state in found.states], "notes": list(found.notes)}


def _figure(figure: Any) -> FigureOut | None:
    if figure is None:
        return None
    return {"value_mm": figure.value_mm, "expanded_mm": figure.expanded_mm, "verdict": figure.verdict}


def _check_state(state: CheckState) -> CheckStateOut:
    names = ("size", "taper", "roundness", "runout", "depth")
    limits: Any = {name: _figure(getattr(state.limits, name)) for name in names}
    places: list[PlaceOut] = [
        {"z_mm": p.z_mm, "angle_deg": p.angle_deg, "value_mm": p.value_mm, "expanded_mm": p.expanded_mm,
         "verdict": p.verdict, "agree": p.agree}
        for p in state.places
    ]  # fmt: skip
    return {"places": places, "limits": limits, "missing": list(state.missing), "overall": state.overall,
            "refused": _refused(state.refused)}  # fmt: skip


def _check(work: CheckWork) -> CheckStatesOut:
    found = check_state(work)
    return {"states": [_check_state(state) for state in found.states], "notes": list(found.notes)}


#: Name -> summary, input, result, function; the command lists them after the core's own.
STATES: dict[str, Calculation] = {
    "bore_state": Calculation(
        summary="Replay the log of a bore: the pass in hand, what to set, what is known.",
        input=BoreWork, result=BoreStatesOut, run=_bore,
    ),
    "true_state": Calculation(
        summary="Replay the log of truing: the round, what it says, what to move.",
        input=TrueWork, result=TrueStatesOut, run=_true,
    ),
    "check_state": Calculation(
        summary="Replay the log of a check: places, limits, what is missing, the verdict.",
        input=CheckWork, result=CheckStatesOut, run=_check,
    ),
}  # fmt: skip

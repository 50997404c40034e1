"""A line bar on True: what each bearing is moved by, from the sweeps of the two end bores, sag and droop struck off."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrodraw import LineMark, LineMove, LineTrue, Scene, line_true_scene
from gyrometra.bridge.fields import LengthField
from gyrometra.bridge.units import Units
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plan_form import PlanForm
from gyrometra.steps.shared.scene import bands
from gyroplan.assess import LineMoves, is_moved_at_bearings, line_moves_of, missing_for_moves

#: A move smaller than this is not told: no screw is turned so finely (chosen here).
LEAST_MOVE_MM = 0.002
#: An uncertainty under this is nothing in three decimals.
_SHOWN_MM = 5e-4


class DroopForm(PlanForm):
    """How far the indicator's arm droops."""

    droop_mm = LengthField(
        label="Indicator arm droops by", positive=False, least=0, ask_over_mm=2,
        help_text="half of what top and bottom differ by in a true ring",
    )  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class BearingRow:
    """One direction of one bearing: which way, how much, in turns of its screw where that is known."""

    number: int
    way: str
    amount: str
    turns: str
    done: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class SweptRow:
    """A swept bore: as swept, what is struck off, where it truly lies, what is left after the moves."""

    name: str
    up: str
    right: str
    sag: str
    droop: str
    true_up: str
    true_right: str
    left: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LineOnTrue:
    """All that True says of a line bar."""

    rows: Sequence[SweptRow]
    bearings: Sequence[tuple[int, Sequence[BearingRow]]]
    within: bool
    worst: str
    after: str
    unseen: str
    slack: str
    datum: str
    scenes: Sequence[tuple[str, Scene]]


def line_on_true(page: JobPage) -> LineOnTrue | None:
    """None where the axis is not moved at bearings, or one of the end bores has no standing sweep."""
    found = line_moves_of(page.assessment, page.piece)
    if found is None:
        return None
    units = page.units
    rows = [
        SweptRow(
            name=one.name, up=units.signed(one.up_mm), right=units.signed(one.right_mm), sag=units.signed(-one.sag_mm),
            droop=units.signed(-one.droop_mm), true_up=units.signed(one.true_up_mm),
            true_right=units.signed(one.true_right_mm), left=units.planned(one.left_mm),
        )
        for one in found.bores
    ]  # fmt: skip
    doubt = max((one.doubt_mm for one in found.bores), default=0.0)
    ends = (page.bores[0].name, page.bores[-1].name)
    bearings = [(one.number, _rows(page, one.number, one.up_mm, one.right_mm)) for one in found.moves]
    return LineOnTrue(
        rows=rows, bearings=bearings,
        within=found.within, worst=units.planned(found.worst_mm), unseen=", ".join(found.unseen),
        after=f"0 ± {units.planned(doubt)}" if doubt >= _SHOWN_MM else units.planned(0.0),
        slack=", ".join(f"{number}" for number in found.slack),
        datum=" and ".join(ends), scenes=_scenes(found, units, page.record.setup.way.seen_from),
    )  # fmt: skip


def missing_words(page: JobPage) -> str:
    """What must come before the bearings' moves; empty where the axis is not moved at bearings."""
    if not is_moved_at_bearings(page.assessment):
        return ""
    return ", ".join(missing_for_moves(page.assessment, page.piece))


def _rows(page: JobPage, number: int, up_mm: float, right_mm: float) -> list[BearingRow]:
    return [
        _row(page, number, up_mm, ("Up", "Down"), "jack screw"),
        _row(page, number, right_mm, ("Right", "Left"), "side screw"),
    ]


def _row(page: JobPage, number: int, by_mm: float, words: tuple[str, str], screw: str) -> BearingRow:
    pitch = page.at.machine.screw_pitch_mm
    turns = f"{abs(by_mm) / pitch:.2f} turn, {screw}" if pitch else screw
    done = abs(by_mm) < LEAST_MOVE_MM
    return BearingRow(
        number=number, way="leave it" if done else words[0] if by_mm > 0 else words[1],
        amount=page.units.planned(abs(by_mm)), turns="" if done else turns, done=done,
    )  # fmt: skip


def _scenes(found: LineMoves, units: Units, seen_from: str) -> list[tuple[str, Scene]]:
    marks = [
        LineMark(name=one.name, z_mm=one.z_mm, up_mm=one.true_up_mm, right_mm=one.true_right_mm,
                 up=units.signed(one.true_up_mm), right=units.signed(one.true_right_mm))
        for one in found.bores
    ]  # fmt: skip
    moves = [
        LineMove(z_mm=one.z_mm, up_mm=one.up_mm, right_mm=one.right_mm,
                 up=f"{'up' if one.up_mm > 0 else 'down'} {units.planned(abs(one.up_mm))}",
                 right=f"{'right' if one.right_mm > 0 else 'left'} {units.planned(abs(one.right_mm))}",
                 name=f"bearing {one.number}")
        for one in found.moves
    ]  # fmt: skip
    sag = max((low for _, low in found.curve), default=0.0)
    line = LineTrue(
        marks=marks, moves=moves, curve=found.curve, seen_from=f"left and right {seen_from}",
        sag_words=f"the bar hangs {units.planned(sag)} low here" if sag >= LEAST_MOVE_MM else "",
    )  # fmt: skip
    return bands(lambda width: line_true_scene(line, width))

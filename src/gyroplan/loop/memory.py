"""What a replay carries from entry to entry. Frozen: an undo goes back to the memory before."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import Pass
from gyroplan.gauges import SizeTaken
from gyroplan.loop.asked import BoreInWork, Rules
from gyroplan.loop.left import Done
from gyroplan.loop.setting import Way

_NOTHING_DONE = Done()


@dataclass(frozen=True, slots=True, kw_only=True)
class CutMade:
    """The last pass that met metal: what its setting said, and the habit believed then [mm]."""

    kind: str
    #: The diameter of its reading; None for relative ways.
    reads_mm: float | None
    habit_before_mm: float
    #: The pass measured before it came out so much over its reading; None without one.
    earlier_came_mm: float | None
    earlier_kind: str
    touched_since_earlier: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class LastCuts:
    """The cuts since the size before them: what a measured change is compared with [mm]."""

    before_mm: float | None
    before_expanded_mm: float
    #: What the cutter was set to at the last of them that met metal; None where none did.
    set_mm: float | None = None
    touched: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Memory:
    """All that the next entry is judged from [mm]."""

    bore: BoreInWork
    rules: Rules
    way: Way
    tool: str
    passes: tuple[Pass, ...]
    known_mm: float
    known_from: str = "found"
    expanded_mm: float | None = None
    agree: bool | None = None
    verdict: str | None = None
    suspect: str | None = None
    owed: bool = False
    is_set: bool = False
    #: The pass in hand was set as told.
    as_told: bool = True
    #: There is a setting to speak of.
    has_setting: bool = False
    #: The setting that cut last has not been moved since.
    setting_stands: bool = False
    #: Relative ways: moved outward since the last cut that met metal, on diameter.
    moved_mm: float = 0.0
    #: The number under the dial's mark.
    dial: float = 0.0
    #: Absolute ways: the reading set last, and what it came out to once it has cut and was measured.
    reading_mm: float | None = None
    came_out_mm: float | None = None
    setting_has_cut: bool = False
    needs_touch_off: bool = False
    after_touch: bool = False
    cut_after_touch: bool = False
    habit_mm: float = 0.0
    #: The last shortfall was taken for a slip, not for a habit.
    slip_kept_out: bool = False
    done: Done = _NOTHING_DONE
    #: Sizes in a row: one measurement.
    row: tuple[SizeTaken, ...] = ()
    last_cuts: LastCuts | None = None
    made: CutMade | None = None
    #: The last pass that was measured: how much over its reading it came out, and its kind.
    came_over_mm: float | None = None
    measured_kind: str = ""
    touched_since_measured: bool = False

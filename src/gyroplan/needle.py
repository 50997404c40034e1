"""A live needle: whether it stands still, whether it has moved since it was read last, how it stands on its dial."""

from __future__ import annotations

from dataclasses import dataclass

#: A needle is read when it stood still for so long [s] (chosen here: a hand takes a second to leave go).
STILL_S = 0.8
#: The last digit flickers one either way: so many divisions are still.
_STILL_DIVISIONS = 2.0
#: A gauge that sent nothing for so long is silent [s].
SILENT_S = 2.0
#: It has moved when it left the last reading by so many divisions: more than it flickers.
_MOVED_DIVISIONS = 3.0
#: A dial of the common kind has so many divisions a turn; it only turns the hand that is drawn.
DIVISIONS_A_TURN = 100


@dataclass(frozen=True, slots=True, kw_only=True)
class Watched:
    """What came of a gauge in the last `STILL_S`: the newest, the least, the greatest and the mean [mm].

    `newest_age_s` and `oldest_age_s` say how long ago the newest and the oldest of them came; `count` how many.
    """

    newest_mm: float
    least_mm: float
    greatest_mm: float
    mean_mm: float
    count: int
    newest_age_s: float
    oldest_age_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class LiveNeedle:
    """The needle as it stands: what to take of it, where the hand points, whether it is to be taken by itself."""

    value_mm: float
    turn: float
    is_still: bool
    has_moved: bool


def live_needle(watched: Watched, step_mm: float, taken_mm: float | None, *, had_moved: bool = False) -> LiveNeedle:
    """Return how a needle stands; `taken_mm` was read last, and it `had_moved` since when it was looked at before.

    Still: at least three values over three quarters of `STILL_S`, all within a flicker of the last digit; then the mean
    of them is what it reads, else the newest. A needle that never left the last reading is not read by itself: the work
    may not have been turned yet, and true work does not move it. References: chosen here.
    """
    still = (
        watched.count >= 3
        and watched.oldest_age_s >= 0.75 * STILL_S
        and watched.newest_age_s < STILL_S / 2
        and watched.greatest_mm - watched.least_mm <= _STILL_DIVISIONS * step_mm * (1 + 1e-9)
    )
    value = watched.mean_mm if still else watched.newest_mm
    moved = taken_mm is None or had_moved or _left(watched, taken_mm, step_mm)
    return LiveNeedle(
        value_mm=value, turn=value / (step_mm * DIVISIONS_A_TURN), is_still=still, has_moved=moved,
    )  # fmt: skip


def _left(watched: Watched, taken_mm: float, step_mm: float) -> bool:
    far = _MOVED_DIVISIONS * step_mm
    return watched.greatest_mm - taken_mm > far or taken_mm - watched.least_mm > far

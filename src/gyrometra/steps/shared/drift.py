"""A batch that runs away, in words: how much a piece, and how many are left before a limit."""

from __future__ import annotations

from gyrocore import Drift
from gyrometra.bridge.units import Units

#: A drift smaller than this a piece is none: a hundred-thousandth of an inch still shows it (chosen here) [mm].
_LEAST_MM = 2e-4
#: From so many pieces on no limit is in sight.
_FAR = 1000


def drifts(run: Drift) -> bool:
    """Whether there is a drift to speak of."""
    return abs(run.slope_mm_piece) >= _LEAST_MM


def drift_words(run: Drift | None, units: Units) -> str:
    """How much larger or smaller each piece is than the one before."""
    if run is None:
        return "Three pieces are needed before a drift is told."
    if not drifts(run):
        return f"No drift to speak of, scatter {units.doubt(run.sd_mm)}."
    way = "larger" if run.slope_mm_piece > 0 else "smaller"
    size = f"{abs(run.slope_mm_piece) * units.scale:.{4 if units.unit == 'mm' else 5}f}"
    return f"Each piece {size} {way} than the one before, scatter {units.doubt(run.sd_mm)}."


def by_setting_words(by_setting: bool) -> str:
    """That the drift is of what came out over the setting, where the pieces were set to different sizes."""
    return " They were set to different sizes: this is by what each came out over its setting." if by_setting else ""


def left_words(run: Drift) -> str:
    """How many more pieces before a limit."""
    if run.pieces_left >= _FAR:
        return "No limit in sight."
    if run.pieces_left == 0:
        return "The next piece may leave the limits: touch the edge or move the setting first."
    return f"{run.pieces_left} more piece{'s' if run.pieces_left > 1 else ''} before a limit."

"""One taper told twice, on Check: what the wall says, and what to do where sizes say otherwise."""

from __future__ import annotations

from gyrometra.bridge.units import Units
from gyroplan.assess import Checked

_AGAIN = "Read both again: the stylus from the open face in, square to the wall; the gauge at both ends."


def wall_words(judged: Checked, units: Units) -> str:
    """How the bore grows along the wall that was run."""
    told = judged.tapers
    if told is None:
        return ""
    length = f"{units.length(told.over_mm)} {units.label}"
    return f"Run along its wall it {_grows(told.by_run_mm, units)} over {length}, known to ± " \
           f"{units.doubt(told.run_expanded_mm)}."  # fmt: skip


def two_tapers_words(judged: Checked, units: Units) -> str:
    """Two tapers that cannot both be true, with both figures and what most likely went wrong."""
    told = judged.tapers
    if told is None or told.by_sizes_mm is None or not told.contradict:
        return ""
    why = "One is twice the other: was one of them read per side?" if told.is_doubled else _AGAIN
    return (f"By its sizes the bore {_grows(told.by_sizes_mm, units)} over {units.length(told.over_mm)} {units.label}, "
            f"known to ± {units.doubt(told.sizes_expanded_mm)}; run along its wall it "
            f"{_grows(told.by_run_mm, units)}. The two cannot both be true. {why}")  # fmt: skip


def _grows(value_mm: float, units: Units) -> str:
    """On diameter, from the open face inward."""
    size = units.planned(abs(value_mm))
    if not float(size):
        return "shows no taper going in"
    return f"{'grows' if value_mm > 0 else 'narrows'} by {size} on Ø going in"

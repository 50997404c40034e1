"""A bar with guide pads behind its cutter: what they hold once they run in the bore that was just cut."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import cutting_force
from gyroplan.assess.bars import BarInWork
from gyroplan.assess.passes import Passes

#: Pads with more play than this guide nothing, on Ø (chosen here: some four times a bearing's running clearance).
MOST_PLAY_MM = 0.2


@dataclass(frozen=True, slots=True, kw_only=True)
class Pads:
    """The pads on the last pass [mm]: their play on Ø, how deep they are in, deflection on radius without and with."""

    #: tight (larger than the bore), loose (more play than guides), outside (they never enter), holds.
    state: str
    size_mm: float
    play_mm: float
    behind_mm: float
    free_mm: float | None = None
    held_mm: float | None = None

    @property
    def helps(self) -> bool:
        """Whether the bar springs less with them in than without."""
        return self.held_mm is not None and self.free_mm is not None and self.held_mm < self.free_mm


def pads_of(passes: Passes, bar: BarInWork) -> Pads | None:
    """Return what the picked bar's pads do on the last pass; None for a bar without, or held at both ends.

    Notes
    -----
    Pads run in the bore that this very pass has cut, so their play is its size less theirs, and they enter once the
    cutter is as deep as they stand behind it. With them the bar moves freely by half the play and then bends as one
    clamped in its holder and borne at the pads. Until they are in, and by its limits, it is judged without them: the
    first stretch decides where the axis lies, and pads follow it.

    References
    ----------
    Derived here; the bent bar by `gyrocore.bar_response`.
    """
    at, found, out = passes.at, passes.at.bar, bar.out_mm
    if found is None or found.pads_behind_mm is None or found.pads_mm is None or not passes.every:
        return None
    if at.setup.way.bar_in in ("bearings", "centres") or out is None:
        return None
    last = passes.every[-1]
    play, behind = last.diameter_mm - found.pads_mm, found.pads_behind_mm
    held = found.held_by_pads(out)
    state = (
        "tight" if play < 0 else "outside" if behind >= at.bored_mm or held is None
        else "loose" if play > MOST_PLAY_MM else "holds"
    )  # fmt: skip
    pads = Pads(state=state, size_mm=found.pads_mm, play_mm=play, behind_mm=behind)
    stiff = None if held is None else held.stiffness_n_mm
    if state != "holds" or stiff is None or at.cutter is None or bar.stiffness_n_mm is None or not last.depth_mm:
        return pads
    push = abs(cutting_force(at.cut_of(last, at.cutter)).radial_n)
    return Pads(state=state, size_mm=found.pads_mm, play_mm=play, behind_mm=behind, free_mm=push / bar.stiffness_n_mm,
                held_mm=play / 2 + push / stiff)  # fmt: skip

"""One taper told twice: by sizes along the finished bore, and by an indicator run along its wall."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot, sqrt

from gyrocore import Found, agreement
from gyroplan.assess.truing import RoundStanding
from gyroplan.judge import Place


@dataclass(frozen=True, slots=True, kw_only=True)
class TwoTapers:
    """Growth of the bore on diameter from the open face inward, over the stretch that was run [mm]."""

    over_mm: float
    by_run_mm: float
    run_expanded_mm: float
    #: None while sizes stand at one depth only.
    by_sizes_mm: float | None = None
    sizes_expanded_mm: float = 0.0

    @property
    def contradict(self) -> bool:
        """Whether the two differ by more than both are known to."""
        if self.by_sizes_mm is None:
            return False
        sizes = Found(value_mm=self.by_sizes_mm, expanded_mm=self.sizes_expanded_mm)
        return not agreement(first=sizes, second=Found(value_mm=self.by_run_mm, expanded_mm=self.run_expanded_mm)).agree

    @property
    def is_doubled(self) -> bool:
        """Whether one is twice the other within what both are known to: radius was taken for diameter."""
        one, other = self.by_sizes_mm or 0.0, self.by_run_mm
        doubt = 2 * hypot(self.sizes_expanded_mm, self.run_expanded_mm)
        large, small = sorted((one, other), key=abs, reverse=True)
        return abs(small) > doubt / 2 and abs(large - 2 * small) <= doubt


def two_tapers(places: Sequence[Place], walls: RoundStanding | None) -> TwoTapers | None:
    """Return the taper of a finished bore by its wall, and by its sizes beside it; None where no wall tells it.

    Parameters
    ----------
    places : sizes of the bore by depth [mm]
    walls : the standing runs along its wall

    Returns
    -------
    TwoTapers [mm]; the sizes' taper is carried in a straight line over the stretch that was run

    Notes
    -----
    By the wall: twice its slope (on radius) times the stretch, each end read to half a division: U = 2 x 2 x sqrt(2)
    x step / sqrt(12) on diameter. By sizes: the difference of the means at the first and the last depth.

    References
    ----------
    GUM (JCGM 100:2008), 4.3.7 for a half division; core contract, `wall_runs` and `agreement`.
    """
    runs = None if walls is None else walls.runs
    if walls is None or runs is None or runs.wall_slope_mm_m is None:
        return None
    over = max(walls.round.depths_mm) - min(walls.round.depths_mm)
    told = TwoTapers(
        over_mm=over, by_run_mm=2 * runs.wall_slope_mm_m * over / 1000,
        run_expanded_mm=4 * sqrt(2 / 12) * walls.round.indicator_step_mm,
    )  # fmt: skip
    depths = sorted({place.z_mm for place in places})
    if len(depths) < 2:
        return told
    (one, one_u), (other, other_u) = (_mean(places, z) for z in (depths[0], depths[-1]))
    stretch = over / (depths[-1] - depths[0])
    return TwoTapers(
        over_mm=over, by_run_mm=told.by_run_mm, run_expanded_mm=told.run_expanded_mm,
        by_sizes_mm=(other - one) * stretch, sizes_expanded_mm=hypot(one_u, other_u) * stretch,
    )  # fmt: skip


def _mean(places: Sequence[Place], z_mm: float) -> tuple[float, float]:
    at = [place for place in places if place.z_mm == z_mm]
    return sum(one.value_mm for one in at) / len(at), sqrt(sum(one.expanded_mm**2 for one in at)) / len(at)

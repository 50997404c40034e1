"""The pockets of speed between the chatter lobes that a machine can reach."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from gyrocore.checks import TOLERANCE, require_open_between, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.formulas.lobes import lobe_gain
from gyrocore.formulas.stability import EdgeInCut, first_chattering_depth_mm, require_edge
from gyrocore.notes import Note, note

#: A speed is offered where chatter begins this much deeper than at the worst speed (chosen here: less is lost in the
#: spread of damping and frequency).
LEAST_GAIN = 1.2
#: Lobes of a stepless machine looked at, at most; past these no bar of some damping has a pocket of 1.2.
_MOST_LOBES = 200


@dataclass(frozen=True, slots=True, kw_only=True)
class Pocket:
    """A speed in a pocket: its lobe, the pocket's middle, and where chatter begins at that speed [rpm, mm]."""

    lobe: int
    middle_rpm: float
    speed_rpm: float
    #: Speed over the pocket's middle, less 1.
    beside_share: float
    #: None where no depth up to ten times the cut chatters there.
    limit_depth_mm: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Pockets:
    """Speeds of the machine that lie in a pocket, fastest first, and where chatter begins at the worst speed."""

    pockets: tuple[Pocket, ...]
    least_limit_mm: float | None
    notes: tuple[Note, ...] = ()


def speeds_in_pockets(
    *,
    stiffness_n_mm: float,
    damping_ratio: float,
    natural_frequency_hz: float,
    depth_mm: float,
    edge: EdgeInCut,
    spindle_speeds_rpm: Sequence[float],
    stepless: bool = False,
) -> Pockets:
    """Find the machine's speeds at which chatter begins at least 1.2 times as deep as at the worst speed.

    Parameters
    ----------
    stiffness_n_mm : at the cutter, radially, over 0 [N/mm]
    damping_ratio : over 0, under 1
    natural_frequency_hz : of the bar at its cutter, over 0 [Hz]
    depth_mm : radial depth of the cut, over 0 [mm]
    edge : the edge in its cut
    spindle_speeds_rpm : the machine's own, each over 0 [rpm]
    stepless : whether any speed between the slowest and the fastest can be had

    Returns
    -------
    Pockets: one a speed, the nearest lobe [rpm], each with its limit of depth [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    The limit at a speed is the least depth whose load reaches 2 k z (1 + z) times `lobe_gain` of that speed. Middles
    lie at 60 fn / j. Nothing is offered where no speed chatters within ten times the cut.

    References
    ----------
    `lobe_gain`; `first_chattering_depth_mm`; the share 1.2 is chosen here.

    Examples
    --------
    >>> edge = EdgeInCut(kc_mpa=1000, nose_radius_mm=0)
    >>> found = speeds_in_pockets(stiffness_n_mm=2500, damping_ratio=0.03, natural_frequency_hz=60, depth_mm=2,
    ...     edge=edge, spindle_speeds_rpm=[150, 210, 450, 900])
    >>> [(pocket.lobe, pocket.speed_rpm, round(pocket.limit_depth_mm, 2)) for pocket in found.pockets]
    [(4, 900, 4.01), (8, 450, 2.34)]
    """
    require_positive(stiffness_n_mm=stiffness_n_mm, natural_frequency_hz=natural_frequency_hz, depth_mm=depth_mm)
    require_open_between(0, 1, damping_ratio=damping_ratio)
    require_positive(kc_mpa=edge.kc_mpa)
    require_edge(edge)
    if not spindle_speeds_rpm:
        raise InvalidInput("spindle_speeds_rpm", "empty")
    require_positive(**{f"spindle_speeds_rpm.{place}": speed for place, speed in enumerate(spindle_speeds_rpm)})
    least_load = 2 * stiffness_n_mm * damping_ratio * (1 + damping_ratio)
    least = _limit(10 * depth_mm, edge, least_load)
    if least is None:
        return Pockets(pockets=(), least_limit_mm=None, notes=(note("no_chatter_to", deepest_mm=10 * depth_mm),))
    found = []
    for speed in _offered(natural_frequency_hz, spindle_speeds_rpm, stepless):
        gain = lobe_gain(speed_rpm=speed, natural_frequency_hz=natural_frequency_hz, damping_ratio=damping_ratio)
        limit = _limit(10 * depth_mm, edge, gain * least_load)
        if limit is None or limit >= LEAST_GAIN * least - TOLERANCE:
            lobe = max(1, round(60 * natural_frequency_hz / speed))
            middle = 60 * natural_frequency_hz / lobe
            found.append(
                Pocket(lobe=lobe, middle_rpm=middle, speed_rpm=speed, beside_share=speed / middle - 1,
                       limit_depth_mm=limit)
            )  # fmt: skip
        elif stepless:
            break
    found.sort(key=lambda pocket: -pocket.speed_rpm)
    code = "pockets_found" if found else "no_pocket"
    return Pockets(pockets=tuple(found), least_limit_mm=least, notes=(note(code, count=len(found)),))


def _offered(frequency_hz: float, speeds: Sequence[float], stepless: bool) -> list[float]:
    """The speeds to look at: the listed ones; of a stepless drive the middles of the pockets, widest first."""
    if not stepless:
        return list(speeds)
    middles = (60 * frequency_hz / lobe for lobe in range(1, _MOST_LOBES + 1))
    return [middle for middle in middles if min(speeds) <= middle <= max(speeds)]


@lru_cache(maxsize=1024)  # the plan is worked out again at every change, mostly with the same edge
def _limit(deepest_mm: float, edge: EdgeInCut, load_n_mm: float) -> float | None:
    return first_chattering_depth_mm(deepest_mm, edge, load_n_mm)

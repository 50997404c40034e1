"""The pockets of speed between the chatter lobes that a machine can reach."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore.checks import require_positive
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

#: The speed may lie so far beside a pocket's middle (chosen here: pockets of low number are that wide, roughly).
NEAR_SHARE = 0.05
#: Past this lobe the pockets lie closer than they are wide, and speed no longer helps (chosen here, as 1 / (2 x 0.05)).
LAST_LOBE = 10


@dataclass(frozen=True, slots=True, kw_only=True)
class Pocket:
    """A listed speed that lies in a pocket: which lobe, the pocket's middle, and how far beside it."""

    lobe: int
    middle_rpm: float
    speed_rpm: float
    beside_share: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Pockets:
    """Speeds of the machine that lie in a pocket, fastest first."""

    pockets: tuple[Pocket, ...]
    notes: tuple[Note, ...] = ()


def speeds_in_pockets(
    *, natural_frequency_hz: float, spindle_speeds_rpm: Sequence[float], stepless: bool = False
) -> Pockets:
    """Find the machine's speeds that lie between chatter lobes.

    Parameters
    ----------
    natural_frequency_hz : of the bar at its cutter, over 0 [Hz]
    spindle_speeds_rpm : the machine's own, each over 0 [rpm]
    stepless : whether any speed between the slowest and the fastest can be had

    Returns
    -------
    Pockets: one a speed, the nearest lobe [rpm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Middles lie at 60 fn / j. A speed counts within 5 % of one, up to the tenth lobe: from there on
    neighbouring pockets lie closer than that and every speed would count. The chatter limit itself is
    the one below all pockets, so a speed in a pocket has depth in hand; how much is left out.

    References
    ----------
    Lobes of regenerative chatter (one mode), as in the core contract, `stability`; widths chosen here.

    Examples
    --------
    >>> found = speeds_in_pockets(natural_frequency_hz=60, spindle_speeds_rpm=[150, 210, 450, 900])
    >>> [(pocket.lobe, pocket.speed_rpm) for pocket in found.pockets]
    [(4, 900), (8, 450)]
    """
    require_positive(natural_frequency_hz=natural_frequency_hz)
    if not spindle_speeds_rpm:
        raise InvalidInput("spindle_speeds_rpm", "empty")
    require_positive(**{f"spindle_speeds_rpm.{place}": speed for place, speed in enumerate(spindle_speeds_rpm)})
    found = []
    offered = list(spindle_speeds_rpm)
    if stepless:
        middles = [60 * natural_frequency_hz / lobe for lobe in range(1, LAST_LOBE + 1)]
        offered = [middle for middle in middles if min(spindle_speeds_rpm) <= middle <= max(spindle_speeds_rpm)]
    for speed in offered:
        lobe = max(1, round(60 * natural_frequency_hz / speed))
        middle = 60 * natural_frequency_hz / lobe
        beside = speed / middle - 1
        if lobe <= LAST_LOBE and abs(beside) <= NEAR_SHARE:
            found.append(Pocket(lobe=lobe, middle_rpm=middle, speed_rpm=speed, beside_share=beside))
    found.sort(key=lambda pocket: -pocket.speed_rpm)
    fastest = max(spindle_speeds_rpm)
    least = 60 * natural_frequency_hz / LAST_LOBE
    code = "pockets_found" if found else "pockets_too_close" if fastest < least else "no_pocket_near"
    return Pockets(pockets=tuple(found), notes=(note(code, count=len(found), from_rpm=least * (1 - NEAR_SHARE)),))

"""Which spindle speed: from the wanted surface speed to one that this machine has."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import pi

from gyrocore.checks import TOLERANCE, require_not_negative, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

_FEET_PER_METRE = 1 / 0.3048
_MM_PER_INCH = 25.4


@dataclass(frozen=True, slots=True, kw_only=True)
class Speed:
    """The exact speed, the one to set, and what the shop's four-times rule says [rpm]."""

    exact_rpm: float
    set_rpm: float
    surface_speed_at_set_m_min: float
    rule_of_thumb_rpm: float
    notes: tuple[Note, ...] = ()


def spindle_speed(
    *,
    diameter_mm: float,
    surface_speed_m_min: float,
    spindle_speeds_rpm: Sequence[float] | None = None,
    max_rpm: float | None = None,
    over_percent: float = 0.0,
) -> Speed:
    """Return the spindle speed for a surface speed, brought to one the machine has.

    Parameters
    ----------
    diameter_mm : cutting diameter, over 0 [mm]
    surface_speed_m_min : wanted, over 0 [m/min]
    spindle_speeds_rpm : the machine's speeds, None for any speed [rpm]
    max_rpm : never to be exceeded [rpm]
    over_percent : by how much a listed speed may pass the exact one

    Returns
    -------
    Speed [rpm], [m/min]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds; at `max_rpm` where every listed speed is over it.

    Notes
    -----
    n = 1000 v / (pi D). Rule of thumb: 4 x (surface feet a minute) / (inches), near 12/pi = 3.82.

    References
    ----------
    Derived here: circumference times turns. The four-times rule is shop practice.

    Examples
    --------
    >>> spindle_speed(diameter_mm=69.34, surface_speed_m_min=70).exact_rpm.__round__(1)
    321.3
    """
    require_positive(diameter_mm=diameter_mm, surface_speed_m_min=surface_speed_m_min)
    _require_speeds(spindle_speeds_rpm)
    require_positive(max_rpm=max_rpm)
    require_not_negative(over_percent=over_percent)
    exact = 1000 * surface_speed_m_min / (pi * diameter_mm)
    set_rpm, notes = _choose(exact, spindle_speeds_rpm, max_rpm, over_percent)
    return Speed(
        exact_rpm=exact,
        set_rpm=set_rpm,
        surface_speed_at_set_m_min=pi * diameter_mm * set_rpm / 1000,
        rule_of_thumb_rpm=4 * surface_speed_m_min * _FEET_PER_METRE / (diameter_mm / _MM_PER_INCH),
        notes=notes,
    )


def _require_speeds(speeds: Sequence[float] | None) -> None:
    if speeds is None:
        return
    if not speeds:
        raise InvalidInput("spindle_speeds_rpm", "empty")
    for place, speed in enumerate(speeds):
        require_positive(**{f"spindle_speeds_rpm.{place}": speed})


def _choose(
    exact: float, speeds: Sequence[float] | None, max_rpm: float | None, over_percent: float
) -> tuple[float, tuple[Note, ...]]:
    cap = float("inf") if max_rpm is None else max_rpm
    if speeds is None:
        if exact > cap:
            return cap, (note("cap_governs", cap_rpm=cap, exact_rpm=exact),)
        return exact, (note("surface_speed_governs", exact_rpm=exact),)
    if min(speeds) > cap + TOLERANCE:
        raise InvalidInput("max_rpm", "all_speeds_over_cap", given=cap, allowed=min(speeds))
    allowed = exact * (1 + over_percent / 100)
    holds = [n for n in speeds if n <= allowed + TOLERANCE and n <= cap + TOLERANCE]
    if not holds:
        return min(speeds), (note("slowest_is_over", set_rpm=min(speeds), exact_rpm=exact),)
    chosen = max(holds)
    if chosen > exact + TOLERANCE:
        return chosen, (note("set_over_exact", percent=100 * (chosen / exact - 1), exact_rpm=exact),)
    if any(chosen + TOLERANCE < n <= allowed + TOLERANCE for n in speeds):
        return chosen, (note("cap_governs", cap_rpm=cap, exact_rpm=exact),)
    return chosen, (note("machine_speed_governs", set_rpm=chosen, exact_rpm=exact),)


#: Share of the wanted surface speed for a cut that is interrupted (keyway, port, cross hole): the edge is
#: struck at every turn (chosen here, shop practice; a plan's own speed overrides it).
INTERRUPTED_SHARE = 0.75


def eased_speed_m_min(*, surface_speed_m_min: float, interrupted: bool) -> float:
    """Return the surface speed to plan with where the cut may be interrupted.

    Parameters
    ----------
    surface_speed_m_min : for an unbroken wall, over 0 [m/min]
    interrupted : whether a keyway, a port or a cross hole breaks the wall

    Returns
    -------
    surface speed [m/min]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    References
    ----------
    Shop practice, editable: three quarters for an interrupted cut.

    Examples
    --------
    >>> eased_speed_m_min(surface_speed_m_min=80, interrupted=True)
    60.0
    """
    require_positive(surface_speed_m_min=surface_speed_m_min)
    return surface_speed_m_min * INTERRUPTED_SHARE if interrupted else surface_speed_m_min


def surface_speed_m_min(diameter_mm: float, rpm: float) -> float:
    """Return the surface speed at a diameter: what a speed that cut well carries over to another.

    Parameters
    ----------
    diameter_mm : over 0 [mm]
    rpm : over 0 [rpm]

    Returns
    -------
    surface speed [m/min]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    References
    ----------
    v = pi D n / 1000.

    Examples
    --------
    >>> round(surface_speed_m_min(72, 280), 2)
    63.33
    """
    require_positive(diameter_mm=diameter_mm, rpm=rpm)
    return pi * diameter_mm * rpm / 1000

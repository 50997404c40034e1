"""Whether the machine has the power and the torque for a cut, and how deep it could go."""

from __future__ import annotations

from dataclasses import dataclass, replace

from scipy.optimize import brentq

from gyrocore.checks import TOLERANCE, require_positive, require_whole
from gyrocore.errors import InvalidInput
from gyrocore.formulas.cutting_force import Cut, cutting_force
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class Drive:
    """What a machine gives at its spindle: power [W], and torque where that is known [N m]."""

    power_w: float
    torque_nm: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class PowerCheck:
    """Power and torque of a cut, the share of the machine's that governs, and the deepest cut it can drive."""

    power_w: float
    torque_nm: float
    share: float
    governs: str
    holds: bool
    deepest_mm: float
    notes: tuple[Note, ...] = ()


def power_check(*, cut: Cut, drive: Drive, bits: int = 1) -> PowerCheck:
    """Hold a cut's power and torque against the machine's.

    Parameters
    ----------
    cut : with its surface speed [m/min] and its diameter [mm]
    drive : power at the spindle [W], torque [N m], each over 0
    bits : that cut at once, each the same, 1 or more

    Returns
    -------
    PowerCheck [W], [N m], depth [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds or missing.

    Notes
    -----
    P = n Fc v / 60 and M = n Fc D / 2000 for n bits, with Fc by Kienzle. Power is taken at the spindle: losses of the
    gearing are left out, which flatters, and so is a worn edge. The deepest cut is found where the
    nearer of the two is used up, at this feed and speed; Fc grows with depth, so there is one.

    References
    ----------
    Power and torque from force, speed and radius; Kienzle as in `cutting_force`.

    Examples
    --------
    >>> cut = Cut(kc11_mpa=1100, mc=0.25, depth_mm=2, feed_mm_rev=0.2, surface_speed_m_min=70, diameter_mm=72)
    >>> found = power_check(cut=cut, drive=Drive(power_w=3000))
    >>> round(found.power_w), round(found.torque_nm, 1), found.holds
    (771, 23.8, True)
    """
    require_positive(power_w=drive.power_w, torque_nm=drive.torque_nm)
    if cut.surface_speed_m_min is None or cut.diameter_mm is None:
        raise InvalidInput("surface_speed_m_min" if cut.surface_speed_m_min is None else "diameter_mm", "missing")
    require_whole(1, bits=bits)
    # each bit has its share of the drive
    share = Drive(power_w=drive.power_w / bits, torque_nm=None if drive.torque_nm is None else drive.torque_nm / bits)
    used, governs = _used(cut, share)
    force = cutting_force(cut)
    holds = used <= 1 + TOLERANCE
    code = "drive_holds" if holds else "drive_too_weak"
    return PowerCheck(
        power_w=bits * (force.power_w or 0.0),
        torque_nm=bits * (force.torque_nm or 0.0),
        share=used,
        governs=governs,
        holds=holds,
        deepest_mm=_deepest(cut, share),
        notes=(note(code, governs=governs, percent=round(100 * used, 1)), note("power_at_spindle")),
    )


def _used(cut: Cut, drive: Drive) -> tuple[float, str]:
    force = cutting_force(cut)
    power = (force.power_w or 0.0) / drive.power_w
    torque = 0.0 if drive.torque_nm is None else (force.torque_nm or 0.0) / drive.torque_nm
    return (torque, "torque") if torque > power else (power, "power")


def _deepest(cut: Cut, drive: Drive) -> float:
    """The depth that uses up the drive; Fc rises with depth, so it lies between two that bracket it."""

    def over(depth_mm: float) -> float:
        return _used(replace(cut, depth_mm=depth_mm), drive)[0] - 1

    low, high = cut.depth_mm, cut.depth_mm
    while over(low) > 0:
        low /= 2
    while over(high) < 0:
        high *= 2
    return float(brentq(over, low, high)) if low < high else low

"""Size of a warm part."""

from __future__ import annotations

from dataclasses import dataclass
from math import log

from gyrocore.checks import require_finite, require_not_negative, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

#: Standard reference temperature for sizes [C].
REFERENCE_C = 20.0
ABSOLUTE_ZERO_C = -273.15


@dataclass(frozen=True, slots=True, kw_only=True)
class ThermalSize:
    """The size at that temperature, and what it grew by [mm]."""

    size_at_c_mm: float
    change_mm: float
    notes: tuple[Note, ...] = ()


def thermal_size(*, diameter_mm: float, expansion_um_m_k: float, at_c: float) -> ThermalSize:
    """Return what a diameter at 20 C measures when it is warm or cold.

    Parameters
    ----------
    diameter_mm : at 20 C, over 0 [mm]
    expansion_um_m_k : linear expansion, 0 or more [um/(m K)]
    at_c : over -273.15 [C]

    Returns
    -------
    ThermalSize [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    D (1 + a (T - 20)). One coefficient over the whole span: good to some hundred degrees.

    References
    ----------
    Linear expansion; sizes hold at 20 C by ISO 1.

    Examples
    --------
    >>> thermal_size(diameter_mm=100, expansion_um_m_k=10.5, at_c=35).change_mm.__round__(5)
    0.01575
    """
    require_positive(diameter_mm=diameter_mm)
    require_not_negative(expansion_um_m_k=expansion_um_m_k)
    require_finite(at_c=at_c)
    if at_c <= ABSOLUTE_ZERO_C:
        raise InvalidInput("at_c", "not_over", given=at_c, allowed=ABSOLUTE_ZERO_C)
    change = diameter_mm * expansion_um_m_k * 1e-6 * (at_c - REFERENCE_C)
    return ThermalSize(size_at_c_mm=diameter_mm + change, change_mm=change, notes=(note("from_20", change_mm=change),))


#: Heat that a cubic metre of metal gives off for a degree [J/(m3 K)]: iron and steel, and what is near them.
_HEAT_J_M3_K = 3.6e6
#: Heat that still air takes from a surface, with what it radiates [W/(m2 K)].
_AIR_W_M2_K = 10.0


def cooling_minutes(*, part_c: float, shop_c: float, within_c: float, wall_mm: float) -> float:
    """Return about how long a part stands until it is as warm as the shop.

    Parameters
    ----------
    part_c, shop_c : temperatures now [C]
    within_c : how near it is to come, over 0 [C]
    wall_mm : thickness of its wall, over 0 [mm]

    Returns
    -------
    minutes, 0 where it is as near already

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Newton's cooling with one temperature all through: t = tau ln(dT/within), tau = rho c (wall/2) / h, both sides of
    the wall in still air. On a cold plate, in a draught or wiped it is sooner; a solid hub is later. An estimate: the
    thermometer decides.

    References
    ----------
    Newton's law of cooling, lumped capacity (any textbook of heat transfer); h of still air with radiation about 10,
    the heat of iron 3.6 MJ/(m3 K): rounded handbook values.

    Examples
    --------
    >>> round(cooling_minutes(part_c=35, shop_c=20, within_c=1, wall_mm=20))
    162
    """
    require_finite(part_c=part_c, shop_c=shop_c)
    require_positive(within_c=within_c, wall_mm=wall_mm)
    apart = abs(part_c - shop_c)
    if apart <= within_c:
        return 0.0
    tau_s = _HEAT_J_M3_K * wall_mm / 2000 / _AIR_W_M2_K
    return tau_s * log(apart / within_c) / 60

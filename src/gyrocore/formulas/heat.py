"""Size of a warm part."""

from __future__ import annotations

from dataclasses import dataclass

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

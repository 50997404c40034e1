"""Slips that are caught and named; nothing is changed by itself."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore.checks import TOLERANCE, require_finite, require_not_negative, require_positive

#: A change this near to twice or half the commanded one is suspect (issue of the first slice:
#: the larger of 0.02 mm and three times the scatter of one cut).
_LEAST_BAND_MM = 0.02
_SCATTERS = 3.0
_MM_PER_INCH = 25.4


@dataclass(frozen=True, slots=True, kw_only=True)
class Slip:
    """What is suspected, and the value that would mend it [mm]."""

    kind: str
    likely_mm: float


def radius_diameter_slip(*, commanded_mm: float, came_mm: float, scatter_mm: float = 0.0) -> Slip | None:
    """Name a change of size that came out twice or half of what was commanded.

    Parameters
    ----------
    commanded_mm, came_mm : wanted and measured change of the bore, on diameter [mm]
    scatter_mm : scatter of one cut, 0 or more [mm]

    Returns
    -------
    Slip with the change the dial would have meant [mm], or None

    Raises
    ------
    InvalidInput
        Where a value is not finite.

    Notes
    -----
    Within max(0.02 mm, 3 x scatter) of twice or of half the commanded change. A change that is
    as near to the commanded one itself is no slip.

    References
    ----------
    Chosen here; a dial taken for radius that reads diameter gives a factor of exactly two.

    Examples
    --------
    >>> radius_diameter_slip(commanded_mm=0.94, came_mm=1.88).kind
    'twice'
    """
    require_finite(commanded_mm=commanded_mm, came_mm=came_mm)
    require_not_negative(scatter_mm=scatter_mm)
    band = max(_LEAST_BAND_MM, _SCATTERS * scatter_mm) + TOLERANCE
    off = abs(came_mm - commanded_mm)
    for kind, factor in (("twice", 2.0), ("half", 0.5)):
        suspect = factor * commanded_mm
        if abs(came_mm - suspect) <= band and abs(came_mm - suspect) < off:
            return Slip(kind=kind, likely_mm=suspect)
    return None


def unit_slip(*, value_mm: float, expected_mm: float, band: float = 0.2) -> Slip | None:
    """Name a size that is 25.4 times off what is expected.

    Parameters
    ----------
    value_mm : as read [mm]
    expected_mm : about what it should be, over 0 [mm]
    band : relative distance from exactly 25.4 that still counts, over 0

    Returns
    -------
    Slip with the likely size [mm], or None

    Raises
    ------
    InvalidInput
        Where a value is not finite.

    References
    ----------
    One inch is 25.4 mm exactly.

    Examples
    --------
    >>> unit_slip(value_mm=2.8346, expected_mm=72).kind
    'inch_as_mm'
    """
    require_finite(value_mm=value_mm, expected_mm=expected_mm)
    require_positive(band=band)
    for kind, likely in (
        ("inch_as_mm", value_mm * _MM_PER_INCH),
        ("mm_as_inch", value_mm / _MM_PER_INCH),
    ):
        if abs(likely - expected_mm) <= band * abs(expected_mm):
            return Slip(kind=kind, likely_mm=likely)
    return None

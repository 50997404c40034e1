"""Bending of a bar held at one end, or overhung from two bearings."""

from __future__ import annotations

from math import pi

from gyrocore.checks import require_between, require_not_negative, require_positive
from gyrocore.errors import InvalidInput

#: Any bar's lengths lie between these, and no power of them overflows [mm].
_LENGTHS_MM = (1e-6, 1e9)


def second_moment_mm4(diameter_mm: float, inner_diameter_mm: float = 0.0) -> float:
    """Return the second moment of area of a round bar.

    Parameters
    ----------
    diameter_mm : over 0 [mm]
    inner_diameter_mm : 0 or more, under the diameter [mm]

    Returns
    -------
    I [mm^4]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    References
    ----------
    I = pi (D^4 - d^4) / 64, Euler-Bernoulli beam theory.

    Examples
    --------
    >>> round(second_moment_mm4(40))
    125664
    """
    require_positive(diameter_mm=diameter_mm)
    require_between(*_LENGTHS_MM, diameter_mm=diameter_mm)
    require_not_negative(inner_diameter_mm=inner_diameter_mm)
    if inner_diameter_mm >= diameter_mm:
        raise InvalidInput("inner_diameter_mm", "not_under", given=inner_diameter_mm, allowed=diameter_mm)
    return pi * (diameter_mm**4 - inner_diameter_mm**4) / 64


def middle_stiffness_n_mm(bending_n_mm2: float, span_mm: float) -> float:
    """Return the stiffness in the middle of a bar that is held at both ends and free to turn there.

    Parameters
    ----------
    bending_n_mm2 : bending stiffness E I, over 0 [N mm^2]
    span_mm : between its ends, over 0 [mm]

    Returns
    -------
    stiffness [N/mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    References
    ----------
    k = 48 E I / L^3, Euler-Bernoulli beam theory (simply supported, load at the middle).

    Examples
    --------
    >>> round(middle_stiffness_n_mm(205_000 * second_moment_mm4(38), 560))
    5735
    """
    require_positive(bending_n_mm2=bending_n_mm2, span_mm=span_mm)
    require_between(*_LENGTHS_MM, span_mm=span_mm)
    return 48 * bending_n_mm2 / span_mm**3


def tip_stiffness_n_mm(bending_n_mm2: float, overhang_mm: float, bearing_spacing_mm: float | None = None) -> float:
    """Return the radial stiffness at the end of an overhung bar.

    Parameters
    ----------
    bending_n_mm2 : E I, over 0 [N mm^2]
    overhang_mm : over 0 [mm]
    bearing_spacing_mm : distance of the two bearings behind it, None for a clamped end [mm]

    Returns
    -------
    stiffness [N/mm]

    Raises
    ------
    InvalidInput
        At the field that is not over 0.

    Notes
    -----
    Clamped: 3 E I / L^3. Beyond two bearings S apart: 3 E I / (L^2 (L + S)). The holder's and the
    bearings' own give is left out, so the true bar is softer.

    References
    ----------
    Euler-Bernoulli beam theory, cantilever and overhanging beam under an end load.

    Examples
    --------
    >>> round(tip_stiffness_n_mm(205000 * second_moment_mm4(40), 165))
    17204
    """
    require_positive(bending_n_mm2=bending_n_mm2, overhang_mm=overhang_mm, bearing_spacing_mm=bearing_spacing_mm)
    spacing = bearing_spacing_mm or 0.0
    return 3 * bending_n_mm2 / (overhang_mm**2 * (overhang_mm + spacing))


def overhang_for_stiffness_mm(
    bending_n_mm2: float, stiffness_n_mm: float, bearing_spacing_mm: float | None = None
) -> float:
    """Return the overhang at which the tip has a given stiffness.

    Parameters
    ----------
    bending_n_mm2 : E I, over 0 [N mm^2]
    stiffness_n_mm : over 0 [N/mm]
    bearing_spacing_mm : None for a clamped end [mm]

    Returns
    -------
    overhang [mm]

    Raises
    ------
    InvalidInput
        At the field that is not over 0.

    Notes
    -----
    The inverse of `tip_stiffness_n_mm`. L^2 (L + S) grows with L, so one Newton run from above
    (L^3 = the right side) comes down on the only root.

    References
    ----------
    As `tip_stiffness_n_mm`.

    Examples
    --------
    >>> round(overhang_for_stiffness_mm(205000 * second_moment_mm4(40), 17204), 1)
    165.0
    """
    require_positive(bending_n_mm2=bending_n_mm2, stiffness_n_mm=stiffness_n_mm)
    require_positive(bearing_spacing_mm=bearing_spacing_mm)
    reach_cubed = 3 * bending_n_mm2 / stiffness_n_mm
    overhang = float(reach_cubed ** (1 / 3))
    spacing = bearing_spacing_mm or 0.0
    for _ in range(200):
        excess = overhang**2 * (overhang + spacing) - reach_cubed
        step = excess / (3 * overhang**2 + 2 * overhang * spacing)
        overhang -= step
        if abs(step) <= 1e-14 * overhang:
            break
    return overhang

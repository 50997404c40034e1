"""What the nose radius and the feed leave on the wall."""

from __future__ import annotations

from math import sqrt

from gyrocore.checks import require_positive


def theoretical_ra_um(nose_radius_mm: float, feed_mm_rev: float) -> float:
    """Return the mean roughness Ra of a turned surface, from geometry alone.

    Parameters
    ----------
    nose_radius_mm : over 0 [mm]
    feed_mm_rev : over 0 [mm/rev]

    Returns
    -------
    Ra [um]

    Raises
    ------
    InvalidInput
        At the field that is not over 0.

    Notes
    -----
    Ra = f^2 / (18 sqrt(3) r), while the feed stays on the nose arc (f <= 2 r). Vibration,
    built-up edge and tearing are left out, so the true roughness is larger.

    References
    ----------
    Derived here: mean distance of a parabola of height f^2/(8 r) from its mean line.

    Examples
    --------
    >>> round(theoretical_ra_um(0.4, 0.2), 3)
    3.208
    """
    require_positive(nose_radius_mm=nose_radius_mm, feed_mm_rev=feed_mm_rev)
    return 1000 * feed_mm_rev**2 / (18 * sqrt(3) * nose_radius_mm)


def theoretical_rt_um(nose_radius_mm: float, feed_mm_rev: float) -> float:
    """Return the peak-to-valley height Rt of a turned surface, from geometry alone.

    Parameters
    ----------
    nose_radius_mm : over 0 [mm]
    feed_mm_rev : over 0 [mm/rev]

    Returns
    -------
    Rt [um]

    Raises
    ------
    InvalidInput
        At the field that is not over 0.

    Notes
    -----
    Rt = f^2 / (8 r): the sagitta of the nose arc over one feed, to second order.

    References
    ----------
    Derived here: sagitta of a chord of length f in a circle of radius r.

    Examples
    --------
    >>> round(theoretical_rt_um(0.4, 0.2), 2)
    12.5
    """
    require_positive(nose_radius_mm=nose_radius_mm, feed_mm_rev=feed_mm_rev)
    return 1000 * feed_mm_rev**2 / (8 * nose_radius_mm)


def feed_for_ra_mm_rev(nose_radius_mm: float, ra_um: float) -> float:
    """Return the feed that leaves a wanted mean roughness.

    Parameters
    ----------
    nose_radius_mm : over 0 [mm]
    ra_um : over 0 [um]

    Returns
    -------
    feed [mm/rev]

    Raises
    ------
    InvalidInput
        At the field that is not over 0.

    References
    ----------
    The inverse of `theoretical_ra_um`.

    Examples
    --------
    >>> round(feed_for_ra_mm_rev(0.4, 3.2), 4)
    0.1998
    """
    require_positive(nose_radius_mm=nose_radius_mm, ra_um=ra_um)
    return sqrt(18 * sqrt(3) * nose_radius_mm * ra_um / 1000)

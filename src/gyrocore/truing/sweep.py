"""Sweeping a round surface: off centre told apart from out of round by least squares."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import atan2, cos, degrees, hypot, radians, sin, sqrt

import numpy as np
from numpy.typing import NDArray

from gyrocore.checks import TOLERANCE, require_finite, require_positive, require_whole
from gyrocore.choices import SurfaceName
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note
from gyrocore.truing.jaws import JawMove, jaw_moves

Array = NDArray[np.float64]
#: Angles closer than this are one place (core contract, `sweep`).
_SAME_PLACE_DEG = 0.5
#: Arcs up to this cannot tell a shift from a shape.
_LEAST_ARC_DEG = 60.0
_GAP_DEG = 120.0
#: Steps in which the fitted curve is looked at for its highest and lowest place.
_SWING_STEP_DEG = 0.05
#: Uncertainty of the centre, as a multiple of a reading's, past which an order is dropped.
_MOST_AMPLIFICATION = 4.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Harmonic:
    """One order of shape: two is an oval, three is three lobes."""

    order: int
    amplitude_mm: float
    angle_deg: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Sweep:
    """What the readings say: run-out, off centre, shape, the moves and what will be left."""

    points: int
    total_reading_mm: float
    eccentricity_mm: float
    offset_x_mm: float
    offset_y_mm: float
    offset_angle_deg: float
    form: tuple[Harmonic, ...]
    residual_sd_mm: float | None
    eccentricity_sd_mm: float | None
    expected_total_after_mm: float
    moves: tuple[JawMove, ...]
    within: bool | None
    notes: tuple[Note, ...] = ()


@dataclass(frozen=True, slots=True)
class _Fit:
    order: int
    coefficients: Array
    covariance: Array
    residuals: Array
    lowered: bool

    def residual_sd(self) -> float | None:
        free = len(self.residuals) - len(self.coefficients)
        return sqrt(float(self.residuals @ self.residuals) / free) if free > 0 else None

    def centre_sd(self) -> float | None:
        """Residual scatter carried through the fit along the offset."""
        spread = self.residual_sd()
        if spread is None:
            return None
        a, b = float(self.coefficients[1]), float(self.coefficients[2])
        block, size = self.covariance[1:3, 1:3], hypot(a, b)
        if size <= TOLERANCE:
            return spread * sqrt(float(np.linalg.eigvalsh(block)[-1]))
        along = np.array([a, b]) / size
        return spread * sqrt(max(0.0, float(along @ block @ along)))


def sweep(
    *,
    angles_deg: Sequence[float],
    readings_mm: Sequence[float],
    surface: SurfaceName,
    jaws_deg: Mapping[str, float] | None = None,
    orders: int = 3,
    acceptance_mm: float | None = None,
    diameter_mm: float | None = None,
) -> Sweep:
    """Return where a swept round surface lies, what shape it has, and which jaws to move.

    Parameters
    ----------
    angles_deg : places on the work under the stylus, three or more, over 60 degrees [deg]
    readings_mm : one for each place, positive is plunger pushed in [mm]
    surface : `outside` or `inside`
    jaws_deg : name and angle of two opposite pairs of jaws [deg]
    orders : highest order of shape looked for, 1 or more
    acceptance_mm : greatest total reading that will do, over 0 [mm]
    diameter_mm : of the surface, to take off the false oval of a round surface off centre [mm]

    Returns
    -------
    Sweep [mm], [deg]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Least squares of c + A cos + B sin + harmonics 2..n. The work lies off the axis by +(A, B) for
    an outside surface and by -(A, B) for an inside one. A round surface of diameter D that lies e
    off centre reads e^2/(2 D) of oval that is not there.

    References
    ----------
    Ordinary least squares; the false oval is the second-order term of the distance from an
    eccentric circle, derived here: sqrt(R^2 - e^2 sin^2) = R - e^2/(4 R) (1 - cos 2t).

    Examples
    --------
    >>> result = sweep(angles_deg=[0, 90, 180, 270], readings_mm=[0.03, 0, -0.03, 0],
    ...                surface="outside")
    >>> round(result.eccentricity_mm, 6)
    0.03
    """
    _require(angles_deg, readings_mm, surface, orders, acceptance_mm, diameter_mm)
    angles = np.radians(np.asarray(angles_deg, dtype=np.float64))
    readings = np.asarray(readings_mm, dtype=np.float64)
    fit = _fit(angles, readings, orders, _places(angles_deg))
    sign = 1.0 if surface == "outside" else -1.0
    offset = (sign * float(fit.coefficients[1]), sign * float(fit.coefficients[2]))
    off_centre = hypot(*offset)
    false_oval = 0.0 if diameter_mm is None else sign * off_centre**2 / (2 * diameter_mm)
    left = _left_after(angles, readings, fit, false_oval)
    moves = jaw_moves(offset, jaws_deg)
    total = float(readings.max() - readings.min())
    spread = fit.residual_sd()
    expected = float(left.max() - left.min())
    return Sweep(
        points=len(readings),
        total_reading_mm=total,
        eccentricity_mm=off_centre,
        offset_x_mm=offset[0],
        offset_y_mm=offset[1],
        offset_angle_deg=_turn(degrees(atan2(offset[1], offset[0]))),
        form=_form(fit, false_oval),
        residual_sd_mm=spread,
        eccentricity_sd_mm=fit.centre_sd(),
        expected_total_after_mm=expected,
        moves=moves,
        within=None if acceptance_mm is None else total <= acceptance_mm + TOLERANCE,
        notes=_notes(angles_deg, fit, off_centre, total, expected, acceptance_mm),
    )


def fitted_swing_mm(found: Sweep, surface: str) -> float:
    """Return the swing of the whole fitted curve, all the way round: highest less lowest.

    Parameters
    ----------
    found : a sweep worked out without a diameter, so that no false oval was taken off [mm]
    surface : `outside` or `inside`, as it was swept

    Returns
    -------
    swing [mm], to some hundred-thousandth of itself

    Raises
    ------
    InvalidInput
        Where the surface is neither.

    Notes
    -----
    A peak between two places counts although nobody read it: the curve c + A cos + B sin + shape is looked at in
    steps of a twentieth of a degree.

    References
    ----------
    Derived here from the fit of `sweep`.

    Examples
    --------
    >>> at = [0, 90, 180, 270]
    >>> found = sweep(angles_deg=at, readings_mm=[-0.009, -0.009, 0.009, 0.009], surface="outside")
    >>> round(fitted_swing_mm(found, "outside"), 4)
    0.0255
    """
    if surface not in ("outside", "inside"):
        raise InvalidInput("surface", "not_a_surface", given=surface)
    sign = 1.0 if surface == "outside" else -1.0
    angles = np.radians(np.arange(0.0, 360.0, _SWING_STEP_DEG))
    curve = sign * (found.offset_x_mm * np.cos(angles) + found.offset_y_mm * np.sin(angles))
    for part in found.form:
        curve = curve + part.amplitude_mm * np.cos(part.order * (angles - radians(part.angle_deg)))
    return float(curve.max() - curve.min())


def require_places(angles_deg: Sequence[float]) -> None:
    """Refuse places that `sweep` would not take; raises InvalidInput at `angles_deg`."""
    _require(angles_deg, [0.0] * len(angles_deg), "outside", 1, None, None)


def _turn(angle_deg: float) -> float:
    turned = angle_deg % 360
    return 0.0 if turned >= 360 else turned


def _require(
    angles_deg: Sequence[float],
    readings_mm: Sequence[float],
    surface: str,
    orders: int,
    acceptance_mm: float | None,
    diameter_mm: float | None,
) -> None:
    for place, angle in enumerate(angles_deg):
        require_finite(**{f"angles_deg.{place}": angle})
    for place, reading in enumerate(readings_mm):
        require_finite(**{f"readings_mm.{place}": reading})
    if _places(angles_deg) < 3:
        raise InvalidInput("angles_deg", "under_three_places", given=_places(angles_deg), allowed=3)
    arc = 360 - _largest_gap(angles_deg)[0]
    if arc <= _LEAST_ARC_DEG + TOLERANCE:
        raise InvalidInput("angles_deg", "short_arc", given=arc, allowed=_LEAST_ARC_DEG)
    if len(readings_mm) != len(angles_deg):
        raise InvalidInput("readings_mm", "unlike_lengths", given=len(readings_mm), allowed=len(angles_deg))
    if surface not in ("outside", "inside"):
        raise InvalidInput("surface", "not_a_surface", given=surface)
    require_whole(1, orders=orders)
    require_positive(acceptance_mm=acceptance_mm, diameter_mm=diameter_mm)


def _largest_gap(angles_deg: Sequence[float]) -> tuple[float, float]:
    """The widest stretch without a reading, and the angle at which it begins [deg]."""
    around = sorted(angle % 360 for angle in angles_deg)
    if not around:
        return 360.0, 0.0
    following = [*around[1:], around[0] + 360]
    return max((b - a, a) for a, b in zip(around, following, strict=True))


def _places(angles_deg: Sequence[float]) -> int:
    """How many different places; angles within half a degree are one, 360 is 0."""
    around = sorted(angle % 360 for angle in angles_deg)
    if not around:
        return 0
    starts = [around[0]]
    for angle in around[1:]:
        if angle - starts[-1] > _SAME_PLACE_DEG + TOLERANCE:
            starts.append(angle)
    wraps = len(starts) > 1 and starts[0] + 360 - starts[-1] <= _SAME_PLACE_DEG + TOLERANCE
    return len(starts) - (1 if wraps else 0)


def _design(angles: Array, order: int) -> Array:
    columns = [np.ones_like(angles)]
    for n in range(1, order + 1):
        columns += [np.cos(n * angles), np.sin(n * angles)]
    return np.column_stack(columns)


def _fit(angles: Array, readings: Array, orders: int, places: int) -> _Fit:
    allowed = order = max(1, min(orders, (places - 2) // 2))
    while True:
        design = _design(angles, order)
        covariance = np.linalg.pinv(design.T @ design)
        worst = float(np.linalg.eigvalsh(covariance[1:3, 1:3])[-1])
        thin = np.linalg.matrix_rank(design) < design.shape[1]
        if order == 1 or (sqrt(max(worst, 0.0)) <= _MOST_AMPLIFICATION + TOLERANCE and not thin):
            break
        order -= 1
    found = np.linalg.lstsq(design, readings, rcond=None)[0]
    return _Fit(
        order=order,
        coefficients=np.asarray(found, dtype=np.float64),
        covariance=np.asarray(covariance, dtype=np.float64),
        residuals=np.asarray(readings - design @ found, dtype=np.float64),
        lowered=order < allowed,
    )


def _false_oval(angles: Array, fit: _Fit, size: float) -> Array:
    toward = atan2(float(fit.coefficients[2]), float(fit.coefficients[1]))
    return np.asarray(size * np.cos(2 * (angles - toward)), dtype=np.float64)


def _left_after(angles: Array, readings: Array, fit: _Fit, false_oval: float) -> Array:
    """The readings once the work is centred: first harmonic and false oval taken off."""
    first = fit.coefficients[1] * np.cos(angles) + fit.coefficients[2] * np.sin(angles)
    return np.asarray(readings - first - _false_oval(angles, fit, false_oval), dtype=np.float64)


def _form(fit: _Fit, false_oval: float) -> tuple[Harmonic, ...]:
    toward = atan2(float(fit.coefficients[2]), float(fit.coefficients[1]))
    form = []
    for order in range(2, fit.order + 1):
        a, b = (float(x) for x in fit.coefficients[2 * order - 1 : 2 * order + 1])
        if order == 2:
            a -= false_oval * cos(2 * toward)
            b -= false_oval * sin(2 * toward)
        form.append(
            Harmonic(
                order=order,
                amplitude_mm=hypot(a, b),
                angle_deg=_turn(degrees(atan2(b, a))) / order,
            )
        )
    return tuple(form)


def _notes(
    angles_deg: Sequence[float],
    fit: _Fit,
    off_centre: float,
    total: float,
    expected: float,
    acceptance_mm: float | None,
) -> tuple[Note, ...]:
    notes = [note("one_plane_no_lean")]
    gap, start = _largest_gap(angles_deg)
    if gap > _GAP_DEG + TOLERANCE:
        notes.append(note("gap_in_sweep", gap_deg=gap, from_deg=start))
    if fit.lowered:
        notes.append(note("short_arc_order", order=fit.order))
    if fit.order < 2:
        notes.append(note("oval_unseen"))
    notes += _half_rule_notes(off_centre, total, expected, acceptance_mm)
    return tuple(notes)


def _half_rule_notes(off_centre: float, total: float, expected: float, acceptance_mm: float | None) -> list[Note]:
    notes = []
    over = total / 2 - off_centre
    if over > max(0.001, 0.1 * off_centre):
        notes.append(note("half_rule_overshoots", half_mm=total / 2, over_mm=over))
    if acceptance_mm is not None and expected > acceptance_mm + TOLERANCE:
        notes.append(note("shape_over_limit", left_mm=expected, acceptance_mm=acceptance_mm))
    return notes

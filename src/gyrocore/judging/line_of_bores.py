"""Several bores in line: how far each centre lies off the axis that they share."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, degrees, hypot

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import NonlinearConstraint, minimize

from gyrocore.checks import TOLERANCE, require_finite, require_unique
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class BoreCentre:
    """A bore's centre: where it lies along the line, and how far off some straight axis [mm]."""

    name: str
    z_mm: float
    x_mm: float
    y_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class LineAxis:
    """The axis that the bores are judged from [mm], [mm/m]."""

    x_at_zero_mm: float
    y_at_zero_mm: float
    slope_x_mm_m: float
    slope_y_mm_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class OffLine:
    """One bore off the axis, square to z [mm], [deg]."""

    name: str
    off_mm: float
    angle_deg: float


@dataclass(frozen=True, slots=True, kw_only=True)
class LineOfBores:
    """The axis, each bore off it, the coaxiality and the least zone [mm]."""

    axis: LineAxis
    rows: tuple[OffLine, ...]
    coaxiality_mm: float
    least_zone_mm: float
    notes: tuple[Note, ...] = ()


def line_of_bores(*, bores: Sequence[BoreCentre], datum: tuple[str, str] | None = None) -> LineOfBores:
    """Return how far bores lie off one line.

    Parameters
    ----------
    bores : centres at two or more different z, names unique [mm]
    datum : two bores that make the axis; None takes the least-squares line of all

    Returns
    -------
    LineOfBores [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Coaxiality is twice the worst distance from the axis, square to z: the diameter of the zone about that axis. The
    least zone is the smallest cylinder that holds all centres, about whichever axis.

    References
    ----------
    ISO 1101, coaxiality tolerance as the diameter of a cylinder; least squares and minimax derived here.

    Examples
    --------
    >>> line = [BoreCentre(name=n, z_mm=z, x_mm=x, y_mm=0) for n, z, x in
    ...         (("H1", 0, 0), ("H2", 300, 0.01), ("H3", 600, 0))]
    >>> round(line_of_bores(bores=line, datum=("H1", "H3")).coaxiality_mm, 6)
    0.02
    """
    _require(bores, datum)
    z = np.array([b.z_mm for b in bores], dtype=np.float64)
    xy = np.array([[b.x_mm, b.y_mm] for b in bores], dtype=np.float64)
    zero, slope = _axis(bores, z, xy, datum)
    off = xy - zero - np.outer(z, slope)
    rows = tuple(
        OffLine(name=b.name, off_mm=hypot(*d), angle_deg=degrees(atan2(d[1], d[0])) % 360)
        for b, d in zip(bores, off.tolist(), strict=True)
    )
    worst = max(rows, key=lambda row: row.off_mm)
    return LineOfBores(
        axis=LineAxis(
            x_at_zero_mm=float(zero[0]), y_at_zero_mm=float(zero[1]),
            slope_x_mm_m=1000 * float(slope[0]), slope_y_mm_m=1000 * float(slope[1]),
        ),
        rows=rows,
        coaxiality_mm=2 * worst.off_mm,
        least_zone_mm=2 * _least_radius(z, xy),
        notes=(note("worst_in_line", name=worst.name, off_mm=worst.off_mm),
               note("axis_by_datum" if datum else "axis_least_squares")),
    )  # fmt: skip


def _require(bores: Sequence[BoreCentre], datum: tuple[str, str] | None) -> None:
    if len(bores) < 2:
        raise InvalidInput("bores", "too_few", given=len(bores), allowed=2)
    for place, bore in enumerate(bores):
        values = {"z_mm": bore.z_mm, "x_mm": bore.x_mm, "y_mm": bore.y_mm}
        require_finite(**{f"bores.{place}.{name}": value for name, value in values.items()})
    require_unique("bores.*.name", [bore.name for bore in bores])
    if max(b.z_mm for b in bores) - min(b.z_mm for b in bores) <= TOLERANCE:
        raise InvalidInput("bores", "one_z")
    for place, name in enumerate(datum or ()):
        if name not in [bore.name for bore in bores]:
            raise InvalidInput(f"datum.{place}", "unknown_choice", given=name, choices=", ".join(b.name for b in bores))
    if datum is not None:
        one, two = (next(b.z_mm for b in bores if b.name == name) for name in datum)
        if abs(one - two) <= TOLERANCE:
            raise InvalidInput("datum", "one_z")


def _axis(
    bores: Sequence[BoreCentre], z: Array, xy: Array, datum: tuple[str, str] | None
) -> tuple[Array, Array]:  # fmt: skip
    if datum is not None:
        names = [b.name for b in bores]
        i, j = names.index(datum[0]), names.index(datum[1])
        slope = (xy[j] - xy[i]) / (z[j] - z[i])
        return np.asarray(xy[i] - slope * z[i]), np.asarray(slope)
    design = np.column_stack([np.ones_like(z), z])
    found = np.linalg.lstsq(design, xy, rcond=None)[0]
    return np.asarray(found[0]), np.asarray(found[1])


def _least_radius(z: Array, xy: Array) -> float:
    """Radius of the smallest cylinder, by minimax over straight lines: a convex problem, scaled to about 1."""
    span = float(z.max() - z.min())
    along = (z - z.mean()) / span
    design = np.column_stack([np.ones_like(along), along])
    start = np.linalg.lstsq(design, xy, rcond=None)[0]
    rest = xy - design @ start
    size = float(np.hypot(rest[:, 0], rest[:, 1]).max())
    if size <= TOLERANCE:
        return size
    scaled = rest / size

    def off(p: Array) -> Array:
        d = scaled - design @ p[:4].reshape(2, 2)
        return np.asarray(p[4] - np.einsum("ij,ij->i", d, d))

    first = np.array([0.0, 0.0, 0.0, 0.0, 1.0])
    found = minimize(  # type: ignore[call-overload] # the stubs know no bound objective of a float
        lambda p: float(p[4]), first, jac=lambda _: np.array([0.0, 0.0, 0.0, 0.0, 1.0]), method="SLSQP",
        constraints=[NonlinearConstraint(off, 0.0, np.inf)], options={"ftol": 1e-14, "maxiter": 400},
    )  # fmt: skip
    d = scaled - design @ np.asarray(found.x)[:4].reshape(2, 2)
    return size * min(1.0, float(np.hypot(d[:, 0], d[:, 1]).max()))

"""Static balance of work on a faceplate: the heavy side, the counterweight, and how fast it may turn."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, cos, degrees, hypot, pi, radians, sin, sqrt

from gyrocore.checks import TOLERANCE, require_finite, require_not_negative, require_positive, require_unique
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

#: Under this there is nothing to balance [kg mm].
_NONE_KG_MM = 1e-9


@dataclass(frozen=True, slots=True, kw_only=True)
class Mass:
    """A mass on the plate: its centre of gravity off the axis [kg], [mm], [deg]."""

    name: str
    mass_kg: float
    radius_mm: float
    angle_deg: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Balance:
    """The unbalance, what counters it, and what it does at speed."""

    unbalance_kg_mm: float
    angle_deg: float | None
    counter_mass_kg: float | None
    counter_angle_deg: float | None
    force_n: float | None
    max_rpm: float | None
    notes: tuple[Note, ...] = ()


def balance(
    *, masses: Sequence[Mass], counter_radius_mm: float | None = None, rpm: float | None = None,
    force_limit_n: float | None = None,
) -> Balance:  # fmt: skip
    """Return the static unbalance of masses that turn together.

    Parameters
    ----------
    masses : one or more, names unlike; mass over 0 [kg], radius 0 or more [mm]
    counter_radius_mm : where a counterweight can be bolted, over 0 [mm]
    rpm : a spindle speed, over 0 [1/min]
    force_limit_n : the greatest turning force allowed, over 0 [N]

    Returns
    -------
    Balance [kg mm], [deg], [kg], [N], [1/min]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    U = |sum of m r| as vectors; counter mass = U / radius, on the light side; force = U w^2 / 1000 with w in rad/s.
    Static only: masses that lie apart along the axis wobble still (ISO 21940-11 speaks of one and two planes).

    References
    ----------
    Derived here: sum of vectors, centripetal force.

    Examples
    --------
    >>> one = Mass(name="lug", mass_kg=2, radius_mm=150, angle_deg=90)
    >>> found = balance(masses=[one], counter_radius_mm=120, rpm=300)
    >>> round(found.counter_mass_kg, 6), found.counter_angle_deg, round(found.force_n, 1)
    (2.5, 270.0, 296.1)
    """
    if not masses:
        raise InvalidInput("masses", "empty")
    require_unique("masses.*.name", [one.name for one in masses])
    for place, one in enumerate(masses):
        require_positive(**{f"masses.{place}.mass_kg": one.mass_kg})
        require_not_negative(**{f"masses.{place}.radius_mm": one.radius_mm})
        require_finite(**{f"masses.{place}.angle_deg": one.angle_deg})
    require_positive(counter_radius_mm=counter_radius_mm, rpm=rpm, force_limit_n=force_limit_n)
    x = sum(one.mass_kg * one.radius_mm * cos(radians(one.angle_deg)) for one in masses)
    y = sum(one.mass_kg * one.radius_mm * sin(radians(one.angle_deg)) for one in masses)
    moment = hypot(x, y)
    none = moment < _NONE_KG_MM
    heavy = _turned(degrees(atan2(y, x)))
    counter = None if counter_radius_mm is None or none else moment / counter_radius_mm
    return Balance(
        unbalance_kg_mm=moment, angle_deg=None if none else heavy, counter_mass_kg=counter,
        counter_angle_deg=None if counter is None else _turned(heavy + 180),
        force_n=None if rpm is None else moment * (2 * pi * rpm / 60) ** 2 / 1000,
        max_rpm=None if force_limit_n is None or none else sqrt(1000 * force_limit_n / moment) * 60 / (2 * pi),
        notes=(note("static_balance"),),
    )  # fmt: skip


def _turned(angle_deg: float) -> float:
    """0 up to 360; a hair under a full turn is 0."""
    turned = angle_deg % 360
    return 0.0 if 360 - turned <= TOLERANCE else turned

"""Static balance of work on a faceplate: the heavy side, the counterweight, and how fast it may turn."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, ceil, cos, degrees, floor, hypot, pi, radians, sin, sqrt

from gyrocore.checks import (
    TOLERANCE,
    require_between,
    require_finite,
    require_not_negative,
    require_positive,
    require_unique,
)
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


@dataclass(frozen=True, slots=True, kw_only=True)
class Weight:
    """A counterweight at a hole of the plate [deg], [kg]."""

    angle_deg: float
    mass_kg: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Counterweights:
    """Weights at the two holes nearest to the light side, and what they leave unbalanced."""

    weights: tuple[Weight, ...]
    left_kg_mm: float
    force_n: float | None
    max_rpm: float | None


def counterweights(
    *, unbalance_kg_mm: float, angle_deg: float, radius_mm: float, holes: int, step_kg: float = 0.1,
    rpm: float | None = None, force_limit_n: float | None = None,
) -> Counterweights:  # fmt: skip
    """Return the weights at a plate's holes that counter an unbalance, in weights that are had.

    Parameters
    ----------
    unbalance_kg_mm : 0 or more [kg mm]
    angle_deg : where the heavy side is, clockwise from hole 1 [deg]
    radius_mm : of the circle of holes, over 0 [mm]
    holes : 3 to 72, evenly round, the first at 0 degrees
    step_kg : the least weight, over 0; every weight is a multiple of it [kg]
    rpm : a spindle speed, over 0 [1/min]
    force_limit_n : the greatest turning force allowed, over 0 [N]

    Returns
    -------
    Counterweights [deg], [kg], [kg mm], [N], [1/min]; no weight where none is better than none

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    With the light side between the holes at a and b, m sin(b - light) / sin(b - a) hangs at a and the rest alike at b;
    each is brought to the step below or above it, whichever pair leaves the least.

    References
    ----------
    Derived here: a vector split along two directions.

    Examples
    --------
    >>> found = counterweights(unbalance_kg_mm=300, angle_deg=90, radius_mm=120, holes=8, step_kg=0.5)
    >>> [(one.angle_deg, one.mass_kg) for one in found.weights], round(found.left_kg_mm, 3)
    ([(270.0, 2.5)], 0.0)
    """
    require_not_negative(unbalance_kg_mm=unbalance_kg_mm)
    require_finite(angle_deg=angle_deg)
    require_positive(radius_mm=radius_mm, step_kg=step_kg, rpm=rpm, force_limit_n=force_limit_n)
    require_between(3, 72, holes=holes)
    light, apart = _turned(angle_deg + 180), 360 / holes
    first = floor(light / apart + TOLERANCE) * apart
    needed = unbalance_kg_mm / radius_mm
    ideal = [needed * sin(radians(first + apart - light)) / sin(radians(apart)),
             needed * sin(radians(light - first)) / sin(radians(apart))]  # fmt: skip
    near = [[floor(one / step_kg + TOLERANCE) * step_kg, ceil(one / step_kg - TOLERANCE) * step_kg] for one in ideal]
    heavy = (unbalance_kg_mm * cos(radians(angle_deg)), unbalance_kg_mm * sin(radians(angle_deg)))

    def left(pair: tuple[float, float]) -> float:
        turns = (radians(first), radians(first + apart))
        x = heavy[0] + radius_mm * sum(m * cos(a) for m, a in zip(pair, turns, strict=True))
        y = heavy[1] + radius_mm * sum(m * sin(a) for m, a in zip(pair, turns, strict=True))
        return hypot(x, y)

    best = min(((a, b) for a in near[0] for b in near[1]), key=lambda pair: (round(left(pair), 9), sum(pair)))
    over = left(best)
    none = over < _NONE_KG_MM
    return Counterweights(
        weights=tuple(Weight(angle_deg=_turned(at), mass_kg=mass) for at, mass in
                      zip((first, first + apart), best, strict=True) if mass > 0),
        left_kg_mm=over, force_n=None if rpm is None else over * (2 * pi * rpm / 60) ** 2 / 1000,
        max_rpm=None if force_limit_n is None or none else sqrt(1000 * force_limit_n / over) * 60 / (2 * pi),
    )  # fmt: skip


def _turned(angle_deg: float) -> float:
    """0 up to 360; a hair under a full turn is 0."""
    turned = angle_deg % 360
    return 0.0 if 360 - turned <= TOLERANCE else turned

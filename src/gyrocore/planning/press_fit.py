"""A bush pressed or shrunk into its seat: pressure, how much its bore closes, force, heat and cold."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi

from gyrocore.checks import require_finite, require_not_negative, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

_ABSOLUTE_ZERO_C = -273.15
_ROOM_C = 20.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Bush:
    """A bush; its default is a bronze one [mm], [GPa], [um/m/K]."""

    outside_mm: float
    inside_mm: float = 0.0
    youngs_modulus_gpa: float = 110.0
    poisson: float = 0.34
    expansion_um_m_k: float = 18.0

    @property
    def bore_share(self) -> float:
        """(d^2 + di^2) / (d^2 - di^2)."""
        outside, inside = self.outside_mm**2, self.inside_mm**2
        return (outside + inside) / (outside - inside)


@dataclass(frozen=True, slots=True, kw_only=True)
class Hub:
    """What it is pressed into; its default is very thick grey iron [mm], [GPa], [um/m/K]."""

    outside_mm: float | None = None
    youngs_modulus_gpa: float = 110.0
    poisson: float = 0.26
    expansion_um_m_k: float = 10.5

    def wall_share(self, seat_mm: float) -> float:
        """(Do^2 + d^2) / (Do^2 - d^2); 1 for a very thick one."""
        if self.outside_mm is None:
            return 1.0
        outside, seat = self.outside_mm**2, seat_mm**2
        return (outside + seat) / (outside - seat)


@dataclass(frozen=True, slots=True, kw_only=True)
class PressFit:
    """What a press does to bush and hub, and how it is put in."""

    pressure_mpa: float
    bore_closes_mm: float | None
    hub_grows_mm: float | None
    hub_hoop_mpa: float
    bush_hoop_mpa: float
    press_force_n: float
    heat_hub_to_c: float
    cool_bush_to_c: float | None
    notes: tuple[Note, ...] = ()


def press_fit(
    *, bush: Bush, hub: Hub, interference_mm: float, length_mm: float, friction: float = 0.12, slip_mm: float = 0.02,
    room_c: float = _ROOM_C,
) -> PressFit:  # fmt: skip
    """Return what pressing a bush into its seat does.

    Parameters
    ----------
    bush : outside over 0, inside 0 or more and under it [mm]
    hub : outside over the bush's, or None for a very thick one [mm]
    interference_mm : on diameter at 20 C, negative is clearance [mm]
    length_mm : of the seat, over 0 [mm]
    friction : 0 or more
    slip_mm : clearance wanted while it goes in, on diameter, 0 or more [mm]
    room_c : where it is done [C]

    Returns
    -------
    PressFit [MPa], [mm] on diameter, [N], [C]; hoop stress is negative where it presses

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Lame's thick cylinders, plane stress, elastic. With d the bush's outside, i the interference:
    p = (i/d) / [((Do^2+d^2)/(Do^2-d^2) + nh)/Eh + ((d^2+di^2)/(d^2-di^2) - nb)/Eb], the first fraction 1 for a very
    thick hub; without interference p = 0; p holds at 20 C. The bush's bore closes by 2 p d^2 di / ((d^2-di^2) Eb), the
    hub's outside grows by 2 p d^2 Do / ((Do^2-d^2) Eh). Force = friction p pi d length, at the end of the press.
    In another room unlike materials change it: i' = i + (eb - eh) d (room - 20). Heat: room + max(0, i' + slip)/(eh d);
    cold alike with eb. Yielding, a rough surface smoothed by pressing and a tapered start are left out: the true
    pressure is somewhat less.

    References
    ----------
    Timoshenko, Strength of Materials, part II: thick-walled cylinders (Lame).

    Examples
    --------
    >>> found = press_fit(bush=Bush(outside_mm=80, inside_mm=70), hub=Hub(), interference_mm=0.04, length_mm=60)
    >>> round(found.pressure_mpa, 3), round(found.bore_closes_mm, 4)
    (6.506, 0.0353)
    """
    _require(bush, hub)
    require_finite(interference_mm=interference_mm)
    require_positive(length_mm=length_mm)
    require_not_negative(friction=friction, slip_mm=slip_mm)
    _require_warmth("room_c", room_c)
    seat = bush.outside_mm
    give = (hub.wall_share(seat) + hub.poisson) / hub.youngs_modulus_gpa
    give += (bush.bore_share - bush.poisson) / bush.youngs_modulus_gpa
    pressure = max(0.0, interference_mm) / seat / give * 1000
    in_room = interference_mm + (bush.expansion_um_m_k - hub.expansion_um_m_k) * 1e-6 * seat * (room_c - _ROOM_C)
    gap = max(0.0, in_room + slip_mm) / seat * 1e6
    cold = room_c - gap / bush.expansion_um_m_k
    solid = bush.inside_mm == 0
    return PressFit(
        pressure_mpa=pressure, bore_closes_mm=None if solid else _bore_closes_mm(bush, pressure),
        hub_grows_mm=_hub_grows_mm(hub, seat, pressure), hub_hoop_mpa=pressure * hub.wall_share(seat),
        bush_hoop_mpa=0.0 - (pressure if solid else pressure * (1 + bush.bore_share)),
        press_force_n=friction * pressure * pi * seat * length_mm, heat_hub_to_c=room_c + gap / hub.expansion_um_m_k,
        cool_bush_to_c=None if cold < _ABSOLUTE_ZERO_C else cold, notes=_notes(pressure, cold),
    )  # fmt: skip


def _require(bush: Bush, hub: Hub) -> None:
    require_positive(**{"bush.outside_mm": bush.outside_mm})
    require_not_negative(**{"bush.inside_mm": bush.inside_mm})
    if bush.inside_mm >= bush.outside_mm:
        raise InvalidInput("bush.inside_mm", "not_under", given=bush.inside_mm, allowed=bush.outside_mm)
    _require_material("bush", bush)
    require_positive(**{"hub.outside_mm": hub.outside_mm})
    if hub.outside_mm is not None and hub.outside_mm <= bush.outside_mm:
        raise InvalidInput("hub.outside_mm", "not_over", given=hub.outside_mm, allowed=bush.outside_mm)
    _require_material("hub", hub)


def _require_material(name: str, part: Bush | Hub) -> None:
    require_positive(**{f"{name}.youngs_modulus_gpa": part.youngs_modulus_gpa})
    require_not_negative(**{f"{name}.poisson": part.poisson})
    if part.poisson >= 0.5:
        raise InvalidInput(f"{name}.poisson", "not_under", given=part.poisson, allowed=0.5)
    require_positive(**{f"{name}.expansion_um_m_k": part.expansion_um_m_k})


def _require_warmth(field: str, celsius: float) -> None:
    require_finite(**{field: celsius})
    if celsius < _ABSOLUTE_ZERO_C:
        raise InvalidInput(field, "under_absolute_zero", given=celsius, allowed=_ABSOLUTE_ZERO_C)


def _bore_closes_mm(bush: Bush, pressure_mpa: float) -> float:
    outside, inside = bush.outside_mm**2, bush.inside_mm**2
    return 2 * pressure_mpa * outside * bush.inside_mm / ((outside - inside) * bush.youngs_modulus_gpa * 1000)


def _hub_grows_mm(hub: Hub, seat_mm: float, pressure_mpa: float) -> float | None:
    if hub.outside_mm is None:
        return None
    outside, seat = hub.outside_mm**2, seat_mm**2
    return 2 * pressure_mpa * seat * hub.outside_mm / ((outside - seat) * hub.youngs_modulus_gpa * 1000)


def _notes(pressure_mpa: float, cold_c: float) -> tuple[Note, ...]:
    notes = [note("pressed_elastic") if pressure_mpa > 0 else note("nothing_pressed")]
    if cold_c < _ABSOLUTE_ZERO_C:
        notes.append(note("cannot_cool"))
    return tuple(notes)

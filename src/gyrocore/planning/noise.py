"""What a tone heard in the cut is: the bar, the turns of the spindle, or something else; and where to go from it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import floor

from gyrocore.checks import TOLERANCE, require_positive
from gyrocore.choices import ToneName
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

#: The bar chatters near its natural frequency, most often somewhat above it.
_BAR_FROM, _BAR_TO = 0.95, 1.3
#: A tone is a multiple of the turns within this share; so many multiples are told.
_TURN_SHARE, _MOST_HARMONICS = 0.01, 10
#: A speed of the machine within this share of a pocket's middle is in it; so many pockets are looked through.
_POCKET_SHARE, _MOST_POCKETS = 0.03, 20


@dataclass(frozen=True, slots=True, kw_only=True)
class NamedTone:
    """A tone with what it is; of the turns which multiple, and how many waves it leaves in one turn."""

    frequency_hz: float
    name: ToneName
    harmonic: int | None
    waves_per_turn: float


@dataclass(frozen=True, slots=True, kw_only=True)
class NamedTones:
    """The tones, in the order given, and speeds that lie in a pocket of the bar's [rpm]."""

    rows: tuple[NamedTone, ...]
    pockets_rpm: tuple[float, ...]
    notes: tuple[Note, ...] = ()


def name_tones(
    *, peaks_hz: Sequence[float], spindle_rpm: float, natural_frequency_hz: float | None = None,
    spindle_speeds_rpm: Sequence[float] | None = None,
) -> NamedTones:  # fmt: skip
    """Return what each tone is.

    Parameters
    ----------
    peaks_hz : one or more, over 0, in their order [Hz]
    spindle_rpm : the speed it was heard at, over 0 [rpm]
    natural_frequency_hz : of the bar, over 0; None where it is not known, and no tone is the bar's then [Hz]
    spindle_speeds_rpm : what the machine has, over 0; None for any speed [rpm]

    Returns
    -------
    NamedTones

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Chatter sounds at or somewhat over the bar's natural frequency: from 0.95 to 1.3 of it a tone is the bar's. Else it
    is a multiple of the turns a second, up to the tenth, within a hundredth. In one turn a tone f leaves 60 f/n waves;
    where that is whole, n = 60 f/j, successive turns cut in step and chatter begins deepest (a pocket).

    References
    ----------
    Regenerative chatter, stability lobes: see `gyrocore.stability`. Bounds of the names: core contract, `name_tones`.

    Examples
    --------
    >>> found = name_tones(peaks_hz=[212.0, 9.35], spindle_rpm=280, natural_frequency_hz=200)
    >>> [(row.name, row.harmonic) for row in found.rows]
    [('bar', None), ('turn', 2)]
    """
    _require(peaks_hz, spindle_rpm, natural_frequency_hz, spindle_speeds_rpm)
    rows = tuple(_named(hz, spindle_rpm, natural_frequency_hz) for hz in peaks_hz)
    heard = next((row for row in rows if row.name == "bar"), None)
    pockets: tuple[float, ...] = ()
    if heard is not None:
        hz = heard.frequency_hz
        pockets = _listed(hz, spindle_speeds_rpm) if spindle_speeds_rpm is not None else _around(heard)
    notes = () if natural_frequency_hz is not None else (note("bar_unknown"),)
    return NamedTones(rows=rows, pockets_rpm=pockets, notes=notes)


def _named(hz: float, rpm: float, natural_hz: float | None) -> NamedTone:
    turns, waves = rpm / 60, 60 * hz / rpm
    if natural_hz is not None and _BAR_FROM * natural_hz - TOLERANCE <= hz <= _BAR_TO * natural_hz + TOLERANCE:
        return NamedTone(frequency_hz=hz, name="bar", harmonic=None, waves_per_turn=waves)
    nearest = min(range(1, _MOST_HARMONICS + 1), key=lambda k: abs(hz - k * turns))
    if abs(hz - nearest * turns) <= _TURN_SHARE * nearest * turns + TOLERANCE:
        return NamedTone(frequency_hz=hz, name="turn", harmonic=nearest, waves_per_turn=waves)
    return NamedTone(frequency_hz=hz, name="other", harmonic=None, waves_per_turn=waves)


def _listed(hz: float, speeds_rpm: Sequence[float]) -> tuple[float, ...]:
    pockets = [60 * hz / j for j in range(1, _MOST_POCKETS + 1)]
    fitting = {
        speed for speed in speeds_rpm if any(abs(speed - one) <= _POCKET_SHARE * one + TOLERANCE for one in pockets)
    }
    return tuple(sorted(fitting, reverse=True))


def _around(heard: NamedTone) -> tuple[float, ...]:
    waves, nearest = heard.waves_per_turn, round(heard.waves_per_turn)
    if nearest >= 1 and abs(waves - nearest) <= TOLERANCE:
        return (60 * heard.frequency_hz / nearest,)
    below = floor(waves)
    return tuple(60 * heard.frequency_hz / j for j in (below, below + 1) if j >= 1)


def _require(
    peaks_hz: Sequence[float], spindle_rpm: float, natural_hz: float | None, speeds_rpm: Sequence[float] | None
) -> None:  # fmt: skip
    if not peaks_hz:
        raise InvalidInput("peaks_hz", "empty")
    for place, hz in enumerate(peaks_hz):
        require_positive(**{f"peaks_hz.{place}": hz})
    require_positive(spindle_rpm=spindle_rpm, natural_frequency_hz=natural_hz)
    if speeds_rpm is not None and not speeds_rpm:
        raise InvalidInput("spindle_speeds_rpm", "empty")
    for place, speed in enumerate(speeds_rpm or ()):
        require_positive(**{f"spindle_speeds_rpm.{place}": speed})

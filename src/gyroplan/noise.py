"""A sound of the cut: its tones with what they are, and its spectrum as it is drawn."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import log10

import numpy as np
from numpy.typing import NDArray

from gyrocore import NamedTone, name_tones, spectrum, tones

#: Samples that are looked at: the loudest stretch of the sound.
MOST_SAMPLES = 65536
#: The spectrum is drawn from here to here [Hz], in so many steps of equal ratio, down to so far under the strongest.
LEAST_HZ, MOST_HZ, STEPS, FLOOR_DB = 16.0, 4000.0, 260, -60.0
#: Tones that are named: so many, none so far under the strongest (chosen here: what is fainter is the cut's own noise).
_COUNT, LOUD_DB = 5, -40.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Tone:
    """One tone as it was named, with its level against the strongest [Hz, dB]."""

    frequency_hz: float
    level_db: float
    name: str
    harmonic: int | None
    waves_per_turn: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Sound:
    """What a sound of the cut says."""

    tones: tuple[Tone, ...]
    pockets_rpm: tuple[float, ...]
    #: Level of each step of the drawn spectrum, against the strongest tone [dB].
    levels_db: tuple[float, ...]
    seconds: float

    @property
    def bar(self) -> Tone | None:
        """The strongest tone that is the bar's."""
        return next((one for one in self.tones if one.name == "bar"), None)


def sound_of(
    samples: Sequence[float] | NDArray[np.float64], rate_hz: float, *, rpm: float, natural_hz: float | None,
    speeds_rpm: Sequence[float] | None,
) -> Sound:  # fmt: skip
    """Return the tones of a sound with what they are.

    Parameters
    ----------
    samples : of the whole recording, 256 or more; the loudest stretch of 65536 is looked at
    rate_hz : samples a second, over 0 [Hz]
    rpm : the spindle's speed while it was heard, over 0 [rpm]
    natural_hz : of the bar as it stands out; None where it is not known [Hz]
    speeds_rpm : what the machine has; None for any [rpm]

    Raises
    ------
    InvalidInput
        As `gyrocore.tones` and `gyrocore.name_tones`.
    """
    values = loudest(np.asarray(samples, dtype=np.float64))
    found = tones(samples=values.tolist(), rate_hz=rate_hz, count=_COUNT, least_hz=LEAST_HZ).peaks
    found = tuple(one for one in found if one.level_db >= LOUD_DB)
    named: Sequence[NamedTone] = ()
    pockets: tuple[float, ...] = ()
    if found:
        named_all = name_tones(
            peaks_hz=[one.frequency_hz for one in found], spindle_rpm=rpm, natural_frequency_hz=natural_hz,
            spindle_speeds_rpm=speeds_rpm,
        )  # fmt: skip
        named, pockets = named_all.rows, named_all.pockets_rpm
    told = tuple(
        Tone(frequency_hz=one.frequency_hz, level_db=peak.level_db, name=one.name, harmonic=one.harmonic,
             waves_per_turn=one.waves_per_turn)
        for one, peak in zip(named, found, strict=True)
    )  # fmt: skip
    return Sound(tones=told, pockets_rpm=pockets, levels_db=_drawn(values, rate_hz), seconds=len(samples) / rate_hz)


def loudest(values: NDArray[np.float64]) -> NDArray[np.float64]:
    """The loudest stretch that can be looked at, in steps of a quarter of it."""
    if len(values) <= MOST_SAMPLES:
        return values
    step = MOST_SAMPLES // 4
    starts = [*range(0, len(values) - MOST_SAMPLES, step), len(values) - MOST_SAMPLES]
    centred = values - values.mean()
    best = max(starts, key=lambda start: float((centred[start : start + MOST_SAMPLES] ** 2).sum()))
    return values[best : best + MOST_SAMPLES]


def _drawn(values: NDArray[np.float64], rate_hz: float) -> tuple[float, ...]:
    """The strongest line in each step; none lower than the floor."""
    amplitudes = spectrum(values)
    edges = LEAST_HZ * (MOST_HZ / LEAST_HZ) ** (np.arange(STEPS + 1) / STEPS) * len(values) / rate_hz
    lines = np.clip(np.rint(edges).astype(int), 0, len(amplitudes) - 1)
    heights = [float(amplitudes[low : max(low + 1, high)].max()) for low, high in pairwise(lines.tolist())]
    top = max(heights)
    if top <= 0:
        return (FLOOR_DB,) * STEPS
    floor: float = 10 ** (FLOOR_DB / 20)
    return tuple(round(20 * log10(max(one / top, floor)), 1) for one in heights)


def hz_of(step: int) -> float:
    """The middle of a step of the drawn spectrum [Hz]."""
    return float(LEAST_HZ * (MOST_HZ / LEAST_HZ) ** ((step + 0.5) / STEPS))


#: So many whole multiples of the bar's tone are told, each within so much of it (chosen here: `name_tones` tells the
#: turns of the spindle to the same).
_OVERTONES, _WITHIN = (2, 3, 4), 0.01


def overtone_of(frequency_hz: float, bar_hz: Iterable[float]) -> int | None:
    """Return which whole multiple of a tone of the bar a frequency is; None where it is none.

    An edge that leaves the cut once a wave pushes in jolts, not in a pure wave: the sound holds whole multiples of the
    bar's frequency, and they are the same fault.

    References
    ----------
    A periodic force of one frequency has a Fourier series of its whole multiples.

    Examples
    --------
    >>> overtone_of(840.0, [420.0])
    2
    """
    found = (
        times for tone in bar_hz for times in _OVERTONES if abs(frequency_hz - times * tone) <= _WITHIN * times * tone
    )
    return next(found, None)

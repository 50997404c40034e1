"""The tones in a sound: the peaks of its spectrum."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import log10

import numpy as np
from numpy.typing import NDArray

from gyrocore.checks import require_not_negative, require_positive, require_whole
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

#: Samples that are taken.
LEAST_SAMPLES, MOST_SAMPLES = 256, 65536
#: A maximum nearer than this to a stronger peak is part of it [lines]: the main lobe of the window reaches two.
_APART_LINES = 3
#: A maximum this far under the strongest is none [dB].
_FAINT_DB = -60.0
#: What is left of a steady value by rounding, against the largest sample.
_NOTHING = 1e-12


@dataclass(frozen=True, slots=True, kw_only=True)
class Peak:
    """One tone: its frequency [Hz] and its level against the strongest [dB]."""

    frequency_hz: float
    level_db: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Tones:
    """The strongest tones, strongest first."""

    peaks: tuple[Peak, ...]
    notes: tuple[Note, ...] = ()


def tones(*, samples: Sequence[float], rate_hz: float, count: int = 3, least_hz: float = 20.0) -> Tones:
    """Return the strongest tones of a sound.

    Parameters
    ----------
    samples : 256 to 65536 of them, finite
    rate_hz : samples a second, over 0 [Hz]
    count : how many tones at most, 1 or more
    least_hz : lower ones are left out, 0 or more and under half the rate [Hz]

    Returns
    -------
    Tones

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    The mean is taken off, the Hann window laid on, and the local maxima of the spectrum at its own lines, k rate/n, are
    the peaks. Between lines a tone is found from its two highest lines: with a = X(k+1)/X(k) it lies (2 a - 1)/(a + 1)
    of a line beyond k, exact for one steady tone in a long recording, and its amplitude is X(k) (1 - d^2) / sinc(d).

    References
    ----------
    Interpolation of a Hann spectrum: derived here from the window's transform, sinc(d)/(1 - d^2).

    Examples
    --------
    >>> from math import pi, sin
    >>> heard = [sin(2 * pi * 437 * n / 8000) for n in range(2048)]
    >>> round(tones(samples=heard, rate_hz=8000).peaks[0].frequency_hz, 1)
    437.0
    """
    values = _required(samples, rate_hz, count, least_hz)
    amplitudes = spectrum(values)
    faintest = _NOTHING * max(1e-300, float(abs(values).max()))
    lines = [line for line in _maxima(amplitudes) if amplitudes[line] > faintest]
    found: list[tuple[float, float]] = []
    part = np.zeros(len(amplitudes) + 2 * _APART_LINES, dtype=bool)  # lines that are part of a stronger peak
    for line in sorted(lines, key=lambda one: -amplitudes[one]):
        if not part[line + _APART_LINES]:
            part[line + 1 : line + 2 * _APART_LINES] = True
            off, amplitude = _between(amplitudes, line)
            found.append(((line + off) * rate_hz / len(values), amplitude))
    if not found:
        return Tones(peaks=(), notes=(note("no_tone"),))
    found.sort(key=lambda one: -one[1])
    loud = [one for one in found if 20 * log10(one[1] / found[0][1]) >= _FAINT_DB and one[0] >= least_hz][:count]
    peaks = tuple(Peak(frequency_hz=hz, level_db=20 * log10(size / loud[0][1])) for hz, size in loud)
    return Tones(peaks=peaks, notes=() if peaks else (note("no_tone"),))


def spectrum(samples: Sequence[float] | NDArray[np.float64]) -> NDArray[np.float64]:
    """Return the amplitude of a sound at each of its lines, k rate/n, from 0 up.

    Parameters
    ----------
    samples : the sound

    Returns
    -------
    amplitudes, in the samples' own unit: a tone on a line stands there with its amplitude

    References
    ----------
    Discrete Fourier transform, Hann window; its mean is 1/2.

    Examples
    --------
    >>> from math import pi, sin
    >>> round(float(spectrum([0.7 * sin(2 * pi * 20 * n / 256) for n in range(256)])[20]), 3)
    0.7
    """
    values = np.asarray(samples, dtype=np.float64)
    values = values - values.mean()
    window = 0.5 - 0.5 * np.cos(2 * np.pi * np.arange(len(values)) / len(values))
    found: NDArray[np.float64] = np.abs(np.fft.rfft(values * window)) * 4 / len(values)
    return found


def _maxima(amplitudes: NDArray[np.float64]) -> list[int]:
    """Lines that stand over both neighbours; the last over its one. The mean is no tone."""
    last = len(amplitudes) - 1
    higher = [k for k in range(1, last) if amplitudes[k - 1] < amplitudes[k] >= amplitudes[k + 1]]
    return [*higher, *([last] if amplitudes[last] > amplitudes[last - 1] else [])]


def _between(amplitudes: NDArray[np.float64], line: int) -> tuple[float, float]:
    """How far off its line a tone lies [lines], and its amplitude."""
    here, below = float(amplitudes[line]), float(amplitudes[line - 1])
    above = float(amplitudes[line + 1]) if line + 1 < len(amplitudes) else 0.0
    side, sign = (above, 1) if above >= below else (below, -1)
    ratio = side / here
    off = min(0.5, max(0.0, (2 * ratio - 1) / (ratio + 1)))
    return sign * off, here * (1 - off**2) / float(np.sinc(off))


def _required(samples: Sequence[float], rate_hz: float, count: int, least_hz: float) -> NDArray[np.float64]:
    if len(samples) < LEAST_SAMPLES:
        raise InvalidInput("samples", "too_few_of", given=len(samples), allowed=LEAST_SAMPLES)
    if len(samples) > MOST_SAMPLES:
        raise InvalidInput("samples", "too_many_of", given=len(samples), allowed=MOST_SAMPLES)
    values = np.asarray(samples, dtype=np.float64)
    wrong = np.flatnonzero(~np.isfinite(values))
    if len(wrong):
        raise InvalidInput(f"samples.{int(wrong[0])}", "not_finite", given=str(values[wrong[0]]))
    require_positive(rate_hz=rate_hz)
    require_whole(1, count=count)
    require_not_negative(least_hz=least_hz)
    if least_hz >= rate_hz / 2:
        raise InvalidInput("least_hz", "not_under", given=least_hz, allowed=rate_hz / 2)
    return values

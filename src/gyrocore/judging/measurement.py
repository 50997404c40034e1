"""What several readings of one place are worth: value at 20 C and its uncertainty."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt
from statistics import fmean, stdev

from gyrocore.checks import TOLERANCE, require_finite, require_not_negative, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

#: Reference temperature for geometrical product properties, ISO 1 [C].
REFERENCE_C = 20.0
#: Coverage factor of the expanded uncertainty, about 95 % for a normal spread (GUM, 6.2).
COVERAGE = 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class GaugeData:
    """The gauge as its card has it, and how well one reading repeats with it [mm]."""

    resolution_mm: float
    error_limit_mm: float = 0.0
    correction_mm: float = 0.0
    single_sd_mm: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Warmth:
    """Temperatures of part and gauge, their doubt, and the expansions [C], [um/m K]."""

    part_temp_c: float = REFERENCE_C
    instrument_temp_c: float = REFERENCE_C
    temp_u_c: float = 0.0
    part_expansion_um_m_k: float = 11.5
    instrument_expansion_um_m_k: float = 11.5


@dataclass(frozen=True, slots=True, kw_only=True)
class UncertaintyParts:
    """Standard uncertainties, one a cause [mm]."""

    repeat: float
    resolution: float
    instrument: float
    temperature: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Measurement:
    """Value at 20 C with its uncertainty, and whether the gauge is fine enough."""

    mean_mm: float
    spread_mm: float
    value_mm: float
    u_mm: float
    expanded_mm: float
    parts: UncertaintyParts
    capability_ratio: float | None
    fine_enough: bool | None
    notes: tuple[Note, ...] = ()


def measurement(
    *,
    readings_mm: Sequence[float],
    gauge: GaugeData,
    warmth: Warmth | None = None,
    tolerance_mm: float | None = None,
) -> Measurement:
    """Return what repeats at one place say.

    Parameters
    ----------
    readings_mm : repeats at one place, one or more [mm]
    gauge : resolution, error limit, correction, repeatability [mm]
    warmth : temperatures [C] and expansions [um/m K]; all at 20 C by default
    tolerance_mm : of the size, over 0 [mm]

    Returns
    -------
    Measurement [mm]

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    u^2 = repeat^2 + (resolution/sqrt 12)^2 + (error limit/sqrt 3)^2 + temperature^2; expanded with
    k = 2. Value = (mean + correction)(1 + ai (Ti - 20) - ap (Tp - 20)).

    References
    ----------
    GUM (JCGM 100:2008): 4.3.7 for a rectangular spread, 5.1.2 for the combination; ISO 1 for 20 C.

    Examples
    --------
    >>> m = measurement(readings_mm=[72.01, 72.012, 72.011], gauge=GaugeData(resolution_mm=0.001))
    >>> round(m.value_mm, 3)
    72.011
    """
    warmth = warmth or Warmth()
    _require(readings_mm, gauge, warmth, tolerance_mm)
    mean = fmean(readings_mm)
    value = (mean + gauge.correction_mm) * warmth_factor(warmth)
    parts = _parts(readings_mm, gauge, warmth, value)
    u = sqrt(parts.repeat**2 + parts.resolution**2 + parts.instrument**2 + parts.temperature**2)
    expanded = COVERAGE * u
    ratio = None if tolerance_mm is None or expanded == 0 else tolerance_mm / (2 * expanded)
    fine = None
    if tolerance_mm is not None:
        fine = gauge.resolution_mm <= tolerance_mm / 10 + TOLERANCE
    return Measurement(
        mean_mm=mean,
        spread_mm=max(readings_mm) - min(readings_mm),
        value_mm=value,
        u_mm=u,
        expanded_mm=expanded,
        parts=parts,
        capability_ratio=ratio,
        fine_enough=fine,
        notes=_notes(readings_mm, gauge, warmth, fine, parts),
    )


def _require(readings_mm: Sequence[float], gauge: GaugeData, warmth: Warmth, tolerance_mm: float | None) -> None:
    if not readings_mm:
        raise InvalidInput("readings_mm", "empty")
    for place, reading in enumerate(readings_mm):
        require_finite(**{f"readings_mm.{place}": reading})
    require_not_negative(resolution_mm=gauge.resolution_mm, error_limit_mm=gauge.error_limit_mm)
    require_finite(correction_mm=gauge.correction_mm)
    require_not_negative(single_sd_mm=gauge.single_sd_mm)
    require_finite(part_temp_c=warmth.part_temp_c, instrument_temp_c=warmth.instrument_temp_c)
    require_not_negative(
        temp_u_c=warmth.temp_u_c,
        part_expansion_um_m_k=warmth.part_expansion_um_m_k,
        instrument_expansion_um_m_k=warmth.instrument_expansion_um_m_k,
    )
    require_positive(tolerance_mm=tolerance_mm)


def warmth_factor(warmth: Warmth) -> float:
    """Return what a corrected reading is multiplied by to stand at 20 C.

    Parameters
    ----------
    warmth : temperatures of part and gauge [C], expansions [um/m K]

    Returns
    -------
    factor, 1 where both are at 20 C

    Raises
    ------
    InvalidInput
        Never: the temperatures are guarded by `measurement`.

    Notes
    -----
    1 + ai (Ti - 20) - ap (Tp - 20).

    References
    ----------
    ISO 1 for 20 C; linear expansion.

    Examples
    --------
    >>> round(warmth_factor(Warmth(part_temp_c=30)), 6)
    0.999885
    """
    gauge_grows = warmth.instrument_expansion_um_m_k * (warmth.instrument_temp_c - REFERENCE_C)
    part_grows = warmth.part_expansion_um_m_k * (warmth.part_temp_c - REFERENCE_C)
    return 1 + (gauge_grows - part_grows) * 1e-6


def _parts(readings_mm: Sequence[float], gauge: GaugeData, warmth: Warmth, value: float) -> UncertaintyParts:
    seen = stdev(readings_mm) if len(readings_mm) > 1 else 0.0
    single = max(seen, gauge.single_sd_mm or 0.0)
    expansion = max(warmth.part_expansion_um_m_k, warmth.instrument_expansion_um_m_k) * 1e-6
    return UncertaintyParts(
        repeat=single / sqrt(len(readings_mm)),
        resolution=gauge.resolution_mm / sqrt(12),
        instrument=gauge.error_limit_mm / sqrt(3),
        temperature=abs(value) * expansion * warmth.temp_u_c,
    )


def _notes(
    readings_mm: Sequence[float],
    gauge: GaugeData,
    warmth: Warmth,
    fine: bool | None,
    parts: UncertaintyParts,
) -> tuple[Note, ...]:
    sizes = {
        "repeat": parts.repeat,
        "resolution": parts.resolution,
        "instrument": parts.instrument,
        "temperature": parts.temperature,
    }
    largest = max(sizes, key=lambda name: sizes[name])
    notes = [note("uncertainty_governs", part=largest)] if sizes[largest] else []
    if len(readings_mm) == 1 and gauge.single_sd_mm is None:
        notes.append(note("one_reading_no_repeat"))
    if fine is False:
        notes.append(note("gauge_too_coarse", resolution_mm=gauge.resolution_mm))
    if abs(warmth_factor(warmth) - 1) > 0:
        notes.append(note("brought_to_20"))
    return tuple(notes)

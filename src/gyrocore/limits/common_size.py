"""The common inch or metric size next to a length, with the gap."""

from __future__ import annotations

from dataclasses import dataclass
from math import gcd

from gyrocore.checks import require_positive

_MM_PER_INCH = 25.4
#: Inch sizes in common use go by 64ths, metric ones by half a millimetre (shop practice).
_INCH_PARTS = 64
_METRIC_STEP_MM = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class CommonSize:
    """A common size as it is written, its length, and the given length less it [mm]."""

    words: str
    length_mm: float
    gap_mm: float


def nearest_common(length_mm: float) -> tuple[CommonSize, CommonSize]:
    """Return the inch fraction and the metric size next to a length.

    Parameters
    ----------
    length_mm : over 0 [mm]

    Returns
    -------
    the nearest 64th of an inch, the nearest half millimetre; at least one step each [mm]

    Raises
    ------
    InvalidInput
        At `length_mm` where it is not over 0.

    References
    ----------
    Steps: shop practice. 1 in = 25.4 mm exactly (international inch).

    Examples
    --------
    >>> [size.words for size in nearest_common(68.2625)]
    ['2 11/16 in', '68.5 mm']
    """
    require_positive(length_mm=length_mm)
    parts = max(1, round(length_mm / _MM_PER_INCH * _INCH_PARTS))
    metric = max(_METRIC_STEP_MM, round(length_mm / _METRIC_STEP_MM) * _METRIC_STEP_MM)
    inch = parts * _MM_PER_INCH / _INCH_PARTS
    return (
        CommonSize(words=_fraction_words(parts), length_mm=inch, gap_mm=length_mm - inch),
        CommonSize(words=f"{metric:g} mm", length_mm=metric, gap_mm=length_mm - metric),
    )


def _fraction_words(parts: int) -> str:
    whole, rest = divmod(parts, _INCH_PARTS)
    if not rest:
        return f"{whole} in"
    shared = gcd(rest, _INCH_PARTS)
    fraction = f"{rest // shared}/{_INCH_PARTS // shared} in"
    return f"{whole} {fraction}" if whole else fraction

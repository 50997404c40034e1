"""Shape of a bore along its depth, from two-point diameters at stations."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean

import numpy as np

from gyrocore.checks import TOLERANCE, require_finite, require_not_negative, require_positive
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note


@dataclass(frozen=True, slots=True, kw_only=True)
class DiameterReading:
    """One diameter in one direction."""

    angle_deg: float
    diameter_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Station:
    """The diameters at one depth."""

    z_mm: float
    diameters: tuple[DiameterReading, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class StationForm:
    """Mean and ovality (largest less smallest) at one depth."""

    z_mm: float
    mean_mm: float
    ovality_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class BoreForm:
    """Size and shape of the whole bore."""

    mean_mm: float
    smallest_mm: float
    largest_mm: float
    taper_mm_100mm: float | None
    ovality_mm: float
    stations: tuple[StationForm, ...]
    shape: str
    hints: tuple[Note, ...]
    notes: tuple[Note, ...] = ()


def bore_form(
    *,
    stations: Sequence[Station],
    lower_mm: float | None = None,
    upper_mm: float | None = None,
    significance_mm: float = 0.005,
) -> BoreForm:
    """Return size, taper, ovality and shape of a bore.

    Parameters
    ----------
    stations : depths, all different, with one diameter or more each [mm]
    lower_mm, upper_mm : limits of size [mm]
    significance_mm : differences up to this count as none, 0 or more [mm]

    Returns
    -------
    BoreForm [mm]; taper on diameter over 100 mm, signed with z

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    Notes
    -----
    Two-point diameters cannot see three lobes.

    References
    ----------
    Least-squares slope of the station means; the names of the shapes as in the core contract.

    Examples
    --------
    >>> two = [Station(z_mm=z, diameters=(DiameterReading(angle_deg=0, diameter_mm=d),))
    ...        for z, d in ((0, 72.0), (100, 72.02))]
    >>> bore_form(stations=two).shape
    'taper'
    """
    _require(stations, lower_mm, upper_mm, significance_mm)
    forms = tuple(_station(station) for station in stations)
    along = sorted(forms, key=lambda form: form.z_mm)
    sizes = [reading.diameter_mm for station in stations for reading in station.diameters]
    shape = _shape(along, significance_mm)
    worst = max(forms, key=lambda form: form.ovality_mm)
    return BoreForm(
        mean_mm=fmean(form.mean_mm for form in forms),
        smallest_mm=min(sizes),
        largest_mm=max(sizes),
        taper_mm_100mm=100 * _line(along)[0] if len(along) > 1 else None,
        ovality_mm=worst.ovality_mm,
        stations=forms,
        shape=shape,
        hints=_hints(shape, worst, significance_mm),
        notes=_notes(stations, sizes, lower_mm, upper_mm),
    )


def _require(
    stations: Sequence[Station],
    lower_mm: float | None,
    upper_mm: float | None,
    significance_mm: float,
) -> None:
    if not stations:
        raise InvalidInput("stations", "empty")
    depths: list[float] = []
    for place, station in enumerate(stations):
        require_finite(**{f"stations.{place}.z_mm": station.z_mm})
        if any(abs(station.z_mm - z) <= TOLERANCE for z in depths):
            raise InvalidInput(f"stations.{place}.z_mm", "repeated", given=station.z_mm)
        depths.append(station.z_mm)
        if not station.diameters:
            raise InvalidInput(f"stations.{place}.diameters", "empty")
        for spot, reading in enumerate(station.diameters):
            path = f"stations.{place}.diameters.{spot}"
            require_finite(**{f"{path}.angle_deg": reading.angle_deg})
            require_positive(**{f"{path}.diameter_mm": reading.diameter_mm})
    require_positive(lower_mm=lower_mm, upper_mm=upper_mm)
    if lower_mm is not None and upper_mm is not None and lower_mm > upper_mm:
        raise InvalidInput("upper_mm", "limits_upside_down", given=upper_mm, allowed=lower_mm)
    require_not_negative(significance_mm=significance_mm)


def _station(station: Station) -> StationForm:
    sizes = [reading.diameter_mm for reading in station.diameters]
    return StationForm(z_mm=station.z_mm, mean_mm=fmean(sizes), ovality_mm=max(sizes) - min(sizes))


def _line(along: Sequence[StationForm]) -> tuple[float, list[float]]:
    """Slope of the station means, and what each lies off the line."""
    z = np.array([form.z_mm for form in along])
    d = np.array([form.mean_mm for form in along])
    z0, d0 = z - z.mean(), d - d.mean()
    slope = float(z0 @ d0) / float(z0 @ z0)
    return slope, [float(x) for x in d0 - slope * z0]


def _alike(means: Sequence[float], significance: float) -> bool:
    return max(means) - min(means) <= significance + TOLERANCE


def _shape(along: Sequence[StationForm], significance: float) -> str:
    means = [form.mean_mm for form in along]
    if _alike(means, significance):
        return "parallel"
    if max(abs(off) for off in _line(along)[1]) <= significance + TOLERANCE:
        return "taper"
    if _is_bellmouth(means, significance):
        return "bellmouth"
    turns = _turning_points(means, significance)
    if len(turns) == 1:
        return "barrel" if turns[0] == "largest" else "hourglass"
    return "wavy" if turns else "curved"


def _is_bellmouth(means: Sequence[float], significance: float) -> bool:
    """All alike but one or both ends, which are larger."""
    groups = [(means[1:], means[:1]), (means[:-1], means[-1:]), (means[1:-1], [means[0], means[-1]])]
    for rest, ends in groups:
        if len(rest) < 2 or not _alike(rest, significance):
            continue
        if all(end > max(rest) and end - min(rest) > significance + TOLERANCE for end in ends):
            return True
    return False


def _turning_points(means: Sequence[float], significance: float) -> list[str]:
    """Reversals that exceed the significance, as `largest` or `smallest`."""
    turns: list[str] = []
    rising: bool | None = None
    high = low = means[0]
    band = significance + TOLERANCE
    for size in means[1:]:
        high, low = max(high, size), min(low, size)
        if rising is not False and high - size > band:
            if rising:
                turns.append("largest")
            rising, low = False, size
        elif rising is not True and size - low > band:
            if rising is False:
                turns.append("smallest")
            rising, high = True, size
    return turns


_HINT_OF_SHAPE = {
    "taper": "hint_taper",
    "bellmouth": "hint_bellmouth",
    "barrel": "hint_barrel",
    "hourglass": "hint_hourglass",
    "curved": "hint_curved",
    "wavy": "hint_wavy",
}


def _hints(shape: str, worst: StationForm, significance: float) -> tuple[Note, ...]:
    hints = [note("hint_three_lobes")]
    if shape in _HINT_OF_SHAPE:
        hints.append(note(_HINT_OF_SHAPE[shape]))
    if worst.ovality_mm > significance + TOLERANCE:
        hints.append(note("hint_oval", at_mm=worst.z_mm, ovality_mm=worst.ovality_mm))
    return tuple(hints)


def _notes(
    stations: Sequence[Station], sizes: Sequence[float], lower: float | None, upper: float | None
) -> tuple[Note, ...]:
    notes = []
    if len(stations) == 1:
        notes.append(note("one_station"))
    if any(len(station.diameters) == 1 for station in stations):
        notes.append(note("one_direction"))
    if lower is not None and min(sizes) < lower - TOLERANCE:
        notes.append(note("smallest_under", size_mm=min(sizes), lower_mm=lower))
    if upper is not None and max(sizes) > upper + TOLERANCE:
        notes.append(note("largest_over", size_mm=max(sizes), upper_mm=upper))
    return tuple(notes)

"""What sizes taken at one place are worth: each reading corrected by its own gauge and temperature first."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import combinations
from math import sqrt

from gyrocore import Found, GaugeData, InvalidInput, Warmth, agreement, measurement, weighted_mm
from gyrocore.checks import (
    TOLERANCE,
    require_finite,
    require_not_negative,
    require_positive,
    require_unique,
)
from gyrocore.judging.measurement import warmth_factor
from gyroplan.shape import STRICT


@dataclass(frozen=True, slots=True, kw_only=True)
class Gauge:
    """A gauge as it was when it measured [mm]."""

    __pydantic_config__ = STRICT

    name: str
    resolution_mm: float
    error_limit_mm: float = 0.0
    correction_mm: float = 0.0
    single_sd_mm: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Expansions:
    """Thermal expansion of the part and of the gauges [um/m K]."""

    part_um_m_k: float = 11.5
    instrument_um_m_k: float = 11.5


@dataclass(frozen=True, slots=True, kw_only=True)
class SizeTaken:
    """One entry of sizes: a gauge, what it read, and how warm part and gauge were."""

    gauge: str
    readings_mm: Sequence[float]
    part_temp_c: float = 20.0
    instrument_temp_c: float = 20.0
    temp_u_c: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class GaugeValue:
    """What one gauge says of the place [mm]."""

    gauge: str
    value_mm: float
    expanded_mm: float
    #: One reading, and nothing is known of how well it repeats.
    unrepeated: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Believed:
    """The size of one place by all its gauges [mm]; `agree` is None with one gauge."""

    value_mm: float
    expanded_mm: float
    agree: bool | None
    by_gauge: tuple[GaugeValue, ...]

    @property
    def largest(self) -> GaugeValue:
        """The gauge that says the most: what is believed where they contradict each other."""
        return max(self.by_gauge, key=lambda one: one.value_mm)

    @property
    def unrepeated(self) -> bool:
        """Whether some gauge read once and its repeatability is not known."""
        return any(one.unrepeated for one in self.by_gauge)


def believed_size(taken: Sequence[SizeTaken], gauges: Sequence[Gauge], expansions: Expansions) -> Believed:
    """Return what entries that belong together say of a size.

    Parameters
    ----------
    taken : entries of one place, one or more, their gauges among `gauges`
    gauges : the gauges as they were [mm]
    expansions : of part and gauge [um/m K]

    Returns
    -------
    Believed [mm]

    Raises
    ------
    InvalidInput
        Where a figure is out of its bounds.

    Notes
    -----
    Every reading is corrected by its own gauge and its own temperatures before anything is averaged. One gauge's
    readings are repeats; several gauges are weighted by 1/U^2 and compared: they agree where the difference of every
    two is within the root sum of squares of their expanded uncertainties.

    References
    ----------
    GUM (JCGM 100:2008) for the uncertainty; E_n number of ISO 13528 for the agreement; core contract, `agreement`.

    Examples
    --------
    >>> gauge = Gauge(name="B", resolution_mm=0.001, correction_mm=0.03)
    >>> round(believed_size([SizeTaken(gauge="B", readings_mm=[71.985])], [gauge], Expansions()).value_mm, 3)
    72.015
    """
    by_gauge = tuple(
        _of_gauge([one for one in taken if one.gauge == gauge.name], gauge, expansions)
        for gauge in gauges
        if any(one.gauge == gauge.name for one in taken)
    )
    if len(by_gauge) == 1:
        only = by_gauge[0]
        return Believed(value_mm=only.value_mm, expanded_mm=only.expanded_mm, agree=None, by_gauge=by_gauge)
    value, expanded = weighted_mm([_found(one) for one in by_gauge])
    agree = all(_agree(one, other) for one, other in combinations(by_gauge, 2))
    return Believed(value_mm=value, expanded_mm=expanded, agree=agree, by_gauge=by_gauge)


def _of_gauge(taken: Sequence[SizeTaken], gauge: Gauge, expansions: Expansions) -> GaugeValue:
    corrected = [size for one in taken for size in _corrected(one, gauge, expansions)]
    found = measurement(
        readings_mm=corrected,
        gauge=GaugeData(
            resolution_mm=gauge.resolution_mm, error_limit_mm=gauge.error_limit_mm, single_sd_mm=gauge.single_sd_mm
        ),
        warmth=Warmth(
            temp_u_c=max(one.temp_u_c for one in taken),
            part_expansion_um_m_k=expansions.part_um_m_k,
            instrument_expansion_um_m_k=expansions.instrument_um_m_k,
        ),
    )
    return GaugeValue(
        gauge=gauge.name,
        value_mm=found.value_mm,
        expanded_mm=found.expanded_mm,
        unrepeated=gauge.single_sd_mm is None and len(corrected) == 1,
    )


def _corrected(taken: SizeTaken, gauge: Gauge, expansions: Expansions) -> list[float]:
    factor = warmth_factor(
        Warmth(
            part_temp_c=taken.part_temp_c,
            instrument_temp_c=taken.instrument_temp_c,
            part_expansion_um_m_k=expansions.part_um_m_k,
            instrument_expansion_um_m_k=expansions.instrument_um_m_k,
        )
    )
    return [(reading + gauge.correction_mm) * factor for reading in taken.readings_mm]


def _agree(one: GaugeValue, other: GaugeValue) -> bool:
    return agreement(first=_found(one), second=_found(other)).agree


def _found(one: GaugeValue) -> Found:
    return Found(value_mm=one.value_mm, expanded_mm=one.expanded_mm)


def require_gauges(gauges: Sequence[Gauge], expansions: Expansions) -> None:
    """Refuse a list of gauges that cannot be worked with; raises InvalidInput at `gauges.N.field`."""
    if not gauges:
        raise InvalidInput("gauges", "empty")
    for place, gauge in enumerate(gauges):
        require_not_negative(
            **{
                f"gauges.{place}.resolution_mm": gauge.resolution_mm,
                f"gauges.{place}.error_limit_mm": gauge.error_limit_mm,
            }
        )
        require_finite(**{f"gauges.{place}.correction_mm": gauge.correction_mm})
        require_not_negative(**{f"gauges.{place}.single_sd_mm": gauge.single_sd_mm})
    require_unique("gauges.*.name", [gauge.name for gauge in gauges])
    require_not_negative(
        part_expansion_um_m_k=expansions.part_um_m_k, instrument_expansion_um_m_k=expansions.instrument_um_m_k
    )


def require_taken(prefix: str, taken: SizeTaken) -> None:
    """Refuse sizes that can never be; raises InvalidInput at `prefix.field`."""
    if not taken.readings_mm:
        raise InvalidInput(f"{prefix}.readings_mm", "empty")
    for place, reading in enumerate(taken.readings_mm):
        require_positive(**{f"{prefix}.readings_mm.{place}": reading})
    require_finite(
        **{f"{prefix}.part_temp_c": taken.part_temp_c, f"{prefix}.instrument_temp_c": taken.instrument_temp_c}
    )
    require_not_negative(**{f"{prefix}.temp_u_c": taken.temp_u_c})


class GaugeNames:
    """The gauges of a log by name; one whose figures have changed in between, or in other hands, stands twice."""

    def __init__(self) -> None:
        self.known: list[Gauge] = []

    def name_of(self, gauge: Gauge) -> str:
        """The name under which the log knows a gauge as it was."""
        alike = [one for one in self.known if one.name.split(" #")[0] == gauge.name]
        for one in alike:
            if replace(one, name=gauge.name) == gauge:
                return one.name
        name = f"{gauge.name} #{len(alike) + 1}" if alike else gauge.name
        self.known.append(replace(gauge, name=name))
        return name


def doubt_of(gauge: Gauge) -> float:
    """What one reading of a gauge is known to, cold (k = 2) [mm].

    References: as `gyrocore.measurement` counts it, without temperature.
    """
    repeat = gauge.single_sd_mm or 0.0
    return 2 * sqrt(repeat**2 + gauge.resolution_mm**2 / 12 + gauge.error_limit_mm**2 / 3)


def is_fine(gauge: Gauge, tolerance_mm: float) -> bool:
    """Whether a gauge reads to a tenth of a tolerance, and leaves half of it after its uncertainty [mm].

    References: a tenth is what `gyrocore.measurement` asks; the half is chosen here: with less, few bores are proven.
    """
    reads = gauge.resolution_mm <= tolerance_mm / 10 + TOLERANCE
    return reads and 2 * doubt_of(gauge) <= tolerance_mm / 2 + TOLERANCE


#: So many repeats (readings beyond the first of their place) are asked before a scatter is believed: the standard
#: deviation itself is then known to about a quarter of it, sqrt(1 / 2 n) (GUM, table E.1).
LEAST_REPEATS = 8


@dataclass(frozen=True, slots=True, kw_only=True)
class Repeats:
    """How well a person repeats with a gauge: standard deviation of one reading [mm], from so many repeats."""

    sd_mm: float
    count: int

    @property
    def known_mm(self) -> float | None:
        """The standard deviation to a tenth of a micron; None where there are too few to believe it."""
        return round(self.sd_mm, 4) if self.count >= LEAST_REPEATS else None


def repeats_of(places: Sequence[Sequence[float]]) -> Repeats | None:
    """Return how well readings of one place repeat, pooled over places.

    Parameters
    ----------
    places : readings of each place, taken one after the other [mm]; a place read once says nothing

    Returns
    -------
    Repeats; None where no place was read twice

    Notes
    -----
    s^2 = sum of (x - mean of its place)^2 / sum of (readings - 1).

    References
    ----------
    GUM (JCGM 100:2008), 4.2.4 and H.3.6: pooled experimental standard deviation.

    Examples
    --------
    >>> repeats_of([[72.010, 72.012], [72.001, 72.003]]).count
    2
    """
    told = [readings for readings in places if len(readings) > 1]
    count = sum(len(readings) - 1 for readings in told)
    if not count:
        return None
    squares = sum((one - sum(readings) / len(readings)) ** 2 for readings in told for one in readings)
    return Repeats(sd_mm=sqrt(squares / count), count=count)


@dataclass(frozen=True, slots=True, kw_only=True)
class WithRod:
    """What a thimble shows and the rod that stands in the micrometer, together [mm]."""

    rod: str
    size_mm: float


def with_rod(
    *, shown_mm: float, rods: Mapping[str, float], expected_mm: float, within_mm: float
) -> WithRod | None:  # fmt: skip
    """Return the size that a thimble's figure means with one of its rods: the one nearest to what is expected.

    Parameters
    ----------
    shown_mm : what the thimble shows, 0 or more [mm]
    rods : what each adds, as it was measured [mm]
    expected_mm : about what the bore must be [mm]
    within_mm : farther from it than this no rod is meant [mm]

    Returns
    -------
    WithRod; None where no rod brings it there

    Notes
    -----
    size = thimble + rod. Rods step by the travel of the thimble, so that one of them fits or none.

    References
    ----------
    Derived here from how an inside or depth micrometer with interchangeable rods is read.

    Examples
    --------
    >>> with_rod(shown_mm=22.01, rods={"25": 25.0, "50": 50.003}, expected_mm=72.0, within_mm=2).size_mm
    72.013
    """
    near = min(rods.items(), key=lambda rod: abs(shown_mm + rod[1] - expected_mm), default=None)
    if near is None or abs(shown_mm + near[1] - expected_mm) > within_mm + TOLERANCE:
        return None
    return WithRod(rod=near[0], size_mm=round(shown_mm + near[1], 9))

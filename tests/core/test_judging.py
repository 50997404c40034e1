"""Measuring and judging."""

from math import sqrt

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrocore import (
    DiameterReading,
    GaugeData,
    InvalidInput,
    Station,
    Warmth,
    bore_form,
    judge_at_most,
    measurement,
    radius_diameter_slip,
    unit_slip,
    verdict,
)


def test_parts_of_the_uncertainty() -> None:
    gauge = GaugeData(resolution_mm=0.002, error_limit_mm=0.003, correction_mm=0.001, single_sd_mm=0.004)
    found = measurement(readings_mm=[72.01, 72.012], gauge=gauge, warmth=Warmth(temp_u_c=1), tolerance_mm=0.03)
    assert found.parts.repeat == pytest.approx(0.004 / sqrt(2))
    assert found.parts.resolution == pytest.approx(0.002 / sqrt(12))
    assert found.parts.instrument == pytest.approx(0.003 / sqrt(3))
    assert found.parts.temperature == pytest.approx(72.012 * 11.5e-6)
    total = sqrt(sum(part**2 for part in (found.parts.repeat, found.parts.resolution, found.parts.instrument,
                                          found.parts.temperature)))  # fmt: skip
    assert (found.u_mm, found.expanded_mm) == pytest.approx((total, 2 * total))
    assert found.capability_ratio == pytest.approx(0.03 / (4 * total))
    assert found.fine_enough is True


def test_a_warm_iron_part_reads_large() -> None:
    """Fifteen degrees on a 100 mm iron bore is 0.016 mm."""
    warm = Warmth(part_temp_c=35, part_expansion_um_m_k=10.5)
    found = measurement(readings_mm=[100.016], gauge=GaugeData(resolution_mm=0.001), warmth=warm)
    assert found.value_mm == pytest.approx(100.0, abs=5e-4)


def test_scatter_against_simulation() -> None:
    """About 95 of 100 expanded intervals hold the true size, for a normal gauge."""
    rng = np.random.default_rng(5)
    hits = 0
    for _ in range(2000):
        shown = rng.normal(72.01, 0.003, 8)
        found = measurement(readings_mm=list(shown), gauge=GaugeData(resolution_mm=0, single_sd_mm=0.003))
        hits += abs(found.value_mm - 72.01) <= found.expanded_mm
    assert 0.93 < hits / 2000 < 0.99


@pytest.mark.parametrize(
    ("value", "call"),
    [
        (71.996, "under"),
        (71.997, "undecided-low"),
        (72.002, "undecided-low"),
        (72.003, "in"),
        (72.027, "in"),
        (72.028, "undecided-high"),
        (72.033, "undecided-high"),
        (72.034, "over"),
    ],
)
def test_guarded_verdicts(value: float, call: str) -> None:
    found = verdict(value_mm=value, lower_mm=72, upper_mm=72.03, expanded_mm=0.003)
    assert found.verdict == call
    assert found.to_aim_mm == pytest.approx(72.015 - value)


@given(st.floats(71.9, 72.1), st.floats(0, 0.05), st.floats(0, 1))
def test_a_guarded_in_is_a_simple_in(value: float, doubt: float, share: float) -> None:
    guarded = verdict(value_mm=value, lower_mm=72, upper_mm=72.03, expanded_mm=doubt, guard_factor=share).verdict
    simple = verdict(value_mm=value, lower_mm=72, upper_mm=72.03, expanded_mm=doubt, rule="simple").verdict
    assert simple in ("in", "under", "over")
    if guarded in ("in", "under", "over"):
        assert guarded == simple


def test_at_most() -> None:
    assert judge_at_most(found_mm=0.01, allowed_mm=0.02, expanded_mm=0.002).verdict == "in"
    assert judge_at_most(found_mm=0.0, allowed_mm=0.02, expanded_mm=0.002).verdict == "in"
    assert judge_at_most(found_mm=0.019, allowed_mm=0.02, expanded_mm=0.002).verdict == "undecided-high"
    assert judge_at_most(found_mm=0.023, allowed_mm=0.02, expanded_mm=0.002).verdict == "over"


def stations(*means: float, oval: float = 0.0) -> list[Station]:
    return [
        Station(
            z_mm=20.0 * n,
            diameters=(
                DiameterReading(angle_deg=0, diameter_mm=72 + mean / 1000 + oval / 2),
                DiameterReading(angle_deg=90, diameter_mm=72 + mean / 1000 - oval / 2),
            ),
        )
        for n, mean in enumerate(means)
    ]


@pytest.mark.parametrize(
    ("means", "shape"),
    [
        ((0, 3, 5, 2), "parallel"),
        ((7,), "parallel"),
        ((0, 10, 20, 30), "taper"),
        ((20, 0, 1, 0), "bellmouth"),
        ((20, 0, 1, 22), "bellmouth"),
        ((0, 15, 30, 14, 0), "barrel"),
        ((30, 12, 0, 15, 28), "hourglass"),
        ((0, 2, 10, 40), "curved"),
        ((0, 20, 0, 20, 0), "wavy"),
    ],
)
def test_shapes(means: tuple[float, ...], shape: str) -> None:
    assert bore_form(stations=stations(*means)).shape == shape
    assert bore_form(stations=list(reversed(stations(*means)))).shape == shape


@given(st.floats(-0.2, 0.2), st.lists(st.floats(0, 300), min_size=2, max_size=6, unique_by=lambda z: round(z, 3)))
def test_taper_is_the_slope(slope: float, depths: list[float]) -> None:
    made = [
        Station(z_mm=z, diameters=(DiameterReading(angle_deg=0, diameter_mm=72 + slope * z / 100),)) for z in depths
    ]
    assert bore_form(stations=made).taper_mm_100mm == pytest.approx(slope, abs=1e-6)


def test_ovality_is_the_worst_station() -> None:
    found = bore_form(stations=stations(0, 2, 4, oval=0.012))
    assert found.ovality_mm == pytest.approx(0.012)
    assert (found.smallest_mm, found.largest_mm) == pytest.approx((71.994, 72.01))
    assert "hint_three_lobes" in [hint.code for hint in found.hints]


def test_one_depth_twice_is_refused() -> None:
    with pytest.raises(InvalidInput) as refused:
        bore_form(stations=[*stations(0, 1), stations(0)[0]])
    assert refused.value.field == "stations.2.z_mm"


@pytest.mark.parametrize(
    ("commanded", "came", "kind"),
    [(0.94, 1.88, "twice"), (0.94, 0.47, "half"), (0.94, 0.95, None), (0.94, 1.95, None), (0.03, 0.032, None)],
)
def test_radius_and_diameter_taken_for_each_other(commanded: float, came: float, kind: str | None) -> None:
    found = radius_diameter_slip(commanded_mm=commanded, came_mm=came)
    assert (found.kind if found else None) == kind


def test_inches_taken_for_millimetres() -> None:
    assert unit_slip(value_mm=2.8346, expected_mm=72) is not None
    assert unit_slip(value_mm=1830, expected_mm=72) is not None
    assert unit_slip(value_mm=71.5, expected_mm=72) is None

"""The next oversizes: by counting up, and by laws."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrocore import InvalidInput, next_oversizes


def by_counting(target: float, largest: float, least: float, step: float) -> float:
    """One step after the other until the edge cuts all round."""
    size = target + step
    while size - largest < 2 * least - 1e-9:
        size += step
    return size


@given(
    target=st.floats(5, 500), past=st.floats(-0.2, 3), least=st.floats(0, 0.3), step=st.sampled_from([0.25, 0.254, 0.5])
)
def test_the_least_step_that_cuts_all_round(target: float, past: float, least: float, step: float) -> None:
    found = next_oversizes(target_mm=target, largest_mm=target + past, least_depth_mm=least, step_mm=step)
    assert found[0].target_mm == pytest.approx(by_counting(target, target + past, least, step), abs=1e-6)
    assert [one.over_mm for one in found] == pytest.approx([found[0].over_mm + n * step for n in range(3)])
    for one in found:
        assert one.stock_mm == pytest.approx(one.target_mm - target - past)
        assert one.stock_mm >= 2 * least - 1e-6


@pytest.mark.parametrize(
    ("change", "field"),
    [({"target_mm": 0.0}, "target_mm"), ({"largest_mm": float("nan")}, "largest_mm"), ({"step_mm": -1.0}, "step_mm"),
     ({"least_depth_mm": -0.1}, "least_depth_mm"), ({"count": 0}, "count")],
)  # fmt: skip
def test_impossible_figures_are_refused(change: dict[str, float], field: str) -> None:
    good = {"target_mm": 72.0, "largest_mm": 72.1, "least_depth_mm": 0.05, "step_mm": 0.25, "count": 3}
    with pytest.raises(InvalidInput) as caught:
        next_oversizes(**{**good, **change})  # type: ignore[arg-type]
    assert caught.value.field == field

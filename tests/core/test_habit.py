"""A bar's habit: steady part, share of its deflection, scatter; and that what is said of it comes true."""

from __future__ import annotations

from math import sqrt

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from gyrocore import Habit, HabitPrior, InvalidInput, SeenCut, foretold, learned_habit, next_cut


def test_by_hand_without_a_model() -> None:
    """One steady part: precisions add, as in `next_cut`; older cuts keep their weight."""
    prior = HabitPrior(bias_sd_mm=0.02, scatter_mm=0.005, worth_cuts=1e9, keeps=1.0)
    said = learned_habit(seen=[SeenCut(off_mm=0.01), SeenCut(off_mm=0.014)], prior=prior)
    trust, each = 0.02**-2, 0.005**-2
    assert said.off_mm == pytest.approx(0.024 * each / (trust + 2 * each))
    assert said.off_sd_mm == pytest.approx(1 / sqrt(trust + 2 * each))
    assert said.scatter_mm == pytest.approx(0.005)


def test_steady_part_and_share_are_told_apart() -> None:
    rng = np.random.default_rng(4)
    models = rng.uniform(-0.02, 0.02, 200)
    cuts = [SeenCut(off_mm=0.008 + 0.7 * m + e, model_mm=m)
            for m, e in zip(models.tolist(), rng.normal(0, 0.002, 200).tolist(), strict=True)]  # fmt: skip
    said = learned_habit(seen=cuts, model_mm=0.01, prior=HabitPrior(keeps=1.0))
    assert (said.bias_mm, said.share) == (pytest.approx(0.008, abs=0.0006), pytest.approx(0.7, abs=0.05))
    assert said.off_mm == pytest.approx(0.015, abs=0.001)
    assert said.scatter_mm == pytest.approx(0.002, abs=0.0003), "the scatter comes from the cuts"


def test_a_wide_bar_is_believed_to_scatter_as_it_does() -> None:
    calm = learned_habit(seen=[SeenCut(off_mm=x) for x in (0.010, 0.011, 0.010, 0.011, 0.010)])
    wild = learned_habit(seen=[SeenCut(off_mm=x) for x in (0.000, 0.021, 0.004, 0.018, 0.010)])
    assert calm.scatter_mm < 0.005 < wild.scatter_mm


@given(st.lists(st.floats(-0.05, 0.05), min_size=1, max_size=12), st.floats(-0.02, 0.02))
def test_one_more_cut_as_expected_never_makes_it_less_sure(offs: list[float], model: float) -> None:
    seen = [SeenCut(off_mm=x) for x in offs]
    before = learned_habit(seen=seen, model_mm=model, prior=HabitPrior(keeps=1.0))
    after = learned_habit(
        seen=[*seen, SeenCut(off_mm=before.off_mm, model_mm=model)], model_mm=model, prior=HabitPrior(keeps=1.0)
    )
    assert after.off_mm == pytest.approx(before.off_mm, abs=1e-9)
    assert after.off_sd_mm <= before.off_sd_mm + 1e-12


def test_wear_is_followed() -> None:
    worn = [SeenCut(off_mm=0.012 - 0.0002 * n) for n in range(60)]
    assert learned_habit(seen=worn, prior=HabitPrior(keeps=0.9)).off_mm == pytest.approx(0.0002, abs=0.003)
    assert learned_habit(seen=worn, prior=HabitPrior(keeps=1.0)).off_mm > 0.005


def test_a_habit_is_proven_only_where_it_beats_a_copy() -> None:
    rng = np.random.default_rng(9)
    steady = [SeenCut(off_mm=0.01 + e) for e in rng.normal(0, 0.003, 30).tolist()]
    none = [SeenCut(off_mm=e) for e in rng.normal(0, 0.003, 30).tolist()]
    jumps = [SeenCut(off_mm=x) for x in (0.0, 0.0, 0.03, 0.03, 0.03, 0.03)]
    assert foretold(seen=steady).is_proven
    assert not foretold(seen=none).is_proven
    assert not foretold(seen=jumps).is_proven, "a copy of the last cut foretells a jump better"
    assert not foretold(seen=steady[:4]).is_proven, "two foretold cuts are too few"


def test_said_ninety_percent_comes_in_nine_times_of_ten() -> None:
    """Bars with hidden habits and scatters: where about 90 % was said, 85 to 95 % came in."""
    rng = np.random.default_rng(12)
    said: list[float] = []
    came: list[bool] = []
    for _ in range(1500):
        bias, scatter = rng.normal(0, 0.01), 0.004 / sqrt(rng.chisquare(6) / 6)
        seen = [SeenCut(off_mm=bias + e) for e in rng.normal(0, scatter, rng.integers(1, 9)).tolist()]
        known = learned_habit(seen=seen, prior=HabitPrior(scatter_mm=0.0045, worth_cuts=5, keeps=1.0))
        half = rng.uniform(0.004, 0.02)
        told = next_cut(
            history=[], aim_mm=72.0, limits_mm=(72 - half, 72 + half),
            habit=Habit(prior_bias_mm=known.off_mm, prior_sd_mm=known.off_sd_mm, reading_sd_mm=known.scatter_mm),
        )  # fmt: skip
        if 0.86 <= told.chance_in_limits <= 0.94:
            out = told.set_diameter_mm + bias + rng.normal(0, scatter)
            said.append(told.chance_in_limits)
            came.append(abs(out - 72.0) <= half)
    assert len(came) > 100
    assert 0.85 <= float(np.mean(came)) <= 0.95, f"said {np.mean(said):.3f}, came {np.mean(came):.3f}"


@pytest.mark.parametrize(("fields", "at"), [({"keeps": 0.0}, "keeps"), ({"scatter_mm": 0.0}, "scatter_mm")])
def test_a_belief_that_cannot_be_is_refused(fields: dict[str, float], at: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        learned_habit(seen=[], prior=HabitPrior(**fields))
    assert refused.value.field == at
    with pytest.raises(InvalidInput) as wrong:
        learned_habit(seen=[SeenCut(off_mm=float("nan"))])
    assert wrong.value.field == "seen.0.off_mm"

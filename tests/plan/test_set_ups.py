"""Fourteen set-ups that shops run, or know better than to run: what the product says, and what a machinist would."""

from dataclasses import dataclass

import pytest

from gyrocore import BarData, BarSection, Cut, PassRules, material, pass_plan
from gyroplan.plan import BarVerdict, PassLoad, loads_of, overhang_verdict


@dataclass(frozen=True)
class SetUp:
    """One bar in one bore: sizes in mm, overhang in diameters."""

    name: str
    kind: str
    bar_mm: float
    overhang: float
    bore_mm: float
    stock_mm: float
    tolerance_mm: float
    work: str = "steel"
    rough_mm: float = 0.5
    finish_mm: float = 0.2
    feeds: tuple[float, float] = (0.2, 0.08)
    nose_mm: float = 0.4
    #: What an experienced machinist would say: runs, listens (runs it, and listens on the first pass), refuses.
    machinist: str = "runs"
    product: str = "ok"


SET_UPS = [
    SetUp("steel bar 25, 3 x D, steel", "steel", 25, 3, 40, 2, 0.025),
    SetUp("steel bar 25, 4 x D, steel", "steel", 25, 4, 40, 2, 0.025, machinist="listens", product="caution"),
    SetUp("steel bar 40, 4 x D, cast iron", "steel", 40, 4, 72, 3, 0.030, work="grey-iron"),
    SetUp("steel bar 16, 4 x D, aluminium", "steel", 16, 4, 25, 1, 0.021, work="aluminium"),
    SetUp("steel bar 25, 5 x D, steel", "steel", 25, 5, 40, 2, 0.025, machinist="listens", product="caution"),
    SetUp("steel bar 25, 7 x D, steel", "steel", 25, 7, 40, 2, 0.025, machinist="refuses", product="stop"),
    SetUp("carbide bar 20, 6 x D, steel", "carbide", 20, 6, 32, 1.5, 0.025, machinist="listens", product="caution"),
    SetUp("carbide bar 8, 5 x D, steel", "carbide", 8, 5, 12, 0.6, 0.018, rough_mm=0.2, finish_mm=0.1,
          feeds=(0.08, 0.05), nose_mm=0.2, product="caution"),
    SetUp("damped bar 32, 7 x D, steel", "damped-steel", 32, 7, 50, 2, 0.030),
    SetUp("damped bar 40, 9 x D, steel", "damped-steel", 40, 9, 60, 2, 0.030, machinist="listens", product="caution"),
    SetUp("damped bar 40, 12 x D, steel", "damped-steel", 40, 12, 60, 2, 0.030, machinist="refuses", product="stop"),
    SetUp("head bar 20, 3.75 x D, aluminium", "steel", 20, 3.75, 62, 4, 0.030, work="aluminium"),
    SetUp("steel bar 12, 4 x D, bronze", "steel", 12, 4, 20, 0.8, 0.021, work="bronze", rough_mm=0.25, finish_mm=0.15),
    SetUp("steel bar 10, 8 x D, steel", "steel", 10, 8, 16, 1, 0.018, machinist="refuses", product="stop"),
]  # fmt: skip


def loads(one: SetUp) -> tuple[PassLoad, ...]:
    rules = PassRules(rough_depth_mm=one.rough_mm, finish_depth_mm=one.finish_mm, finish_passes=2)
    plan = pass_plan(start_diameter_mm=one.bore_mm - one.stock_mm, aim_diameter_mm=one.bore_mm, rules=rules)
    cut_in = material(one.work)
    return loads_of(
        plan.passes,
        lambda cut: Cut(
            kc11_mpa=cut_in.kc11_mpa, mc=cut_in.mc, thrust_ratio=cut_in.thrust_ratio, depth_mm=cut.depth_mm,
            feed_mm_rev=one.feeds[0 if cut.kind in ("rough", "test") else 1], nose_radius_mm=one.nose_mm,
        ),
        one.tolerance_mm,
    )  # fmt: skip


def verdict(one: SetUp) -> BarVerdict:
    bar = BarSection(kind=one.kind, diameter_mm=one.bar_mm)
    found = overhang_verdict(bar, BarData(), loads(one), one.overhang * one.bar_mm)
    assert found is not None
    return found


@pytest.mark.parametrize("one", SET_UPS, ids=lambda one: one.name)
def test_the_verdict_is_one_that_a_machinist_believes(one: SetUp) -> None:
    state = verdict(one).state
    assert state == one.product
    assert (state == "stop") is (one.machinist == "refuses"), "never too timid for what shops run, never past it"
